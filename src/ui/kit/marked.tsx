import { Fragment } from 'react';

/** Text with some runs of it marked. */
export function Marked({ text, marks }: { readonly text: string; readonly marks: readonly (readonly [number, number])[] }) {
  let at = 0;
  return (
    <>
      {marks.map(([from, to]) => {
        const before = text.slice(at, from);
        at = to;
        return (
          <Fragment key={from}>
            {before}
            <mark>{text.slice(from, to)}</mark>
          </Fragment>
        );
      })}
      {text.slice(at)}
    </>
  );
}
