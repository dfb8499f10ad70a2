'use client';

import { saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { LinkLine } from './LinkList';

/** All outside links that a person may know of: those that open something first. */
export function LinksPage() {
  const { data, error } = useAsk('links.list', { onId: null });
  const parts = [
    { title: 'Open', links: data?.filter((link) => link.ended === null) ?? [] },
    { title: 'Ended', links: data?.filter((link) => link.ended !== null) ?? [] },
  ];
  return (
    <main id="main" className="min-w-0 flex-1 overflow-y-auto px-6 py-5">
      <h1 className="font-condensed text-xl">Outside links</h1>
      <p className="mb-4 text-soft">Links for people without an account: yours, and those to what you manage.</p>
      {error && <p role="alert">{saysOf(error)}</p>}
      {data?.length === 0 && (
        <p className="max-w-[900px] rounded-sm border border-line bg-sheet px-4 py-6 text-soft">
          None yet. A paper’s docket makes one under “More”, and a view’s tab under “Outside link to this view”.
        </p>
      )}
      {parts
        .filter(({ links }) => links.length > 0)
        .map(({ title, links }) => (
          <section key={title} aria-label={title} className="mb-5 max-w-[900px]">
            <h2 className="mb-1.5 font-condensed">{title}</h2>
            <ul className="rounded-sm border border-line bg-sheet">
              {links.map((link) => (
                <LinkLine key={link.id} link={link} named />
              ))}
            </ul>
          </section>
        ))}
    </main>
  );
}
