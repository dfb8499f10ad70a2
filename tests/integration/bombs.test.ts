import { eq } from 'drizzle-orm';
import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/gate/actor';
import { previewTable } from '@/server/interchange/table';
import { bytesFile, inFolder } from '@/server/cage/file';
import { CagedFault, pageLimits } from '@/server/cage/limits';
import { runProgram } from '@/server/cage/program';
import { writableDb } from '@/server/db/client';
import { document, readingAttempt, version } from '@/server/db/schema';
import { contentFor, currentOf } from '@/server/documents/content';
import { pageOf } from '@/server/documents/pages';
import { readStages, resultsOf } from '@/server/extraction/read';
import { stages } from '@/core/reading/stages';
import {
  deepPdf,
  emptyParagraphs,
  entityWorkbook,
  hugePng,
  hugeTiff,
  nestedArchive,
  wideWorkbook,
} from '../attack/bombs';
import { dropLibrary, freshLibrary, furnished, newcomer, refusedAs } from '../library';

let keeper: Actor;
let outsider: Actor;
let placeId: string;

beforeAll(async () => {
  keeper = await freshLibrary();
  outsider = await newcomer(keeper, 'Out Sider');
  placeId = (await furnished(keeper)).year.id;
});
afterAll(dropLibrary);

const megabytes = (bytes: number): number => bytes / 1_000_000;

/**
 * The longest turn of this process, which answers others meanwhile, and what it grew by. A turn counts for the processor
 * time that it took, not for the time that a busy machine kept it waiting: other tests run beside this one.
 */
async function meanwhile<T>(work: Promise<T>): Promise<{ result: T; longestMs: number; grownMb: number }> {
  const before = process.memoryUsage().rss;
  let [longestMs, last, used, over] = [0, performance.now(), process.cpuUsage(), false];
  const tick = () => {
    const [now, { user, system }] = [performance.now(), process.cpuUsage(used)];
    longestMs = Math.max(longestMs, Math.min(now - last, (user + system) / 1000));
    [last, used] = [now, process.cpuUsage()];
    if (!over) setTimeout(tick, 5);
  };
  tick();
  const result = await work.finally(() => (over = true));
  return { result, longestMs, grownMb: megabytes(process.memoryUsage().rss - before) };
}

const previewOf = (content: Buffer, who = keeper) =>
  refusedAs(previewTable(who, { placeId, form: 'xlsx', content: content.toString('base64') }));

describe('a workbook', () => {
  it('of 6,000 rows whose cell stands in the last column is refused, and nobody waits for it', async () => {
    const { result, longestMs, grownMb } = await meanwhile(previewOf(wideWorkbook(6000)));
    expect(result).toBe('too-large');
    expect(longestMs).toBeLessThan(1000);
    expect(grownMb).toBeLessThan(200);
  });

  it('whose entities unfold without end unfolds nothing', async () => {
    expect(['done', 'invalid', 'too-large']).toContain(await previewOf(entityWorkbook()));
  });

  it('of someone to whom the place is not open is not even read', async () => {
    expect(await previewOf(Buffer.from('no workbook at all'), outsider)).toBe('not-found');
  });
});

/** Files content and has it read as the worker does, until it is read or given up. `attempted` is how often each stage was begun before. */
async function read(fileName: string, content: Buffer, attempted = 0) {
  const id = await fileBuffer(keeper, placeId, fileName, content);
  const [row] = await writableDb().select({ sha256: version.sha256 }).from(version).where(eq(version.documentId, id));
  const sha256 = row?.sha256 ?? '';
  if (attempted > 0) await begun(sha256, attempted);
  let attempts = 0;
  for (let left = true; left && attempts < 10;) {
    attempts += 1;
    left = await readStages(sha256).then(
      () => false,
      () => true,
    );
  }
  const faults = (await resultsOf(sha256)).flatMap(({ why }) => (why === null ? [] : [why]));
  return { id, sha256, attempts, fault: faults[0] ?? null };
}

const begun = (sha256: string, attempts: number) =>
  writableDb()
    .insert(readingAttempt)
    .values(stages.map((stage) => ({ sha256, stage, attempts })));

describe('content that would take its reader along', () => {
  it('is tried twice and then marked', async () => {
    expect(await read('large.png', hugePng(50_000))).toMatchObject({ attempts: 2, fault: 'tooLarge' });
  });

  it('ends alone, and this process goes on', async () => {
    const bomb = emptyParagraphs(30_000_000);
    const { result, longestMs, grownMb } = await meanwhile(read('empty.docx', bomb, 1));
    expect(result.fault).toBe('tooLarge');
    expect(longestMs).toBeLessThan(1000);
    expect(grownMb).toBeLessThan(200);
  });

  it('is marked also where it took the whole process along, which could write nothing down', async () => {
    const id = await fileBuffer(keeper, placeId, 'deadly.txt', Buffer.from('deadly'));
    const [row] = await writableDb().select({ sha256: version.sha256 }).from(version).where(eq(version.documentId, id));
    const sha256 = row?.sha256 ?? '';
    await begun(sha256, 2);
    await readStages(sha256);
    const results = await resultsOf(sha256);
    expect(results.map(({ outcome, why }) => [outcome, why])).toEqual(stages.map(() => ['failed', 'brokeOff']));
  });

  it.each([
    ['deep.pdf', () => deepPdf(9)],
    ['huge.png', () => hugePng(60_000)],
    ['huge.tif', () => hugeTiff(60_000)],
    ['nested.zip', () => nestedArchive(2)],
  ])('%s is read or given up in good time, and drawn for nobody at any price', async (name, make) => {
    const { result, longestMs } = await meanwhile(read(name, make(), 1));
    expect(result.attempts).toBeLessThanOrEqual(stages.length + 1);
    expect(longestMs).toBeLessThan(1000);
    const content = await contentFor(keeper, currentOf(result.id), 'see');
    if (name !== 'deep.pdf')
      expect(['too-large', 'invalid', 'kind-refused']).toContain(await refusedAs(pageOf(content, 1)));
  });

  it('is ended by the system itself, also where whoever waited for it is gone', async () => {
    const ended = await inFolder(async (folder) => {
      const file = await bytesFile(folder, deepPdf(9));
      const words = ['-jpeg', '-singlefile', '-f', '1', '-l', '1', '-scale-to', '1600', file, `${folder}/page`];
      return runProgram('pdftocairo', words, folder, { ...pageLimits, cpuSeconds: 1 }).then(
        () => 'done',
        (error: unknown) => (error instanceof CagedFault ? error.why : String(error)),
      );
    });
    // Not `tooSlow`: nobody of ours had to stop it.
    expect(ended).toBe('brokeOff');
  });

  it('leaves a plain paper after it read as ever', async () => {
    const { id, fault } = await read('after.txt', Buffer.from('four words are here'));
    const [paper] = await writableDb().select({ words: document.wordCount }).from(document).where(eq(document.id, id));
    expect([paper?.words, fault]).toEqual([4, null]);
  });
});
