import clsx from 'clsx';
import type { ComponentProps } from 'react';

type Look = 'main' | 'plain' | 'quiet' | 'straw' | 'mast';

const looks: Record<Look, string> = {
  main: 'bg-ember text-white border-ember hover:brightness-110',
  plain: 'bg-sheet text-ink border-line hover:border-edge',
  quiet: 'border-transparent text-brine-ink hover:underline underline-offset-2',
  straw: 'bg-sheet text-ink border-straw-edge hover:brightness-95',
  mast: 'border-transparent text-on-brine hover:underline underline-offset-4',
};

/** A button: `main` is for the one main act of a screen. */
export function Button({ look = 'plain', className, ...rest }: ComponentProps<'button'> & { look?: Look }) {
  return (
    <button
      type="button"
      className={clsx(
        'inline-flex h-[30px] shrink-0 items-center gap-1.5 rounded-sm border px-3 text-base whitespace-nowrap disabled:opacity-55',
        look === 'main' && 'font-semibold',
        looks[look],
        className,
      )}
      {...rest}
    />
  );
}
