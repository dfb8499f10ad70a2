import { z } from 'zod';
import { act, ask } from '../operation/operation';
import { allFamilies } from '../files/fileKind';
import { yearLabelStyles } from '../calendar/filingYear';
import { nameSchema } from '../text/name';
import { allScanLanguages } from '../reading/scanLanguages';
import { greatestMaxFileBytes, isTimeZone, type LibrarySettings } from './model';

/** The settings of a library, as they are sent. */
export const settingsSchema = z.object({
  name: nameSchema,
  timeZone: z.string().max(100).refine(isTimeZone, 'That is no time zone: Europe/London is the form.'),
  yearStartMonth: z.number().int().min(1).max(12),
  yearLabels: z.enum(yearLabelStyles),
  maxFileBytes: z.number().int().min(1_000_000, 'At least 1 MB.').max(greatestMaxFileBytes, 'At most 4,000 MB.'),
  families: z.array(z.enum(allFamilies)).min(1, 'At least one kind of file is needed.'),
  scanLanguages: z.array(z.enum(allScanLanguages)).min(1, 'At least one language is needed.').readonly(),
  trayDays: z.number().int().min(1, 'At least one day.').max(36_500, 'At most 36,500 days.').nullable(),
  exportDays: z.number('Say how many days.').int().min(1, 'At least one day.').max(90, 'At most 90 days.'),
  backupEveryDays: z.number().int().min(1, 'At least one day.').max(365, 'At most 365 days.').nullable(),
  revision: z.number().int().nonnegative(),
});

const year = z.object({ startYear: z.number().int().min(1800).max(2200) });

/** Questions and acts about the library's settings. */
export const libraryContract = {
  'library.settings': ask<LibrarySettings>('noPapers')(z.object({})),
  'library.change': act()(settingsSchema),
  'year.open': act<{ made: number; folders: number }>()(year),
  'year.openForecast': ask<{ dossiers: number; folders: number; closedDossiers: number }>()(year),
  'year.closeForecast': ask<{
    readonly state: 'counted' | 'counting';
    /** Places of the year that are still open. */
    readonly places: number;
    readonly gaps: number;
    readonly gapsBySeries: readonly { readonly name: string; readonly count: number }[];
    /** Papers that lack a required value. */
    readonly undescribed: number;
    /** Unfinished uploads into it. */
    readonly uploads: number;
  }>()(year),
  'year.setClosed': act<{ places: number }>()(
    year.extend({
      closed: z.boolean(),
      /** Required for reopening. */
      reason: z.string().trim().max(400, 'A reason of at most 400 characters fits.'),
    }),
  ),
};
