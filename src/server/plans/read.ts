import { dossierOf } from '../db/lineage';
import { and, eq, sql } from 'drizzle-orm';
import type { DetailField } from '@/core/dossiers/details';
import { expandPlan, type PlannedDossier, type WantedFolder } from '@/core/plans/expand';
import type { Expectation } from '@/core/plans/expectation';
import { filingYearLabel, lastCalendarYear } from '@/core/calendar/filingYear';
import type { FilingPlan } from '@/core/plans/plan';
import { planDifference, type PlanDifference, type RealFolder } from '@/core/plans/planDifference';
import { yearDifference, type RealYear, type YearDifference } from '@/core/plans/yearPlaces';
import { remembered } from '@/core/collections/remembered';
import { isoDay } from '@/core/calendar/period';
import type { Actor } from '../gate/actor';
import { placeAllows } from '../gate/visible';
import type { Reader } from '../db/client';
import { idIn } from '../db/idIn';
import {
  accessGrant,
  columnDef,
  document,
  filing,
  filingPlan,
  filingYear,
  givenValue,
  outsideLink,
  place,
  upload,
  view,
} from '../db/schema';
import { libraryCalendar } from '../calendar/libraryCalendar';
import { meetingDays } from './meetingDays';

/** A dossier, the folders its plan wants, and the difference from those it has. */
export interface Arranged {
  readonly id: string;
  readonly name: string;
  readonly yearPlaces: ReadonlyMap<number, string>;
  readonly wanted: readonly WantedFolder[];
  readonly difference: PlanDifference;
  readonly years: YearDifference;
}

/** The plan of a series with its expected papers, detail fields and revision; empty if none was saved. */
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
  return row ?? { byYear: true, folders: [], expected: [], fields: [], revision: 0 };
}

/**
 * Compares dossiers of a series, in which the caller has a capability, with a plan. `which` is a condition on `place`,
 * the dossiers. Folders without the capability are left alone, as closed ones are, and not mentioned.
 * @param withYears compares their years too: what is wanted is then what it will be once years that lack are there.
 */
export async function arrange(
  reader: Reader,
  actor: Actor,
  capability: 'amend' | 'manage',
  plan: FilingPlan,
  which: ReturnType<typeof sql>,
  { withYears = false } = {},
): Promise<Arranged[]> {
  const dossiers = await reader
    .select({ id: place.id, name: place.name, reference: place.reference, still: sql<boolean>`(select ${stillHere})` })
    .from(place)
    .where(and(eq(place.kind, 'dossier'), which, placeAllows(actor, capability)))
    .orderBy(place.position, place.id);
  if (dossiers.length === 0) return [];
  const ids = dossiers.map((each) => each.id);
  const rule = await libraryCalendar(reader);
  const filingYears = await reader.select().from(filingYear).orderBy(filingYear.startYear);
  const open = filingYears
    .filter((year) => !year.closed)
    .map(({ startYear }) => ({ startYear, label: filingYearLabel(startYear, rule) }));
  const [folders, meetings] = await Promise.all([
    foldersOf(reader, ids, placeAllows(actor, capability)),
    meetingDays(reader, idIn(place.id, ids), rule),
  ]);
  const expand = expandPlan(plan);
  const isoOf = remembered(isoDay);
  return dossiers.map(({ id, name, reference, still }) => {
    const mine = folders.get(id) ?? {
      years: [],
      real: [],
      barred: new Set<string>(),
    };
    const years = new Map(mine.years.map((year) => [year.startYear, year]));
    const naming = (startYear: number) => ({
      startYear,
      lastYear: lastCalendarYear(startYear, rule.yearStartMonth),
      label: filingYearLabel(startYear, rule),
    });
    const dossier: PlannedDossier = {
      name,
      reference,
      years: filingYears
        .filter(({ startYear, closed }) => {
          const year = years.get(startYear);
          return year ? !year.still : withYears && plan.byYear && !closed;
        })
        .map(({ startYear }) => naming(startYear)),
      meetings: (meetings.get(id) ?? []).map((each) => ({ ...each, day: isoOf(each.day) })),
    };
    const wanted = still ? [] : expand(dossier);
    const difference = planDifference(wanted, still ? [] : mine.real);
    return {
      id,
      name,
      yearPlaces: new Map(mine.years.map((year) => [year.startYear, year.id])),
      wanted,
      difference: untold(difference, mine.barred),
      years: still || !withYears ? noYears : yearDifference(plan.byYear, open, mine.years, mine.real, difference),
    };
  });
}

/** A difference without folders hidden from the caller, and without what would be in them. */
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

const noYears: YearDifference = { add: [], remove: [], leave: [] };

interface DossierFolders {
  readonly years: RealYear[];
  readonly real: RealFolder[];
  /** Keys of planned folders hidden from the caller. */
  readonly barred: Set<string>;
}

/**
 * Tables whose rows disappear with a place: cross-filings, uploads, its own sheets, views, columns and links. A folder
 * with any of these does not count as empty.
 */
const saidOfPlaces = [filing, upload, accessGrant, givenValue, view, columnDef, outsideLink];

/** Separators between fields and rows of the text below; no name contains them. */
const [unit, record] = ['\u001f', '\u001e'];

/**
 * Year places and folders of some dossiers, by dossier. Read as one text per dossier: a series may have a hundred
 * thousand folders, and a row for each would take longer than everything else.
 */
async function foldersOf(
  reader: Reader,
  dossierIds: readonly string[],
  allowed: ReturnType<typeof sql>,
): Promise<Map<string, DossierFolders>> {
  const inside = sql`${dossierOf(place.lineage)} = any(${sql.param(dossierIds)}::uuid[])`;
  const { rows } = await reader.execute<{ dossier: string; all: string }>(sql`
    with full_places as materialized (
      ${sql.join(
        [
          sql`select home_id as id from ${document} join ${place} on ${place.id} = home_id where ${inside}`,
          ...saidOfPlaces.map(
            (table) => sql`select place_id from ${table} join ${place} on ${place.id} = place_id where ${inside}`,
          ),
        ],
        sql` union `,
      )}
    )
    select ${dossierOf(place.lineage)}::text as dossier, string_agg(concat_ws(${unit}::text,
      ${place.id}, ${place.parentId}, array_length(${place.lineage}, 1), coalesce(${place.filingYear}::text, ''), ${place.kind} = 'year',
      ${place.name}, coalesce(${place.plannedKey}, ''), coalesce(${place.plannedName}, ''), full_places.id is not null,
      ${place.lineage} && array(select id from ${place} as stopped where closed or locked), not ${allowed}), ${record}::text) as all
    from ${place} left join full_places on full_places.id = ${place.id}
    where ${inside} and ${place.kind} in ('year', 'folder') group by 1`);
  const all = new Map(rows.map((row) => [row.dossier, row.all]));
  return new Map(dossierIds.map((id) => [id, heldIn(all.get(id))]));
}

function heldIn(all: string | undefined): DossierFolders {
  const held: DossierFolders = { years: [], real: [], barred: new Set() };
  const isTrue = (field: string | undefined) => field === 't';
  const rows = (all?.split(record) ?? []).map((row) => row.split(unit));
  const folderIds = new Set(rows.flatMap(([id = '', , , , isYear]) => (isTrue(isYear) ? [] : [id])));
  for (const row of rows.sort((a, b) => Number(a[2]) - Number(b[2]))) {
    const [id = '', parentId = '', , year = '', isYear, name = '', key = '', plannedName = '', holds, stopped, barred] =
      row;
    const still = isTrue(stopped) || isTrue(barred);
    if (isTrue(barred) && key !== '') held.barred.add(key);
    if (isTrue(isYear)) held.years.push({ id, startYear: Number(year), name, holds: isTrue(holds), still });
    else
      held.real.push({
        id,
        parentId: folderIds.has(parentId) ? parentId : null,
        startYear: year === '' ? null : Number(year),
        name,
        key: key === '' ? null : key,
        plannedName: plannedName === '' ? null : plannedName,
        empty: !isTrue(holds),
        still,
      });
  }
  fillUp(held.real);
  return held;
}

/** Marks folders as not empty if they contain a folder a person made, or one that is not empty. */
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
