'use client';

import { useState } from 'react';
import { dayInWords } from '@/core/calendar/moment';
import type { AlikeArrival, ArrivalSheet } from '@/core/intake/contract';
import { counted } from '@/core/text/measure';
import { percentSure } from '@/core/stated/sureness';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { say } from '../kit/notice';
import { call, saysOf } from '../server/call';
import { useAct, useAsk, useRefresh } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';

/** So many are filed by one request: how far it has got is then shown. */
const atOnce = 10;

/** Says that more of the same kind waits, and has it looked at and filed together. */
export function Alike({ sheet: { id, alike, sender } }: { readonly sheet: ArrivalSheet }) {
  const [open, setOpen] = useState(false);
  if (alike === 0) return null;
  return (
    <div className="border-b border-line px-4 py-2">
      <Button look="quiet" className="!px-0" onClick={() => setOpen(true)}>
        {counted(alike, 'more like this waits', 'more like this wait')}: look at them together…
      </Button>
      {open && <Together arrivalId={id} sender={sender} onClose={() => setOpen(false)} />}
    </div>
  );
}

function Together({
  arrivalId,
  sender,
  onClose,
}: {
  readonly arrivalId: string;
  readonly sender: string;
  readonly onClose: () => void;
}) {
  const { data, error } = useAsk('arrival.alike', { arrivalId });
  const refresh = useRefresh();
  /** How many are seen to; null: nothing is being filed. */
  const [done, setDone] = useState<number | null>(null);
  const back = useAct('arrivals.takeBack');
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [told, setTold] = useState<ReadonlyMap<string, string>>(new Map());
  const ticked = (data ?? []).filter(({ id }) => !left.has(id));
  const toggle = (id: string) => {
    const next = new Set(left);
    if (!next.delete(id)) next.add(id);
    setLeft(next);
  };
  async function file(): Promise<void> {
    const filed: string[] = [];
    const says = new Map<string, string>();
    setDone(0);
    try {
      for (let at = 0; at < ticked.length; at += atOnce) {
        const some = ticked.slice(at, at + atOnce).map(({ id, revision }) => ({ id, revision }));
        const outcome = await call('arrivals.agree', { arrivals: some });
        filed.push(...outcome.filed);
        for (const each of outcome.left) says.set(each.arrivalId, each.says);
        setDone(filed.length + says.size);
      }
    } catch (error) {
      say.refusal(saysOf(error));
    }
    setDone(null);
    setTold(says);
    refresh();
    if (filed.length > 0)
      say.undoable(`${counted(filed.length, 'arrival')} filed`, () => back.mutate({ arrivalIds: filed }));
    if (filed.length === ticked.length) onClose();
  }
  return (
    <Dialog title={`From ${sender}`} open onClose={onClose} shape="sheet">
      <p className="mb-2 text-soft">
        Each would be filed as it is proposed here. Leave out what is not as it should be.
      </p>
      {error && <p role="alert">{saysOf(error)}</p>}
      <ul className="rounded-sm border border-line">
        {data?.map((each) => (
          <AlikeLine
            key={each.id}
            arrival={each}
            isTicked={!left.has(each.id)}
            says={told.get(each.id) ?? null}
            onToggle={() => toggle(each.id)}
          />
        ))}
      </ul>
      {data?.length === 0 && <p>Nothing of this can be filed as it is proposed: file each by itself.</p>}
      {done !== null && (
        <p role="status" className="mt-2 flex items-center gap-2 text-soft">
          {done} of {ticked.length} are seen to.
          <progress
            aria-label="Filing them"
            value={done}
            max={ticked.length}
            className="h-[6px] w-[160px] accent-brine"
          />
        </p>
      )}
      <DialogActs>
        <Button onClick={onClose}>Close</Button>
        <Button look="main" disabled={ticked.length === 0 || done !== null} onClick={() => void file()}>
          File {counted(ticked.length, 'arrival')}
        </Button>
      </DialogActs>
    </Dialog>
  );
}

function AlikeLine({
  arrival: { subject, arrivedAt, path, parts, sure },
  isTicked,
  says,
  onToggle,
}: {
  readonly arrival: AlikeArrival;
  readonly isTicked: boolean;
  /** Why it was not filed; null: it was not tried. */
  readonly says: string | null;
  readonly onToggle: () => void;
}) {
  const { timeZone } = useSurroundings();
  return (
    <li className="border-b border-line px-3 py-2 last:border-0">
      <label className="flex items-start gap-2.5">
        <input
          type="checkbox"
          checked={isTicked}
          onChange={onToggle}
          className="mt-1 size-[15px] shrink-0 accent-brine"
        />
        <span className="min-w-0 flex-1">
          <span className="flex items-baseline gap-2">
            <span className="min-w-0 flex-1 truncate font-medium">{subject === '' ? 'No subject' : subject}</span>
            <span className="shrink-0 text-sm text-soft">{dayInWords(arrivedAt, timeZone)}</span>
          </span>
          {parts.map(({ title, values }, at) => (
            <span key={at} className="block">
              {title}
              {values.map(({ name, text }) => (
                <span key={name} className="text-sm text-soft">
                  {' '}
                  · {name} <span className="text-ink">{text}</span>
                </span>
              ))}
            </span>
          ))}
          <span className="block text-sm text-soft">
            {path.join(' / ')}
            {sure !== null && `, ${percentSure(sure)} % sure`}
          </span>
          {says !== null && (
            <span role="alert" className="block text-sm text-ember-ink">
              {says}
            </span>
          )}
        </span>
      </label>
    </li>
  );
}
