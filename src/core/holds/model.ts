import { z } from 'zod';
import { conditionsSchema } from '../views/conditions';

/** What a hold can be on. A view as it was is a hold on its papers. */
export const holdKinds = ['place', 'paper', 'view'] as const;
export type HoldKind = (typeof holdKinds)[number];

/** What a view shows, as it changes. */
export const heldViewSchema = z.strictObject({
  placeId: z.uuid(),
  below: z.boolean(),
  conditions: conditionsSchema,
  /** What the view is called in the hold. */
  name: z.string().trim().min(1).max(200),
});
export type HeldView = z.output<typeof heldViewSchema>;
