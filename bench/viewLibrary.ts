/**
 * Builds a large library for measuring views, or finds it again: 5,000 folders in 400 dossiers, 300 scopes, ten columns
 * with values, labels, and three people to whom all, a third and a fiftieth of it is open. Papers have no content.
 */
import { sql } from 'drizzle-orm';
import { Pool } from 'pg';
import type { Actor } from '@/server/gate/actor';
import { writableDb } from '@/server/db/client';
import { foundLibrary } from '@/server/library/found';

const folders = 5000;
const dossiers = 400;
const scopes = 300;
const people = 25;
const terms = 12;

export interface MeasuredLibrary {
  readonly rootId: string;
  readonly seriesId: string;
  readonly columns: Readonly<
    Record<
      'type' | 'status' | 'topics' | 'author' | 'amount' | 'day' | 'signed' | 'owner' | 'tenant' | 'length',
      string
    >
  >;
  readonly terms: readonly string[];
  readonly who: readonly { readonly name: string; readonly actor: Actor }[];
  /** How long building took; null for one that was there. */
  readonly builtMs: number | null;
}

const idOf = (kind: number, number: number): string =>
  `${String(kind).padStart(8, '0')}-0000-4000-8000-${String(number).padStart(12, '0')}`;
/** The same in SQL, for a number that stands in a row. */
const idIn = (kind: number, number: string): string =>
  `('${String(kind).padStart(8, '0')}-0000-4000-8000-' || lpad((${number})::text, 12, '0'))::uuid`;

const [placeKind, columnKind, termKind, personKind, scopeKind, labelKind, paperKind] = [10, 11, 12, 13, 14, 15, 16];
const columnNames = [
  'type',
  'status',
  'topics',
  'author',
  'amount',
  'day',
  'signed',
  'owner',
  'tenant',
  'length',
] as const;
const columnTypes = ['choice', 'choice', 'choices', 'text', 'amount', 'date', 'yesNo', 'person', 'dossier', 'number'];

/** Points this process at the database of a size, made from the template where it is not there yet. */
export async function measuredLibrary(
  papers: number,
  measured: 'views' | 'access' | 'search' = 'views',
): Promise<MeasuredLibrary> {
  const cluster = process.env['EMBRIN_TEST_CLUSTER'] ?? '';
  const name = `embrin_bench_${measured}_${papers}`;
  const admin = new Pool({ connectionString: cluster });
  const there = await admin.query('select from pg_database where datname = $1', [name]);
  if (there.rowCount === 0) await admin.query(`create database ${name} template embrin_template`);
  await admin.end();
  const own = new URL(cluster);
  own.pathname = `/${name}`;
  process.env['DATABASE_URL'] = own.href;
  const began = performance.now();
  const [count] = (await writableDb().execute<{ count: string }>(sql`select count(*) from document`)).rows;
  const whole = Number(count?.count) === papers;
  if (!whole) await build(papers);
  const [root] = (await writableDb().execute<{ id: string }>(sql`select id::text from place where kind = 'library'`))
    .rows;
  const [keeper] = (await writableDb().execute<{ id: string }>(sql`select id::text from person where keeper`)).rows;
  const actor = (personId: string, isKeeper: boolean): Actor => ({ personId, name: '', email: '', keeper: isKeeper });
  return {
    rootId: root?.id ?? '',
    seriesId: idOf(placeKind, 1),
    columns: Object.fromEntries(
      columnNames.map((each, at) => [each, idOf(columnKind, at)]),
    ) as MeasuredLibrary['columns'],
    terms: Array.from({ length: terms }, (_each, at) => idOf(termKind, at)),
    who: [
      { name: 'all', actor: actor(keeper?.id ?? '', true) },
      { name: 'a third', actor: actor(idOf(personKind, 1), false) },
      { name: '2 %', actor: actor(idOf(personKind, 2), false) },
    ],
    builtMs: whole ? null : performance.now() - began,
  };
}

async function build(papers: number): Promise<void> {
  await foundLibrary({
    libraryName: 'Measured',
    name: 'Keeper',
    email: 'keeper@measured.example',
    password: 'a password of some length',
    timeZone: 'Europe/London',
    yearStartMonth: 4,
  });
  const run = (text: string) => writableDb().execute(sql.raw(text));
  const root = `(select id from place where kind = 'library')`;
  await run(`insert into person (id, name, email, email_verified)
    select ${idIn(personKind, 'n')}, 'Person ' || n, 'person' || n || '@measured.example', true from generate_series(1, ${people}) as n`);
  // Places: six series, their dossiers, and in these the folders.
  await run(`insert into place (id, parent_id, kind, name, name_key, search_key, position, lineage)
    select ${idIn(placeKind, 'n')}, ${root}, 'series', 'Series ' || n, 'series ' || n, 'series ' || n, n, array[${root}, ${idIn(placeKind, 'n')}]
    from generate_series(1, 6) as n`);
  await run(`insert into place (id, parent_id, kind, name, name_key, search_key, position, lineage)
    select ${idIn(placeKind, 'n + 100')}, parent.id, 'dossier', 'Dossier ' || n, 'dossier ' || n, 'dossier ' || n, n, parent.lineage || ${idIn(placeKind, 'n + 100')}
    from generate_series(1, ${dossiers}) as n join place as parent on parent.id = ${idIn(placeKind, '1 + n % 6')}`);
  await run(`insert into place (id, parent_id, kind, name, name_key, search_key, position, filing_year, lineage)
    select ${idIn(placeKind, 'n + 1000')}, parent.id, 'folder', 'Folder ' || n, 'folder ' || n, 'folder ' || n, n, 2020 + n % 7, parent.lineage || ${idIn(placeKind, 'n + 1000')}
    from generate_series(1, ${folders}) as n join place as parent on parent.id = ${idIn(placeKind, `101 + n % ${dossiers}`)}`);
  // Scopes begin at the first dossiers; the others share that of the library.
  await run(
    `insert into scope (id, place_id) select ${idIn(scopeKind, 'n')}, ${idIn(placeKind, 'n + 100')} from generate_series(1, ${scopes}) as n`,
  );
  await run(
    `update place set scope_id = (select scope_id from place as top where top.kind = 'library') where kind <> 'library'`,
  );
  await run(`update place set scope_id = scope.id from scope where scope.place_id = any(place.lineage) and place.kind <> 'library'
    and scope.place_id <> ${root}`);
  await run(`insert into scope_entry (scope_id, person_id, capabilities)
    select ${idIn(scopeKind, 'n')}, ${idIn(personKind, '1')}, 1 from generate_series(1, ${scopes}) as n where n % 9 < 4`);
  await run(`insert into scope_entry (scope_id, person_id, capabilities)
    select ${idIn(scopeKind, 'n')}, ${idIn(personKind, '2')}, 1 from generate_series(1, ${scopes}) as n where n % 37 = 0`);
  await run(`insert into controlled_list (id, name, name_key) values ('${idOf(20, 1)}', 'List', 'list')`);
  await run(`insert into term (id, list_id, name, name_key, other_names, position)
    select ${idIn(termKind, 'n')}, '${idOf(20, 1)}', 'Term ' || n, 'term ' || n, '{}', n from generate_series(0, ${terms - 1}) as n`);
  for (const [at, type] of columnTypes.entries())
    await run(`insert into column_def (id, place_id, name, name_key, type, list_id, currency, position)
      select '${idOf(columnKind, at)}', id, '${columnNames[at]}', '${columnNames[at]}', '${type}',
        ${type.startsWith('choice') ? `'${idOf(20, 1)}'` : 'null'}, '${type === 'amount' ? 'GBP' : ''}', ${at} from place where kind = 'library'`);
  await run(
    `insert into label (id, name, name_key, hue) select ${idIn(labelKind, 'n')}, 'Label ' || n, 'label ' || n, 'plum' from generate_series(1, 8) as n`,
  );
  const column = (at: number) => `'${idOf(columnKind, at)}'`;
  // In pieces, each a commit, as papers come to a library.
  const piece = 50_000;
  for (let from = 0; from < papers; from += piece)
    await run(`insert into document (id, home_id, title, title_key, search_key, stamp, size_bytes, page_count, word_count, filed_by, filed_at, changed_by, changed_at, shown_values)
      select ${idIn(paperKind, 'n')}, ${idIn(placeKind, `1001 + (n::bigint * 7919) % ${folders}`)}, title, lower(title), lower(title),
        (array['PDF','DOC','SHEET','SCAN','MAIL'])[1 + n % 5], 20000 + (n::bigint * 104729) % 4000000, 1 + n % 60, (n::bigint * 31) % 20000,
        ${idIn(personKind, `1 + n % ${people}`)}, at, ${idIn(personKind, `1 + (n / 7) % ${people}`)}, at + interval '3 days',
        jsonb_strip_nulls(jsonb_build_object(
          ${column(0)}, ${idIn(termKind, `(n::bigint * 13) % ${terms}`)}, ${column(1)}, ${idIn(termKind, 'n % 3')},
          ${column(2)}, case when n % 4 > 0 then jsonb_build_array(${idIn(termKind, 'n % 5')}, ${idIn(termKind, '5 + n % 6')}) end,
          ${column(3)}, 'Author ' || (n::bigint * 17) % 1500, ${column(4)}, case when n % 3 = 0 then ((n::bigint * 7) % 1000000) / 100.0 end,
          ${column(5)}, to_char(at, 'YYYY-MM-DD'), ${column(6)}, n % 2 = 0, ${column(7)}, ${idIn(personKind, `1 + (n / 3) % ${people}`)},
          ${column(8)}, ${idIn(placeKind, `101 + n % ${dossiers}`)}, ${column(9)}, n % 300))
      from (select n, timestamptz '2020-04-01' + ((n::bigint * 7919) % 2400) * interval '1 day' + (n % 86400) * interval '1 second' as at,
          (array['Minutes', 'Agenda', 'Invoice', 'Survey report', 'Letter', 'Berth lease', 'Certificate'])[1 + n % 7] || ' ' || n as title
        from generate_series(${from + 1}, ${Math.min(from + piece, papers)}) as n) as made`);
  await run(`insert into document_label (document_id, label_id)
    select ${idIn(paperKind, 'n')}, ${idIn(labelKind, '1 + n % 8')} from generate_series(1, ${papers}, 5) as n`);
  await run('delete from tally_change');
  await run('vacuum analyze');
}
