import { bitOf } from '@/core/access/capability';
import type { PoolClient, QueryArrayResult } from 'pg';
import { z } from 'zod';
import type { Column } from '@/core/columns/model';
import type { PlaceKind } from '@/core/tree/placeKind';
import { owingFrom, storedOwing } from '@/core/owed/owing';
import { ownWays, type OwnWay } from '@/core/views/own';
import { owingText } from '../owed/read';
import { ownPapersSql } from './own';
import type { ViewFiling, ViewPaper, ViewPlace, ViewText, ViewWorld } from '@/core/views/question';

/**
 * The queries that fill the tally: plain SQL over its own connection. They bypass the gate, because the tally answers for
 * everyone; each question says who asks.
 */
export type Connection = Pick<PoolClient, 'query'>;

const paperFields = `
  document.id::text, document.home_id::text, document.title, document.stamp, document.size_bytes::float8,
  document.page_count, document.word_count, document.filed_by::text,
  extract(epoch from document.filed_at)::float8 * 1000, document.changed_by::text,
  extract(epoch from document.changed_at)::float8 * 1000, document.position, document.shown_values::text,
  document.scope_id::text, document.remark, coalesce(version.file_name, ''), document.signature`;
const papers = 'document left join version on version.id = document.version_id';

type PaperFields = [
  string,
  string,
  string,
  string,
  number,
  number | null,
  number | null,
  string,
  number,
  string,
  number,
  number | null,
  string,
  string | null,
  string,
  string,
  string | null,
];

/** Facts from other tables, by paper. */
interface Beside {
  readonly labels: ReadonlyMap<string, string[]>;
  readonly filings: ReadonlyMap<string, readonly ViewFiling[]>;
  readonly texts: ReadonlyMap<string, readonly ViewText[]>;
}

function asPaper(row: PaperFields, { labels, filings, texts }: Beside): ViewPaper {
  const [id, homeId, title, kind, sizeBytes, pageCount, wordCount, filedBy, filedAtMs, changedBy, changedAtMs] = row;
  return {
    id,
    homeId,
    scopeId: row[13],
    filings: filings.get(id) ?? noFilings,
    title,
    kind,
    sizeBytes,
    pageCount,
    wordCount,
    filedBy,
    // Keeps microseconds, so that the order agrees with the database's.
    filedAtMs,
    changedBy,
    changedAtMs,
    signature: row[16],
    order: row[11],
    values: row[12] === '{}' ? none : (JSON.parse(row[12]) as ViewPaper['values']),
    labels: labels.get(id) ?? noLabels,
    remark: row[14],
    fileName: row[15],
    texts: texts.get(id) ?? noTexts,
  };
}
const none = {};
const noLabels: readonly string[] = [];
const noFilings: readonly ViewFiling[] = [];
const noTexts: readonly ViewText[] = [];

/** Labels and cross-filings of all papers, or of some. */
async function besides(connection: Connection, ids: readonly string[] | null): Promise<Beside> {
  const filed = await rowsOf<[string, string, boolean]>(
    connection,
    `select document_id::text, place_id::text, kind = 'opening' from filing
     where $1::uuid[] is null or document_id = any($1::uuid[]) order by made_at, id`,
    [ids],
  );
  const filings = new Map<string, ViewFiling[]>();
  for (const [id, placeId, opening] of filed) filings.set(id, [...(filings.get(id) ?? []), { placeId, opening }]);
  const rows = await rowsOf<[string, string[]]>(
    connection,
    `select document_id::text, array_agg(label_id::text) from document_label
     where $1::uuid[] is null or document_id = any($1::uuid[]) group by 1`,
    [ids],
  );
  return { labels: new Map(rows), filings, texts: await textsOf(connection, ids) };
}

/** The indexed texts of all papers, or of some: of their current versions, of what is attached to them, and of earlier versions. */
async function textsOf(
  connection: Connection,
  ids: readonly string[] | null,
): Promise<ReadonlyMap<string, readonly ViewText[]>> {
  const found = await rowsOf<[string, number, number, string, ViewText['as']]>(
    connection,
    `with current as (
       select document.id, version.id as version_id, sha256 from ${papers}
       where disposed_at is null and ($1::uuid[] is null or document.id = any($1::uuid[])))
     select current.id::text, text.number, text.length, text.language, 'own' from current
       join search_text as text on text.sha256 = current.sha256
     union all
     select distinct current.id::text, text.number, text.length, text.language, 'attached' from current
       join attachment on attachment.mail_sha256 = current.sha256
       join search_text as text on text.sha256 = attachment.sha256
     union all
     select distinct current.id::text, text.number, text.length, text.language, 'older' from current
       join version as earlier on earlier.document_id = current.id
       join search_text as text on text.sha256 = earlier.sha256
     where earlier.id <> current.version_id and earlier.sha256 <> current.sha256`,
    [ids],
  );
  const texts = new Map<string, ViewText[]>();
  for (const [id, number, length, language, as] of found) {
    const there = texts.get(id);
    const text = { number, length, language, as };
    if (there) there.push(text);
    else texts.set(id, [text]);
  }
  return texts;
}

/** All papers not disposed of, in batches, sorted by title. */
export async function* allPapers(connection: Connection): AsyncGenerator<ViewPaper[]> {
  const beside = await besides(connection, null);
  await connection.query(`
    declare papers no scroll cursor for
    select ${paperFields} from ${papers} where disposed_at is null order by document.title, document.id`);
  const next = () => rowsOf<PaperFields>(connection, 'fetch 5000 from papers', []);
  let coming = next();
  for (;;) {
    const piece = await coming;
    if (piece.length === 0) return;
    // The database reads on while these are added.
    coming = next();
    coming.catch(() => undefined);
    yield piece.map((row) => asPaper(row, beside));
  }
}

/** The papers among these that are not disposed of. */
export async function papersOf(connection: Connection, ids: readonly string[]): Promise<ViewPaper[]> {
  const found = await rowsOf<PaperFields>(
    connection,
    `select ${paperFields} from ${papers} where document.id = any($1::uuid[]) and disposed_at is null`,
    [ids],
  );
  const beside = await besides(connection, ids);
  return found.map((row) => asPaper(row, beside));
}

/** All places, or those that exist among some. */
export async function placesOf(connection: Connection, ids: readonly string[] | null): Promise<ViewPlace[]> {
  const found = await rowsOf<
    [
      string,
      string[],
      PlaceKind,
      string,
      number,
      string | null,
      number | null,
      string | null,
      string | null,
      number | null,
    ]
  >(
    connection,
    `select id::text, lineage::text[], kind, name, position, scope_id::text, filing_year, planned_key, reference,
       case when closed then (select extract(epoch from max(entry.at))::float8 * 1000 from journal as entry
         where entry.act = 'place.closed' and entry.subjects @> array[place.id]) end
     from place where $1::uuid[] is null or id = any($1::uuid[])`,
    [ids],
  );
  return found.map(([id, lineage, kind, name, position, scopeId, filingYear, plannedKey, reference, closedAtMs]) => ({
    id,
    lineage,
    kind,
    name,
    position,
    scopeId,
    filingYear,
    plannedKey,
    reference,
    closedAtMs,
  }));
}

/** Columns, names and settings, which are small. */
export async function worldOf(connection: Connection): Promise<ViewWorld> {
  const [settings] = await rowsOf<[string, number]>(connection, 'select time_zone, year_start_month from library', []);
  const columns = await rowsOf<[Column]>(
    connection,
    `select json_build_object('id', id, 'placeId', place_id, 'name', name, 'help', help, 'type', type, 'listId', list_id,
       'open', open, 'unit', unit, 'decimals', decimals, 'currency', currency, 'required', required, 'meaning', meaning,
       'defaultValue', default_value, 'position', position, 'retired', retired, 'revision', revision)
     from column_def order by position, id`,
    [],
  );
  const named = await rowsOf<[string, string]>(
    connection,
    `select id::text, name from person union all select id::text, name from term union all select id::text, name from label
     union all select id::text, name from retention_class`,
    [],
  );
  const [owing] = await rowsOf<[unknown]>(connection, owingText, [null]);
  const terms = await rowsOf<[string, string[]]>(
    connection,
    'select id::text, other_names from term order by position, id',
    [],
  );
  return {
    columns: columns.map(([column]) => column),
    names: new Map(named),
    otherNames: new Map(terms.filter(([, others]) => others.length > 0)),
    termOrder: new Map(terms.map(([id], at) => [id, at])),
    timeZone: settings?.[0] ?? 'UTC',
    yearStartMonth: settings?.[1] ?? 1,
    owing: owingFrom(storedOwing.parse(owing?.[0])),
  };
}

/** Changes since a snapshot, and what a person may see, in one consistent read. */
const newsSchema = z.tuple([
  z.string(),
  z.array(z.string()),
  z.array(z.string()),
  z.boolean(),
  z.array(z.string()),
  z.array(z.string()),
  z.array(z.string()),
  z.number().nullable(),
  z.array(z.string()),
  z.array(z.string()),
  z.array(z.string()),
]);

/** What changed since a snapshot. */
export interface News {
  /** The snapshot for the next read. */
  readonly snapshot: string;
  readonly papers: readonly string[];
  readonly places: readonly string[];
  readonly world: boolean;
  readonly scopes: readonly string[];
  readonly groupMates: readonly string[];
  readonly labels: readonly string[];
  readonly lookedAtMs: number | null;
  /** Scopes in which they see only through a cross-filing. */
  readonly byOpening: readonly string[];
  /** Scopes that they manage. */
  readonly managed: readonly string[];
  /** Places where they have been lately. */
  readonly frequented: readonly string[];
}

/** So many places count as those where somebody works. */
const mostFrequented = 20;

/** Finds the changes that an earlier snapshot could not see; going on by number would miss late commits. */
const newChanges = `
  select subject, subject_id from tally_change
  where xid >= pg_snapshot_xmin($1::pg_snapshot) and not pg_visible_in_snapshot(xid, $1::pg_snapshot)`;

/** Reads what changed since a snapshot. */
export async function newsSince(
  connection: Connection,
  snapshot: string,
  { personId, shown }: { readonly personId: string; readonly shown: object | null },
  placeId: string,
): Promise<News> {
  const [row] = await rowsOf<unknown[]>(
    connection,
    `with fresh as materialized (${newChanges})
     select pg_current_snapshot()::text,
       array(select distinct subject_id::text from fresh where subject = 'paper'),
       array(select distinct subject_id::text from fresh where subject = 'place'),
       exists (select from fresh where subject = 'world'),
       array(select scope_id::text from scope_entry where person_id = $2::uuid and capabilities & ${bitOf('see')} <> 0),
       array(select distinct mate.person_id::text from membership as mine
             join membership as mate on mate.group_id = mine.group_id where mine.person_id = $2::uuid),
       array(select id::text from label where owner_id is null or owner_id = $4::uuid),
       (select extract(epoch from before)::float8 * 1000 from look where person_id = $2::uuid and place_id = $3::uuid),
       array(select scope_id::text from scope_entry where person_id = $2::uuid and by_opening),
       array(select scope_id::text from scope_entry where person_id = $2::uuid and capabilities & ${bitOf('manage')} <> 0),
       array(select place_id::text from look where person_id = $4::uuid order by at desc limit ${mostFrequented})`,
    [snapshot, personId, placeId, shown === null ? personId : null],
    'news',
  );
  const [seen, changed, places, world, scopes, groupMates, labels, lookedAtMs, byOpening, managed, frequented] =
    newsSchema.parse(row);
  return {
    snapshot: seen,
    papers: changed,
    places,
    world,
    scopes,
    groupMates,
    labels,
    lookedAtMs,
    byOpening,
    managed,
    frequented,
  };
}

/** By active person, the scopes in which they may see; keepers see in all. */
export async function openings(connection: Connection): Promise<ReadonlyMap<string, ReadonlySet<string>>> {
  const keepers = await rowsOf<[string]>(connection, 'select id::text from person where active and keeper', []);
  const scopes = await rowsOf<[string]>(connection, 'select id::text from scope', []);
  const entries = await rowsOf<[string, string[]]>(
    connection,
    `select person_id::text, array_agg(scope_id::text) from scope_entry
     join person on person.id = person_id and person.active and not person.keeper
     where capabilities & ${bitOf('see')} <> 0 group by 1`,
    [],
  );
  const everywhere = new Set(['', ...scopes.map(([id]) => id)]);
  return new Map([
    ...keepers.map(([id]) => [id, everywhere] as const),
    ...entries.map(([id, in_]) => [id, new Set(in_)] as const),
  ]);
}

/** The papers that are somebody's own, by way; nothing for nobody. */
export async function ownPapers(
  connection: Connection,
  personId: string | null,
): Promise<ReadonlyMap<OwnWay, ReadonlySet<string>>> {
  const own = new Map<OwnWay, ReadonlySet<string>>();
  for (const way of ownWays) {
    const rows = personId === null ? [] : await rowsOf<[string]>(connection, ownPapersSql[way], [personId]);
    own.set(way, new Set(rows.map(([id]) => id)));
  }
  return own;
}

/** The long texts in a column, by paper. */
export const longTextsOf = (connection: Connection, columnId: string): Promise<[string, string][]> =>
  rowsOf<[string, string]>(
    connection,
    'select id::text, shown_values ->> $1::text from document where disposed_at is null and shown_values ? $1::text',
    [columnId],
  );

/** Rows of a query as arrays. @param name under which the connection keeps the statement's plan. */
export async function rowsOf<Row extends readonly unknown[]>(
  connection: Connection,
  text: string,
  values: readonly unknown[],
  name?: string,
): Promise<Row[]> {
  const kept = name === undefined ? {} : { name };
  const result: QueryArrayResult = await connection.query({ ...kept, text, values: [...values], rowMode: 'array' });
  return result.rows as unknown as Row[];
}
