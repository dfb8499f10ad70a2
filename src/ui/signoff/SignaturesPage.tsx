'use client';

import clsx from 'clsx';
import { parseAsStringLiteral, useQueryState } from 'nuqs';
import { useState } from 'react';
import { dayNumber } from '@/core/calendar/period';
import { dueInWords } from '@/core/reviews/standing';
import type { SignOffLine } from '@/core/signoff/contract';
import { wayWords } from '@/core/signoff/words';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { Tabs } from '../kit/tabs';
import { saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';

const parts = ['mine', 'all'] as const;
const partWords = { mine: 'Mine', all: 'Everybody’s' } as const;

/** Signatures: those that wait for the person, those they asked for, and for keepers everybody's. */
export function SignaturesPage() {
  const { me, seenBy } = useSurroundings();
  const [show, setShow] = useQueryState(
    'whose',
    parseAsStringLiteral(parts).withDefault('mine').withOptions({ history: 'push' }),
  );
  const isKeeper = me.keeper && seenBy === null;
  const whose = isKeeper ? show : 'mine';
  const { data, error } = useAsk('signoff.lines', { whose });
  const [person, setPerson] = useState<string | null>(null);
  const shown = data?.filter(({ waitsFor }) => person === null || waitsFor.includes(person)) ?? [];
  const waiting = shown.filter(({ isMyTurn }) => isMyTurn);
  const open = shown.filter(({ state, isMyTurn }) => state === 'open' && !isMyTurn);
  const ended = shown.filter(({ state }) => state !== 'open');
  return (
    <main id="main" className="min-w-0 flex-1 overflow-y-auto px-6 py-5 max-sm:px-3">
      <h1 className="mb-1 font-condensed text-xl">Signatures</h1>
      <p className="mb-3 max-w-[80ch] text-soft">
        Who is asked to sign or approve which version, and how far that has come. Ask from the docket of a paper.
      </p>
      {isKeeper && (
        <Tabs
          label="Whose signatures"
          parts={parts}
          words={partWords}
          shown={whose}
          onShow={(part) => void setShow(part)}
        />
      )}
      {error && <p role="alert">{saysOf(error)}</p>}
      {data && (
        <div className="max-w-[980px]">
          {whose === 'all' && <Waited lines={data} person={person} onPick={setPerson} />}
          <Lines title="They wait for you" lines={waiting} nothing="Nothing waits for your signature." />
          <Lines
            title={whose === 'all' ? 'They wait for others' : 'You wait for them'}
            lines={open}
            nothing={
              whose === 'all' ? 'Nobody else is asked.' : 'Nobody is asked by you, and nothing comes to you later.'
            }
          />
          {ended.length > 0 && <Lines title="Ended in the last 30 days" lines={ended} nothing="" />}
        </div>
      )}
    </main>
  );
}

/** Whom everybody waits for, and for how many signatures; a press shows theirs alone. */
function Waited({
  lines,
  person,
  onPick,
}: {
  readonly lines: readonly SignOffLine[];
  readonly person: string | null;
  readonly onPick: (person: string | null) => void;
}) {
  const counts = new Map<string, number>();
  for (const { waitsFor } of lines) for (const name of waitsFor) counts.set(name, (counts.get(name) ?? 0) + 1);
  if (counts.size === 0) return null;
  const most = [...counts].sort(([, a], [, b]) => b - a);
  return (
    <div role="group" aria-label="Who is waited for" className="mb-4 flex flex-wrap items-center gap-2">
      {most.map(([name, count]) => (
        <Button
          key={name}
          aria-pressed={person === name}
          className="aria-pressed:border-brine aria-pressed:bg-brine-wash"
          onClick={() => onPick(person === name ? null : name)}
        >
          {name} <span className="figures text-soft">{count}</span>
        </Button>
      ))}
      {person !== null && (
        <Button look="quiet" onClick={() => onPick(null)}>
          Everybody
        </Button>
      )}
    </div>
  );
}

function Lines({
  title,
  lines,
  nothing,
}: {
  readonly title: string;
  readonly lines: readonly SignOffLine[];
  readonly nothing: string;
}) {
  return (
    <section aria-label={title} className="mb-5">
      <h2 className="mb-1 font-condensed text-[11.5px] tracking-wide text-soft uppercase">{title}</h2>
      {lines.length === 0 ? (
        <p className="rounded-sm border border-line bg-sheet px-4 py-4 text-soft">{nothing}</p>
      ) : (
        <ul className="rounded-sm border border-line bg-sheet">
          {lines.map((line) => (
            <li
              key={line.signOffId}
              className="flex flex-wrap items-baseline gap-x-4 gap-y-0.5 border-b border-line px-4 py-2 last:border-b-0"
            >
              <span className="min-w-0 flex-1 basis-72">
                <Link
                  href={`/paper/${line.documentId}?version=${line.versionNumber}`}
                  className="font-medium text-brine-ink hover:underline"
                >
                  {line.title}
                </Link>{' '}
                <span className="text-soft">in {line.placeName}</span>
                <span className="block text-sm text-soft">{aboutLine(line)}</span>
              </span>
              <span className="text-sm sm:basis-56">{line.words}</span>
              <Due line={line} />
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** "Maren Tolliver asks you to sign version 2", "waits for Idris Calloway" */
function aboutLine({ isMyTurn, askedByMe, askedBy, way, versionNumber, waitsFor, state }: SignOffLine): string {
  if (isMyTurn)
    return `You are asked to ${wayWords[way]} version ${versionNumber}${askedByMe ? '' : `, by ${askedBy}`}`;
  const whose = askedByMe ? '' : `Asked by ${askedBy}`;
  const waits = state === 'open' ? `waits for ${waitsFor.join(', ')}` : '';
  const words = [whose, waits].filter((each) => each !== '').join(', ');
  return words.charAt(0).toUpperCase() + words.slice(1);
}

function Due({ line: { dueOn, state, today } }: { readonly line: SignOffLine }) {
  if (dueOn === null || state !== 'open') return <span className="sm:basis-28" />;
  const isPast = dueOn < today;
  return (
    <span className={clsx('text-sm sm:basis-28 sm:text-right', isPast ? 'text-ember-ink' : 'text-soft')}>
      {dueInWords(dayNumber(dueOn) ?? 0, dayNumber(today) ?? 0)}
    </span>
  );
}
