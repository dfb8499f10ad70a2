import type { Hue } from '../text/hue';

/** A label that people put on papers. */
export interface Label {
  readonly id: string;
  readonly name: string;
  readonly hue: Hue;
  /** True for the library's labels; false for the caller's own, which nobody else sees. */
  readonly shared: boolean;
  readonly revision: number;
  /** Papers with it that the caller may see. */
  readonly papers: number;
}

/** Whether none, some or all of some papers have a label. */
export type LabelState = 'none' | 'some' | 'all';
/** Whether all, some or none of the papers bear a label. */
export const labelState = (bearing: number, papers: number): LabelState =>
  bearing === 0 ? 'none' : bearing >= papers ? 'all' : 'some';

/** Whether a click puts the label on: if not all papers have it. */
export const tickAfter = (state: LabelState): boolean => state !== 'all';
