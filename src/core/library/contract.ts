import { z } from 'zod';
import { act, ask } from '../contract/operation';
import { allFamilies } from '../filing/fileKind';
import { nameSchema } from '../places/name';
import { greatestMaxFileBytes, isTimeZone, type LibrarySettings } from './model';

export const settingsSchema = z.object({
  name: nameSchema,
  timeZone: z.string().max(100).refine(isTimeZone, 'That is no time zone: Europe/London is the form.'),
  yearStartMonth: z.number().int().min(1).max(12),
  maxFileBytes: z.number().int().min(1_000_000, 'At least 1 MB.').max(greatestMaxFileBytes, 'At most 4,000 MB.'),
  families: z.array(z.enum(allFamilies)).min(1, 'At least one kind of file is needed.'),
  revision: z.number().int().nonnegative(),
});

export const libraryContract = {
  'library.settings': ask<LibrarySettings>()(z.object({})),
  'library.change': act()(settingsSchema),
  'year.open': act<{ made: number }>()(z.object({ startYear: z.number().int().min(1800).max(2200) })),
};
