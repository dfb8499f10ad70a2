import { z } from 'zod';
import { act, ask } from '../contract/operation';
import { capabilities, type Capability } from './capability';

const subject = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('person'), id: z.uuid() }),
  z.object({ kind: z.literal('group'), id: z.uuid() }),
  z.object({ kind: z.literal('everyone') }),
]);

/** A line of an access sheet: what a subject has here, and from where. */
export interface SheetLine {
  readonly subject: z.output<typeof subject>;
  readonly name: string;
  /** How many people a group has; null for a person. */
  readonly memberCount: number | null;
  readonly capabilities: readonly Capability[];
  /** The place above that gives it; null where it is given here. */
  readonly fromName: string | null;
}

/** Who may open a place, and what its sheet says. */
export interface AccessSheet {
  readonly placeName: string;
  readonly parentName: string | null;
  readonly revision: number;
  readonly lines: readonly SheetLine[];
  readonly keepers: readonly string[];
  /** Everyone who can see it, by name, keepers among them. */
  readonly openTo: readonly string[];
  readonly paperCount: number;
}

/** A person, a group or everyone, as someone to give access to. */
export interface SubjectChoice {
  readonly subject: SheetLine['subject'];
  readonly name: string;
  readonly about: string;
}

export const accessContract = {
  'access.sheet': ask<AccessSheet>()(z.object({ placeId: z.uuid() })),
  'access.choices': ask<readonly SubjectChoice[]>()(z.object({ placeId: z.uuid(), words: z.string().max(200) })),
  'access.forecast': ask<{ gaining: readonly string[]; losing: readonly string[] }>()(
    z.object({
      placeId: z.uuid(),
      grants: z.array(z.object({ subject, capabilities: z.array(z.enum(capabilities)) })).max(500),
    }),
  ),
  'access.set': act()(
    z.object({
      placeId: z.uuid(),
      revision: z.number().int().nonnegative(),
      grants: z.array(z.object({ subject, capabilities: z.array(z.enum(capabilities)) })).max(500),
    }),
  ),
};
