import { escapeIdentifier, Pool } from 'pg';

/**
 * Builds what takes the place of an empty database, in a copy of it: whatever ends that half-way, the database is as empty as before, and
 * the next time begins anew. What is set or granted for that database alone does not go along.
 * @param address of the database, to which nobody may be connected; its role owns it and may make others
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
