'use client';

import { Command } from 'cmdk';
import type { ReactNode } from 'react';
import type { Found, FoundPaper } from '@/core/search/contract';
import { paperAddress, spotOf } from '@/core/search/spot';
import { Marked } from '../kit/marked';
import { Path } from '../kit/path';
import { Stamp } from '../kit/stamp';
import type { ActHere } from '../kit/actsHere';
import type { FieldAct } from './acts';

const sorts: readonly (readonly [heading: string, holds: (found: Found) => boolean])[] = [
  ['Places', ({ kind }) => kind !== 'paper' && kind !== 'person' && kind !== 'view'],
  ['Papers by title', ({ kind }) => kind === 'paper'],
];
const after: typeof sorts = [
  ['People', ({ kind }) => kind === 'person'],
  ['Views', ({ kind }) => kind === 'view'],
];

/** Where something that was found is opened; a person leads to what they filed. */
const addressOf = ({ kind, id, placeId }: Found): string => {
  if (kind === 'paper') return `/paper/${id}`;
  if (kind === 'person') return `/all?if=${encodeURIComponent(JSON.stringify([{ of: 'filedBy', anyOf: [id] }]))}`;
  if (kind === 'view') return placeId === null ? `/all?view=${id}` : `/place/${placeId}?view=${id}`;
  return `/place/${id}`;
};

/** The best few of each sort for what is being typed, after the way to all that is found. */
export function FieldOffers({
  words,
  placeId,
  named,
  inside,
  acts,
  here,
  onAct,
  failed,
  isAnswered,
  onFind,
  onGo,
}: {
  readonly words: string;
  /** The place whose page is open. */
  readonly placeId: string | null;
  readonly named: readonly Found[];
  readonly inside: readonly FoundPaper[];
  readonly acts: readonly FieldAct[];
  /** What can be done on the page that is open. */
  readonly here: readonly ActHere[];
  readonly onAct: (act: () => void) => void;
  readonly failed: boolean;
  /** Whether what is told is told of these words. */
  readonly isAnswered: boolean;
  readonly onFind: (within: string | null) => void;
  readonly onGo: (address: string) => void;
}) {
  // A paper that is found by its title is not told a second time.
  const titled = new Set(named.map(({ id }) => id));
  const others = inside.filter(({ documentId }) => !titled.has(documentId));
  return (
    <>
      <Command.Group>
        <Offer value="all" onSelect={() => onFind(null)} keys="Enter">
          <span className="truncate text-brine-ink">
            All that is found for <b>{words}</b>
          </span>
        </Offer>
        {placeId !== null && (
          <Offer value="here" onSelect={() => onFind(placeId)} keys="Shift Enter">
            <span className="truncate text-brine-ink">Only here and below</span>
          </Offer>
        )}
      </Command.Group>
      {isAnswered && named.length === 0 && inside.length === 0 && (
        <p className="px-3 py-3 text-sm text-soft">Nothing found for “{words}”.</p>
      )}
      {failed && <p className="px-3 py-3 text-sm text-ember-ink">The library could not be searched just now.</p>}
      {sorts.map(([heading, holds]) => (
        <Named key={heading} heading={heading} found={named.filter(holds)} onGo={onGo} />
      ))}
      {others.length > 0 && (
        <Sort heading="Inside papers">
          {others.map((paper) => (
            <Offer
              key={paper.documentId}
              value={`inside ${paper.documentId}`}
              onSelect={() => onGo(paperAddress(paper.documentId, spotOf(paper.inside)))}
            >
              <Stamp word={paper.stamp} />
              <span className="min-w-0 flex-1">
                <span className="block truncate font-medium">
                  <Marked text={paper.title} marks={paper.titleMarks} />
                </span>
                <span className="block truncate text-sm text-soft">
                  <Why paper={paper} />
                </span>
              </span>
            </Offer>
          ))}
        </Sort>
      )}
      {after.map(([heading, holds]) => (
        <Named key={heading} heading={heading} found={named.filter(holds)} onGo={onGo} />
      ))}
      {here.length > 0 && (
        <Sort heading="Do here">
          {here.map(({ label, act }) => (
            <Offer key={label} value={`act ${label}`} onSelect={() => onAct(act)}>
              {label}
            </Offer>
          ))}
        </Sort>
      )}
      {acts.length > 0 && (
        <Sort heading="Go to">
          {acts.map(({ name, address }) => (
            <Offer key={address} value={address} onSelect={() => onGo(address)}>
              {name}
            </Offer>
          ))}
        </Sort>
      )}
    </>
  );
}

/** What of a paper answers, in one line. */
function Why({ paper: { inside, beside, path } }: { readonly paper: FoundPaper }) {
  if (inside) {
    // From shortly before the first mark on, so that it is in sight.
    const from = Math.max(0, (inside.marks[0]?.[0] ?? 0) - 24);
    return (
      <>
        {inside.page > 1 && `Page ${inside.page}: `}…
        <Marked
          text={inside.passage.slice(from)}
          marks={inside.marks.map(([start, end]) => [start - from, end - from] as const)}
        />
      </>
    );
  }
  const [first] = beside;
  if (!first) return <>{path.join(' / ')}</>;
  return (
    <>
      {first.what}: <Marked text={first.text} marks={first.marks} />
    </>
  );
}

function Named({
  heading,
  found,
  onGo,
}: {
  readonly heading: string;
  readonly found: readonly Found[];
  readonly onGo: (address: string) => void;
}) {
  if (found.length === 0) return null;
  return (
    <Sort heading={heading}>
      {found.map((each) => (
        <Offer key={each.id} value={each.id} onSelect={() => onGo(addressOf(each))}>
          {each.stamp && <Stamp word={each.stamp} />}
          {each.reference && <span className="font-mono text-sm text-soft">{each.reference}</span>}
          <span className="truncate font-medium">
            <Marked text={each.name} marks={each.marks} />
          </span>
          <Path
            steps={each.about === null ? each.path : [each.about]}
            className="ml-auto max-w-[45%] shrink-0 text-sm text-soft"
          />
        </Offer>
      ))}
    </Sort>
  );
}

const Sort = ({ heading, children }: { readonly heading: string; readonly children: ReactNode }) => (
  <Command.Group
    heading={heading}
    className="[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:font-condensed [&_[cmdk-group-heading]]:text-xs [&_[cmdk-group-heading]]:text-soft"
  >
    {children}
  </Command.Group>
);

/** One line of the list. */
export const Offer = ({
  value,
  onSelect,
  keys,
  children,
}: {
  readonly value: string;
  readonly onSelect: () => void;
  readonly keys?: string;
  readonly children: ReactNode;
}) => (
  <Command.Item
    value={value}
    onSelect={onSelect}
    className="flex cursor-pointer items-center gap-2 rounded-sm px-2 py-1.5 data-[selected=true]:bg-brine-wash"
  >
    {children}
    {keys !== undefined && (
      <kbd aria-hidden className="ml-auto shrink-0 font-mono text-xs text-soft max-sm:hidden">
        {keys}
      </kbd>
    )}
  </Command.Item>
);
