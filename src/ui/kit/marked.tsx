import { Fragment } from 'react';

/** Text with some runs of it marked. */
export function Marked({
  text,
  marks,
}: {
  readonly text: string;
  readonly marks: readonly (readonly [number, number])[];
}) {
  return (
    <>
      {marks.map(([from, to], index) => (
        <Fragment key={from}>
          {text.slice(marks[index - 1]?.[1] ?? 0, from)}
          <mark>{text.slice(from, to)}</mark>
        </Fragment>
      ))}
      {text.slice(marks.at(-1)?.[1] ?? 0)}
    </>
  );
}
