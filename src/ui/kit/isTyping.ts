/** Whether a key goes to something into which one types; a box that is ticked is none. */
export const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  target.closest('input:not([type=checkbox], [type=radio]), textarea, select, [contenteditable]') !== null;
