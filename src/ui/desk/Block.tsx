'use client';

import type { ReactNode } from 'react';

/** A block of the desk: its name, which folds it, and what is in it. */
export function DeskBlock({
  title,
  about,
  isFolded,
  onFold,
  acts,
  children,
}: {
  readonly title: string;
  readonly about?: ReactNode;
  readonly isFolded: boolean;
  readonly onFold: (() => void) | null;
  readonly acts?: ReactNode;
  readonly children: ReactNode;
}) {
  return (
    <section aria-label={title} className="mb-5">
      <div className="mb-1.5 flex min-h-[24px] flex-wrap items-center gap-3">
        <h2 className="font-condensed">
          {onFold ? (
            <button type="button" aria-expanded={!isFolded} onClick={onFold} className="hover:underline">
              <span aria-hidden className="mr-1 inline-block w-[12px] text-soft">
                {isFolded ? '▸' : '▾'}
              </span>
              {title}
            </button>
          ) : (
            title
          )}
        </h2>
        {about !== undefined && <span className="figures text-sm text-soft">{about}</span>}
        {acts && <span className="ml-auto">{acts}</span>}
      </div>
      {!isFolded && children}
    </section>
  );
}

/** The sheet that the lines of a block stand on. */
export const BlockSheet = ({ children }: { readonly children: ReactNode }) => (
  <div className="rounded-sm border border-line bg-sheet empty:hidden">{children}</div>
);
