import type { Block } from '@/core/desk/model';

/** What the blocks of the desk are called. */
export const blockWords: Readonly<Record<Block, string>> = {
  needs: 'Needs me',
  passed: 'Passed to me',
  followed: 'New in what I follow',
  lately: 'Opened lately',
  news: 'Changed lately',
  mine: 'Filed lately by me',
  figures: 'The library in figures',
  bookmarks: 'Bookmarks',
  library: 'The library',
  passedOn: 'Passed on by me',
};

/** What every block is framed by. */
export interface Frame {
  readonly title: string;
  readonly isFolded: boolean;
  /** Null where the desk is not the person's own. */
  readonly onFold: (() => void) | null;
}
