import { z } from 'zod';
import { longTextLength } from '../columns/model';
import type { Stamp } from '../files/fileKind';
import type { Spot } from '../reading/find';
import type { ReadablePaper } from '../reading/contract';
import { act, ask } from '../operation/operation';
import { mostConditions, ruleFields, type FilingRule } from './filingRule';
import { mostParts, type ArrivalState, type ArrivalWay, type Evidence } from './model';

const id = z.uuid();
const revision = z.number().int().nonnegative();
const title = z.string().trim().min(1, 'A title is needed.').max(240, 'At most 240 characters fit.');

/** An arrival as the list shows it. */
export interface ArrivalRow {
  readonly id: string;
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
}

/** A place that an arrival may go to, with what speaks for it. */
export interface ArrivalPlace {
  readonly placeId: string;
  readonly path: readonly string[];
  readonly evidence: readonly Evidence[];
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
}

/** An arrival as somebody checks it. */
export interface ArrivalSheet extends ArrivalRow {
  readonly revision: number;
  readonly senderAddress: string;
  /** From whom the sending server said that it comes, where that is another; null: the same. */
  readonly sentBy: string | null;
  /** A program sent it by itself. */
  readonly automatic: boolean;
  /** Its parts as they would be filed; an attachment by its number, the mail itself as null. */
  readonly parts: readonly {
    readonly attachment: number | null;
    readonly name: string;
    readonly stamp: Stamp;
    readonly title: string;
    readonly counts: boolean;
    /** Of a bill with its data: sums that do not come out, and what its pages read otherwise, in words; null: it is none. */
    readonly billFaults: readonly string[] | null;
    /** Papers with the same content that the caller may see. */
    readonly filedAlready: readonly { readonly id: string; readonly title: string; readonly place: string }[];
  }[];
  /** The likeliest first; those to which the caller may not add are left out. */
  readonly places: readonly ArrivalPlace[];
  /** Nothing else comes near the first. */
  readonly standsOut: boolean;
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
  readonly path: readonly string[] | null;
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
  }>()(z.object({ which: z.enum(['waiting', 'done']) })),
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
  'arrival.file': act<{ documentIds: readonly string[] }>()(
    z.object({
      arrivalId: id,
      revision,
      placeId: id,
      parts: z
        .array(
          z.object({
            attachment: z.number().int().positive().nullable(),
            title,
            /** By the id of their column, as they are typed. */
            values: z.record(id, z.string().max(longTextLength)).optional(),
          }),
        )
        .min(1, 'Choose a part to file.')
        .max(mostParts, `At most ${mostParts} parts are filed at once.`),
    }),
  ),
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
    }),
  ),
  'filing.moveRule': act()(z.object({ id, by: z.enum(['up', 'down']) })),
  'filing.removeRule': act()(z.object({ id })),
  /** Sets an arrival aside: it is not ours. */
  'arrival.setAside': act()(z.object({ arrivalId: id, revision })),
  /** Has an arrival wait again. Papers that were filed from it go into the disposal tray. */
  'arrival.takeBack': act()(z.object({ arrivalId: id })),
};
