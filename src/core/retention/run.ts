/** How far a disposal by the schedule has come. */
export const runStates = ['prepared', 'approved', 'ended', 'abandoned'] as const;
export type RunState = (typeof runStates)[number];

/** The states in words. */
export const runStateWords: Readonly<Record<RunState, string>> = {
  prepared: 'waits for approval',
  approved: 'in the disposal tray',
  ended: 'ended',
  abandoned: 'abandoned',
};

/** How a paper of a run stands. `leftOut`: by a person; `refused`: it was not due, or could not be disposed of, when the run was approved. */
export const itemStates = ['listed', 'held', 'leftOut', 'disposed', 'destroyed', 'putBack', 'refused'] as const;
export type ItemState = (typeof itemStates)[number];

/** The states of papers in words. */
export const itemStateWords: Readonly<Record<ItemState, string>> = {
  listed: 'to be destroyed',
  held: 'under a hold',
  leftOut: 'left out',
  disposed: 'in the disposal tray',
  destroyed: 'destroyed',
  putBack: 'put back',
  refused: 'kept',
};
