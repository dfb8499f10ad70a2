import { sql, type SQL, type SQLWrapper } from 'drizzle-orm';

/** A column of ids that is one of these: a single parameter however many there are, so that long lists cost little to write and to plan. */
export const idIn = (column: SQLWrapper, ids: Iterable<string>): SQL =>
  sql`${column} = any(${sql.param([...ids])}::uuid[])`;
