'use client';

import { momentInWords, whenInWords } from '@/core/calendar/moment';
import { counted, sizeInWords } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { Path } from '../kit/path';
import { Stamp } from '../kit/stamp';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { PassedByMe } from './PassedByMe';
import { PassedToMe } from './PassedToMe';

/** A person's own first page: what waits for them, the series, what changed lately. */
export function Desk() {
  const { me, now, timeZone } = useSurroundings();
  const { data: papers, error } = useAsk('papers.lately', {});
  const { data: series } = useAsk('places.series', {});
  return (
    <main id="main" className="min-w-0 flex-1 overflow-y-auto px-6 py-5 max-sm:px-3">
      <h1 className="font-condensed text-xl">{me.name}’s desk</h1>
      <Unfinished />
      <PassedToMe />
      <div className="mt-4 grid grid-cols-[minmax(0,1fr)] gap-6 lg:grid-cols-[minmax(0,1fr)_280px]">
        <section aria-label="Changed lately">
          <h2 className="mb-1.5 font-condensed">Changed lately</h2>
          {error && <p role="alert">{saysOf(error)}</p>}
          {papers?.length === 0 && (
            <p className="rounded-sm border border-line bg-sheet px-4 py-6 text-soft">
              {series?.length === 0 && me.keeper
                ? 'The library is empty. Make a series with the tab above: Board & committees, Suppliers, whatever your organisation keeps.'
                : 'Nothing is open to you yet. Papers that others open to you appear here.'}
            </p>
          )}
          <ul className="rounded-sm border border-line bg-sheet empty:hidden">
            {papers?.map((paper) => (
              <li
                key={paper.id}
                className="flex h-[36px] items-center gap-2.5 border-b border-line px-3 last:border-0 max-sm:grid max-sm:h-auto max-sm:grid-cols-[54px_minmax(0,1fr)] max-sm:gap-y-0 max-sm:py-2"
              >
                <span className="w-[54px] shrink-0 max-sm:row-span-2">
                  <Stamp word={paper.stamp} />
                </span>
                <Link
                  href={`/place/${paper.homeId}?paper=${paper.id}`}
                  className="min-w-0 truncate font-medium hover:underline"
                >
                  {paper.title}
                </Link>
                <span className="flex min-w-0 flex-1 items-center gap-2.5 text-sm text-soft max-sm:col-start-2">
                  <Path steps={[paper.homeName]} className="min-w-0 shrink" />
                  <time
                    className="ml-auto shrink-0"
                    dateTime={paper.changedAt}
                    title={momentInWords(paper.changedAt, timeZone)}
                  >
                    <span className="max-sm:hidden">{paper.changedBy}, </span>
                    {whenInWords(paper.changedAt, now, timeZone)}
                  </time>
                </span>
              </li>
            ))}
          </ul>
        </section>
        <div className="space-y-6">
          <section aria-label="The library">
            <h2 className="mb-1.5 font-condensed">The library</h2>
            <ul className="rounded-sm border border-line bg-sheet empty:hidden">
              {series?.map((each) => (
                <li key={each.id} className="border-b border-line last:border-0">
                  <Link href={`/place/${each.id}`} className="flex items-center justify-between px-3 py-2 hover:bg-fog">
                    <span className="font-medium">{each.name}</span>
                    <span className="figures text-sm text-soft">{counted(each.paperCount, 'paper')}</span>
                  </Link>
                </li>
              ))}
            </ul>
          </section>
          <PassedByMe />
        </div>
      </div>
    </main>
  );
}

/** Of more uploads than this the rest is counted. */
const mostShown = 20;

/** Uploads that were interrupted or wait for an answer. */
function Unfinished() {
  const { data } = useAsk('uploads.unfinished', {});
  const answer = useAct('upload.answer');
  const cancel = useAct('upload.cancel');
  const file = useAct('upload.outcome');
  if (!data || data.length === 0) return null;
  return (
    <section aria-label="Not filed yet" className="mt-4 rounded-sm border border-ember bg-ember-wash px-4 py-3">
      <h2 className="font-condensed">Not filed yet</h2>
      <ul>
        {data.slice(0, mostShown).map((upload) => (
          <li key={upload.id} className="mt-1.5 flex flex-wrap items-center gap-x-3 gap-y-1">
            <span className="font-medium">{upload.fileName}</span>
            <span className="figures text-sm text-soft">
              for {upload.placeName} ·{' '}
              {upload.outcome.state === 'same-content'
                ? `the same content is filed already as “${upload.outcome.places[0]?.title ?? ''}”`
                : upload.outcome.state === 'same-name'
                  ? 'a paper of that title is there already'
                  : upload.receivedBytes === upload.sizeBytes
                    ? 'has arrived'
                    : `${sizeInWords(upload.receivedBytes)} of ${sizeInWords(upload.sizeBytes)} have arrived; to continue, choose the same file in ${upload.placeName}`}
            </span>
            <span className="ml-auto flex gap-2">
              {upload.outcome.state === 'same-content' && (
                <Button onClick={() => answer.mutate({ uploadId: upload.id, onSameContent: 'file' })}>
                  File it anyway
                </Button>
              )}
              {upload.outcome.state === 'same-name' && (
                <Button onClick={() => answer.mutate({ uploadId: upload.id, onSameName: 'both' })}>Keep both</Button>
              )}
              {upload.outcome.state === 'receiving' && upload.receivedBytes === upload.sizeBytes && (
                <Button onClick={() => file.mutate({ uploadId: upload.id })}>File it</Button>
              )}
              <Button aria-label={`Discard ${upload.fileName}`} onClick={() => cancel.mutate({ uploadId: upload.id })}>
                Discard
              </Button>
            </span>
          </li>
        ))}
      </ul>
      {data.length > mostShown && (
        <p className="mt-1.5 text-sm text-soft">and {counted(data.length - mostShown, 'more', 'more')}</p>
      )}
    </section>
  );
}
