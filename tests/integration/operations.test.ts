import { sql } from 'drizzle-orm';
import { contract, type OperationName } from '@/core/contract';
import { asks } from '@/server/acts/operation';
import { db } from '@/server/db/client';
import { place } from '@/server/db/schema';
import { sqlState } from '@/server/db/sqlState';
import type { Actor } from '@/server/gate/actor';
import { operations } from '@/server/operations/operations';
import { dropLibrary, freshLibrary } from '../library';

let keeper: Actor;
beforeAll(async () => {
  keeper = await freshLibrary();
});
afterAll(dropLibrary);

it('keeps each use-case under the name of its own operation', () => {
  for (const name of Object.keys(contract) as OperationName[]) expect(operations[name].operation).toBe(name);
});

it('lets no question write, whatever its code says', async () => {
  const writing = asks('library.settings', async () => {
    await db().execute(sql`update ${place} set name = 'changed'`);
    throw new Error('it was written');
  });
  const failed = await writing(keeper).catch((error: unknown) => error);
  // read_only_sql_transaction, PostgreSQL's Appendix A.
  expect(sqlState(failed)).toBe('25006');
});
