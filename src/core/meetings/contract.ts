import { z } from 'zod';
import { act, ask } from '../operation/operation';
import { nameSchema } from '../text/name';

const id = z.uuid();
const revision = z.number().int().nonnegative();
const day = z.iso.date('That is no day: 2026-07-14 is the form.');

/** A meeting of a dossier as lists show it. */
export interface MeetingRow {
  readonly id: string;
  readonly day: string;
  readonly title: string;
  readonly venue: string;
  readonly revision: number;
}

/** Questions and acts about meetings. */
export const meetingsContract = {
  'meetings.of': ask<readonly MeetingRow[]>('noPapers')(z.object({ dossierId: id })),
  'meetings.make': act<{ made: number; folders: number }>()(
    z.object({
      dossierId: id,
      days: z.array(day).min(1, 'A day is needed.').max(400, 'At most 400 meetings are made at once.'),
      title: nameSchema,
      venue: z.string().trim().max(200, 'At most 200 characters fit.'),
    }),
  ),
  'meeting.change': act()(
    z.object({
      meetingId: id,
      day,
      title: nameSchema,
      venue: z.string().trim().max(200, 'At most 200 characters fit.'),
      revision,
    }),
  ),
  'meeting.remove': act()(z.object({ meetingId: id, revision })),
};
