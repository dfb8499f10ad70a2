import { z } from 'zod';
import { act, ask } from '../operation/operation';
import { presences } from '../agenda/model';
import { mostOutcomeLength, outcomeKinds, type OutcomeKind } from './model';

const id = z.uuid();
const revision = z.number().int().nonnegative();

/** A decision or an action as lists show it. */
export interface OutcomeRow {
  readonly id: string;
  readonly itemId: string;
  readonly kind: OutcomeKind;
  readonly text: string;
  /** Who does it: null for somebody without an account, or nobody yet. */
  readonly personId: string | null;
  readonly who: string;
  /** ISO 8601. */
  readonly dueOn: string | null;
  /** What was said of it when it was done; null: it is open. */
  readonly done: { readonly on: string; readonly by: string; readonly remark: string } | null;
  /** Whether the caller may say that it is done. */
  readonly maySettle: boolean;
  readonly revision: number;
}

/** The same with the meeting that it is of. */
export interface MeetingOutcome extends OutcomeRow {
  readonly meeting: { readonly id: string; readonly day: string; readonly title: string };
  readonly dossier: { readonly id: string; readonly name: string };
  /** The number of its item on the agenda. */
  readonly number: string;
}

/** The minutes of a meeting, and what its items came to. Only outcomes of items are told of that the caller is told of. */
export interface MinutesSheet {
  readonly mayChange: boolean;
  readonly outcomes: readonly OutcomeRow[];
  /** How many members must be present; null where no detail of the dossier says. */
  readonly quorum: number | null;
  /** Null: there are none, or the caller may not see them. */
  readonly minutes: {
    readonly documentId: string;
    readonly title: string;
    /** Whether they are written in the browser, so that outcomes can be put into them. */
    readonly isNote: boolean;
    readonly agreed: {
      /** The day of the meeting that agreed them. */
      readonly on: string;
      readonly version: number;
      /** A newer version was made since. */
      readonly isChanged: boolean;
    } | null;
  } | null;
  /** A paper that the filing plan takes for the minutes, while none are said to be. */
  readonly found: { readonly documentId: string; readonly title: string } | null;
  /** How many outcomes are not in the minutes as they are now. */
  readonly unwritten: number;
  /** The meetings after this one, which may agree its minutes. */
  readonly later: readonly { readonly id: string; readonly day: string }[];
}

/** Decisions and actions over years. */
export interface Register {
  /** The newest meeting first. */
  readonly rows: readonly MeetingOutcome[];
  /** More than fit were found. */
  readonly more: boolean;
  /** The years in which any were recorded, the newest first. */
  readonly years: readonly number[];
}

const says = {
  text: z
    .string()
    .trim()
    .min(1, 'What was decided, or is to be done?')
    .max(mostOutcomeLength, `At most ${mostOutcomeLength} characters fit.`),
  personId: id.nullable(),
  who: z.string().trim().max(120, 'At most 120 characters fit.'),
  dueOn: z.iso.date('That is no day: 2026-07-14 is the form.').nullable(),
};

/** Questions and acts about minutes, decisions and actions. */
export const minutesContract = {
  'minutes.of': ask<MinutesSheet>()(z.object({ meetingId: id })),
  /** Begins the minutes as a note, or takes a paper that is there for them. */
  'minutes.begin': act<{ documentId: string }>()(z.object({ meetingId: id, documentId: id.nullable() })),
  /** Puts the decisions and actions into the minutes that are not there as they are now. */
  'minutes.writeIn': act<{ written: number }>()(z.object({ meetingId: id })),
  /** Says which later meeting agreed the minutes as they are now; null: none has. */
  'minutes.agree': act()(z.object({ meetingId: id, atMeetingId: id.nullable() })),
  /** Notes who was there, of as many people as are given. */
  'attendance.note': act<{ noted: number }>()(
    z.object({
      meetingId: id,
      people: z
        .array(z.object({ attendeeId: id, presence: z.enum(presences).nullable() }))
        .min(1, 'Say who was there.')
        .max(200, 'At most 200 people fit.'),
    }),
  ),
  'outcome.record': act<{ outcomeId: string }>()(z.object({ itemId: id, kind: z.enum(outcomeKinds), ...says })),
  'outcome.change': act()(z.object({ outcomeId: id, ...says, revision })),
  /** Removes a decision or an action, or puts it back. */
  'outcome.remove': act()(z.object({ outcomeId: id, removed: z.boolean() })),
  /** Says that an action is done, or open again: by who does it, or by who may change the agenda. */
  'action.settle': act()(
    z.object({
      outcomeId: id,
      done: z.boolean(),
      remark: z.string().trim().max(500, 'At most 500 characters fit.'),
    }),
  ),
  /** The caller's open actions, the first due first. */
  'actions.mine': ask<readonly MeetingOutcome[]>()(z.object({})),
  /** Actions of earlier meetings of the same dossier that were open when a meeting was held, or are now. */
  'actions.open': ask<readonly MeetingOutcome[]>()(z.object({ meetingId: id })),
  /** The decisions or actions of all meetings in a place. */
  'register.of': ask<Register>()(
    z.object({
      placeId: id,
      kind: z.enum(outcomeKinds),
      words: z.string().trim().max(200, 'At most 200 characters fit.'),
      year: z.number().int().min(1900).max(2999).nullable(),
      openOnly: z.boolean(),
    }),
  ),
};
