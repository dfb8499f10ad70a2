'use client';

import { useVirtualizer } from '@tanstack/react-virtual';
import { useRouter, useSearchParams } from 'next/navigation';
import { useMemo, useRef, useState } from 'react';
import type { PaperDocket, PaperVersion } from '@/core/documents/model';
import type { Comparison } from '@/core/reading/compare';
import { momentInWords } from '@/core/calendar/moment';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { PageImage } from '../reading/PageImage';
import { sourceOf, type Source } from '../reading/source';
import { useRoom } from '../reading/useRoom';
import { saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';

/** Two versions of a paper: their pages, which scroll together, or their words, marked where they differ. */
export function VersionsBeside({ initial }: { readonly initial: PaperDocket }) {
  const router = useRouter();
  const asked = useSearchParams();
  const { data } = useAsk('paper.docket', { documentId: initial.id }, { initialData: initial });
  const paper = data ?? initial;
  const newest = paper.versions[0]?.number ?? 1;
  const numbered = (name: string, otherwise: number) =>
    paper.versions.find(({ number }) => number === Number(asked.get(name))) ??
    paper.versions.find(({ number }) => number === otherwise) ??
    paper.versions[0];
  const [other, one] = [numbered('other', newest), numbered('one', newest - 1)];
  const mayTake = paper.capabilities.includes('take');
  const [shown, setShown] = useState<'pages' | 'words'>('pages');
  const { data: comparison, error } = useAsk(
    'paper.compare',
    { documentId: paper.id, one: one?.number ?? 1, other: other?.number ?? 1 },
    { enabled: mayTake },
  );
  const choose = (name: 'one' | 'other', number: number) => {
    const next = new URLSearchParams(asked);
    next.set(name, String(number));
    router.replace(`/paper/${paper.id}/versions?${next.toString()}`);
  };
  if (!one || !other) return null;
  return (
    <main id="main" className="flex min-h-0 min-w-0 flex-1 flex-col">
      <div className="no-print flex flex-wrap items-center gap-3 border-b border-line bg-sheet px-4 py-1.5">
        <Link href={`/paper/${paper.id}`} className="shrink-0 text-brine-ink hover:underline">
          Back to the paper
        </Link>
        <h1 className="min-w-0 flex-1 truncate font-condensed text-lg">{paper.title}</h1>
        {mayTake &&
          (['pages', 'words'] as const).map((each) => (
            <Button
              key={each}
              aria-pressed={shown === each}
              className={shown === each ? '!border-brine !bg-brine-wash' : ''}
              onClick={() => setShown(each)}
            >
              {each === 'pages' ? 'Pages' : 'Words'}
            </Button>
          ))}
      </div>
      <div className="grid grid-cols-2 border-b border-line bg-fog">
        <Chooser name="Earlier" versions={paper.versions} chosen={one} onChoose={(number) => choose('one', number)} />
        <Chooser name="Later" versions={paper.versions} chosen={other} onChoose={(number) => choose('other', number)} />
      </div>
      {error && (
        <p role="alert" className="border-b border-line bg-sheet px-4 py-1.5">
          {saysOf(error)}
        </p>
      )}
      {comparison && <Difference comparison={comparison} />}
      {shown === 'words' && comparison ? (
        <Words comparison={comparison} />
      ) : (
        <Pairs
          key={`${one.number}-${other.number}`}
          paper={paper}
          one={one}
          other={other}
          comparison={comparison ?? null}
        />
      )}
    </main>
  );
}

function Chooser({
  name,
  versions,
  chosen,
  onChoose,
}: {
  readonly name: string;
  readonly versions: readonly PaperVersion[];
  readonly chosen: PaperVersion;
  readonly onChoose: (number: number) => void;
}) {
  const { timeZone } = useSurroundings();
  return (
    <label className="flex min-w-0 items-center gap-2 px-4 py-1.5">
      <span className="text-soft max-sm:hidden">{name}</span>
      <select
        aria-label={`${name} version`}
        value={chosen.number}
        onChange={(event) => onChoose(Number(event.target.value))}
        className="h-[30px] min-w-0 flex-1 rounded-sm border border-edge bg-sheet px-2"
      >
        {versions.map(({ number, madeBy, madeAt }) => (
          <option key={number} value={number}>
            {`Version ${number}, ${madeBy}, ${momentInWords(madeAt, timeZone).replace(/:\d\d \(.*$/u, '')}`}
          </option>
        ))}
      </select>
    </label>
  );
}

function Difference({ comparison: { changedPages, parts, givenUp } }: { readonly comparison: Comparison }) {
  const differ = changedPages.one.length + changedPages.other.length;
  const pages = changedPages.other.length === 0 ? changedPages.one : changedPages.other;
  return (
    <p role="status" className="border-b border-line bg-sheet px-4 py-1.5">
      {parts.length === 0 && !givenUp
        ? 'Neither version has text that could be compared.'
        : differ === 0
          ? 'Both say the same, word by word.'
          : `They differ on ${pages.length === 1 ? 'page' : 'pages'} ${pages.slice(0, 30).join(', ')}${pages.length > 30 ? ' and more' : ''}.`}
      {givenUp && ' Comparing them word by word took too long and was given up.'}
    </p>
  );
}

function Words({ comparison: { parts } }: { readonly comparison: Comparison }) {
  return (
    <div className="min-h-0 flex-1 overflow-auto bg-mist" tabIndex={0} role="region" aria-label="Words that differ">
      <p className="mx-auto my-4 max-w-[820px] border border-line bg-sheet px-8 py-6 leading-relaxed break-words whitespace-pre-wrap shadow-sm">
        {parts.map(({ kind, text }, at) =>
          kind === 'same' ? (
            <span key={at}>{text}</span>
          ) : kind === 'added' ? (
            <ins key={at} className="bg-brine-wash font-semibold underline decoration-brine decoration-2">
              {text}
            </ins>
          ) : (
            <del key={at} className="bg-ember-wash text-ember-ink line-through">
              {text}
            </del>
          ),
        )}
      </p>
    </div>
  );
}

const gap = 12;

function Pairs({
  paper,
  one,
  other,
  comparison,
}: {
  readonly paper: PaperDocket;
  readonly one: PaperVersion;
  readonly other: PaperVersion;
  readonly comparison: Comparison | null;
}) {
  const scroller = useRef<HTMLDivElement>(null);
  const room = useRoom(scroller);
  const ask = (version: number) => ({ documentId: paper.id, version });
  const [before, after] = [
    useAsk('paper.reading', ask(one.number)).data,
    useAsk('paper.reading', ask(other.number)).data,
  ];
  const sources = useMemo(
    () =>
      [before, after].map((reading, at) =>
        reading
          ? sourceOf(
              `/api/paper/${paper.id}/content`,
              `${paper.title}, version ${(at === 0 ? one : other).number}`,
              reading,
              { version: (at === 0 ? one : other).number },
              null,
            )
          : null,
      ),
    [before, after, paper.id, paper.title, one, other],
  );
  const width = Math.max(80, Math.floor((room.width - 4 * gap) / 2));
  const count = Math.max(before?.pages ?? 0, after?.pages ?? 0);
  const virtual = useVirtualizer({
    count: room.width === 0 ? 0 : count,
    getScrollElement: () => scroller.current,
    estimateSize: () => width * Math.SQRT2 + gap,
    overscan: 1,
  });
  const changed = [new Set(comparison?.changedPages.one), new Set(comparison?.changedPages.other)];
  return (
    <div
      ref={scroller}
      tabIndex={0}
      role="region"
      aria-label="Pages of both versions"
      className="min-h-0 flex-1 overflow-auto bg-mist"
    >
      {before && after && count === 0 && <p className="p-6 text-soft">Neither version has pages to show.</p>}
      <div className="relative" style={{ height: virtual.getTotalSize() + gap }}>
        {virtual.getVirtualItems().map(({ index, start }) => (
          <div
            key={index}
            ref={virtual.measureElement}
            data-index={index}
            className="absolute left-0 grid w-full grid-cols-2"
            style={{ top: start, paddingTop: gap }}
          >
            {sources.map((source, side) => (
              <div key={side} className="grid justify-items-center">
                {source && index < (source.paper.pages ?? 0) && (
                  <Side
                    source={source}
                    page={index + 1}
                    width={width}
                    changed={changed[side]?.has(index + 1) ?? false}
                  />
                )}
              </div>
            ))}
          </div>
        ))}
      </div>
    </div>
  );
}

function Side({
  source,
  page,
  width,
  changed,
}: {
  readonly source: Source;
  readonly page: number;
  readonly width: number;
  readonly changed: boolean;
}) {
  return (
    <figure className={changed ? 'border-2 border-ember' : 'border-2 border-line'}>
      <PageImage
        address={source.address({ page })}
        name={`${source.title}, page ${page}`}
        width={width - 4}
        turned={0}
        onRatio={() => undefined}
      />
      <figcaption className="figures bg-sheet px-2 py-0.5 text-sm text-soft">
        {page}
        {changed && <span className="ml-2 font-semibold text-ember-ink">changed</span>}
      </figcaption>
    </figure>
  );
}
