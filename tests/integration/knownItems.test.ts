import { execFile } from 'node:child_process';
import { promisify } from 'node:util';
import { z } from 'zod';
import { config } from '@/server/base/config';
import { dropLibrary, freshLibrary } from '../library';

beforeAll(async () => {
  await freshLibrary();
});
afterAll(dropLibrary);

const measured = z.object({ success1: z.number(), success10: z.number(), mrr: z.number() });
const told = z.object({
  questions: z.number(),
  ours: measured,
  bm25: measured,
  tsRank: measured,
  tsRankByLength: measured,
});

/**
 * The index of PostgreSQL's documentation (Debian's `postgresql-doc`): terms by people, and the pages they lead to. In a
 * process of its own: the loader of tests makes the stemming of three million words ten times as slow.
 */
it('puts the page that an index made by people leads to among the first ten, more often than what it is compared with', async () => {
  const { stdout } = await promisify(execFile)(
    process.execPath,
    ['--import', 'tsx', 'bench/knownItems.ts', config().DATABASE_URL],
    { maxBuffer: 1_000_000 },
  );
  const { questions, ours, ...others } = told.parse(JSON.parse(stdout));
  expect(questions).toBeGreaterThan(2500);
  expect(ours.success10).toBeGreaterThanOrEqual(0.93);
  expect(ours.mrr).toBeGreaterThanOrEqual(0.75);
  for (const other of Object.values(others)) {
    expect(ours.success10).toBeGreaterThan(other.success10);
    expect(ours.mrr).toBeGreaterThan(other.mrr);
  }
});
