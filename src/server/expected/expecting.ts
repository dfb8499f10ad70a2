import { grouped } from '@/core/collections/grouped';
import { and, eq, isNotNull, sql, type SQL } from 'drizzle-orm';
import { orRefuse } from '@/core/errors/refusal';
import { spanOf, type DetailField, type Details } from '@/core/dossiers/details';
import { occasionKey, slotKey, type ExpectingDossier, type Standings } from '@/core/expected/slots';
import type { Expectation } from '@/core/plans/expectation';
import type { Holding } from '@/core/expected/rack';
import { dayAt, dayNumber, type DayNumber } from '@/core/calendar/period';
import type { Actor } from '../gate/actor';
import { paperAllows, placeAllows, placeIsKnown } from '../gate/visible';
import { now } from '../base/clock';
import { db } from '../db/client';
import { document, expectedSay, place } from '../db/schema';
import { libraryCalendar, type Calendar } from '../calendar/libraryCalendar';
import { questioner } from '../tally/questioner';
import { askTally } from '../tally/host';
import { meetingDays } from '../plans/meetingDays';
import { planOfSeries } from '../plans/read';

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
  readonly calendar: Calendar;
  readonly today: DayNumber;
  /** Null while the library is still being read. */
  readonly held: {
    /** By the key of a year, or of a dossier for what lies beside its years. */
    readonly holdings: ReadonlyMap<string, Holding>;
    readonly standings: Standings;
    /** Papers by `slotKey`: those that meet an expectation (told for a single dossier only), and those that a person pointed at. */
    readonly papers: ReadonlyMap<string, string>;
    readonly pointed: ReadonlyMap<string, string>;
  } | null;
}

/**
 * Everything that racks, dossiers' pages and lists of gaps are worked out from, for one series or one of its dossiers. Only
 * years and papers that the actor may see come in: a paper that is kept from them leaves a gap, as one that never was.
 */
export async function expectingOf(actor: Actor, seriesId: string, dossierId: string | null): Promise<Expecting> {
  const which = dossierId === null ? eq(place.parentId, seriesId) : eq(place.id, dossierId);
  const [plan, calendar] = await Promise.all([planOfSeries(db(), seriesId), libraryCalendar(db())]);
  const question = { placeId: dossierId ?? seriesId, expected: plan.expected, withPapers: dossierId !== null };
  const [known, years, meetings, said, told] = await Promise.all([
    dossiersOf(actor, which),
    yearsOf(actor, which),
    meetingDays(db(), sql`${which} and ${placeAllows(actor, 'see')}`, calendar),
    saysOf(actor, which),
    askTally('holdings', question, questioner(actor)),
  ]);
  // Who knows a series only as a step on the way is not told what it expects and knows of its dossiers.
  const { expected, fields } = known.some((dossier) => dossier.seen) ? plan : { expected: [], fields: [] };
  const dossiers = known.map(({ seen, createdAt, ...dossier }): KnownDossier => {
    const mine = years.get(dossier.id) ?? [];
    const span = spanOf(fields, dossier.details);
    return {
      ...dossier,
      details: seen ? dossier.details : {},
      bareStep: !seen,
      years: mine.map((year) => year.startYear),
      stepYears: new Set(mine.flatMap((year) => (year.seen ? [] : [year.startYear]))),
      yearPlaces: new Map(mine.map(({ startYear, id, closed }) => [startYear, { id, closed }])),
      meetings: meetings.get(dossier.id) ?? [],
      started: span.started === null ? null : dayNumber(span.started),
      ended: span.ended === null ? null : dayNumber(span.ended),
      made: dayAt(createdAt.getTime(), calendar.timeZone),
    };
  });
  const today = dayAt(now().getTime(), calendar.timeZone);
  const here = { expected, fields, dossiers, calendar, today };
  if (told === null) return { ...here, held: null };
  const { held, met, papers } = orRefuse(told);
  const marks = new Map<string, number>();
  met.occasions.forEach((occasion, at) => marks.set(occasion, met.marks[at] ?? 0));
  const [pointed, notNeeded] = [
    said.filter((row) => row.documentId !== null),
    said.filter((row) => row.documentId === null),
  ];
  return {
    ...here,
    held: {
      holdings: new Map(held.map(({ occasion, ...holding }) => [occasion, holding])),
      standings: { expected, met: markedIn(expected, pointed, marks), waived: markedIn(expected, notNeeded), today },
      papers: new Map(papers),
      pointed: new Map(pointed.map((row) => [slotKey(row.expectationId, row.occasion), row.documentId ?? ''])),
    },
  };
}

/** Marks what was said of expected papers, beside what is marked already. */
function markedIn(
  expected: readonly Expectation[],
  said: Awaited<ReturnType<typeof saysOf>>,
  marks = new Map<string, number>(),
): Standings['met'] {
  const bits = new Map(expected.map(({ id }, at) => [id, 1 << at]));
  for (const { expectationId, occasion } of said)
    marks.set(occasion, (marks.get(occasion) ?? 0) | (bits.get(expectationId) ?? 0));
  return marks;
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

const isClosed = sql`${place.lineage} && array(select id from ${place} as stopped where closed)`;

/** The filing years of some dossiers, those that the actor may know of, in order. */
async function yearsOf(
  actor: Actor,
  which: SQL,
): Promise<Map<string, { id: string; startYear: number; closed: boolean; seen: boolean }[]>> {
  const rows = await db()
    .select({
      id: place.id,
      dossierId: sql<string>`${place.parentId}`,
      startYear: sql<number>`${place.filingYear}`,
      // A bare expression here would lose its table name.
      closed: sql<boolean>`(select ${isClosed})`,
      seen: sql<boolean>`(select ${placeAllows(actor, 'see')})`,
    })
    .from(place)
    .where(
      and(
        eq(place.kind, 'year'),
        isNotNull(place.filingYear),
        sql`${place.parentId} in (select ${place.id} from ${place} where ${and(eq(place.kind, 'dossier'), which)})`,
        placeIsKnown(actor),
      ),
    )
    .orderBy(place.filingYear);
  return grouped(rows, (row) => row.dossierId);
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
  return rows.map(({ dossierId, startYear, meetingId, ...row }) => ({
    ...row,
    occasion: occasionKey(dossierId, startYear, meetingId),
  }));
}
