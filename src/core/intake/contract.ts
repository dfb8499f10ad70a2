import { z } from 'zod';
import { longTextLength } from '../columns/model';
import type { Stamp } from '../files/fileKind';
import type { Spot } from '../reading/find';
import type { ReadablePaper } from '../reading/contract';
import { act, ask } from '../operation/operation';
import { mostCutPages, mostCutPapers, turns } from './cut';
import { mostJoined } from './join';
import type { SureRow } from './howSure';
import type { Newcomer } from './newDossier';
import { mostConditions, ruleFields, type FilingRule } from './filingRule';
import { mostParts, mostTogether, type ArrivalState, type ArrivalWay, type Evidence } from './model';

const id = z.uuid();
const revision = z.number().int().nonnegative();
const title = z.string().trim().min(1, 'A title is needed.').max(240, 'At most 240 characters fit.');

/** An arrival as the list shows it. */
export interface ArrivalRow {
  readonly id: string;
  readonly revision: number;
  readonly way: ArrivalWay;
  /** ISO 8601. */
  readonly arrivedAt: string;
  readonly state: ArrivalState;
  /** From whom it says that it is. */
  readonly sender: string;
  readonly subject: string;
  /** How many parts are proposed to be filed. */
  readonly papers: number;
  /** Where it is proposed to go, or was filed; null: nothing speaks for any dossier. */
  readonly dossier: string | null;
  /** How likely that is right, from 0 to 1; null where nothing is proposed any more, or nothing was. */
  readonly sure: number | null;
  /** It has pages of its own, which can be taken apart, and joined with others. */
  readonly isScan: boolean;
  /** Who put it in by hand; null: it came by itself. */
  readonly broughtBy: string | null;
  /** Who is asked about it; null: nobody. */
  readonly askedOf: { readonly id: string; readonly name: string } | null;
  /** It waits again from that day on, as ISO 8601; null: it waits now. */
  readonly putOffUntil: string | null;
  /** The filing rule that filed it by itself; null: a person did, or it waits. */
  readonly byRule: string | null;
}

/** An arrival that is like another, as it would be filed. */
export interface AlikeArrival extends ArrivalRow {
  readonly path: readonly string[];
  /** Its papers with their values as they would be typed. */
  readonly parts: readonly {
    readonly title: string;
    readonly values: readonly { readonly name: string; readonly text: string }[];
  }[];
}

/** A place that an arrival may go to, with what speaks for it. */
export interface ArrivalPlace {
  readonly placeId: string;
  readonly path: readonly string[];
  readonly evidence: readonly Evidence[];
  /** The expected paper that it seems to be, in words, where that decides the place; null: none. */
  readonly expected: string | null;
}

/** A column of a place that an arrival may go to, with what is proposed for it. */
export interface ArrivalField {
  readonly columnId: string;
  readonly name: string;
  readonly required: boolean;
  /** As it would be typed; empty: nothing is proposed. */
  readonly text: string;
  /** What a choice can be, in the order of its list; null: it is no choice. */
  readonly choices: readonly string[] | null;
  /** Why it is proposed, in words. */
  readonly why: string | null;
  /** How likely it is right, from 0 to 1, where that is known. */
  readonly sure: number | null;
  /** Where it stands. */
  readonly at: { readonly page: number; readonly spot: Spot | null } | null;
  /** Nothing is proposed for it, and papers do not usually state it: it is shown once somebody wants more. */
  readonly aside: boolean;
}

/** A label, or somebody to tell, that is proposed. */
export interface NamedSuggestion {
  readonly id: string;
  readonly name: string;
  readonly why: string;
}

/** An arrival as somebody checks it. */
export interface ArrivalSheet extends ArrivalRow {
  readonly senderAddress: string;
  /** From whom the sending server said that it comes, where that is another; null: the same. */
  readonly sentBy: string | null;
  /** A program sent it by itself. */
  readonly automatic: boolean;
  /** What the mail server that is believed found out about who sent it, in words; '' where it says nothing. `isDoubtful`: it speaks against the sender. */
  readonly checked: { readonly says: string; readonly isDoubtful: boolean };
  /** Its parts as they would be filed; an attachment by its number, the mail itself as null. */
  readonly parts: readonly {
    readonly attachment: number | null;
    readonly name: string;
    readonly stamp: Stamp;
    readonly title: string;
    readonly counts: boolean;
    /** Of a bill with its data: sums that do not come out, and what its pages read otherwise, in words; null: it is none. */
    readonly billFaults: readonly string[] | null;
    /** Papers of which it may be a newer version, the likeliest first; `isSure`: it says itself that it is. */
    readonly newerOf: readonly {
      readonly id: string;
      readonly title: string;
      readonly place: string;
      readonly isSure: boolean;
    }[];
    /** Papers with the same content that the caller may see. */
    readonly filedAlready: readonly { readonly id: string; readonly title: string; readonly place: string }[];
  }[];
  /** The likeliest first; those to which the caller may not add are left out. */
  readonly places: readonly ArrivalPlace[];
  /** Labels and people to tell that are proposed, each with its reason. */
  readonly labels: readonly NamedSuggestion[];
  readonly tell: readonly NamedSuggestion[];
  /** Nothing else comes near the first. */
  readonly standsOut: boolean;
  /** Why what was to be done with it by itself was not, in words; null: nothing was, or it is done. */
  readonly leftBecause: string | null;
  /** What it says of its sender, for a new dossier. */
  readonly newcomer: Newcomer;
  /** What was said about it. */
  readonly said: readonly { readonly by: string; readonly at: string; readonly says: string }[];
  /** How many others that wait come from the same sender and most likely go to the same dossier. */
  readonly alike: number;
  /** How many papers it was taken apart into; null: it was not. */
  readonly cutInto: number | null;
  /** What was done with it; null while it waits. */
  readonly done: {
    readonly by: string;
    readonly at: string;
    readonly papers: readonly { readonly id: string; readonly title: string }[];
    /** The dossier in which it was filed. */
    readonly dossier: { readonly id: string; readonly path: readonly string[] } | null;
  } | null;
}

/** A filing rule with where it files; `path` null: that place was removed. */
export interface FilingRuleRow extends FilingRule {
  /** Who is told, by name; those who have left are left out. */
  readonly people: readonly { readonly id: string; readonly name: string }[];
  readonly path: readonly string[] | null;
}

/** What the intake comes to. */
export interface IntakeNumbers {
  /** The last twelve months, the oldest first, as `2026-11`, with how many arrivals came each way. */
  readonly months: readonly { readonly month: string; readonly ways: Readonly<Record<string, number>> }[];
  /** Of how many that were filed it is known what was done otherwise than proposed, and for how many nothing was. */
  readonly known: number;
  readonly unchanged: number;
  /** How many rules filed by themselves. */
  readonly byRule: number;
  /** How long what people filed had waited: half of it so long at most, and nine of ten so long. In seconds. */
  readonly waited: { readonly half: number; readonly most: number } | null;
  /** What was done otherwise than proposed, the most frequent first. */
  readonly corrected: readonly { readonly field: string; readonly count: number }[];
  /** Of the last that people filed: how sure their places and values were said to be, and how many were right. */
  readonly sure: { readonly places: readonly SureRow[]; readonly values: readonly SureRow[] };
}

/** What a rule would have come to. */
export interface FilingRuleTry {
  /** Arrivals that were filed and that it was tried on, the last ones. */
  readonly tried: number;
  /** For how many of them it would have proposed its place, and for how many rightly. */
  readonly meant: number;
  readonly right: number;
  /** Some of those that were filed elsewhere. */
  readonly others: readonly {
    readonly id: string;
    readonly subject: string;
    readonly sender: string;
    readonly dossier: string | null;
  }[];
  /** How many that wait now look like it. */
  readonly waiting: number;
}

const conditions = z
  .array(z.object({ field: z.enum(ruleFields), text: z.string().trim().max(200, 'At most 200 characters fit.') }))
  .min(1, 'A rule needs a condition.')
  .max(mostConditions, `At most ${mostConditions} conditions fit a rule.`);

/** Questions and acts about what arrives. */
export const intakeContract = {
  /** The arrivals that the caller may check: those that wait, oldest first; or what was done, the newest first. */
  'arrivals.list': ask<{
    readonly arrivals: readonly ArrivalRow[];
    readonly hasMore: boolean;
    readonly unread: number;
    readonly elsewhere: { readonly later: number; readonly byRule: number };
    /** Whether the caller may put something in by hand. */
    readonly mayPutIn: boolean;
  }>()(z.object({ which: z.enum(['waiting', 'later', 'byRule', 'done']) })),
  'arrivals.waiting': ask<{ readonly waiting: number }>()(z.object({})),
  'arrival.of': ask<ArrivalSheet>()(z.object({ arrivalId: id })),
  /** What would be filled in at a place, part by part. */
  'arrival.fields': ask<readonly { readonly attachment: number | null; readonly fields: readonly ArrivalField[] }[]>()(
    z.object({ arrivalId: id, placeId: id }),
  ),
  'arrival.reading': ask<ReadablePaper>()(
    z.object({ arrivalId: id, attachment: z.number().int().positive().nullable() }),
  ),
  /** Files parts of an arrival as papers of a place. */
  'arrival.file': act<{ documentIds: readonly string[]; notTold: readonly string[] }>()(
    z.object({
      arrivalId: id,
      revision,
      placeId: id,
      parts: z
        .array(
          z.object({
            attachment: z.number().int().positive().nullable(),
            title,
            /** The paper of which it becomes the newer version; left out: it becomes a paper. */
            versionOf: id.optional(),
            /** By the id of their column, as they are typed. */
            values: z.record(id, z.string().max(longTextLength)).optional(),
          }),
        )
        .min(1, 'Choose a part to file.')
        .max(mostParts, `At most ${mostParts} parts are filed at once.`),
      labelIds: z.array(id).max(50).optional(),
      /** Who is told, of what is open to them. */
      tell: z.array(id).max(50).optional(),
    }),
  ),
  /** The columns of a place that are not fixed there, with what can be chosen for them. */
  'filing.fields': ask<readonly ArrivalField[]>()(z.object({ placeId: id })),
  'filing.rules': ask<readonly FilingRuleRow[]>()(z.object({})),
  'filing.tryRule': ask<FilingRuleTry>()(z.object({ conditions, placeId: id })),
  /** Makes a rule where `id` is null, or changes that one. */
  'filing.keepRule': act<{ id: string }>()(
    z.object({
      id: id.nullable(),
      revision,
      name: z.string().trim().min(1, 'A name is needed.').max(80, 'At most 80 characters fit.'),
      on: z.boolean(),
      conditions,
      placeId: id,
      title: z.string().trim().max(240, 'At most 240 characters fit.'),
      values: z.record(id, z.string().max(longTextLength)).optional(),
      labelIds: z.array(id).max(20).optional(),
      tell: z.array(id).max(20).optional(),
      filesFrom: z.number().int().min(50, 'From 50 % on.').max(99, 'At most 99 %: nothing is surer.').nullable(),
      /** The rule before which a new one is looked at; left out, null or gone: it is the last. */
      beforeId: id.nullish(),
    }),
  ),
  'filing.moveRule': act()(z.object({ id, by: z.enum(['up', 'down']) })),
  'filing.removeRule': act()(z.object({ id })),
  'intake.numbers': ask<IntakeNumbers>()(z.object({})),
  /** Sets an arrival aside: it is not ours. */
  'arrival.setAside': act()(z.object({ arrivalId: id, revision })),
  /** Has a scan taken apart into papers, or its pages turned, ordered and left out. */
  'arrival.cut': act()(
    z.object({
      arrivalId: id,
      revision,
      papers: z
        .array(
          z.object({
            pages: z
              .array(z.object({ page: z.number().int().positive(), turn: z.literal(turns) }))
              .min(1, 'A paper has a page at least.')
              .max(mostCutPages),
          }),
        )
        .min(1, 'Leave in a page at least.')
        .max(mostCutPapers, `At most ${mostCutPapers} papers are made of one scan.`),
    }),
  ),
  /** Has arrivals made into one paper, in their order. */
  'arrivals.join': act()(
    z.object({
      arrivals: z
        .array(z.object({ id, revision, turn: z.literal(turns).default(0) }))
        .min(2, 'Tick what it is joined with.')
        .max(mostJoined, `At most ${mostJoined} are joined at once.`),
    }),
  ),
  /** Makes arrivals of uploads that were sent for the intake; `together`: one of all of them, page after page. */
  'intake.putIn': act<{ arrivalIds: readonly string[] }>()(
    z.object({
      files: z
        .array(z.object({ uploadId: id, turn: z.literal(turns).default(0) }))
        .min(1, 'Choose a file.')
        .max(mostJoined, `At most ${mostJoined} are put in at once.`),
      together: z.boolean(),
    }),
  ),
  /** Has an arrival wait again later, on a day; null: now. */
  'arrival.putOff': act()(
    z.object({
      arrivalId: id,
      revision,
      until: z.iso.date('That is no day: 2026-07-14 is the form.').nullable(),
    }),
  ),
  /** Asks somebody about an arrival, or answers: they may then check it. `sent`: whether the mail that tells them went out. */
  'arrival.ask': act<{ sent: boolean }>()(
    z.object({
      arrivalId: id,
      revision,
      personId: id,
      says: z.string().trim().min(1, 'Say what you want to know.').max(1000, 'At most 1,000 characters fit.'),
    }),
  ),
  /** The arrivals that are like one, and that one first, as they would be filed. */
  'arrival.alike': ask<readonly AlikeArrival[]>()(z.object({ arrivalId: id })),
  /** Files arrivals as they are proposed. Each for itself: what cannot be filed is told, and waits on. */
  'arrivals.agree': act<{
    filed: readonly string[];
    left: readonly { readonly arrivalId: string; readonly says: string }[];
  }>()(
    z.object({
      arrivals: z
        .array(z.object({ id, revision }))
        .min(1, 'Tick what is to be filed.')
        .max(mostTogether, `At most ${mostTogether} are filed at once.`),
    }),
  ),
  /** Has several arrivals that were filed wait again. */
  'arrivals.takeBack': act<{ takenBack: number }>()(
    z.object({ arrivalIds: z.array(id).min(1).max(mostTogether, `At most ${mostTogether} are taken back at once.`) }),
  ),
  /** Has an arrival wait again. Papers that were filed from it go into the disposal tray. */
  'arrival.takeBack': act()(z.object({ arrivalId: id })),
};
