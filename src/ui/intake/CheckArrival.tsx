'use client';

import { useMemo, useState } from 'react';
import { dayInWords } from '@/core/calendar/moment';
import type { ArrivalSheet } from '@/core/intake/contract';
import { withoutSender } from '@/core/intake/model';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { PageMarksContext } from '../reading/pageMarks';
import { PaperContent } from '../reading/PaperContent';
import { sourceOf } from '../reading/source';
import { SteerContext, unsteered } from '../reading/steer';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { Alike } from './Alike';
import { CheckForm } from './CheckForm';
import { Conversation } from './Conversation';
import { RuleDialog, type RuleDraft } from './RuleDialog';
import { useFields } from './useFields';
import { useTarget } from './useTarget';

const againMs = 2000;

/** One arrival as somebody checks it: what it is in the middle, beside it where it would go and why. */
export function CheckArrival({ arrivalId, onDone }: { readonly arrivalId: string; readonly onDone: () => void }) {
  const { data, error } = useAsk('arrival.of', { arrivalId });
  if (error)
    return (
      <p role="alert" className="p-6">
        {saysOf(error)}
      </p>
    );
  if (!data)
    return (
      <p aria-busy className="p-6 text-soft">
        Opening it…
      </p>
    );
  return <Sheet key={data.revision} sheet={data} onDone={onDone} />;
}

function Sheet({ sheet, onDone }: { readonly sheet: ArrivalSheet; readonly onDone: () => void }) {
  const { id: arrivalId, parts, places, subject, state } = sheet;
  const [shown, setShown] = useState<number | null>(
    () => (parts.find(({ counts }) => counts) ?? parts[0])?.attachment ?? null,
  );
  const target = useTarget(places);
  const fields = useFields(arrivalId, state === 'waiting' ? (target.chosen?.id ?? null) : null);
  const { take, to } = fields;
  const steer = useMemo(() => ({ ...unsteered, to }), [to]);
  return (
    <div className="flex min-h-0 flex-1 max-[900px]:flex-col max-[900px]:overflow-y-auto">
      <section aria-label="What arrived" className="min-h-0 min-w-0 flex-1 bg-mist max-[900px]:min-h-[60vh]">
        <PageMarksContext value={{ marks: fields.marksOn(shown), onWords: take }}>
          <SteerContext value={steer}>
            <Content arrivalId={arrivalId} title={subject} attachment={shown} />
          </SteerContext>
        </PageMarksContext>
      </section>
      <aside
        aria-label="Where it goes"
        className="w-[350px] shrink-0 overflow-y-auto border-l border-line bg-sheet max-[900px]:order-first max-[900px]:w-full max-[900px]:border-l-0 max-[1100px]:w-[310px]"
      >
        <Head sheet={sheet} />
        <Conversation sheet={sheet} />
        {state === 'waiting' && <Alike sheet={sheet} />}
        {state === 'waiting' ? (
          <CheckForm {...{ sheet, shown, target, fields, onDone }} onShow={setShown} />
        ) : (
          <Done sheet={sheet} />
        )}
      </aside>
    </div>
  );
}

function Content({
  arrivalId,
  title,
  attachment,
}: {
  readonly arrivalId: string;
  readonly title: string;
  readonly attachment: number | null;
}) {
  const { data } = useAsk(
    'arrival.reading',
    { arrivalId, attachment },
    { again: ({ state }) => (state === 'waiting' || state === 'beingRead') && againMs },
  );
  const source = useMemo(
    () => data && sourceOf(`/api/arrival/${arrivalId}`, title, data, attachment === null ? {} : { attachment }, null),
    [data, arrivalId, title, attachment],
  );
  return source ? <PaperContent key={attachment} source={source} startAt={1} onAttachment={null} /> : null;
}

function Head({ sheet }: { readonly sheet: ArrivalSheet }) {
  const { timeZone } = useSurroundings();
  const { subject, sender, senderAddress, sentBy, automatic, arrivedAt, way, broughtBy, checked } = sheet;
  return (
    <div className="border-b border-line px-4 py-3">
      <h2 className="font-condensed text-lg leading-tight">{subject === '' ? 'No subject' : subject}</h2>
      <p className="text-sm text-soft">
        {sender === '' ? withoutSender[way] : `From ${sender}`}
        {senderAddress !== '' && senderAddress !== sender && ` (${senderAddress})`}, {dayInWords(arrivedAt, timeZone)}
        {broughtBy !== null && `, put in by ${broughtBy}`}
      </p>
      {sentBy !== null && (
        <p className="mt-1 rounded-sm border border-straw-edge bg-straw px-2 py-1 text-sm text-straw-ink">
          It was sent by {sentBy}. Whose name it bears is only what it says.
        </p>
      )}
      {checked.isDoubtful ? (
        <p className="mt-1 rounded-sm border border-straw-edge bg-straw px-2 py-1 text-sm text-straw-ink">
          The mail server doubts that it is from there: {checked.says}.
        </p>
      ) : (
        checked.says !== '' && <p className="text-sm text-soft">The mail server says: {checked.says}.</p>
      )}
      {automatic && <p className="text-sm text-soft">A program sent it by itself.</p>}
    </div>
  );
}

function Done({
  sheet: { id: arrivalId, done, state, sender, senderAddress, byRule, cutInto },
}: {
  readonly sheet: ArrivalSheet;
}) {
  const { timeZone, me } = useSurroundings();
  const [draft, setDraft] = useState<RuleDraft | null>(null);
  const back = useAct('arrival.takeBack');
  if (done === null) return null;
  return (
    <div className="px-4 py-3">
      <p>
        {state === 'cut'
          ? `Taken apart into ${counted(cutInto ?? 0, 'paper')}, each of which waits or is filed for itself`
          : state === 'joined'
            ? 'Joined with others into one paper, which waits or is filed for itself'
            : state === 'notOurs'
              ? 'Set aside as not ours'
              : byRule === null
                ? 'Filed'
                : `Filed by the rule “${byRule}”, which was set up`}
        {done.by === '' ? '' : ` by ${done.by}`}, {dayInWords(done.at, timeZone)}.
      </p>
      <ul>
        {done.papers.map(({ id, title }) => (
          <li key={id}>
            <Link href={`/paper/${id}`} className="text-brine-ink underline">
              {title}
            </Link>
          </li>
        ))}
      </ul>
      <Button className="mt-2" disabled={back.isPending} onClick={() => back.mutate({ arrivalId })}>
        Check it again
      </Button>
      {state === 'filed' && <p className="mt-1 text-sm text-soft">Its papers then go into the disposal tray.</p>}
      {me.keeper && done.dossier && senderAddress !== '' && (
        <p className="mt-3">
          <Button onClick={() => setDraft(ruleLike(sender, senderAddress, done.dossier))}>
            Make a filing rule of it…
          </Button>
        </p>
      )}
      {draft && <RuleDialog draft={draft} onClose={() => setDraft(null)} />}
    </div>
  );
}

/** A rule for what comes from the same sender. */
const ruleLike = (
  sender: string,
  address: string,
  dossier: NonNullable<ArrivalSheet['done']>['dossier'],
): RuleDraft => ({
  ...{ id: null, revision: 0, name: `From ${sender}`.slice(0, 80), on: true, title: '', filesFrom: null },
  ...{ placeId: dossier?.id ?? null, path: dossier?.path ?? null },
  ...{ values: {}, labelIds: [], tell: [], people: [] },
  conditions: [{ field: 'from', text: address }],
});
