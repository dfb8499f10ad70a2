import type { SlotName, SlotRow } from '@/core/expected/contract';

/** Names an expected paper to the server. */
export const slotName = ({ expectationId, dossierId, startYear, meetingId }: SlotRow): SlotName => ({
  expectationId,
  dossierId,
  startYear,
  meetingId,
});
