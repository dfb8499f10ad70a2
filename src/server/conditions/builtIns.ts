import { sql, type SQL } from 'drizzle-orm';
import { document, person } from '../db/schema';

/** A property of every paper in SQL. */
interface BuiltInSql {
  readonly value: SQL;
  /** What papers are sorted by, with its SQL type. Unknown counts come first, people by their name. */
  readonly sort: { readonly by: SQL; readonly type: string };
}

/** The name of the person who last changed a paper. (The joined `person` is the one who filed it.) */
export const changerName = sql<string>`(select changer.name from person as changer where changer.id = ${document.changedBy})`;

const plain = (value: SQL, type: string): BuiltInSql => ({ value, sort: { by: value, type } });
const count = (value: SQL): BuiltInSql => ({ value, sort: { by: sql`coalesce(${value}, 0)`, type: 'integer' } });

/** The properties of every paper that are columns of `document`, joined to the `person` who filed it. */
export const builtInSql = {
  title: plain(sql`${document.title}`, 'text'),
  kind: plain(sql`${document.stamp}`, 'text'),
  signature: plain(sql`${document.signature}`, 'text'),
  size: plain(sql`${document.sizeBytes}`, 'bigint'),
  pages: count(sql`${document.pageCount}`),
  words: count(sql`${document.wordCount}`),
  filedBy: { value: sql`${document.filedBy}`, sort: { by: sql`${person.name}`, type: 'text' } },
  filedAt: plain(sql`${document.filedAt}`, 'timestamptz'),
  changedBy: { value: sql`${document.changedBy}`, sort: { by: changerName, type: 'text' } },
  changedAt: plain(sql`${document.changedAt}`, 'timestamptz'),
} as const satisfies Readonly<Record<string, BuiltInSql>>;

/** The key of a property of every paper that SQL knows by itself. */
export type SqlProperty = keyof typeof builtInSql;

/** Whether a property is one of those. */
export const isSqlProperty = (of: string): of is SqlProperty => Object.hasOwn(builtInSql, of);
