/**
 * Kills web process, worker and database at random moments while four people file, move, describe, restrict, copy, dispose,
 * destroy and export, and after each kill holds the library to what was acknowledged: nothing that was is missing, and
 * `verify` finds nothing wrong. Asks a library that `npm start` of this checkout keeps running, with the demo in it; leaves
 * papers behind.
 *   npm run bench:kills -- 60
 */
import { createHash, randomBytes } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Client } from 'pg';
import { verifyLibrary } from '@/server/verify/verify';
import { disconnect } from '@/server/db/client';

const kills = Number(process.argv[2] ?? 60);
const state = process.env['STATE'] ?? '.embrin';
const address = readFileSync(join(state, 'url'), 'utf8').trim();
const mostWaitMs = 60_000;
/** A kill falls at a random moment of so long a time of work. */
const workMs = 2500;

const pidIn = (file: string): number => Number(readFileSync(file, 'utf8').split('\n')[0]);
const cluster = process.env['EMBRIN_CLUSTER'] ?? join(state, 'pg-main');
const victims: readonly (readonly [string, () => number])[] = [
  ['web', () => pidIn(join(state, 'web.pid'))],
  ['worker', () => pidIn(join(state, 'worker.pid'))],
  ['database', () => pidIn(join(cluster, 'data', 'postmaster.pid'))],
];
if (!existsSync(join(cluster, 'data', 'postmaster.pid'))) throw new Error('EMBRIN_CLUSTER names no running cluster');

/** Someone who is signed in. */
class Person {
  private constructor(
    readonly name: string,
    readonly cookie: string,
  ) {}

  static async signIn(name: string): Promise<Person> {
    const signedIn = await fetch(`${address}/api/auth/sign-in/email`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', origin: address },
      body: JSON.stringify({ email: `${name}@saltmarrow.example`, password: 'high water at saltmarrow' }),
    });
    if (!signedIn.ok) throw new Error(`${name} was not let in: ${signedIn.status}`);
    const cookies = signedIn.headers.getSetCookie().map((each) => each.split(';')[0]);
    return new Person(name, cookies.join('; '));
  }

  /** What an operation answers; null where it was not acknowledged. */
  async call<T = unknown>(operation: string, input: unknown): Promise<T | null> {
    const answered = await this.send(`/api/call/${operation}`, 'POST', JSON.stringify(input), {
      'content-type': 'application/json',
    });
    return answered?.ok ? ((await answered.json().catch(() => null)) as T | null) : null;
  }

  send(path: string, method: string, body: string | Uint8Array | null, headers: Record<string, string>) {
    return fetch(`${address}${path}`, {
      method,
      headers: { cookie: this.cookie, origin: address, ...headers },
      body: body as BodyInit | null,
      signal: AbortSignal.timeout(15_000),
    }).catch(() => null);
  }

  /** Sends a file as a browser does. The id of the paper; null where that was not acknowledged. */
  async file(placeId: string, fileName: string, bytes: Uint8Array): Promise<string | null> {
    const id = crypto.randomUUID();
    const metadata = Object.entries({ placeId, fileName, id, onSameName: 'both', onSameContent: 'file' });
    const sent = await this.send('/api/uploads', 'POST', bytes, {
      'tus-resumable': '1.0.0',
      'upload-length': String(bytes.length),
      'upload-metadata': metadata.map(([key, value]) => `${key} ${Buffer.from(value).toString('base64')}`).join(','),
      'content-type': 'application/offset+octet-stream',
    });
    if (!sent?.ok) return null;
    const outcome = await this.call<{ state: string; documentId?: string }>('upload.outcome', { uploadId: id });
    return outcome?.state === 'filed' ? (outcome.documentId ?? null) : null;
  }
}

/** What is known of a paper: as it was acknowledged, and as an act that was not acknowledged would have made it. */
interface Known {
  readonly homeId: string;
  readonly title: string;
  readonly state: 'filed' | 'disposed' | 'destroyed';
  readonly sha256: string;
}
const acknowledged = new Map<string, Known>();
const attempted = new Map<string, Known[]>();

let [done, turnedAway, exported] = [0, 0, 0];
/** Acts on a paper, and notes what became of it. */
async function act(id: string, next: Partial<Known>, doing: () => Promise<unknown>): Promise<void> {
  const before = acknowledged.get(id);
  if (!before) return;
  const after = { ...before, ...next };
  attempted.set(id, [...(attempted.get(id) ?? []), after]);
  if ((await doing()) === null) {
    turnedAway += 1;
    await pause(60);
    return;
  }
  done += 1;
  acknowledged.set(id, after);
  attempted.delete(id);
}

const pause = (ms: number): Promise<void> => new Promise((next) => setTimeout(next, ms));
const pick = <T>(some: readonly T[]): T | undefined => some[Math.floor(Math.random() * some.length)];

let running = true;
/** One person who works in two folders of their own, one act after the other, whatever happens. */
async function works(person: Person, folders: readonly [string, string]): Promise<void> {
  const mine: string[] = [];
  for (let at = 0; running; at += 1) {
    const alive = mine.filter((id) => acknowledged.get(id)?.state !== 'destroyed');
    const id = pick(alive);
    const known = id === undefined ? undefined : acknowledged.get(id);
    const what =
      alive.length < 12 ? 'file' : pick(['file', 'move', 'rename', 'restrict', 'dispose', 'copy', 'export', 'remark']);
    if (what === 'file' || !id || !known) {
      const bytes = new Uint8Array(
        Buffer.from(`${person.name} ${at}\n${randomBytes(600 + (at % 7) * 40_000).toString('hex')}`),
      );
      const title = `${person.name} ${Date.now()} ${at}`;
      const made = await person.file(folders[0], `${title}.txt`, bytes);
      if (made === null) {
        turnedAway += 1;
        await pause(60);
        continue;
      }
      done += 1;
      mine.push(made);
      const sha256 = createHash('sha256').update(bytes).digest('hex');
      acknowledged.set(made, { homeId: folders[0], title, state: 'filed', sha256 });
    } else if (known.state === 'disposed') {
      if (at % 3 === 0)
        await act(id, { state: 'destroyed' }, () => person.call('papers.destroy', { documentIds: [id] }));
      else await act(id, { state: 'filed' }, () => person.call('papers.putBack', { documentIds: [id] }));
    } else if (what === 'move') {
      const homeId = known.homeId === folders[0] ? folders[1] : folders[0];
      await act(id, { homeId }, () => person.call('papers.move', { documentIds: [id], toId: homeId }));
    } else if (what === 'rename') {
      const docket = await person.call<{ revision: number }>('paper.docket', { documentId: id });
      const title = `${known.title.slice(0, 60)} ${at}`;
      if (docket)
        await act(id, { title }, () =>
          person.call('paper.rename', { documentId: id, title, revision: docket.revision }),
        );
    } else if (what === 'restrict') {
      const sheet = await person.call<{ revision: number; follows: boolean }>('access.sheet', {
        on: { kind: 'paper', id },
      });
      if (sheet)
        await act(id, {}, () =>
          person.call('access.set', {
            on: { kind: 'paper', id },
            follows: true,
            revision: sheet.revision,
            message: null,
            grants: at % 2 ? [{ subject: { kind: 'everyone' }, gives: ['see'], withholds: [] }] : [],
          }),
        );
    } else if (what === 'dispose') {
      await act(id, { state: 'disposed' }, () => person.call('papers.dispose', { documentIds: [id] }));
    } else if (what === 'copy') {
      const made = await person.call<{ copies: string[] }>('papers.copy', {
        documentIds: [id],
        toIds: [folders[1]],
        onSameName: 'number',
      });
      if (made) done += 1;
      else turnedAway += 1;
    } else if (what === 'export') {
      const asked = await person.call<{ exportId: string }>('export.ask', { what: { papers: [id] } });
      if (asked) exported += Number(await fetched(person, asked.exportId));
    } else {
      const docket = await person.call<{ revision: number }>('paper.docket', { documentId: id });
      if (docket)
        await act(id, {}, () =>
          person.call('paper.setRemark', { documentId: id, remark: `At ${at}`, revision: docket.revision }),
        );
    }
  }
}

/** Whether an archive came that was acknowledged as made, of the length that was said. */
async function fetched(person: Person, exportId: string): Promise<boolean> {
  for (let tries = 0; tries < 40 && running; tries += 1) {
    const all = await person.call<{ id: string; state: string; bytes: number }[]>('exports.mine', {});
    const found = all?.find((each) => each.id === exportId);
    if (found?.state === 'done') {
      const archive = await person.send(`/api/export/${exportId}`, 'GET', null, {});
      const bytes = archive?.ok ? await archive.arrayBuffer().catch(() => null) : null;
      await person.call('export.remove', { exportId });
      return bytes?.byteLength === found.bytes;
    }
    if (found?.state === 'failed') return false;
    await pause(250);
  }
  return false;
}

/** Where the library is not as it was acknowledged. */
async function missing(database: Client): Promise<string[]> {
  const { rows } = await database.query<{ id: string; home: string; title: string; disposed: boolean; sha256: string }>(
    `select document.id, home_id as home, title, disposed_at is not null as disposed, version.sha256
     from document join version on version.id = document.version_id where document.id = any($1::uuid[])`,
    [[...acknowledged.keys()]],
  );
  const there = new Map(rows.map((row) => [row.id, row]));
  const agrees = (id: string, { homeId, title, state, sha256 }: Known): boolean => {
    const row = there.get(id);
    if (!row) return state === 'destroyed';
    return (
      state !== 'destroyed' &&
      row.home === homeId &&
      row.title === title &&
      row.disposed === (state === 'disposed') &&
      row.sha256 === sha256
    );
  };
  const wrong: string[] = [];
  for (const [id, known] of acknowledged) {
    if (agrees(id, known)) continue;
    // An act that was not acknowledged may have been done all the same: then that is what holds from here on.
    const other = attempted.get(id)?.find((each) => agrees(id, each));
    if (other) acknowledged.set(id, other);
    else wrong.push(`${id} is not as it was acknowledged: ${JSON.stringify({ known, found: there.get(id) ?? null })}`);
  }
  return wrong;
}

const maren = await Person.signIn('maren');
const series = await maren.call<{ id: string }[]>('places.series', {});
const children = await maren.call<{ id: string; kind: string }[]>('place.children', { placeId: series?.[0]?.id });
const dossier = children?.find((each) => each.kind === 'dossier');
const people = await maren.call<{ people: { id: string; email: string }[] }>('people.list', {});
async function folderFor(name: string): Promise<string> {
  const made = await maren.call<{ id: string }>('folder.create', {
    parentId: dossier?.id,
    name: `Kills ${Date.now()} ${name}`,
  });
  const person = people?.people.find(({ email }) => email.startsWith(`${name}@`));
  if (!made || !person) throw new Error(`There is no folder for ${name}`);
  await maren.call('access.set', {
    on: { kind: 'place', id: made.id },
    follows: true,
    revision: 0,
    message: null,
    grants: [{ subject: { kind: 'person', id: person.id }, gives: ['manage'], withholds: [] }],
  });
  return made.id;
}
const working: Promise<void>[] = [];
for (const name of ['maren', 'petra', 'tobias', 'oona'])
  working.push(works(await Person.signIn(name), [await folderFor(name), await folderFor(name)]));

const waits = new Map<string, number[]>();
const faults: string[] = [];
console.log('| kill | killed | gone on after | acknowledged so far | verify | missing |');
console.log('| ---: | --- | ---: | ---: | --- | --- |');
for (let at = 1; at <= kills; at += 1) {
  await pause(500 + Math.random() * workMs);
  const [name, pid] = victims[at % victims.length] ?? ['', () => -1];
  process.kill(pid(), 'SIGKILL');
  const from = performance.now();
  // Gone on means: what somebody signed in asks is answered again.
  while ((await maren.call('places.series', {})) === null) {
    if (performance.now() - from > mostWaitMs)
      throw new Error(`Nothing answered a minute after the ${name} was killed`);
    await pause(100);
  }
  const wait = performance.now() - from;
  waits.set(name, [...(waits.get(name) ?? []), wait]);
  const database = new Client({ connectionString: process.env['DATABASE_URL'] });
  await database.connect();
  // Twice: an act that was under way at the first look has ended by the second.
  let lost = await missing(database);
  if (lost.length > 0) {
    await pause(2000);
    lost = await missing(database);
  }
  await database.end();
  const differences = await verifyLibrary({ contentBytes: true });
  await disconnect();
  faults.push(...lost, ...differences.map((each) => JSON.stringify(each)));
  console.log(
    `| ${at} | ${name} | ${(wait / 1000).toFixed(1)} s | ${done} | ${differences.length === 0 ? 'nothing wrong' : `${differences.length} wrong`} | ${lost.length === 0 ? 'none' : lost.length} |`,
  );
}
running = false;
await Promise.all(working);
console.log('');
for (const [name, all] of waits) {
  const sorted = [...all].sort((a, b) => a - b);
  const seconds = (ms: number | undefined) => ((ms ?? 0) / 1000).toFixed(1);
  console.log(
    `${name}: killed ${all.length} times; gone on after ${seconds(sorted[Math.floor(all.length / 2)])} s in the middle, ${seconds(sorted.at(-1))} s at most`,
  );
}
console.log(`${done} acts were acknowledged, ${turnedAway} turned away, ${exported} archives received whole.`);
for (const fault of faults.slice(0, 50)) console.log(fault);
process.exitCode = faults.length === 0 ? 0 : 1;
