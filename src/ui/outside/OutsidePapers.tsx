import { counted, sizeInWords } from '@/core/text/measure';
import { dayInWords } from '@/core/calendar/moment';
import type { Stamp as FileStamp } from '@/core/files/fileKind';
import { Stamp } from '../kit/stamp';

interface OutsidePaper {
  readonly id: string;
  readonly title: string;
  readonly stamp: FileStamp;
  readonly sizeBytes: number;
  readonly pageCount: number | null;
  readonly changedAt: string;
}

/** What an outside link opens, on a plain page: no place, no people, no way further into the library. */
export function OutsidePapers({
  token,
  library,
  timeZone,
  name,
  copies,
  papers,
  lines,
}: {
  readonly token: string;
  readonly library: string;
  readonly timeZone: string;
  /** The view's; null where it is one paper. */
  readonly name: string | null;
  readonly copies: boolean;
  readonly papers: readonly OutsidePaper[];
  readonly lines: number;
}) {
  return (
    <div className="mx-auto max-w-[860px] px-5 py-8">
      <p className="text-sm text-soft">{library}</p>
      <h1 className="font-condensed text-2xl">{name ?? 'A paper is opened to you'}</h1>
      <p className="mb-4 text-soft">
        {counted(lines, 'paper')}
        {copies ? '' : ', to be read here; copies cannot be taken'}
      </p>
      <main>
        {papers.length === 0 ? (
          <p className="border border-line bg-sheet px-4 py-6">
            There is nothing to see here at present. Ask whoever sent you the link.
          </p>
        ) : (
          <ul className="border border-line bg-sheet">
            {papers.map((paper) => (
              <li
                key={paper.id}
                className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line px-3 py-2 last:border-0"
              >
                <span className="w-[54px] shrink-0">
                  <Stamp word={paper.stamp} />
                </span>
                <span className="min-w-0 flex-1 basis-60">
                  <a href={`/outside/${token}/${paper.id}`} className="font-medium hover:underline">
                    {paper.title}
                  </a>
                  <span className="figures block text-sm text-soft">
                    {dayInWords(paper.changedAt, timeZone)}
                    {paper.pageCount !== null && ` · ${counted(paper.pageCount, 'page')}`} ·{' '}
                    {sizeInWords(paper.sizeBytes)}
                  </span>
                </span>
                {copies && (
                  <a
                    href={`/api/outside/${token}/paper/${paper.id}?copy`}
                    aria-label={`Download ${paper.title}`}
                    className="inline-flex h-[30px] items-center rounded-sm border border-line bg-sheet px-3 hover:border-edge"
                  >
                    Download
                  </a>
                )}
              </li>
            ))}
          </ul>
        )}
        {lines > papers.length && (
          <p className="mt-2 text-sm text-soft">
            The first {papers.length.toLocaleString('en-GB')} are shown. Ask whoever sent you the link for fewer at a
            time.
          </p>
        )}
      </main>
    </div>
  );
}
