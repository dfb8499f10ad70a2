import { z } from 'zod';
import { act, ask } from '../operation/operation';
import { capabilities, type Capability, type CapabilitySet } from './capability';
import type { PlaceKind } from '../tree/placeKind';
import type { PassedByMe, PassedToMe } from './passed';
import type { ImpactLine } from './impactWords';
import { matrixViews, type MatrixRow, type MatrixSubject } from './matrix';

const id = z.uuid();
const subjectSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('person'), id }),
  z.object({ kind: z.literal('group'), id }),
  z.object({ kind: z.literal('everyone') }),
]);

/** What an access sheet is about. */
const on = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('place'), id }),
  z.object({ kind: z.literal('paper'), id }),
]);
export type AccessOn = z.output<typeof on>;

const some = z.array(z.enum(capabilities)).max(capabilities.length);
const sheet = {
  on,
  follows: z.boolean(),
  grants: z.array(z.object({ subject: subjectSchema, gives: some, withholds: some })).max(500),
};

/** A line of an access sheet: what a subject has here, and from where. */
export interface SheetLine {
  readonly subject: z.output<typeof subjectSchema>;
  readonly name: string;
  /** How many people a group has; null for a person. */
  readonly memberCount: number | null;
  /** A person who does not belong to the organisation. */
  readonly outside: boolean;
  readonly gives: readonly Capability[];
  readonly withholds: readonly Capability[];
  /** The place above that gives it; null if it is set here. */
  readonly fromName: string | null;
}

/** A person who can see it, and everything they may do. */
export interface SheetPerson {
  readonly id: string;
  readonly name: string;
  readonly keeper: boolean;
  readonly outside: boolean;
  readonly set: CapabilitySet;
}

/** Who may open a place or a paper, and what its sheet says. */
export interface AccessSheet {
  readonly name: string;
  /** The place it would inherit from; null if only the library is above. */
  readonly parentName: string | null;
  readonly follows: boolean;
  readonly revision: number;
  /** The grants in force: those set here, and inherited ones from the last place that does not inherit. */
  readonly lines: readonly SheetLine[];
  /** For a paper: the places whose readers an opening admits; null for one that the caller may not know of. */
  readonly openings: readonly (string | null)[];
  /** Everyone who can see it, including keepers, in natural order of their names. */
  readonly people: readonly SheetPerson[];
  /** Papers here and below that the caller may see; 1 for a paper. */
  readonly paperCount: number;
  /** Places below that the caller may know of, and how many of them do not inherit. */
  readonly placesBelow: number;
  readonly aloneBelow: number;
}

/** A person, a group or everyone, as a candidate for access. */
export interface SubjectChoice {
  readonly subject: SheetLine['subject'];
  readonly name: string;
  readonly outside: boolean;
  readonly about: string;
}

/** Why someone may or may not do something, as one sentence per step. */
export interface Reasons {
  readonly name: string;
  /** The conclusion: "Idris Quaye may see and take copies". */
  readonly comesTo: string;
  readonly maySee: boolean;
  readonly links: readonly string[];
}

/** Who may do what, over many places at once. */
export interface AccessMatrix {
  /** The topmost place. */
  readonly name: string;
  readonly subjects: readonly MatrixSubject[];
  readonly rows: readonly (MatrixRow & {
    readonly name: string;
    readonly kind: PlaceKind;
    readonly reference: string | null;
  })[];
  /** How many places there are in all, shown or not. */
  readonly places: number;
}

/** Questions and acts about who may open what. */
export const accessContract = {
  'access.matrix': ask<AccessMatrix>()(
    z.object({
      placeId: id,
      who: z.enum(['people', 'groups', 'outside']),
      /** For one person: everything they may see. */
      personId: id.nullable(),
      show: z.enum(matrixViews),
    }),
  ),
  'access.sheet': ask<AccessSheet>()(z.object({ on })),
  'access.choices': ask<readonly SubjectChoice[]>('noPapers')(z.object({ on, words: z.string().max(200) })),
  'access.addresses': ask<{
    known: readonly SubjectChoice[];
    unknown: readonly { name: string; address: string }[];
    wrong: readonly string[];
  }>()(z.object({ on, text: z.string().max(20_000) })),
  'access.forecast': ask<readonly ImpactLine[]>()(z.object(sheet)),
  /** `untold`: names of people to whom the message could not be sent. */
  'access.set': act<{ entryId: number | null; revision: number; untold: readonly string[] }>()(
    z.object({
      ...sheet,
      revision: z.number().int().nonnegative(),
      /** Sent to newly named people; null sends nothing. */
      message: z.string().trim().max(2000).nullable(),
    }),
  ),
  'access.undo': act()(z.object({ entryId: z.number().int().positive() })),
  'access.withdraw': act<{ entryId: number; revision: number }>()(z.object({ on, subject: subjectSchema })),
  'papers.setLock': act<{ turned: readonly string[] }>()(
    z.object({ documentIds: z.array(id).min(1).max(5000), locked: z.boolean() }),
  ),
  'place.setStandstill': act<{ revision: number }>()(
    z.object({
      placeId: id,
      locked: z.boolean(),
      closed: z.boolean(),
      /** Required for unlocking and reopening. */
      reason: z.string().trim().max(400, 'A reason of at most 400 characters fits.'),
      revision: z.number().int().nonnegative(),
    }),
  ),
  'standstill.forecast': ask<readonly ImpactLine[]>()(z.object({ on, locked: z.boolean(), closed: z.boolean() })),
  'passed.byMe': ask<readonly PassedByMe[]>()(z.object({})),
  'passed.mark': act()(
    z.object({ on: z.array(on).min(1).max(500), as: z.enum(['seen', 'unseen', 'takenOut', 'back']) }),
  ),
  'passed.toMe': ask<readonly PassedToMe[]>()(z.object({})),
  'access.why': ask<Reasons>()(z.object({ on, personId: id })),
};
