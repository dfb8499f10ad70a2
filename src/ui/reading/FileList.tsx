'use client';

import { counted, sizeInWords } from '@/core/text/measure';
import type { Source } from './source';
import { useViewForm } from './useViewForm';
import { Fetching } from './Waiting';

const mostShown = 2000;

/** What an archive lists. */
export function FileList({ source }: { readonly source: Source }) {
  const { data, error } = useViewForm(source, 'list');
  if (!data) return <Fetching failed={error !== null} />;
  const all = data.entries.length + data.more;
  return (
    <div className="h-full overflow-auto" tabIndex={0} role="region" aria-label={`Files in ${source.title}`}>
      <div className="mx-auto my-4 max-w-[820px] border border-line bg-sheet shadow-sm max-sm:my-0">
        <p className="border-b border-line px-4 py-2.5 text-soft">{`${counted(all, 'file')} in this archive`}</p>
        <ul>
          {data.entries.slice(0, mostShown).map(({ path, sizeBytes }, at) => (
            <li key={at} className="flex gap-4 border-b border-line px-4 py-1.5">
              <span className="min-w-0 flex-1 break-all">{path}</span>
              <span className="figures text-soft">{path.endsWith('/') ? '' : sizeInWords(sizeBytes)}</span>
            </li>
          ))}
        </ul>
        {all > mostShown && <p className="px-4 py-2.5 text-soft">{`${all - mostShown} more are not shown here.`}</p>}
      </div>
    </div>
  );
}
