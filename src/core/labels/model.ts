import type { Hue } from '../text/hue';

/** A short mark that people put on papers. */
export interface Label {
  readonly id: string;
  readonly name: string;
  readonly hue: Hue;
  /** True for the library's, seen by all; false for the asker's own, which nobody else sees. */
  readonly shared: boolean;
  readonly revision: number;
  /** Papers that bear it, of those the asker may see. */
  readonly papers: number;
}

/** How many of some papers bear a label: the three states of its tick. */
export type LabelState = 'none' | 'some' | 'all';
export const labelState = (bearing: number, papers: number): LabelState =>
  bearing === 0 ? 'none' : bearing >= papers ? 'all' : 'some';

/** What a click on a label's tick does: `some` becomes all. */
export const tickAfter = (state: LabelState): boolean => state !== 'all';
