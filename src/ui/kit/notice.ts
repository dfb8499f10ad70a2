'use client';

import { toast } from 'sonner';

/** How long what a notice offers can be done from it. */
const undoMs = 10_000;

/** Notices. */
export const say = {
  /** @param then what one may want to do next, as a button in the notice */
  done: (words: string, then?: { readonly label: string; readonly act: () => void }) =>
    toast(words, then && { duration: undoMs, action: { label: then.label, onClick: then.act } }),
  /** With an undo, for ten seconds. */
  undoable: (words: string, undo: () => void) =>
    toast(words, { duration: undoMs, action: { label: 'Undo', onClick: undo } }),
  refusal: (words: string) => toast.error(words, { duration: 8000 }),
};
