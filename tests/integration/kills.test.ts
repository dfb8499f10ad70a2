import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, rmSync } from 'node:fs';
import { readdir } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { createInterface } from 'node:readline';
import { build } from 'esbuild';
import { and, count, eq, inArray } from 'drizzle-orm';
import { storeNames, type StoreName } from '@/core/content/model';
import { Chance } from '@/core/chance/chance';
import type { Actor } from '@/server/gate/actor';
import { makeDirectory, incomingFolder, keptFolder } from '@/server/blobs/directory';
import { sweepDirectory } from '@/server/blobs/sweep';
import { db, writableDb } from '@/server/db/client';
import { blob, document, library, upload, version } from '@/server/db/schema';
import { isUnfinished } from '@/server/db/unfinished';
import { createFolder } from '@/server/places/create';
import { verifyLibrary } from '@/server/verify/verify';
import { dropLibrary, freshLibrary, furnished } from '../library';

const kills = 24;
/** How many file at once. */
const atOnce = 3;

let keeper: Actor;
let home: Awaited<ReturnType<typeof furnished>>;
// Inside the project, where packages are found.
const filer = path.join(process.cwd(), '.embrin', `filer-${process.pid}.mjs`);
const folder = mkdtempSync(path.join(tmpdir(), 'embrin-kills-'));

beforeAll(async () => {
  process.env['EMBRIN_CONTENT'] = path.join(folder, 'content');
  keeper = await freshLibrary();
  home = await furnished(keeper);
  await makeDirectory();
  // Bundled: from source each would take longer to start than it lives.
  await build({
    entryPoints: [path.join(__dirname, 'filer.ts')],
    outfile: filer,
    bundle: true,
    format: 'esm',
    platform: 'node',
    packages: 'external',
  });
});
afterAll(async () => {
  await dropLibrary();
  rmSync(folder, { recursive: true, force: true });
  rmSync(filer, { force: true });
});

const seed = 20_261_126;
const chance = new Chance(seed);

/** A process that files papers, killed at some moment after its first few, however fast the machine is. Returns the papers that it was told were filed. */
async function killed(placeId: string, name: string): Promise<string[]> {
  const child = spawn(process.execPath, [filer, JSON.stringify(keeper), placeId, name], {
    env: { ...process.env, NODE_OPTIONS: '' },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  const filed: string[] = [];
  const most = 1 + Math.floor(chance.next() * 4);
  let said = '';
  child.stderr.on('data', (data: Buffer) => (said += data.toString()));
  createInterface({ input: child.stdout }).on('line', (line) => {
    if (filed.push(line) === most) setTimeout(() => child.kill('SIGKILL'), chance.next() * 200);
  });
  const [, signal] = (await once(child, 'exit')) as [number | null, string | null];
  if (signal !== 'SIGKILL') throw new Error(`It ended by itself: ${said.slice(-1500)}`);
  return filed;
}

const filesIn = async (of: string) =>
  (await readdir(of, { recursive: true, withFileTypes: true })).filter((entry) => entry.isFile()).length;

it.each(storeNames)(
  `content in %s: after ${kills} kills at random moments no paper is without its content, and none is left over (seed ${seed})`,
  async (store: StoreName) => {
    await writableDb().update(library).set({ contentStore: store });
    const { id: placeId } = await createFolder(keeper, { parentId: home.year.id, name: `Kills, ${store}` });
    const told: string[] = [];
    let next = 0;
    await Promise.all(
      Array.from({ length: atOnce }, async () => {
        while (next < kills) {
          next += 1;
          told.push(...(await killed(placeId, `${store} ${next}`)));
        }
      }),
    );
    expect(told.length).toBeGreaterThan(kills);
    // What somebody was told is filed, is.
    const there = await db().$count(document, inArray(document.id, told));
    expect(there).toBe(told.length);
    const versions = await db()
      .select({ papers: count() })
      .from(document)
      .innerJoin(version, eq(version.id, document.versionId))
      .innerJoin(blob, eq(blob.sha256, version.sha256))
      .where(eq(document.homeId, placeId));
    expect(versions[0]?.papers).toBe(await db().$count(document, eq(document.homeId, placeId)));
    expect(await verifyLibrary({ contentBytes: true })).toEqual([]);
    if (store === 'rows') return;
    await sweepDirectory(0);
    expect(await filesIn(keptFolder())).toBe(await db().$count(blob, eq(blob.store, store)));
    const waiting = await db().$count(upload, and(eq(upload.store, store), isUnfinished));
    expect(await filesIn(incomingFolder())).toBeLessThanOrEqual(waiting);
    expect(await verifyLibrary({ contentBytes: true })).toEqual([]);
  },
);
