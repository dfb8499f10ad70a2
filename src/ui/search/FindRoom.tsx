'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { mostSkipped, resultsAtATime, type FoundPaper } from '@/core/search/contract';
import { whenInWords } from '@/core/calendar/moment';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { Marked } from '../kit/marked';
import { Path } from '../kit/path';
import { Stamp } from '../kit/stamp';
import { saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';

/** The address of the results for some words. */
export const findAddress = (words: string, placeId: string | null = null): string =>
  `/find?${new URLSearchParams({ words, ...(placeId === null ? {} : { in: placeId }) }).toString()}`;

/** Papers by what stands in them: each with its place and the passage that answers. */
export function FindRoom({ words, placeId }: { readonly words: string; readonly placeId: string | null }) {
  return (
    <main id="main" className="min-w-0 flex-1 overflow-y-auto px-6 py-5 max-sm:px-4">
      <h1 className="sr-only">Find</h1>
      <Question key={words} words={words} placeId={placeId} />
      {words.trim() === '' ? (
        <p className="mt-6 max-w-prose text-soft">
          Type words that stand in a paper or in its title, in any order. In quotes they have to stand one after the
          other: “fender piles”. A minus puts a word out: minutes -draft.
        </p>
      ) : (
        <Results key={`${words} ${placeId}`} words={words} placeId={placeId} />
      )}
    </main>
  );
}

function Question({ words, placeId }: { readonly words: string; readonly placeId: string | null }) {
  const router = useRouter();
  const [typed, setTyped] = useState(words);
  return (
    <form
      role="search"
      className="flex max-w-[60em] gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        router.push(findAddress(typed.trim(), placeId));
      }}
    >
      <input
        aria-label="Words in papers and their titles"
        value={typed}
        maxLength={2000}
        onChange={(event) => setTyped(event.target.value)}
        className="h-[34px] min-w-0 flex-1 rounded-sm border border-edge bg-sheet px-3 text-base"
      />
      <Button type="submit" look="main">
        Find
      </Button>
      {placeId !== null && (
        <Link href={findAddress(words)} className="self-center text-brine-ink hover:underline">
          In the whole library
        </Link>
      )}
    </form>
  );
}

function Results({ words, placeId }: { readonly words: string; readonly placeId: string | null }) {
  const [skip, setSkip] = useState(0);
  const { data, error } = useAsk('search.papers', { words, placeId, skip }, { keepPrevious: true });
  if (error) return <p className="mt-6 text-ember-ink">{saysOf(error)}</p>;
  if (!data)
    return (
      <p className="mt-6 text-soft" aria-busy>
        Being looked for…
      </p>
    );
  const first = skip + 1;
  return (
    <section aria-label="What was found" className="mt-4 max-w-[60em]">
      <p role="status" className="figures text-sm text-soft">
        {data.papers.length === 0
          ? null
          : `Papers ${first} to ${skip + data.papers.length}${data.more ? ', and more after them' : ''}, the best first`}
        {data.leftOut > 0 && ` · ${data.leftOut} words of the question were left out: there are too many`}
      </p>
      {data.papers.length === 0 && <NothingFound words={words} placeId={placeId} />}
      <ol className="mt-2">
        {data.papers.map((paper) => (
          <li key={paper.documentId} className="border-t border-line py-3">
            <Found paper={paper} />
          </li>
        ))}
      </ol>
      <p className="flex gap-2 border-t border-line pt-3">
        {skip > 0 && <Button onClick={() => setSkip(Math.max(0, skip - resultsAtATime))}>Before these</Button>}
        {data.more && skip + resultsAtATime <= mostSkipped && (
          <Button onClick={() => setSkip(skip + resultsAtATime)}>More</Button>
        )}
      </p>
    </section>
  );
}

/** The first of the words that were found, as it stands in the paper: by it the reader marks the place. */
const asItStands = ({ passage, marks }: NonNullable<FoundPaper['inside']>): string =>
  passage.slice(...(marks[0] ?? [0, 0]));

function Found({ paper }: { readonly paper: FoundPaper }) {
  const { now, timeZone } = useSurroundings();
  const { inside } = paper;
  const address =
    inside && inside.attachment === null
      ? `/paper/${paper.documentId}?${new URLSearchParams({ page: String(inside.page), find: asItStands(inside) }).toString()}`
      : `/paper/${paper.documentId}`;
  return (
    <article aria-label={paper.title}>
      <p className="flex min-w-0 items-center gap-2">
        <Stamp word={paper.stamp} />
        <Link href={address} className="min-w-0 truncate font-medium hover:underline">
          <Marked text={paper.title} marks={paper.titleMarks} />
        </Link>
        <span className="figures ml-auto shrink-0 text-sm text-soft">{whenInWords(paper.filedAt, now, timeZone)}</span>
      </p>
      <p className="flex min-w-0">
        <Path steps={paper.path} className="min-w-0 text-sm text-soft" />
      </p>
      {inside && (
        <p className="mt-1 text-[15px] leading-snug break-words">
          {inside.attachment !== null && <span className="text-soft">In the attachment {inside.attachment}: </span>}
          {inside.page > 1 && <span className="figures text-soft">Page {inside.page}: </span>}…
          <Marked text={inside.passage} marks={inside.marks} />…
        </p>
      )}
    </article>
  );
}

function NothingFound({ words, placeId }: { readonly words: string; readonly placeId: string | null }) {
  return (
    <div className="mt-4 max-w-prose">
      <p>
        Nothing was found for “{words}” in titles or inside the papers that are open to you
        {placeId === null ? '' : ', in this place and below it'}.
      </p>
      <p className="mt-1 text-soft">
        All of the words have to be there. Fewer words, or only their beginnings (fend*), find more.
      </p>
    </div>
  );
}
