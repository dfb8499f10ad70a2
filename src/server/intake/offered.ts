import { and, asc, desc, eq, inArray, isNull, sql } from 'drizzle-orm';
import { filingYearOf } from '@/core/calendar/filingYear';
import { writeDay } from '@/core/calendar/typedDay';
import { currencyDecimals } from '@/core/columns/currency';
import { writeDecimal } from '@/core/columns/decimal';
import { asText } from '@/core/columns/format';
import type { Column, Value } from '@/core/columns/model';
import { kindOfMediaType, type Stamp } from '@/core/files/fileKind';
import type { ArrivalField, ArrivalPlace, ArrivalSheet } from '@/core/intake/contract';
import { sureOfFirst } from '@/core/intake/evidence';
import { meantForStated, proposedValues, type Proposed as ProposedValue } from '@/core/intake/fields';
import { likelyFolder } from '@/core/intake/likelyFolder';
import { newerBy } from '@/core/intake/newer';
import { isMail, type Proposal } from '@/core/intake/model';
import { invoiceFaults } from '@/core/invoices/check';
import { now } from '../base/clock';
import { libraryCalendar } from '../calendar/libraryCalendar';
import { allColumns, allLists, asNames, lexiconsOf, type Lexicons } from '../columns/read';
import { db } from '../db/client';
import { document, place, version, type arrival } from '../db/schema';
import type { Actor } from '../gate/actor';
import { paperAllows, paperMayBeAmended, placeAllows, placeIsStill } from '../gate/visible';
import { namesOn, pathOf } from '../known/names';
import { standName } from '../known/standing';
import { alongsideOf } from './alongside';
import { attachedTo } from './attached';
import { expectedAmong, type ExpectedThere } from './expected';
import { saysRule } from './byRule';

/** An arrival for which there is a proposal. */
export type Proposed = Pick<
  typeof arrival.$inferSelect,
  'id' | 'way' | 'sha256' | 'fileName' | 'mediaType' | 'revision' | 'subject'
> & { readonly proposal: Proposal };

/** What is filed of an arrival, where, and with which values, by the ids of their columns. */
export interface Offer {
  readonly placeId: string;
  readonly path: readonly string[];
  readonly parts: readonly {
    readonly attachment: number | null;
    readonly title: string;
    /** The paper of which it becomes the newer version, and how that is called; left out and null: it becomes a paper. */
    readonly versionOf?: string | undefined;
    readonly newerOf: string | null;
    readonly values: Readonly<Record<string, string>>;
    readonly fields: readonly ArrivalField[];
  }[];
  readonly labelIds: readonly string[];
  readonly tell: readonly string[];
  /** How likely the place, and each value that is filled in, is right at least; from 0 to 1. */
  readonly sure: number;
  /** The data of a bill in it does not agree with itself, or with its page. */
  readonly hasFaults: boolean;
}

/**
 * What would be filed if somebody just agreed; null where nothing speaks for any place that they may add to, or nothing counts.
 * @param byPerson whether a person agrees: what is expected is not looked at for a rule, in whose process nothing is counted
 */
export async function asProposed(actor: Actor, row: Proposed, byPerson: boolean): Promise<Offer | null> {
  const parts = await partsOf(actor, row);
  const counting = parts.filter(({ counts }) => counts);
  const expected = byPerson ? await expectedAmong(actor, row.proposal, row.subject) : null;
  const [first] = await placesFor(actor, row, parts, expected);
  // Said of the likeliest alone: who may not add there agrees to nothing.
  if (!first || first.evidence !== row.proposal.candidates[0]?.evidence || counting.length === 0) return null;
  const [target] = await db().select({ lineage: place.lineage }).from(place).where(eq(place.id, first.placeId));
  const fields = await fieldsAt(first.placeId, target?.lineage ?? [], row.proposal, expected);
  const { labels, tell } = await alongsideOf(actor, row.proposal);
  const offered = counting.map(({ attachment, title, newerOf }) => {
    const older = newerOf.find(({ isSure }) => isSure);
    if (older) return { attachment, title, versionOf: older.id, newerOf: older.title, fields: [], values: {} };
    const here = fields.find((each) => each.attachment === attachment)?.fields ?? [];
    return {
      attachment,
      title,
      newerOf: null,
      fields: here,
      values: Object.fromEntries(here.map((each) => [each.columnId, each.text])),
    };
  });
  const sures = offered.flatMap(({ fields: here }) =>
    here.flatMap(({ sure, text }) => (text === '' ? [] : (sure ?? []))),
  );
  return {
    ...{ placeId: first.placeId, path: first.path, parts: offered },
    labelIds: labels.map(({ id }) => id),
    tell: tell.map(({ id }) => id),
    sure: Math.min(sureOfFirst(row.proposal.candidates), ...sures),
    hasFaults: counting.some(({ billFaults }) => (billFaults ?? []).length > 0),
  };
}

/** The parts of an arrival as they would be filed. */
export async function partsOf(actor: Actor, row: Proposed): Promise<ArrivalSheet['parts']> {
  const contents = isMail(row.mediaType) ? await attachedTo(row.sha256) : [];
  const filed = await db()
    .select({ id: document.id, title: document.title, sha256: version.sha256, place: standName(actor) })
    .from(version)
    .innerJoin(document, eq(document.versionId, version.id))
    .innerJoin(place, eq(place.id, document.homeId))
    .where(
      and(
        inArray(version.sha256, [row.sha256, ...contents.map(({ sha256 }) => sha256)]),
        isNull(document.disposedAt),
        paperAllows(actor, 'see'),
      ),
    )
    .limit(50);
  const older = await papersNear(actor, row.proposal.candidates);
  return row.proposal.parts.flatMap(({ attachment: number, title, counts, bill, differs = [] }) => {
    const content = number === null ? mailItself(row) : contents.find((each) => each.number === number);
    if (!content) return [];
    const filedAlready = filed.flatMap(({ sha256, id, title: named, place: where }) =>
      sha256 === content.sha256 ? [{ id, title: named, place: where }] : [],
    );
    const { name, mediaType } = content;
    const stamp = kindOfMediaType(mediaType)?.stamp ?? 'TEXT';
    const sums = bill ? invoiceFaults(bill).map(({ rule, says }) => `${says} (${rule})`) : [];
    const billFaults = bill ? [...sums, ...differs] : null;
    return [
      {
        ...{
          attachment: number,
          name,
          stamp,
          title,
          counts: counts && filedAlready.length === 0,
          billFaults,
          filedAlready,
        },
        newerOf: filedAlready.length > 0 ? [] : newerOf(name, stamp, older),
      },
    ];
  });
}

/** So many papers of the likeliest dossiers are looked at for one of which a part may be the newer version; so many are offered. */
const mostNear = 400;
const mostOlder = 3;

/** The papers of the likeliest dossiers that the caller may give a newer version, the last changed first. */
async function papersNear(actor: Actor, candidates: Proposal['candidates']) {
  const dossiers = candidates.map(({ dossierId }) => dossierId);
  if (dossiers.length === 0) return [];
  return db()
    .select({
      id: document.id,
      title: document.title,
      stamp: document.stamp,
      fileName: version.fileName,
      place: standName(actor),
    })
    .from(document)
    .innerJoin(version, eq(version.id, document.versionId))
    .innerJoin(place, eq(place.id, document.homeId))
    .where(
      and(
        sql`${place.lineage} && ${sql.param(dossiers)}::uuid[]`,
        isNull(document.disposedAt),
        paperMayBeAmended(actor),
      ),
    )
    .orderBy(desc(document.changedAt))
    .limit(mostNear);
}

function newerOf(
  name: string,
  stamp: Stamp,
  near: Awaited<ReturnType<typeof papersNear>>,
): ArrivalSheet['parts'][number]['newerOf'] {
  const found = near.flatMap((each) => {
    const by = each.stamp === stamp ? newerBy(name, [each.title, each.fileName]) : null;
    return by === null ? [] : [{ id: each.id, title: each.title, place: each.place, isSure: by === 'surely' }];
  });
  return found.slice(0, mostOlder);
}

const mailItself = ({ sha256, fileName, mediaType }: Proposed) => ({
  number: null,
  name: fileName,
  mediaType,
  sha256,
});

const yearAbove = sql`(select above.filing_year from ${place} as above
  where above.id = any(${place.lineage}) and above.filing_year is not null limit 1)`;
/** Papers of a kind whose home is a place: letters and invoices seldom lie in one folder. */
const papersIn = (stamp: Stamp) => sql`(select count(*)::int from ${document}
  where ${document.homeId} = ${place.id} and ${document.disposedAt} is null and ${document.stamp} = ${stamp})`;

/** Where in each dossier it would go, for papers of a kind; dossiers to which the caller may not add are left out, with what speaks for them. */
export async function placesFor(
  actor: Actor,
  { proposal: { candidates } }: Proposed,
  parts: ArrivalSheet['parts'],
  expected: ExpectedThere | null,
): Promise<ArrivalPlace[]> {
  const stamp = (parts.find(({ counts }) => counts) ?? parts[0])?.stamp ?? 'MAIL';
  const year = filingYearOf(now(), await libraryCalendar(db()));
  const places: ArrivalPlace[] = [];
  for (const { dossierId, placeId, evidence } of candidates) {
    const folders = await db()
      .select({
        id: place.id,
        kind: place.kind,
        name: place.name,
        lineage: place.lineage,
        // Wrapped in a select, because drizzle drops table names in the fields of a one-table select.
        year: sql<number | null>`(select ${yearAbove})`,
        papers: sql<number>`(select ${papersIn(stamp)})`,
      })
      .from(place)
      .where(
        and(
          sql`${place.lineage} @> array[${dossierId}::uuid]`,
          inArray(place.kind, ['dossier', 'year', 'folder']),
          isNull(place.meetingDay),
          placeAllows(actor, 'add'),
          sql`not ${placeIsStill('add')}`,
        ),
      )
      .orderBy(sql`array_length(${place.lineage}, 1)`, asc(place.position), asc(place.id));
    const awaited = expected?.dossierId === dossierId ? folders.find(({ id }) => id === expected.placeId) : undefined;
    const chosen = folders.find(({ id }) => id === placeId) ?? awaited ?? likelyFolder(folders, year);
    const lineage = folders.find(({ id }) => id === chosen?.id)?.lineage;
    if (!chosen || !lineage) continue;
    const path = namesOn(await pathOf(db(), actor, lineage));
    places.push({
      placeId: chosen.id,
      path,
      evidence,
      expected: awaited && awaited === chosen ? (expected?.says ?? null) : null,
    });
  }
  return places;
}

/** The columns of a place that it does not fix. */
async function columnsAt(placeId: string, lineage: readonly string[]): Promise<Column[]> {
  const [given] = await db().select({ fixed: place.fixedValues }).from(place).where(eq(place.id, placeId));
  const fixed = given?.fixed ?? {};
  return (await allColumns(db())).filter(
    ({ id, retired, placeId: at }) => !retired && lineage.includes(at) && !(id in fixed),
  );
}

/** The columns of a place as fields of which nothing is proposed. */
export async function emptyFieldsAt(placeId: string, lineage: readonly string[]): Promise<ArrivalField[]> {
  const lexicons = lexiconsOf(await allLists(db()));
  const columns = await columnsAt(placeId, lineage);
  return columns.map((column) => ({ ...fieldOf(column, undefined, lexicons), text: '' }));
}

/** What would be filled in at a place, part by part: its columns with what is proposed for them. */
export async function fieldsAt(
  placeId: string,
  lineage: readonly string[],
  { parts, ruled }: Proposal,
  expected: ExpectedThere | null,
) {
  const columns = await columnsAt(placeId, lineage);
  const lexicons = lexiconsOf(await allLists(db()));
  const rule = ruled && lineage.includes(ruled.dossierId) ? ruled : null;
  const awaited = expected && lineage.includes(expected.dossierId) ? expected : null;
  const usual = meantForStated(columns);
  return parts.map(({ attachment, title, stated = [] }) => {
    const proposed = proposedValues(columns, stated, title, (list) => lexicons.get(list)?.terms ?? []);
    const fields = columns.map((column) => {
      const each = proposed.find(({ columnId }) => columnId === column.id);
      const said = rule?.values[column.id];
      if (rule && said !== undefined)
        return { ...fieldOf(column, undefined, lexicons), text: said, why: saysRule(rule.rule) };
      const makes = awaited?.values[column.id];
      if (awaited && makes !== undefined)
        return { ...fieldOf(column, undefined, lexicons), text: makes, why: awaited.says };
      const field = fieldOf(column, each, lexicons);
      return { ...field, aside: field.text === '' && !column.required && !usual.has(column.id) };
    });
    return { attachment, fields };
  });
}

function fieldOf(column: Column, proposed: ProposedValue | undefined, lexicons: Lexicons): ArrivalField {
  const { id, name, required, type, listId, defaultValue } = column;
  const lexicon = listId === null ? undefined : lexicons.get(listId);
  const { stated } = proposed ?? {};
  return {
    columnId: id,
    name,
    required,
    text: typedText(column, proposed?.value ?? defaultValue, lexicons),
    choices:
      type === 'choice' && lexicon
        ? lexicon
            .inOrder()
            .flatMap(({ term }) => (term.retired ? [] : [asText(column, term.id, asNames(lexicons, {}))]))
        : null,
    why: stated ? whyOf(stated) : (proposed?.why ?? null),
    sure: stated?.sure ?? null,
    at: stated ? { page: stated.page, spot: stated.spot } : null,
    aside: false,
  };
}

/** A value as somebody would type it, and easily reads. */
function typedText(column: Column, value: Value | null, lexicons: Lexicons): string {
  if (value === null) return '';
  if (column.type === 'amount') return writeDecimal(Number(value), currencyDecimals(column.currency));
  return column.type === 'date' ? writeDay(String(value)) : asText(column, value, asNames(lexicons, {}));
}

const whyOf = ({ by, words, page, isData, isTaught }: NonNullable<ProposedValue['stated']>): string =>
  isData
    ? 'From the data of the bill.'
    : `“${by === null ? '' : `${by} `}${words}”${page === 1 ? '' : ` on page ${page}`}${isTaught ? ', where it stood before' : ''}.`;
