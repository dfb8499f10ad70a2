/**
 * Measures a large file's way in and out through a real web process: `npm run bench:transfer [-- --megabytes 1000]`.
 * Beside each, in the same run and on the same database, a bare loop that writes or reads the same pieces through the
 * same driver. Then the same file again with the process killed in its midst, and the SHA-256 of what comes back.
 */
import { createHash, randomBytes } from 'node:crypto';
import { once } from 'node:events';
import { readFile, readdir } from 'node:fs/promises';
import { request, type IncomingMessage } from 'node:http';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { eq } from 'drizzle-orm';
import { Pool } from 'pg';
import { writableDb } from '@/server/db/client';
import { library, upload } from '@/server/db/schema';
import { chunkBytes } from '@/server/blobs/blobStore';
import { dropPlanted, freshLibrary, furnished, passwords } from '../tests/library';
import { WebServer } from '../tests/browser/server';

const asked = process.argv.indexOf('--megabytes');
const pieces = asked === -1 ? 1000 : Number(process.argv[asked + 1]);
if (!Number.isInteger(pieces) || pieces < 2) throw new Error('Say how many megabytes: --megabytes 1000');
const sizeBytes = pieces * chunkBytes;

/** The file: pieces that differ from one another, made of one random piece so that making them costs next to nothing. */
const grain = randomBytes(chunkBytes);
function piece(run: number, index: number): Buffer {
  const made = Buffer.from(grain);
  made.write(index === 0 ? '%PDF-1.7\n' : `run ${run} piece ${index}\n`);
  return made;
}
function* file(run: number, fromByte: number, count = pieces): Generator<Buffer> {
  const first = Math.floor(fromByte / chunkBytes);
  for (let index = first; index < count; index += 1)
    yield index === first ? piece(run, index).subarray(fromByte % chunkBytes) : piece(run, index);
}
const hashOf = (run: number): string => {
  const hash = createHash('sha256');
  for (const each of file(run, 0)) hash.update(each);
  return hash.digest('hex');
};

const seconds = async (work: () => Promise<unknown>): Promise<number> => {
  const began = performance.now();
  await work();
  return (performance.now() - began) / 1000;
};

/** Resident memory of the web process and its children, in MB, watched while something runs. */
class MemoryWatch {
  #most = 0;
  readonly #timer: NodeJS.Timeout;
  constructor(readonly pid: number) {
    this.#timer = setInterval(() => void residentMb(pid).then((now) => (this.#most = Math.max(this.#most, now))), 100);
  }
  end(): number {
    clearInterval(this.#timer);
    return this.#most;
  }
}

async function residentMb(root: number): Promise<number> {
  let kilobytes = 0;
  for (const name of (await readdir('/proc')).filter((each) => /^\d+$/u.test(each))) {
    const status = await readFile(`/proc/${name}/status`, 'utf8').catch(() => '');
    const parent = Number(/^PPid:\s+(\d+)/mu.exec(status)?.[1]);
    if (Number(name) === root || parent === root) kilobytes += Number(/^VmRSS:\s+(\d+)/mu.exec(status)?.[1] ?? 0);
  }
  return kilobytes / 1000;
}

const keeper = await freshLibrary();
const { year } = await furnished(keeper);
await writableDb().update(library).set({ maxFileBytes: 4_000_000_000 });
const server = await WebServer.start();
const tus = { 'tus-resumable': '1.0.0', origin: server.url };

async function signIn(): Promise<string> {
  const response = await fetch(`${server.url}/api/auth/sign-in/email`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', origin: server.url },
    body: JSON.stringify({ email: keeper.email, password: passwords.keeper }),
  });
  if (!response.ok) throw new Error(`Could not sign in: ${await response.text()}`);
  return response.headers
    .getSetCookie()
    .map((each) => each.split(';')[0])
    .join('; ');
}
const cookie = await signIn();

async function begin(fileName: string, count = pieces): Promise<string> {
  const metadata = Object.entries({ placeId: year.id, fileName }).map(([key, value]) => `${key} ${btoa(value)}`);
  const made = await fetch(`${server.url}/api/uploads`, {
    method: 'POST',
    headers: { ...tus, cookie, 'upload-length': String(count * chunkBytes), 'upload-metadata': metadata.join(',') },
  });
  if (made.status !== 201) throw new Error(`The upload did not begin: ${made.status} ${await made.text()}`);
  return new URL(made.headers.get('location') ?? '', server.url).href;
}

/** Sends the rest of a file. By Node's plain client, for the sender shares these two cores with what is measured. */
async function send(address: string, run: number, fromByte: number, count = pieces): Promise<void> {
  const sending = request(address, {
    method: 'PATCH',
    headers: {
      ...tus,
      cookie,
      'upload-offset': String(fromByte),
      'content-type': 'application/offset+octet-stream',
      'content-length': String(count * chunkBytes - fromByte),
    },
  });
  const answered = once(sending, 'response') as Promise<[IncomingMessage]>;
  answered.catch(() => undefined);
  await pipeline(Readable.from(file(run, fromByte, count)), sending);
  const [response] = await answered;
  response.resume();
  if (response.statusCode !== 204) throw new Error(`The upload broke off: ${response.statusCode}`);
}

async function arrived(address: string): Promise<number> {
  const response = await fetch(address, { method: 'HEAD', headers: { ...tus, cookie } });
  return Number(response.headers.get('upload-offset'));
}

async function outcome(address: string): Promise<string> {
  const response = await fetch(`${server.url}/api/call/upload.outcome`, {
    method: 'POST',
    headers: { cookie, origin: server.url, 'content-type': 'application/json' },
    body: JSON.stringify({ uploadId: address.split('/').at(-1) }),
  });
  const told = (await response.json()) as { state: string; documentId?: string };
  if (told.state !== 'filed' || !told.documentId) throw new Error(`Not filed: ${JSON.stringify(told)}`);
  return told.documentId;
}

async function fetchBack(documentId: string): Promise<string> {
  const asking = request(`${server.url}/api/paper/${documentId}/content?copy`, { headers: { cookie } });
  asking.end();
  const [response] = (await once(asking, 'response')) as [IncomingMessage];
  const hash = createHash('sha256');
  for await (const each of response) hash.update(each as Uint8Array);
  return hash.digest('hex');
}

// The bare loops, through the same driver: one connection, the pieces one after the other.
const bare = new Pool({ connectionString: process.env['DATABASE_URL'], max: 1 });
await bare.query('create table bare (id int, start_byte bigint, data bytea, primary key (id, start_byte))');
await bare.query('alter table bare alter column data set storage external');
const writeBare = async () => {
  for (let index = 0; index < pieces; index += 1)
    await bare.query({
      name: 'write',
      text: 'insert into bare values (1, $1, $2)',
      values: [index * chunkBytes, piece(0, index)],
    });
};
const readBare = async () => {
  for (let index = 0; index < pieces; index += 1)
    await bare.query({
      name: 'read',
      text: 'select data from bare where id = 1 and start_byte = $1',
      values: [index * chunkBytes],
    });
};

// Once in small, so that what is loaded on first use is not counted.
const small = await begin('Warm.pdf', 8);
await send(small, 3, 0, 8);
await fetchBack(await outcome(small));
const quiet = await residentMb(server.pid);
const bareIn = await seconds(writeBare);
const watch = new MemoryWatch(server.pid);
const first = await begin('Survey 1.pdf');
const wholeIn = await seconds(() => send(first, 1, 0));
const documentId = await outcome(first);
const bareOut = await seconds(readBare);
let back = '';
const wholeOut = await seconds(async () => (back = await fetchBack(documentId)));
const most = watch.end();
const line = (words: string, took: number, bareTook: number) =>
  console.log(
    `${words}: ${(pieces / took).toFixed(0)} MiB/s; the bare loop ${(pieces / bareTook).toFixed(0)} MiB/s; ratio ${(bareTook / took).toFixed(2)}`,
  );
console.log(`A file of ${pieces} MiB, through one web process and PostgreSQL on this machine`);
line('In ', wholeIn, bareIn);
line('Out', wholeOut, bareOut);
console.log(
  `Resident memory of the web process: ${quiet.toFixed(0)} MB before, ${most.toFixed(0)} MB at the most, ${(most - quiet).toFixed(0)} MB grown`,
);
console.log(`SHA-256 of what came back: ${back === hashOf(1) ? 'agrees' : 'DIFFERS'}`);

const second = await begin('Survey 2.pdf');
const broken = send(second, 2, 0).catch(() => undefined);
// Asked of the database: a HEAD would have the server break the sending off.
const received = async () =>
  (
    await writableDb()
      .select({ bytes: upload.receivedBytes })
      .from(upload)
      .where(eq(upload.id, second.split('/').at(-1) ?? ''))
  )[0]?.bytes ?? 0;
while ((await received()) < sizeBytes / 2) await new Promise((resolve) => setTimeout(resolve, 50));
await server.end('SIGKILL');
await broken;
await server.again();
const kept = await arrived(second);
await send(second, 2, kept);
const same = (await fetchBack(await outcome(second))) === hashOf(2);
console.log(
  `Killed (-9) in its midst: ${(kept / chunkBytes).toFixed(0)} MiB were kept; gone on with from there; SHA-256 ${same ? 'agrees' : 'DIFFERS'}`,
);

await bare.end();
await server.end();
// Left behind where the database is still tidying up after the gigabytes; the next run makes its own.
await dropPlanted().catch(() => undefined);
