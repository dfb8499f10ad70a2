'use client';

import { useState } from 'react';
import { stamps, type Stamp as StampWord } from '@/core/files/fileKind';
import { readingFaultWords } from '@/core/reading/fault';
import { readingStateWords, readingStates } from '@/core/reading/stages';
import { counted, timeLeftInWords } from '@/core/text/measure';
import { Button } from '../kit/button';
import { ChoiceField } from '../kit/field';
import { Link } from '../kit/link';
import { say } from '../kit/notice';
import { Stamp } from '../kit/stamp';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';

/** How reading the library's papers stands: what waits, what could not be read and why, and reading it again. */
export function ReadingPage() {
  const { data, error, refetch } = useAsk('library.reading', {});
  const again = useAct('library.readAgain');
  const [stamp, setStamp] = useState<StampWord | ''>('');
  const waiting = (data?.states.waiting ?? 0) + (data?.states.beingRead ?? 0);
  const readAgain = (which: 'all' | 'notRead') =>
    again.mutate(
      { stamp: stamp === '' ? null : stamp, which },
      {
        onSuccess: ({ contents }) =>
          say.done(
            contents === 0 ? 'There was nothing to read again' : `${counted(contents, 'paper')} will be read again`,
          ),
      },
    );
  return (
    <main id="main" className="min-w-0 flex-1 overflow-y-auto px-6 py-5">
      <h1 className="font-condensed text-xl">Reading</h1>
      <p className="mb-4 max-w-[900px] text-soft">
        Every paper is read once: what the screen shows of it, its text, its first page, what is known of it.
      </p>
      {error && <p role="alert">{saysOf(error)}</p>}
      {data && (
        <>
          <section
            aria-label="How it stands"
            className="mb-5 max-w-[900px] rounded-sm border border-line bg-sheet px-4 py-3"
          >
            <dl className="grid grid-cols-[repeat(auto-fit,minmax(130px,1fr))] gap-3">
              {readingStates.map((state) => (
                <div key={state}>
                  <dt className="text-soft">{readingStateWords[state]}</dt>
                  <dd className="figures font-condensed text-lg">{data.states[state].toLocaleString('en-GB')}</dd>
                </div>
              ))}
            </dl>
            <p role="status" className="mt-3 flex flex-wrap items-center gap-3 border-t border-line pt-2.5">
              <span className="flex-1">
                {waiting === 0
                  ? 'Nothing waits to be read.'
                  : data.secondsLeft === null
                    ? `${counted(waiting, 'paper')} to be read.`
                    : `${counted(waiting, 'paper')} to be read, ${timeLeftInWords(data.secondsLeft)} at the pace of the last ten minutes.`}
              </span>
              <Button onClick={() => void refetch()}>Look again</Button>
            </p>
          </section>
          <section aria-label="Read again" className="mb-5 flex max-w-[900px] flex-wrap items-end gap-2">
            <div className="w-[190px] [&>div]:mb-0">
              <ChoiceField
                label="Read again"
                value={stamp}
                onChange={(event) => setStamp(event.target.value as StampWord | '')}
              >
                <option value="">All kinds</option>
                {stamps
                  .filter((each) => each !== 'LINK')
                  .map((each) => (
                    <option key={each}>{each}</option>
                  ))}
              </ChoiceField>
            </div>
            <Button disabled={again.isPending} onClick={() => readAgain('notRead')}>
              What was not wholly read
            </Button>
            <Button disabled={again.isPending} onClick={() => readAgain('all')}>
              All of it
            </Button>
          </section>
          <section aria-label="Not wholly read" className="max-w-[900px]">
            <h2 className="mb-1.5 font-condensed">Not wholly read</h2>
            {data.notRead.length === 0 ? (
              <p className="rounded-sm border border-line bg-sheet px-4 py-6 text-soft">
                Nothing: whatever was read so far was read to its end.
              </p>
            ) : (
              <ul className="rounded-sm border border-line bg-sheet">
                {data.notRead.map((paper) => (
                  <li key={paper.documentId} className="border-b border-line px-4 py-2 last:border-b-0">
                    <span className="flex items-center gap-2">
                      <Stamp word={paper.stamp} />
                      <Link
                        href={`/paper/${paper.documentId}`}
                        className="min-w-0 truncate text-brine-ink hover:underline"
                      >
                        {paper.title}
                      </Link>
                      <span className="min-w-0 truncate text-soft">in {paper.homeName}</span>
                    </span>
                    <span className="block text-soft">
                      {readingStateWords[paper.state]}. {paper.why !== null && readingFaultWords[paper.why]}
                    </span>
                  </li>
                ))}
              </ul>
            )}
          </section>
        </>
      )}
    </main>
  );
}
