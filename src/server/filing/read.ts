import { and, eq, sql } from 'drizzle-orm';
import type { DetailField } from '@/core/filing/details';
import { expandPlan, type PlannedDossier, type WantedFolder } from '@/core/filing/expand';
import type { Expectation } from '@/core/filing/expected';
import { filingYearLabel, filingYearOf } from '@/core/filing/filingYear';
import type { FilingPlan } from '@/core/filing/plan';
import { planDifference, type PlanDifference, type RealFolder } from '@/core/filing/planDifference';
import type { Actor } from '../access/actor';
import { placeAllows } from '../access/visible';
import type { Reader } from '../db/client';
import {
  accessGrant,
  columnDef,
  document,
  filing,
  filingPlan,
  filingYear,
  givenValue,
  library,
  meeting,
  outsideLink,
  place,
  upload,
  view,
} from '../db/schema';

/** A dossier, what its plan wants in it, what is there, and what makes the one the other. */
export interface Arranged {
  readonly id: string;
  readonly name: string;
  readonly yearPlaces: ReadonlyMap<number, string>;
  readonly wanted: readonly WantedFolder[];
  readonly difference: PlanDifference;
}

/** All that is laid down for a series, and its revision; nothing where nobody has said anything. */
export async function planOfSeries(
  reader: Reader,
  seriesId: string,
): Promise<
  FilingPlan & {
    readonly expected: readonly Expectation[];
    readonly fields: readonly DetailField[];
    readonly revision: number;
  }
> {
  const [row] = await reader.select().from(filingPlan).where(eq(filingPlan.seriesId, seriesId));
  return row ?? { folders: [], expected: [], fields: [], revision: 0 };
}

/**
 * Some dossiers of a series as a plan would have them: those in which the actor has a capability. `which` speaks of `place`,
 * the dossiers. Folders in which they have it not stand still, as closed ones do, and nothing is told of them.
 */
export async function arrange(
  reader: Reader,
  actor: Actor,
  capability: 'amend' | 'manage',
  plan: FilingPlan,
  which: ReturnType<typeof sql>,
): Promise<Arranged[]> {
  const dossiers = await reader
    .select({ id: place.id, name: place.name, reference: place.reference, still: sql<boolean>`(select ${stillHere})` })
    .from(place)
    .where(and(eq(place.kind, 'dossier'), which, placeAllows(actor, capability)))
    .orderBy(place.position, place.id);
  if (dossiers.length === 0) return [];
  const ids = dossiers.map((each) => each.id);
  const [rule] = await reader.select({ startMonth: library.yearStartMonth, timeZone: library.timeZone }).from(library);
  if (!rule) throw new Error('The library has no settings');
  const kept = (await reader.select().from(filingYear).orderBy(filingYear.startYear)).map((row) => row.startYear);
  const folders = await foldersOf(reader, ids, placeAllows(actor, capability));
  const meetings = await meetingsOf(reader, ids, rule);
  return dossiers.map(({ id, name, reference, still }) => {
    const mine = folders.get(id) ?? {
      years: new Map<number, { id: string; still: boolean }>(),
      real: [],
      barred: new Set<string>(),
    };
    const dossier: PlannedDossier = {
      name,
      reference,
      years: kept
        .filter((startYear) => mine.years.get(startYear)?.still === false)
        .map((startYear) => ({ startYear, label: filingYearLabel(startYear, rule.startMonth) })),
      meetings: meetings.get(id) ?? [],
    };
    const wanted = still ? [] : expandPlan(plan, dossier);
    return {
      id,
      name,
      yearPlaces: new Map([...mine.years].map(([startYear, year]) => [startYear, year.id])),
      wanted,
      difference: untold(planDifference(wanted, still ? [] : mine.real), mine.barred),
    };
  });
}

/** A difference that says nothing of folders that are kept from the actor, nor of what would stand in them. */
function untold(difference: PlanDifference, barred: ReadonlySet<string>): PlanDifference {
  const kept = new Set(barred);
  const closed = difference.closed.filter((each) => {
    if (each.parentKey !== null && kept.has(each.parentKey)) kept.add(each.key);
    return !kept.has(each.key);
  });
  return { ...difference, closed };
}

/** Whether a place, or one above it, is closed or locked. */
const stillHere = sql<boolean>`exists (select from ${place} as above
  where above.id = any(${place.lineage}) and (above.closed or above.locked))`;

interface Held {
  readonly years: Map<number, { id: string; still: boolean }>;
  readonly real: RealFolder[];
  /** Keys of the plan's folders that are kept from the actor. */
  readonly barred: Set<string>;
}

/**
 * What goes with a place when it goes: papers that it lists or that are on their way to it, its own sheets, views, columns
 * and links. A folder with any of it is not an empty one.
 */
const saidOfPlaces = [filing, upload, accessGrant, givenValue, view, columnDef, outsideLink];

/** Year places and folders of some dossiers, by dossier. */
async function foldersOf(
  reader: Reader,
  dossierIds: readonly string[],
  allowed: ReturnType<typeof sql>,
): Promise<Map<string, Held>> {
  const rows = await reader.execute<{
    id: string;
    dossier: string;
    parent: string;
    kind: 'year' | 'folder';
    year: number | null;
    name: string;
    key: string | null;
    planned_name: string | null;
    holds: boolean;
    still: boolean;
    barred: boolean;
  }>(sql`
    with inside as (
      select id, lineage, parent_id, kind, filing_year, name, planned_key, planned_name, closed or locked as still,
        not ${allowed} as barred
      from ${place} where lineage[3] = any(${sql.param(dossierIds)}::uuid[]) and kind in ('year', 'folder')
    ), full_places as (
      select home_id as id from ${document} where home_id in (select id from inside)
      ${sql.join(
        saidOfPlaces.map((table) => sql`union select place_id from ${table} where place_id in (select id from inside)`),
        sql` `,
      )}
    ), stopped as (select id from inside where still)
    select inside.id, inside.lineage[3] as dossier, inside.parent_id as parent, inside.kind, inside.filing_year as year,
      inside.name::text, inside.planned_key as key, inside.planned_name,
      inside.id in (select id from full_places) as holds,
      inside.barred or inside.lineage && array(select id from stopped) as still, inside.barred
    from inside order by array_length(inside.lineage, 1)`);
  const held = new Map<string, Held>(dossierIds.map((id) => [id, { years: new Map(), real: [], barred: new Set() }]));
  const folderIds = new Set(rows.rows.filter((row) => row.kind === 'folder').map((row) => row.id));
  for (const row of rows.rows) {
    const mine = held.get(row.dossier);
    if (!mine) continue;
    if (row.barred && row.key !== null) mine.barred.add(row.key);
    if (row.kind === 'year') mine.years.set(row.year ?? 0, { id: row.id, still: row.still });
    else
      mine.real.push({
        id: row.id,
        parentId: folderIds.has(row.parent) ? row.parent : null,
        startYear: row.year,
        name: row.name,
        key: row.key,
        plannedName: row.planned_name,
        empty: !row.holds,
        still: row.still,
      });
  }
  for (const mine of held.values()) fillUp(mine.real);
  return held;
}

/** A folder that holds another of a person's own, or a full one, is not empty. */
function fillUp(real: RealFolder[]): void {
  const at = new Map(real.map((folder, index) => [folder.id, index]));
  for (const folder of [...real].reverse()) {
    const index = folder.parentId === null ? undefined : at.get(folder.parentId);
    const parent = index === undefined ? undefined : real[index];
    const now = real[at.get(folder.id) ?? -1];
    if (index !== undefined && parent && now && (folder.key === null || !now.empty))
      real[index] = { ...parent, empty: false };
  }
}

async function meetingsOf(
  reader: Reader,
  dossierIds: readonly string[],
  rule: { readonly startMonth: number; readonly timeZone: string },
): Promise<Map<string, PlannedDossier['meetings'][number][]>> {
  const rows = await reader
    .select()
    .from(meeting)
    .where(sql`${meeting.dossierId} = any(${sql.param(dossierIds)}::uuid[])`)
    .orderBy(meeting.day, meeting.id);
  const found = new Map<string, PlannedDossier['meetings'][number][]>();
  for (const { id, dossierId, day, title } of rows) {
    // A meeting's day is a day of the calendar: no zone turns it into another.
    const startYear = filingYearOf(new Date(`${day}T12:00:00Z`), { ...rule, timeZone: 'UTC' });
    found.set(dossierId, [...(found.get(dossierId) ?? []), { id, day, title, startYear }]);
  }
  return found;
}
