import type { ReactNode } from 'react';

/** One part of a filing plan: its heading, what it is about, the act that adds to it, and what it holds. */
export function PlanPart({
  title,
  about,
  act,
  children,
}: {
  readonly title: string;
  readonly about: string;
  readonly act: ReactNode;
  readonly children: ReactNode;
}) {
  return (
    <section aria-label={title} className="mb-4 rounded-sm border border-line bg-sheet px-4 py-3">
      <div className="mb-1.5 flex items-baseline gap-3">
        <div className="flex min-w-0 flex-1 flex-wrap items-baseline gap-x-3">
          <h2 className="font-condensed">{title}</h2>
          <span className="text-sm text-soft">{about}</span>
        </div>
        {act}
      </div>
      {children}
    </section>
  );
}
