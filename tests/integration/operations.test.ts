import { sql } from 'drizzle-orm';
import { answering } from '@/app/http/answer';
import { contract, type OperationName } from '@/core/contract';
import { asks } from '@/server/acts/operation';
import { db } from '@/server/db/client';
import { place } from '@/server/db/schema';
import { sqlState } from '@/server/db/sqlState';
import type { Actor } from '@/server/gate/actor';
import { log } from '@/server/log/log';
import { noteCaller } from '@/server/log/request';
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

it('logs each request with who, where, how long and what became of it, under the number that its fault is shown with', async () => {
  const lines: Record<string, unknown>[] = [];
  const note = (line: unknown) => void lines.push(line as Record<string, unknown>);
  const [info, error] = [
    jest.spyOn(log(), 'info').mockImplementation(note),
    jest.spyOn(log(), 'error').mockImplementation(note),
  ];
  const answer = await answering('paper.rename', () => {
    noteCaller(keeper.personId);
    return Promise.reject(new Error('The secret name'));
  });
  info.mockRestore();
  error.mockRestore();
  const number = /Its number is (?<number>[0-9a-f]{8})\./u.exec(await answer.text())?.groups?.['number'];
  expect(number).toBeDefined();
  expect(lines).toEqual([
    expect.objectContaining({ fault: number, where: 'paper.rename' }),
    {
      request: number,
      where: 'paper.rename',
      person: keeper.personId,
      ms: expect.any(Number) as number,
      status: 500,
    },
  ]);
  expect(JSON.stringify(lines)).not.toContain('secret');
});
