import { readdir } from 'node:fs/promises';
import path from 'node:path';
import { config } from '../base/config';

/** Where Debian keeps the programs of each version of PostgreSQL. */
const versions = '/usr/lib/postgresql';

/** A program of PostgreSQL with what it needs to reach a database: nothing of that stands in its command line. */
export async function serverOf(name: 'pg_dump' | 'pg_restore', database?: string) {
  const address = new URL(config().DATABASE_URL);
  const [newest] = (await readdir(versions)).sort((one, other) => Number(other) - Number(one));
  if (newest === undefined) throw new Error('The programs of PostgreSQL are not installed (package postgresql)');
  return {
    program: path.join(versions, newest, 'bin', name),
    database: database ?? decodeURIComponent(address.pathname.slice(1)),
    env: {
      NODE_ENV: process.env.NODE_ENV,
      PATH: process.env['PATH'] ?? '',
      PGHOST: address.hostname,
      PGPORT: address.port === '' ? '5432' : address.port,
      PGUSER: decodeURIComponent(address.username),
      PGPASSWORD: decodeURIComponent(address.password),
    },
  };
}
