import type { Label } from '@/core/labels/model';
import { Link } from '../kit/link';

/** A label as a flat tag with a coloured left edge, linking to all papers with it. */
export function LabelTag({
  label,
  within = 'text',
}: {
  readonly label: Label;
  readonly within?: 'text' | 'docket' | 'row';
}) {
  const look =
    'inline-flex h-[19px] shrink-0 items-center border-l-[3px] bg-mist px-1.5 text-xs whitespace-nowrap text-ink [border-left-color:var(--hue)]';
  const words = (
    <>
      {label.name}
      {!label.shared && <span className="ml-1 text-soft">mine</span>}
    </>
  );
  return within !== 'text' ? (
    <Link
      href={`/label/${label.id}`}
      tabIndex={within === 'row' ? -1 : undefined}
      data-hue={label.hue}
      className={`${look} hover:underline`}
    >
      {words}
    </Link>
  ) : (
    <span data-hue={label.hue} className={look}>
      {words}
    </span>
  );
}
