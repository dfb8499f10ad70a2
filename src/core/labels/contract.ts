import { z } from 'zod';
import { act, ask } from '../operation/operation';
import type { PlacedPaper } from '../documents/contract';
import { hues } from '../text/hue';
import { nameSchema } from '../text/name';
import type { Label } from './model';

const id = z.uuid();
const many = z.array(id).min(1).max(5000);

/** Questions and acts about labels. */
export const labelsContract = {
  'labels.all': ask<readonly Label[]>()(z.object({})),
  /** By label id: how many of the papers have it. */
  'labels.on': ask<{ papers: number; bearing: Readonly<Record<string, number>>; mayAmend: boolean }>()(
    z.object({ documentIds: many }),
  ),
  'label.papers': ask<{ label: Label; papers: readonly PlacedPaper[] }>()(z.object({ labelId: id })),
  'label.create': act<{ id: string }>()(z.object({ name: nameSchema, hue: z.enum(hues), shared: z.boolean() })),
  'label.change': act()(z.object({ labelId: id, name: nameSchema, hue: z.enum(hues), revision: z.number().int() })),
  'label.remove': act<{ papers: number }>()(z.object({ labelId: id })),
  'label.merge': act<{ papers: number }>()(z.object({ labelId: id, intoId: id })),
  /** Puts a label on papers or takes it off; returns the papers changed, for undoing. */
  'label.put': act<{ changed: readonly string[] }>()(z.object({ labelId: id, documentIds: many, on: z.boolean() })),
};
