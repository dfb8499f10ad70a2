import clsx from 'clsx';

/** The parts of a page, of which one is shown. */
export function Tabs<P extends string>({
  label,
  parts,
  words,
  shown,
  onShow,
}: {
  readonly label: string;
  readonly parts: readonly P[];
  readonly words: Readonly<Record<P, string>>;
  readonly shown: P;
  readonly onShow: (part: P) => void;
}) {
  return (
    <div role="tablist" aria-label={label} className="mb-4 flex gap-1 border-b border-line">
      {parts.map((part) => (
        <button
          key={part}
          type="button"
          role="tab"
          aria-selected={shown === part}
          onClick={() => onShow(part)}
          className={clsx(
            '-mb-px border-b-2 px-3 py-1.5 font-condensed',
            shown === part ? 'border-brine font-semibold' : 'border-transparent text-soft hover:text-ink',
          )}
        >
          {words[part]}
        </button>
      ))}
    </div>
  );
}
