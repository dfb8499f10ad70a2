import { z } from 'zod';
import type { Stamp } from '../files/fileKind';
import { act, ask } from '../operation/operation';
import {
  attendanceAnswers,
  attendeeParts,
  itemKinds,
  mostItemPapers,
  mostItems,
  mostMinutes,
  numberings,
  type AttendanceAnswer,
  type AttendeePart,
  type ItemKind,
  type Numbering,
  type Presence,
} from './model';
import { type Standing } from '../outline/outline';

const id = z.uuid();
const revision = z.number().int().nonnegative();
const title = z.string().trim().min(1, 'A title is needed.').max(300, 'At most 300 characters fit.');
const personName = z.string().trim().min(1, 'Whose name?').max(120, 'At most 120 characters fit.');

/** A paper of an item: it stays where it lives. Only papers are told of that the caller may see. */
export interface AgendaPaperRow {
  readonly id: string;
  readonly documentId: string;
  readonly title: string;
  readonly stamp: Stamp;
  readonly pageCount: number | null;
  /** The version that is held; null: the newest, always. */
  readonly heldVersion: number | null;
  readonly currentVersion: number;
  /** It lies in the disposal tray. */
  readonly disposed: boolean;
}

/** A paper that somebody is asked for, for an item. */
export interface PaperCallRow {
  readonly id: string;
  readonly what: string;
  readonly personId: string | null;
  readonly who: string;
  /** ISO 8601. */
  readonly dueOn: string | null;
  readonly handedIn: boolean;
  readonly isMine: boolean;
}

/** A paper that is owed to a meeting. */
export interface OwedPaper extends PaperCallRow {
  readonly meeting: { readonly id: string; readonly day: string };
  readonly dossier: { readonly id: string; readonly name: string };
}

/** An item as the caller is told of it. */
export interface AgendaItemRow extends Standing {
  /** Null: confidential, and not for the caller, who is told its number and its time alone. */
  readonly title: string | null;
  readonly presenter: string;
  /** Null: no time is set aside for it. */
  readonly minutes: number | null;
  readonly kind: ItemKind | null;
  readonly notes: string;
  /** Who may know of it; null: everybody who sees the agenda. */
  readonly readers: readonly { readonly personId: string; readonly name: string }[] | null;
  /** Whether it goes on the agenda of the next meeting too. */
  readonly carriesOver: boolean;
  /** Whether what is carried over goes into it. */
  readonly takesCarried: boolean;
  /** The day of the meeting that it was carried over from. */
  readonly carriedFrom: string | null;
  readonly revision: number;
  readonly papers: readonly AgendaPaperRow[];
  readonly calls: readonly PaperCallRow[];
}

/** Somebody who is at a meeting. */
export interface AttendeeRow {
  readonly id: string;
  /** Null: somebody without an account. */
  readonly personId: string | null;
  readonly name: string;
  readonly part: AttendeePart;
  readonly answer: AttendanceAnswer | null;
  /** Whether they were there; null: not noted. */
  readonly presence: Presence | null;
  readonly isMe: boolean;
}

/** An agenda with its meeting, or the standing items of a dossier. */
export interface AgendaSheet {
  /** Null: not begun yet. */
  readonly agenda: {
    readonly id: string;
    /** Minutes since midnight; null: no time is said. */
    readonly startsAt: number | null;
    readonly numbering: Numbering;
    readonly revision: number;
    /** Its printed form as papers, as far as the caller may see them. */
    readonly filed: readonly { readonly documentId: string; readonly title: string }[];
    readonly filing: 'no' | 'waiting' | 'done' | 'failed';
    /** A pack of its meeting is issued: it is filed again only when somebody asks. */
    readonly issued: boolean;
  } | null;
  /** Null: these are the standing items of the dossier. */
  readonly meeting: {
    readonly id: string;
    readonly day: string;
    readonly title: string;
    readonly venue: string;
  } | null;
  readonly dossier: { readonly id: string; readonly name: string };
  readonly mayChange: boolean;
  /** Depth first. */
  readonly items: readonly AgendaItemRow[];
  readonly attendees: readonly AttendeeRow[];
}

/** A meeting to come to which the caller is asked. */
export interface ComingMeeting {
  readonly meetingId: string;
  readonly title: string;
  readonly day: string;
  /** Minutes since midnight; null where no time is said. */
  readonly startsAt: number | null;
  readonly venue: string;
  readonly dossierName: string;
  readonly answer: AttendanceAnswer | null;
  /** The newest issue of a pack of it. */
  readonly issue: { readonly id: string; readonly called: string } | null;
}

/** What an agenda is of: a meeting, or a dossier whose standing items it is. */
const agendaOf = z.union([z.strictObject({ meetingId: id }), z.strictObject({ dossierId: id })]);

/** Questions and acts about agendas and who attends. */
export const agendaContract = {
  'agenda.of': ask<AgendaSheet>()(z.object({ of: agendaOf })),
  'agenda.begin': act<{ agendaId: string; standing: number; carried: number }>()(z.object({ of: agendaOf })),
  'agenda.set': act()(
    z.object({
      agendaId: id,
      startsAt: z.number().int().min(0).lt(mostMinutes, 'A time lies between 00:00 and 23:59.').nullable(),
      numbering: z.enum(numberings),
      revision,
    }),
  ),
  'agenda.addItems': act<{ itemIds: readonly string[] }>()(
    z.object({
      agendaId: id,
      parentId: id.nullable(),
      beforeId: id.nullable(),
      titles: z.array(title).min(1, 'A title is needed.').max(mostItems, `At most ${mostItems} items fit.`),
    }),
  ),
  'agenda.changeItem': act()(
    z.object({
      itemId: id,
      title,
      presenter: z.string().trim().max(120, 'At most 120 characters fit.'),
      minutes: z
        .int('Minutes are a whole number.')
        .min(1, 'At least one minute, or none said.')
        .max(mostMinutes, 'An item ends within a day.')
        .nullable(),
      kind: z.enum(itemKinds).nullable(),
      notes: z.string().trim().max(5000, 'At most 5,000 characters fit.'),
      readers: z.array(id).max(200, 'At most 200 people fit.').nullable(),
      carriesOver: z.boolean(),
      takesCarried: z.boolean(),
      revision,
    }),
  ),
  'agenda.moveItem': act()(z.object({ itemId: id, parentId: id.nullable(), beforeId: id.nullable() })),
  /** Removes an item with all that lie in it, or puts it back. */
  'agenda.removeItem': act<{ items: number }>()(z.object({ itemId: id, removed: z.boolean() })),
  'agenda.attach': act<{ attached: number; already: number }>()(
    z.object({
      itemId: id,
      documentIds: z.array(id).min(1, 'Choose a paper.').max(mostItemPapers, `At most ${mostItemPapers} papers fit.`),
    }),
  ),
  /** Holds one version of a paper, or lets it follow the newest (null); moves it before another of the same item. */
  'agenda.changePaper': act()(
    z.object({
      agendaPaperId: id,
      heldVersion: z.number().int().positive().nullable(),
      beforeId: id.nullable().optional(),
    }),
  ),
  /** Asks somebody for a paper, by mail too where they have an account. */
  'agenda.call': act<{ callId: string; sent: boolean }>()(
    z.object({
      itemId: id,
      what: title,
      personId: id.nullable(),
      who: personName,
      dueOn: z.iso.date('That is no day: 2026-07-14 is the form.').nullable(),
    }),
  ),
  /** Takes back what was asked for, or asks again. */
  'agenda.uncall': act()(z.object({ callId: id, removed: z.boolean() })),
  /** Hands in the paper that was asked for: it is attached to the item. Null: it was the wrong one. */
  'agenda.handIn': act()(z.object({ callId: id, documentId: id.nullable() })),
  /** Papers that are owed to meetings to come: by the caller, or to all meetings whose agendas they may change. */
  'agenda.owed': ask<readonly OwedPaper[]>()(z.object({ whose: z.enum(['mine', 'all']) })),
  'agenda.detach': act()(z.object({ agendaPaperId: id })),
  /** Has the agenda's printed form made and filed; it is made again when the agenda changes. */
  'agenda.file': act()(z.object({ agendaId: id })),
  /** The meetings of the next weeks to which the caller is asked, the next first. */
  'meetings.mine': ask<readonly ComingMeeting[]>()(z.object({})),
  'attendance.add': act<{ added: number }>()(
    z.object({
      meetingId: id,
      people: z
        .array(z.object({ personId: id.nullable(), name: personName, part: z.enum(attendeeParts) }))
        .min(1, 'Say who attends.')
        .max(200, 'At most 200 people fit.'),
    }),
  ),
  'attendance.change': act()(
    z.object({ attendeeId: id, part: z.enum(attendeeParts), answer: z.enum(attendanceAnswers).nullable() }),
  ),
  'attendance.remove': act()(z.object({ attendeeId: id })),
  /** What the caller answers for themselves. */
  'attendance.answer': act()(z.object({ meetingId: id, answer: z.enum(attendanceAnswers) })),
};
