import clsx from 'clsx';
import { Fragment } from 'react';
import { Marked } from './marked';

type Marks = readonly (readonly [number, number])[];

/**
 * A path on one line, cut in front where there is no room: paths differ at their ends. Reads from right to left for the
 * browser's ellipsis alone; what is inside keeps its own direction.
 */
export const Path = ({
  steps,
  marks,
  className,
}: {
  readonly steps: readonly string[];
  /** What of each step is marked. */
  readonly marks?: readonly Marks[] | undefined;
  readonly className?: string;
}) => (
  <span dir="rtl" title={steps.join(' / ')} className={clsx('truncate text-left', className)}>
    <bdi dir="ltr">
      {marks?.some((each) => each.length > 0)
        ? steps.map((step, at) => (
            <Fragment key={at}>
              {at > 0 && ' / '}
              <Marked text={step} marks={marks[at] ?? []} />
            </Fragment>
          ))
        : steps.join(' / ')}
    </bdi>
  </span>
);
