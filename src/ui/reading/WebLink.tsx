'use client';

import { addressIn } from '@/core/documents/webLink';
import { PlainText } from './PlainText';
import type { Source } from './source';
import { useViewForm } from './useViewForm';
import { Fetching } from './Waiting';

/** A web link: its address, to be opened in a window of its own that does not learn where it was opened. */
export function WebLink({ source }: { readonly source: Source }) {
  const { data, error } = useViewForm(source, 'text');
  if (!data) return <Fetching failed={error !== null} />;
  const address = addressIn(data.text);
  // What is no address that may be opened is shown as the text that it is.
  if (address === null) return <PlainText source={source} />;
  return (
    <div className="grid h-full place-items-center p-6">
      <div className="max-w-[46em] min-w-0 border border-line bg-sheet px-8 py-6 text-center shadow-sm">
        <p className="mb-1 text-soft">A web link. It opens in a window of its own.</p>
        <a
          href={address}
          target="_blank"
          rel="noopener noreferrer"
          referrerPolicy="no-referrer"
          className="text-lg break-all text-brine-ink underline"
        >
          {address}
        </a>
      </div>
    </div>
  );
}
