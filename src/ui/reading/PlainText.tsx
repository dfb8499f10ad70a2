'use client';

import type { Source } from './source';
import { useViewForm } from './useViewForm';
import { Fetching } from './Waiting';

/** The most of a text that is put on the screen at once. In characters. */
const mostShown = 1_000_000;

/** A plain text. */
export function PlainText({ source }: { readonly source: Source }) {
  const { data, error } = useViewForm(source, 'text');
  if (!data) return <Fetching failed={error !== null} />;
  const rest = data.text.length - mostShown;
  return (
    <div className="h-full overflow-auto" tabIndex={0} role="region" aria-label={`Text of ${source.title}`}>
      <div className="mx-auto my-4 max-w-[820px] border border-line bg-sheet px-8 py-6 shadow-sm max-sm:my-0 max-sm:px-4">
        {data.text.trim() === '' ? (
          <p className="text-soft">There is nothing in it.</p>
        ) : (
          <pre dir="auto" className="font-mono text-sm leading-relaxed break-words whitespace-pre-wrap">
            {data.text.slice(0, mostShown)}
          </pre>
        )}
        {rest > 0 && (
          <p className="mt-4 border-t border-line pt-2 text-soft">
            {`${rest.toLocaleString('en-GB')} more letters are not shown here. Download the paper to read them.`}
          </p>
        )}
      </div>
    </div>
  );
}
