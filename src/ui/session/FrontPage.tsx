import type { ReactNode } from 'react';

/** The page before one is inside: signing in, joining, founding. */
export function FrontPage({
  title,
  about,
  children,
}: {
  readonly title: string;
  readonly about: ReactNode;
  readonly children: ReactNode;
}) {
  return (
    <main className="grid min-h-full place-items-center bg-brine-deep p-4">
      <div className="w-[min(400px,100%)]">
        <p className="mb-0 ml-5 inline-block rounded-t-[6px] bg-brine px-5 pt-2 pb-1.5 font-head text-lg font-semibold tracking-tight text-on-brine [font-stretch:112%]">
          embr<span className="text-[#ffb48f]">i</span>n
        </p>
        <div className="rounded-sm border border-line bg-sheet px-7 py-6">
          <h1 className="font-condensed text-xl">{title}</h1>
          <div className="mb-5 text-sm text-soft">{about}</div>
          {children}
        </div>
      </div>
    </main>
  );
}
