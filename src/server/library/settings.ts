import { and, eq, sql } from 'drizzle-orm';
import { z } from 'zod';
import { refuse } from '@/core/errors/refusal';
import { allFamilies } from '@/core/files/fileKind';
import { filingYearLabel } from '@/core/calendar/filingYear';
import type { LibrarySettings } from '@/core/library/model';
import { nameKey, searchKey } from '@/core/text/fold';
import { acts, asks } from '../acts/operation';
import { now } from '../base/clock';
import { recomputeGiven } from '../columns/given';
import { db, type Tx } from '../db/client';
import { filingYear, library, place } from '../db/schema';
import { libraryCalendar } from '../calendar/libraryCalendar';
import { requireKeeper } from '../gate/keeper';

const familiesSchema = z.array(z.enum(allFamilies));

/** The library's settings. Refuses as not found before the library is founded. */
export async function librarySettings(): Promise<LibrarySettings> {
  const [[row], [root], years] = await Promise.all([
    db().select().from(library),
    db().select({ id: place.id }).from(place).where(eq(place.kind, 'library')),
    db().select().from(filingYear).orderBy(filingYear.startYear),
  ]);
  if (!row || !root) refuse('not-found');
  const { id: _id, families, trayDaysSince: _since, answersSenders: _answers, ...settings } = row;
  return {
    ...settings,
    rootId: root.id,
    families: familiesSchema.parse(families),
    filingYears: years.map((year) => year.startYear),
    closedYears: years.filter((year) => year.closed).map((year) => year.startYear),
  };
}

/** The settings, for everyone who is signed in. */
export const settingsOfLibrary = asks('library.settings', () => librarySettings());

/** Changes the library's settings. */
export const changeSettings = acts('library.change', ['tree', 'given'], async (tx, actor, input) => {
  requireKeeper(actor);

  const { revision, ...settings } = input;
  const changed = await tx
    .update(library)
    .set({
      ...settings,
      scanLanguages: [...settings.scanLanguages],
      trayDaysSince: sql`case when ${library.trayDays} is distinct from ${settings.trayDays}::integer then ${now()} else ${library.trayDaysSince} end`,
      revision: revision + 1,
    })
    .where(eq(library.revision, revision))
    .returning({ id: library.id });
  if (changed.length === 0) refuse('conflict');
  await tx
    .update(place)
    .set({ name: input.name, nameKey: nameKey(input.name), searchKey: searchKey(input.name) })
    .where(eq(place.kind, 'library'));
  await relabelYears(tx);
  // Columns can be bound to the filing year's label.
  const [root] = await tx.select({ id: place.id }).from(place).where(eq(place.kind, 'library'));
  if (root) await recomputeGiven(tx, root.id);
  const detail = {
    ...settings,
    families: settings.families.join(' '),
    scanLanguages: settings.scanLanguages.join(' '),
  };
  return { entry: { act: 'library.changed', subjects: [], detail }, result: null };
});

/** Renames the places of filing years, whose names follow the first month of a year and the style of its label. */
async function relabelYears(tx: Tx): Promise<void> {
  const years = await tx.select().from(filingYear);
  const calendar = await libraryCalendar(tx);
  // Temporary names first: the new name of one year may be the old name of another.
  await tx
    .update(place)
    .set({ nameKey: sql`'being named ' || ${place.id}` })
    .where(eq(place.kind, 'year'));
  for (const { startYear } of years) {
    const name = filingYearLabel(startYear, calendar);
    await tx
      .update(place)
      .set({ name, nameKey: nameKey(name), searchKey: searchKey(name) })
      .where(and(eq(place.kind, 'year'), eq(place.filingYear, startYear)));
  }
}
