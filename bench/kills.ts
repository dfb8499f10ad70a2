/**
 * Kills web process, worker and database in turn while people work, and measures how long each is kept from going on. Asks a
 * library that `npm start` of this checkout keeps running, with the demo in it; leaves folders and papers behind.
 *   npm run bench:kills -- 30
 */
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

const kills = Number(process.argv[2] ?? 30);
const state = process.env['STATE'] ?? '.embrin';
const address = readFileSync(join(state, 'url'), 'utf8').trim();
const mostWaitMs = 60_000;

const pidIn = (file: string): number => Number(readFileSync(file, 'utf8').split('\n')[0]);
const cluster = process.env['EMBRIN_CLUSTER'] ?? join(state, 'pg-main');
const victims: readonly (readonly [string, () => number])[] = [
  ['web', () => pidIn(join(state, 'web.pid'))],
  ['worker', () => pidIn(join(state, 'worker.pid'))],
  ['database', () => pidIn(join(cluster, 'data', 'postmaster.pid'))],
];
if (!existsSync(join(cluster, 'data', 'postmaster.pid'))) throw new Error('EMBRIN_CLUSTER names no running cluster');

const signedIn = await fetch(`${address}/api/auth/sign-in/email`, {
  method: 'POST',
  headers: { 'content-type': 'application/json', origin: address },
  body: JSON.stringify({ email: 'maren@saltmarrow.example', password: 'high water at saltmarrow' }),
});
if (!signedIn.ok) throw new Error(`The demo's keeper was not let in: ${signedIn.status}`);
const cookie = signedIn.headers
  .getSetCookie()
  .map((each) => each.split(';')[0])
  .join('; ');

async function ask(name: string, input: unknown): Promise<Response | null> {
  return fetch(`${address}/api/call/${name}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', cookie },
    body: JSON.stringify(input),
    signal: AbortSignal.timeout(8000),
  }).catch(() => null);
}
const [series] = (await (await ask('places.series', {}))?.json()) as { id: string }[];
const children = (await (await ask('place.children', { placeId: series?.id }))?.json()) as {
  id: string;
  kind: string;
}[];
const dossier = children.find((each) => each.kind === 'dossier');

let [running, made, refused] = [true, 0, 0];
/** One person who makes folders, one after the other, whatever happens. */
async function works(who: number): Promise<void> {
  for (let at = 0; running; at += 1) {
    const answered = await ask('folder.create', { parentId: dossier?.id, name: `Kill ${Date.now()} ${who} ${at}` });
    if (answered?.ok) made += 1;
    else refused += 1;
    if (!answered?.ok) await new Promise((next) => setTimeout(next, 100));
  }
}
const people = Array.from({ length: 4 }, (_, who) => works(who));

const waits = new Map<string, number[]>();
for (let at = 0; at < kills; at += 1) {
  const [name, pid] = victims[at % victims.length] ?? ['', () => -1];
  process.kill(pid(), 'SIGKILL');
  const from = performance.now();
  // Gone on means: what somebody signed in asks and does is done again.
  for (;;) {
    const answered = await ask('places.series', {});
    if (answered?.ok) break;
    if (performance.now() - from > mostWaitMs)
      throw new Error(`Nothing answered a minute after the ${name} was killed`);
    await new Promise((next) => setTimeout(next, 100));
  }
  waits.set(name, [...(waits.get(name) ?? []), performance.now() - from]);
  await new Promise((next) => setTimeout(next, 1500));
}
running = false;
await Promise.all(people);
for (const [name, all] of waits) {
  const sorted = [...all].sort((a, b) => a - b);
  const seconds = (ms: number | undefined) => ((ms ?? 0) / 1000).toFixed(1);
  console.log(
    `${name}: killed ${all.length} times; gone on after ${seconds(sorted[Math.floor(all.length / 2)])} s, ${seconds(sorted.at(-1))} s at most`,
  );
}
console.log(`${made} folders were made meanwhile, ${refused} attempts were turned away.`);
