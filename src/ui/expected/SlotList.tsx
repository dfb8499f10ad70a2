'use client';

import { useQueryClient } from '@tanstack/react-query';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import type { SlotRow, SlotsOf } from '@/core/expected/contract';
import { dayInWords } from '@/core/calendar/moment';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { Menu } from '../kit/menu';
import { say } from '../kit/notice';
import { call, saysOf } from '../server/call';
import { useAct } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { useUploads } from '../uploads/uploadsContext';
import { AskDialog, NotNeededDialog, PointDialog } from './SlotDialogs';
import { slotName } from './slotName';
import { stateWords } from './Squares';

const order = ['gap', 'ending', 'ahead', 'met', 'waived'] as const;
const headings = {
  gap: 'Missing',
  ending: 'Runs out soon',
  ahead: 'Not yet due',
  met: 'There',
  waived: 'Not needed',
} as const;

const keyOf = (slot: SlotRow): string => `${slot.expectationId} ${slot.startYear} ${slot.meetingId}`;

/** The expected papers of a dossier or of one of its years: what is missing first, each with what can be done about it. */
export function SlotList({
  told,
  pressed,
  only,
  most = Infinity,
}: {
  readonly told: SlotsOf;
  /** A press on a square, each a new one: its paper opens, or the act of filing it. */
  readonly pressed?: { readonly square?: number } | undefined;
  /** The states listed; left out for all. */
  readonly only?: readonly (typeof order)[number][];
  /** How many of each state are listed before the rest is asked for; left out for all. */
  readonly most?: number;
}) {
  const router = useRouter();
  const [whole, setWhole] = useState<ReadonlySet<string>>(new Set());
  const act = useSlotActs(told);
  const acted = useRef<object | null>(null);
  useEffect(() => {
    const slot = pressed?.square === undefined ? undefined : told.slots[pressed.square];
    if (!slot || !pressed || acted.current === pressed) return;
    acted.current = pressed;
    if (slot.paper) router.push(`/paper/${slot.paper.id}`);
    else if (slot.place && slot.state !== 'waived') act.file(slot);
  }, [pressed, told, router, act]);

  if (told.state === 'counting') return <p className="text-sm text-soft">Counting once the library has been read…</p>;
  return (
    <>
      {order
        .filter((state) => only?.includes(state) ?? true)
        .map((state) => {
          const all = told.slots.filter((slot) => slot.state === state);
          const slots = whole.has(state) ? all : all.slice(0, most);
          if (slots.length === 0) return null;
          return (
            <section key={state} aria-label={headings[state]} className="mb-3">
              <h3 className="mb-1 font-condensed text-[11.5px] tracking-wide text-soft uppercase">
                {headings[state]} · {all.length}
              </h3>
              <ul>
                {slots.map((slot) => (
                  <Line key={keyOf(slot)} slot={slot} act={act} mayAmend={told.mayAmend} />
                ))}
              </ul>
              {slots.length < all.length && (
                <Button look="quiet" onClick={() => setWhole(new Set([...whole, state]))}>
                  Show {all.length - slots.length} more
                </Button>
              )}
            </section>
          );
        })}
      {act.dialogs}
    </>
  );
}

type SlotActs = ReturnType<typeof useSlotActs>;

function Line({ slot, act, mayAmend }: { readonly slot: SlotRow; readonly act: SlotActs; readonly mayAmend: boolean }) {
  const { timeZone } = useSurroundings();
  const day = (iso: string) => dayInWords(`${iso}T12:00:00Z`, timeZone);
  const { state, paper, waiver } = slot;
  const open = state === 'gap' || state === 'ahead' || state === 'ending';
  const acts = [
    ...(open && mayAmend
      ? [
          { label: 'Choose the paper…', act: () => act.point(slot) },
          { label: 'Not needed here…', act: () => act.waive(slot) },
          { label: 'Ask for it…', act: () => act.ask(slot) },
        ]
      : []),
    ...(mayAmend && (slot.pointed || state === 'waived')
      ? [{ label: state === 'waived' ? 'Needed after all' : 'Not this paper', act: () => act.unsay(slot) }]
      : []),
  ];
  return (
    <li className="border-b border-line py-1.5 last:border-0">
      <p>
        <span className={state === 'gap' ? 'font-semibold' : ''}>{slot.name}</span>
        {slot.meeting && <span className="text-soft"> · {day(slot.meeting.day)}</span>}
      </p>
      <div className="flex items-center gap-2">
        <span className="min-w-0 flex-1 text-sm text-soft">
          {paper ? (
            <Link href={`/paper/${paper.id}`} className="text-brine-ink hover:underline">
              {paper.title}
            </Link>
          ) : waiver && state === 'waived' ? (
            `${waiver.reason} (${waiver.by})`
          ) : (
            <span className={state === 'gap' ? 'text-ember-ink' : ''}>due {day(slot.due)}</span>
          )}
          {slot.runsOut !== null && (
            <span className="text-ember-ink">
              {paper ? ' · runs out ' : ' · one ran out '}
              {day(slot.runsOut)}
            </span>
          )}
        </span>
        {open && slot.place && (
          <Button
            aria-label={`File it now: ${slot.name}${slot.meeting ? `, ${day(slot.meeting.day)}` : ''}`}
            onClick={() => act.file(slot)}
          >
            File it now
          </Button>
        )}
        {acts.length > 0 && (
          <Menu
            look="quiet"
            label="More"
            className="!px-1.5"
            name={`More to do with ${slot.name}, ${stateWords[state]}`}
            acts={acts}
          />
        )}
      </div>
    </li>
  );
}

/** What can be done about expected papers. */
function useSlotActs(told: SlotsOf) {
  const { offer } = useUploads();
  const queries = useQueryClient();
  const [dialog, setDialog] = useState<{ readonly kind: 'point' | 'waive' | 'ask'; readonly slot: SlotRow } | null>(
    null,
  );
  const unsay = useAct('expected.say');
  const close = () => setDialog(null);

  /**
   * Once it has arrived, a paper is given what makes it the one expected; where that takes more than values, or its sender may
   * set none, it is pointed at.
   */
  async function arrived(slot: SlotRow, documentId: string): Promise<void> {
    try {
      if (slot.values === null || !told.mayAmend)
        await call('expected.say', { ...slotName(slot), says: { paper: documentId } });
      else if (Object.keys(slot.values).length > 0)
        await call('papers.setValues', { documentIds: [documentId], values: slot.values });
      await queries.invalidateQueries();
    } catch (error) {
      say.refusal(`The paper is filed, but not yet as “${slot.name}”. ${saysOf(error)}`);
    }
  }

  return {
    file: (slot: SlotRow) => slot.place && offer([], slot.place, (documentId) => void arrived(slot, documentId)),
    point: (slot: SlotRow) => setDialog({ kind: 'point', slot }),
    waive: (slot: SlotRow) => setDialog({ kind: 'waive', slot }),
    ask: (slot: SlotRow) => setDialog({ kind: 'ask', slot }),
    unsay: (slot: SlotRow) =>
      unsay.mutate({ ...slotName(slot), says: null }, { onSuccess: () => say.done('Taken back.') }),
    dialogs:
      dialog === null ? null : dialog.kind === 'point' ? (
        <PointDialog slot={dialog.slot} onClose={close} />
      ) : dialog.kind === 'waive' ? (
        <NotNeededDialog slot={dialog.slot} onClose={close} />
      ) : (
        <AskDialog slot={dialog.slot} officer={told.officer} onClose={close} />
      ),
  };
}
