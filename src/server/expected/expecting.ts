import { grouped } from '@/core/collections/grouped';
import { and, eq, isNotNull, or, sql, type SQL } from 'drizzle-orm';
import { orRefuse } from '@/core/errors/refusal';
import { spanOf, type DetailField, type Details } from '@/core/dossiers/details';
import { occasionKey, slotKey, type ExpectingDossier, type SlotFacts } from '@/core/expected/slots';
import { outermost } from '@/core/expected/rackColumns';
import type { Expectation } from '@/core/plans/expectation';
import type { FilingPlan } from '@/core/plans/plan';
import type { PlaceKind } from '@/core/tree/placeKind';
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

/** A dossier with the facts that expected papers depend on, as far as the caller may know them. */
export interface KnownDossier extends ExpectingDossier {
  readonly name: string;
  readonly reference: string | null;
  readonly closed: boolean;
  readonly details: Details;
  /** The places of its years, by first calendar year, and of the plan's folders that are made once, by id. */
  readonly parts: ReadonlyMap<string, { readonly id: string; readonly closed: boolean }>;
}

/** What a series expects of its dossiers, and what they have, as far as the caller may see. */
export interface Expecting extends FilingPlan {
  readonly expected: readonly Expectation[];
  readonly fields: readonly DetailField[];
  readonly dossiers: readonly KnownDossier[];
  readonly calendar: Calendar;
  readonly today: DayNumber;
  /** Null while the tally is being filled. */
  readonly held: {
    /** By the key of a year, of a planned folder in a dossier, or of a dossier for papers outside of these. */
    readonly holdings: ReadonlyMap<string, Holding>;
    readonly facts: SlotFacts;
    /** Papers by `slotKey`: those that meet an expectation (for a single dossier only), and those a person named. */
    readonly papers: ReadonlyMap<string, string>;
    /** Days on which papers run out or ran out, by `slotKey`; for a single dossier only. */
    readonly runsOut: ReadonlyMap<string, DayNumber>;
    readonly pointed: ReadonlyMap<string, string>;
  } | null;
}

/**
 * The facts behind racks, dossier pages and lists of gaps, for a series or one of its dossiers. Contains only years and
 * papers that the caller may see: a paper hidden from them counts as missing.
 */
export async function expectingOf(actor: Actor, seriesId: string, dossierId: string | null): Promise<Expecting> {
  const which = dossierId === null ? eq(place.parentId, seriesId) : eq(place.id, dossierId);
  const [plan, calendar] = await Promise.all([planOfSeries(db(), seriesId), libraryCalendar(db())]);
  const question = {
    placeId: dossierId ?? seriesId,
    expected: plan.expected,
    folders: plan.byYear ? null : outermost(plan.folders).map((folder) => folder.id),
    withPapers: dossierId !== null,
  };
  const [known, parts, meetings, said, told] = await Promise.all([
    dossiersOf(actor, which),
    partsOf(actor, which, question.folders),
    meetingDays(db(), sql`${which} and ${placeAllows(actor, 'see')}`, calendar),
    saysOf(actor, which),
    askTally('holdings', question, questioner(actor)),
  ]);
  // A caller for whom the series is a bare step is not told its plan and detail fields.
  const { expected, fields, folders } = known.some((dossier) => dossier.seen)
    ? plan
    : { expected: [], fields: [], folders: [] };
  const dossiers = known.map(({ seen, createdAt, ...dossier }): KnownDossier => {
    const mine = parts.get(dossier.id) ?? [];
    const years = mine.filter((part) => part.kind === 'year');
    const span = spanOf(fields, dossier.details);
    return {
      ...dossier,
      details: seen ? dossier.details : {},
      bareStep: !seen,
      years: years.map((year) => Number(year.key)),
      stepYears: new Set(years.flatMap((year) => (year.seen ? [] : [Number(year.key)]))),
      folders: new Set(mine.flatMap((part) => (part.kind === 'folder' ? [part.key] : []))),
      parts: new Map(mine.map(({ key, id, closed }) => [key, { id, closed }])),
      meetings: meetings.get(dossier.id) ?? [],
      started: span.started === null ? null : dayNumber(span.started),
      ended: span.ended === null ? null : dayNumber(span.ended),
      made: dayAt(createdAt.getTime(), calendar.timeZone),
    };
  });
  const today = dayAt(now().getTime(), calendar.timeZone);
  const here = { byYear: plan.byYear, folders, expected, fields, dossiers, calendar, today };
  if (told === null) return { ...here, held: null };
  const { held, met, ending, runsOut, papers } = orRefuse(told);
  const marksOf = ({ occasions, marks }: typeof met) =>
    new Map(occasions.map((occasion, at) => [occasion, marks[at] ?? 0]));
  const marks = marksOf(met);
  const [pointed, notNeeded] = [
    said.filter((row) => row.documentId !== null),
    said.filter((row) => row.documentId === null),
  ];
  return {
    ...here,
    held: {
      holdings: new Map(held.map(({ cell, ...holding }) => [cell, holding])),
      facts: {
        expected,
        met: markedIn(expected, pointed, marks),
        ending: marksOf(ending),
        waived: markedIn(expected, notNeeded),
        today,
      },
      runsOut: new Map(runsOut),
      papers: new Map(papers),
      pointed: new Map(pointed.map((row) => [slotKey(row.expectationId, row.occasion), row.documentId ?? ''])),
    },
  };
}

/** Adds people's statements about expected papers to the marks. */
function markedIn(
  expected: readonly Expectation[],
  said: Awaited<ReturnType<typeof saysOf>>,
  marks = new Map<string, number>(),
): SlotFacts['met'] {
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
      // Wrapped in a select, because drizzle drops table names in the fields of a one-table select.
      seen: sql<boolean>`(select ${placeAllows(actor, 'see')})`,
    })
    .from(place)
    .where(and(eq(place.kind, 'dossier'), which, placeIsKnown(actor)))
    .orderBy(place.position, place.name, place.id);

const isClosed = sql`${place.lineage} && array(select id from ${place} as stopped where closed)`;

interface Part {
  readonly id: string;
  readonly kind: PlaceKind;
  /** The first calendar year, or the planned folder's id. */
  readonly key: string;
  readonly closed: boolean;
  readonly seen: boolean;
}

/**
 * The places of filing years, and of some planned folders, in dossiers, that the caller may know of; years in order.
 * A folder that is made once has its planned folder's id as its key.
 */
async function partsOf(actor: Actor, which: SQL, folders: readonly string[] | null): Promise<Map<string, Part[]>> {
  const isYear = and(eq(place.kind, 'year'), isNotNull(place.filingYear));
  const isPlanned = and(
    eq(place.kind, 'folder'),
    sql`${place.plannedKey} = any(${sql.param([...(folders ?? [])])}::text[])`,
  );
  const rows = await db()
    .select({
      id: place.id,
      dossierId: sql<string>`${place.parentId}`,
      kind: place.kind,
      key: sql<string>`coalesce(${place.plannedKey}, ${place.filingYear}::text)`,
      // A bare expression here would lose its table name.
      closed: sql<boolean>`(select ${isClosed})`,
      seen: sql<boolean>`(select ${placeAllows(actor, 'see')})`,
    })
    .from(place)
    .where(
      and(
        or(isYear, isPlanned),
        sql`${place.parentId} in (select ${place.id} from ${place} where ${and(eq(place.kind, 'dossier'), which)})`,
        placeIsKnown(actor),
      ),
    )
    .orderBy(place.filingYear);
  return grouped(rows, (row) => row.dossierId);
}

/** People's statements about expected papers, except those that name a paper hidden from the caller. */
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
