/** A mark on a place or paper: all that lies in it and below is chosen, or left out, but for what is marked otherwise below. */
export interface Mark {
  readonly id: string;
  /** From the library down to the place or paper itself. */
  readonly lineage: readonly string[];
  readonly on: boolean;
}

/** Whether all, nothing or a part of what lies in a place and below is chosen. */
export type Chosen = 'all' | 'none' | 'part';

/** Whether what lies in a place is chosen: the deepest mark on the way to it decides, and without one nothing is. */
export function isChosen(marks: readonly Mark[], lineage: readonly string[]): boolean {
  let deepest: Mark | null = null;
  for (const mark of marks)
    if (lineage.includes(mark.id) && (deepest === null || mark.lineage.length > deepest.lineage.length)) deepest = mark;
  return deepest?.on ?? false;
}

/** What of a place is chosen. */
export function chosenOf(marks: readonly Mark[], lineage: readonly string[]): Chosen {
  const here = isChosen(marks, lineage);
  const id = lineage.at(-1) ?? '';
  const differs = marks.some(
    (mark) => mark.on !== here && mark.lineage.length > lineage.length && mark.lineage.includes(id),
  );
  return differs ? 'part' : here ? 'all' : 'none';
}

/** Chooses all of a place, or, where all of it is chosen, nothing. Marks below are given up; one that says nothing new is none. */
export function ticked(marks: readonly Mark[], lineage: readonly string[]): Mark[] {
  const id = lineage.at(-1) ?? '';
  const on = chosenOf(marks, lineage) !== 'all';
  const others = marks.filter((mark) => !mark.lineage.includes(id));
  return isChosen(others, lineage) === on ? others : [...others, { id, lineage, on }];
}
