/**
 * The questions of `views.ts` put to an embedded columnar engine that holds the same papers in memory, on two threads: what
 * a general engine would take. It is not a package of this project: `bin/bench views` puts it into the state folder.
 */
import { createWriteStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { Client } from 'pg';
import { to } from 'pg-copy-streams';
import { z } from 'zod';
import type { Actor } from '@/server/gate/actor';
import { firstLines } from '@/core/views/question';
import type { MeasuredLibrary } from './viewLibrary';

/** A question in the engine's SQL. */
export interface ColumnarQuestion {
  readonly where: string;
  /** What it groups by; null for no groups. */
  readonly by: string | null;
  readonly order: string;
}

interface Engine {
  run(sql: string): Promise<unknown>;
  runAndReadAll(sql: string): Promise<{ getRows(): unknown[][] }>;
}
interface EngineModule {
  readonly DuckDBInstance: {
    create(path: string, options: Record<string, string>): Promise<{ connect(): Promise<Engine> }>;
  };
}

const single = ['type', 'status', 'author', 'signed', 'owner', 'tenant'] as const;

/** Puts questions to the engine, and says how many papers it counted; null where the engine is not there. */
export async function columnarEngine(
  columns: MeasuredLibrary['columns'],
): Promise<((actor: Actor, asked: ColumnarQuestion) => Promise<number>) | null> {
  const beside = process.env['EMBRIN_BESIDE'];
  if (beside === undefined) return null;
  const { DuckDBInstance } = createRequire(join(beside, 'package.json'))('@duckdb/node-api') as EngineModule;
  const engine = await (await DuckDBInstance.create(':memory:', { threads: '2' })).connect();
  const client = new Client({ connectionString: process.env['DATABASE_URL'] });
  await client.connect();
  const load = async (table: string, sql: string, reading: string) => {
    const file = join(beside, `${table}.csv`);
    await pipeline(client.query(to(`copy (${sql}) to stdout (format csv, header)`)), createWriteStream(file));
    await engine.run(
      `create table ${table} as select ${reading} from read_csv('${file}', all_varchar = true, header = true)`,
    );
    await rm(file);
  };
  const value = (column: string) => `shown_values ->> '${column}'`;
  await load(
    'paper',
    `select document.id, title, document.search_key, stamp, size_bytes, page_count, filed_at, coalesce(document.scope_id, place.scope_id) as scope,
       ${single.map((each) => `${value(columns[each])} as ${each}`).join(', ')}, ${value(columns.day)} as day, ${value(columns.amount)} as amount,
       (select string_agg(each, ',') from jsonb_array_elements_text(shown_values -> '${columns.topics}') as each) as topics,
       (select string_agg(label_id::text, ',') from document_label where document_id = document.id) as labels
     from document join place on place.id = home_id`,
    `id::uuid as id, title, search_key, stamp, size_bytes::bigint as size_bytes, page_count::int as page_count, filed_at::timestamptz as filed_at,
       scope::uuid as scope, type::uuid as type, status::uuid as status, author, signed::boolean as signed, owner::uuid as owner,
       tenant::uuid as tenant, day::date as day, amount::decimal(18, 2) as amount, string_split(topics, ',')::uuid[] as topics,
       string_split(labels, ',')::uuid[] as labels`,
  );
  const { rows } = await client.query<{ person_id: string; scope_id: string }>(
    'select person_id, scope_id from scope_entry where capabilities & 1 <> 0',
  );
  await client.end();
  return async (actor, { where, by, order }) => {
    const scopes = rows.filter((row) => row.person_id === actor.personId).map((row) => `'${row.scope_id}'`);
    const from = `from paper where ${actor.keeper ? 'true' : `scope in (${scopes.join(', ')})`} and ${where}`;
    const ask = async (sql: string) => (await engine.runAndReadAll(sql)).getRows();
    const sums = 'count(*), sum(page_count), sum(size_bytes), sum(amount)';
    const total = await ask(`select ${sums} ${from}`);
    if (by !== null) await ask(`select ${by}, ${sums} ${from} group by all`);
    for (const column of [...single, 'stamp']) await ask(`select ${column}, count(*) ${from} group by 1`);
    await ask(`select date_trunc('month', day), count(*) ${from} group by 1`);
    for (const list of ['topics', 'labels'])
      await ask(`select each, count(*) from (select unnest(coalesce(${list}, [null])) as each ${from}) group by 1`);
    await ask(`select * ${from} order by ${order} limit ${firstLines}`);
    return Number(z.bigint().parse(total[0]?.[0]));
  };
}
