import { z } from 'zod';
import { ask } from '../operation/operation';
import { findings, type FoundOf, type FoundThing } from './model';

/** Questions about how the library is kept; for keepers. */
export const healthContract = {
  'health.counts': ask<readonly FoundOf[]>()(z.object({})),
  'health.list': ask<readonly FoundThing[]>()(z.object({ finding: z.enum(findings) })),
};
