import { and, eq, isNotNull, sql, type SQL } from 'drizzle-orm';
import { orRefuse } from '@/core/errors/refusal';
import { spanOf, type DetailField, type Details } from '@/core/filing/details';
import { slotKey, type Expectation, type ExpectingDossier } from '@/core/filing/expected';
import type { Holding } from '@/core/filing/rack';
import { dayAt, dayNumber, filingYearOfDay, type DayNumber } from '@/core/views/period';
import type { Holdings } from '@/core/views/tally/holdings';
import type { Actor } from '../access/actor';
import { paperAllows, placeAllows, placeIsKnown } from '../access/visible';
import { now } from '../clock';
import { db } from '../db/client';
import { document, expectedSay, library, meeting, place } from '../db/schema';
import { questioner } from '../views/questioner';
import { askTally } from '../views/tally/host';
import { planOfSeries } from './read';

/** A dossier with what is reckoned from, as the actor may know of it. */
export interface KnownDossier extends ExpectingDossier {
  readonly name: string;
  readonly reference: string | null;
  readonly closed: boolean;
  readonly details: Details;
  readonly yearPlaces: ReadonlyMap<number, { readonly id: string; readonly closed: boolean }>;
}

/** What a series expects of its dossiers, and what is there, as far as the actor may see. */
export interface Expecting {
  readonly expected: readonly Expectation[];
  readonly fields: readonly DetailField[];
  readonly dossiers: readonly KnownDossier[];
  readonly yearStartMonth: number;
  readonly today: DayNumber;
  /** Null while the library is still being read. */
  readonly held: {
    readonly holding: (dossierId: string, startYear: number | null) => Holding | undefined;
    /** Papers by `slotKey`; only filled for a single dossier. */
    readonly papers: ReadonlyMap<string, string>;
    /** Slots that a person said something of. */
    readonly pointed: ReadonlyMap<string, string>;
    readonly waived: ReadonlySet<string>;
    readonly met: ReadonlySet<string>;
  } | null;
}

/**
 * Everything that racks, dossiers' pages and lists of gaps are worked out from, for one series or one of its dossiers. Only
 * years and papers that the actor may see come in: a paper that is kept from them leaves a gap, as one that never was.
 */
export async function expectingOf(actor: Actor, seriesId: string, dossierId: string | null): Promise<Expecting> {
  const which = dossierId === null ? eq(place.parentId, seriesId) : eq(place.id, dossierId);
  const [plan, known] = await Promise.all([planOfSeries(db(), seriesId), dossiersOf(actor, which)]);
  // Who knows a series only as a step on the way is not told what it expects and knows of its dossiers.
  const { expected, fields } = known.some((dossier) => dossier.seen) ? plan : { expected: [], fields: [] };
  const question = { placeId: dossierId ?? seriesId, expected, withPapers: dossierId !== null };
  const [[rule], years, meetings, said, told] = await Promise.all([
    db().select({ startMonth: library.yearStartMonth, timeZone: library.timeZone }).from(library),
    yearsOf(actor, which),
    meetingsOf(actor, which),
    saysOf(actor, which),
    askTally('holdings', question, questioner(actor)),
  ]);
  if (!rule) throw new Error('The library has no settings');
  const holdings = told === null ? null : orRefuse(told);
  const dossiers = known.map(({ seen, createdAt, ...dossier }): KnownDossier => {
    const mine = years.get(dossier.id) ?? [];
    const span = spanOf(fields, dossier.details);
    return {
      ...dossier,
      details: seen ? dossier.details : {},
      bareStep: !seen,
      years: mine.map((year) => year.startYear),
      yearPlaces: new Map(mine.map(({ startYear, id, closed }) => [startYear, { id, closed }])),
      meetings: (meetings.get(dossier.id) ?? []).map((each) => ({
        ...each,
        startYear: filingYearOfDay(each.day, rule.startMonth),
      })),
      started: span.started === null ? null : dayNumber(span.started),
      ended: span.ended === null ? null : dayNumber(span.ended),
      made: dayAt(createdAt.getTime(), rule.timeZone),
    };
  });
  return {
    expected,
    fields,
    dossiers,
    yearStartMonth: rule.startMonth,
    today: dayAt(now().getTime(), rule.timeZone),
    held: holdings && {
      ...heldBy(holdings),
      ...said,
      met: new Set([...holdings.met, ...said.pointed.keys()]),
    },
  };
}

function heldBy({ held, met, papers }: Holdings) {
  const cells = new Map(held.map((each) => [`${each.dossierId} ${each.startYear}`, each]));
  return {
    holding: (dossierId: string, startYear: number | null) => cells.get(`${dossierId} ${startYear}`),
    papers: new Map(papers.map((id, at) => [met[at] ?? '', id])),
  };
}

const dossiersOf = (actor: Actor, which: SQL) =>
  db()
    .select({
      id: place.id,
      name: place.name,
      reference: place.reference,
      closed: place.closed,
      details: place.details,
      createdAt: place.createdAt,
      // A bare expression here would lose its table name.
      seen: sql<boolean>`(select ${placeAllows(actor, 'see')})`,
    })
    .from(place)
    .where(and(eq(place.kind, 'dossier'), which, placeIsKnown(actor)))
    .orderBy(place.position, place.name, place.id);

const isClosed = sql`exists (select from ${place} as above where above.id = any(${place.lineage}) and above.closed)`;

/** The filing years of some dossiers, those that the actor may see, in order. */
async function yearsOf(
  actor: Actor,
  which: SQL,
): Promise<Map<string, { id: string; startYear: number; closed: boolean }[]>> {
  const rows = await db()
    .select({
      id: place.id,
      dossierId: sql<string>`${place.parentId}`,
      startYear: sql<number>`${place.filingYear}`,
      // A bare expression here would lose its table name.
      closed: sql<boolean>`(select ${isClosed})`,
    })
    .from(place)
    .where(
      and(
        eq(place.kind, 'year'),
        isNotNull(place.filingYear),
        sql`${place.parentId} in (select ${place.id} from ${place} where ${and(eq(place.kind, 'dossier'), which)})`,
        placeAllows(actor, 'see'),
      ),
    )
    .orderBy(place.filingYear);
  return grouped(rows, (row) => row.dossierId);
}

/** The meetings of some dossiers: one line of text a dossier, because a row for each of many thousand takes its time. */
async function meetingsOf(actor: Actor, which: SQL): Promise<Map<string, { id: string; day: DayNumber }[]>> {
  const rows = await db()
    .select({
      dossierId: meeting.dossierId,
      all: sql<string>`string_agg(${meeting.id}::text || ' ' || (${meeting.day} - date '1970-01-01')::text, ',' order by ${meeting.day}, ${meeting.id})`,
    })
    .from(meeting)
    .innerJoin(place, eq(place.id, meeting.dossierId))
    .where(and(which, placeAllows(actor, 'see')))
    .groupBy(meeting.dossierId);
  return new Map(
    rows.map(({ dossierId, all }) => [
      dossierId,
      all.split(',').map((each) => {
        const [id = '', day = '0'] = each.split(' ');
        return { id, day: Number(day) };
      }),
    ]),
  );
}

/** What people said of expected papers, as far as the actor may know of it: papers that are kept from them say nothing. */
async function saysOf(actor: Actor, which: SQL) {
  const rows = await db()
    .select({
      expectationId: expectedSay.expectationId,
      dossierId: expectedSay.dossierId,
      startYear: expectedSay.startYear,
      meetingId: expectedSay.meetingId,
      documentId: expectedSay.documentId,
    })
    .from(expectedSay)
    .innerJoin(place, eq(place.id, expectedSay.dossierId))
    .where(
      and(
        which,
        placeAllows(actor, 'see'),
        sql`(${expectedSay.documentId} is null or exists (select from ${document} where ${document.id} = ${expectedSay.documentId} and ${paperAllows(actor, 'see')}))`,
      ),
    );
  const keyOf = (row: (typeof rows)[number]) => slotKey(row.expectationId, row.dossierId, row.startYear, row.meetingId);
  return {
    pointed: new Map(rows.flatMap((row) => (row.documentId === null ? [] : [[keyOf(row), row.documentId] as const]))),
    waived: new Set(rows.filter((row) => row.documentId === null).map(keyOf)),
  };
}

function grouped<T>(rows: readonly T[], keyOf: (row: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const row of rows) {
    const group = groups.get(keyOf(row));
    if (group) group.push(row);
    else groups.set(keyOf(row), [row]);
  }
  return groups;
}
