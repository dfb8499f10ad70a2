import type { ReactNode } from 'react';

/** A part of the account on a sheet of its own. */
export const AccountPart = ({
  title,
  wide,
  children,
}: {
  readonly title: string;
  readonly wide?: boolean;
  readonly children: ReactNode;
}) => (
  <section
    aria-label={title}
    className={`rounded-sm border border-line bg-sheet px-5 py-4 ${wide ? 'md:col-span-2' : ''}`}
  >
    <h2 className="mb-2 font-condensed">{title}</h2>
    {children}
  </section>
);
