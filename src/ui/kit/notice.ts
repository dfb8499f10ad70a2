'use client';

import { toast } from 'sonner';

/** How long an act can be undone from its notice. */
const undoMs = 10_000;

/** Notices. */
export const say = {
  done: (words: string) => toast(words),
  /** With an undo, for ten seconds. */
  undoable: (words: string, undo: () => void) =>
    toast(words, { duration: undoMs, action: { label: 'Undo', onClick: undo } }),
  refusal: (words: string) => toast.error(words, { duration: 8000 }),
};
