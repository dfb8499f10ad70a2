'use client';

import { toast } from 'sonner';

/** How long an act can be undone from its notice. */
const undoMs = 10_000;

/** The few ways in which the product speaks without being asked. */
export const say = {
  done: (words: string) => toast(words),
  /** With the way back, for ten seconds. */
  undoable: (words: string, undo: () => void) =>
    toast(words, { duration: undoMs, action: { label: 'Undo', onClick: undo } }),
  refusal: (words: string) => toast.error(words, { duration: 8000 }),
};
