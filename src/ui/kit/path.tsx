import clsx from 'clsx';

/**
 * A path on one line, cut in front where there is no room: paths differ at their ends. Reads from right to left for the
 * browser's ellipsis alone; what is inside keeps its own direction.
 */
export const Path = ({ steps, className }: { readonly steps: readonly string[]; readonly className?: string }) => (
  <span dir="rtl" title={steps.join(' / ')} className={clsx('truncate text-left', className)}>
    <bdi dir="ltr">{steps.join(' / ')}</bdi>
  </span>
);
