import { readingFaultWords } from '@/core/reading/fault';
import { sizeInWords } from '@/core/text/measure';
import type { Source } from './source';

/** What is said while a view is fetched, or where it cannot be. */
export const Fetching = ({ failed }: { readonly failed: boolean }) =>
  failed ? (
    <p className="p-6">This paper could not be fetched. Nothing is lost; try again.</p>
  ) : (
    <p className="p-6 text-soft" aria-busy>
      Opening the paper…
    </p>
  );

/** A paper that is not read yet: it goes before all others, so this is short. */
export function BeingRead({ source }: { readonly source: Source }) {
  return (
    <div className="grid h-full place-items-center p-8" role="status" aria-busy>
      <div className="max-w-sm rounded-sm border border-line bg-sheet px-6 py-5 text-center">
        <p className="font-condensed text-lg">{source.paper.fileName}</p>
        <p className="text-soft">It is being made ready for the screen. This takes a few seconds.</p>
      </div>
    </div>
  );
}

/** A paper that cannot be shown here, why, and what can be done with it. */
export function NotShown({ source }: { readonly source: Source }) {
  const { paper } = source;
  return (
    <div className="grid h-full place-items-center p-8">
      <div className="max-w-sm rounded-sm border border-line bg-sheet px-6 py-5 text-center">
        <p className="font-condensed text-lg break-words">{paper.fileName}</p>
        <p className="text-soft">
          {sizeInWords(paper.sizeBytes)}.{' '}
          {paper.why === null
            ? 'A file of this kind is not shown here.'
            : `It cannot be shown here. ${readingFaultWords[paper.why]}`}
          {!paper.mayTake && ' Copies of it are not open to you. Ask someone who manages it.'}
        </p>
        {paper.mayTake && (
          <a
            href={source.address({ copy: '' })}
            className="mt-3 inline-flex h-[32px] items-center rounded-sm bg-brine px-4 font-semibold text-on-brine"
          >
            Download
          </a>
        )}
      </div>
    </div>
  );
}
