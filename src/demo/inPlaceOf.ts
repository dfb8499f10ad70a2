import { escapeIdentifier, Pool } from 'pg';

/**
 * Builds what takes the place of an empty database, in a copy of it: whatever ends that half-way, the database is as empty as before, and
 * the next time begins anew. Where the role may make no databases, or does not own this one, it is built in place.
 * @param address of the database, to which nobody may be connected
 * @param build is given the address at which to build; it has ended its own connections once it is through
 */
export async function inPlaceOf(address: string, build: (address: string) => Promise<void>): Promise<void> {
  const name = decodeURIComponent(new URL(address).pathname.slice(1));
  const making = `${name}_making`;
  const at = (database: string): string => {
    const own = new URL(address);
    own.pathname = `/${encodeURIComponent(database)}`;
    return own.href;
  };
  const beside = new Pool({ connectionString: at('postgres'), max: 1 });
  try {
    if (!(await mayReplace(beside, name))) {
      await build(address);
      return;
    }
    await beside.query(`drop database if exists ${escapeIdentifier(making)} with (force)`);
    await beside.query(`create database ${escapeIdentifier(making)} template ${escapeIdentifier(name)}`);
    await build(at(making));
    // Between the two there is none of that name: the start command makes an empty one.
    await beside.query(`drop database ${escapeIdentifier(name)}`);
    await beside.query(`alter database ${escapeIdentifier(making)} rename to ${escapeIdentifier(name)}`);
  } finally {
    await beside.end();
  }
}

/** Whether the role may make databases, and owns this one. */
async function mayReplace(beside: Pool, name: string): Promise<boolean> {
  const { rowCount } = await beside
    .query(
      `select from pg_database as base join pg_roles as own on own.oid = base.datdba
        where base.datname = $1 and own.rolname = current_user and (own.rolcreatedb or own.rolsuper)`,
      [name],
    )
    // A role that may not even connect there.
    .catch(() => ({ rowCount: 0 }));
  return rowCount === 1;
}
