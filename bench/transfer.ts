/**
 * Measures a large file's way in and out through a real web process: `npm run bench:transfer [-- --megabytes 1000]`, with
 * content in rows and in a directory. Beside each, in the same run: for rows, a bare loop that inserts the same pieces
 * through the same driver, one binary copy out, and a select for each piece; for the directory, a bare loop that writes
 * the same pieces and syncs the file, and nginx serving it. Then the same file again with the process killed in its midst,
 * and the SHA-256 of what comes back.
 */
import { createHash, randomBytes } from 'node:crypto';
import { once } from 'node:events';
import { mkdtemp, open, readFile, readdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { request, type IncomingMessage } from 'node:http';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { eq } from 'drizzle-orm';
import { Pool } from 'pg';
import { to } from 'pg-copy-streams';
import { makeDirectory } from '@/server/blobs/directory';
import { writableDb } from '@/server/db/client';
import { library, upload } from '@/server/db/schema';
import { pieceBytes } from '@/core/content/model';
import { dropPlanted, freshLibrary, furnished, passwords } from '../tests/library';
import { WebServer } from '../tests/browser/server';
import { Nginx } from './nginx';

const asked = process.argv.indexOf('--megabytes');
const pieces = asked === -1 ? 1000 : Number(process.argv[asked + 1]);
if (!Number.isInteger(pieces) || pieces < 2) throw new Error('Say how many megabytes: --megabytes 1000');
const sizeBytes = pieces * pieceBytes;

/** The file: pieces that differ from one another, made of one random piece so that making them costs next to nothing. */
const grain = randomBytes(pieceBytes);
function piece(run: number, index: number): Buffer {
  const made = Buffer.from(grain);
  made.write(index === 0 ? '%PDF-1.7\n' : `run ${run} piece ${index}\n`);
  return made;
}
function* file(run: number, fromByte: number, count = pieces): Generator<Buffer> {
  const first = Math.floor(fromByte / pieceBytes);
  for (let index = first; index < count; index += 1)
    yield index === first ? piece(run, index).subarray(fromByte % pieceBytes) : piece(run, index);
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

const folder = await mkdtemp(path.join(tmpdir(), 'embrin-bench-'));
process.env['EMBRIN_CONTENT'] = path.join(folder, 'content');
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
    headers: { ...tus, cookie, 'upload-length': String(count * pieceBytes), 'upload-metadata': metadata.join(',') },
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
      'content-length': String(count * pieceBytes - fromByte),
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

const contentAddress = (documentId: string) => `${server.url}/api/paper/${documentId}/content?copy`;

/** What an address answers with, part by part. */
async function* answer(address: string): AsyncGenerator<Uint8Array> {
  const asking = request(address, { headers: { cookie } });
  asking.end();
  const [response] = (await once(asking, 'response')) as [IncomingMessage];
  for await (const each of response) yield each as Uint8Array;
}

async function fetchBack(documentId: string): Promise<string> {
  const hash = createHash('sha256');
  for await (const each of answer(contentAddress(documentId))) hash.update(each);
  return hash.digest('hex');
}

/** Fetches and counts, without hashing: that would take longer than what is measured. */
async function fetchAll(address: string): Promise<void> {
  let bytes = 0;
  for await (const each of answer(address)) bytes += each.length;
  if (bytes !== sizeBytes) throw new Error(`${bytes} bytes came of ${sizeBytes}`);
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
      values: [index * pieceBytes, piece(0, index)],
    });
};
const copyBare = async () => {
  const client = await bare.connect();
  const text = 'copy (select data from bare where id = 1 order by start_byte) to stdout (format binary)';
  for await (const _part of client.query(to(text)));
  client.release();
};
const selectBare = async () => {
  for (let index = 0; index < pieces; index += 1)
    await bare.query({
      name: 'read',
      text: 'select data from bare where id = 1 and start_byte = $1',
      values: [index * pieceBytes],
    });
};

/** A file as a bare loop writes it: the pieces, then one sync. */
const bareFile = path.join(folder, 'bare');
const writeBareFile = async () => {
  const handle = await open(bareFile, 'w');
  for (let index = 0; index < pieces; index += 1) await handle.write(piece(0, index));
  await handle.datasync();
  await handle.close();
};

// Once in small, so that what is loaded on first use is not counted.
const small = await begin('Warm.pdf', 8);
await send(small, 3, 0, 8);
await fetchBack(await outcome(small));
const quiet = await residentMb(server.pid);
const watch = new MemoryWatch(server.pid);

const ratio = (words: string, took: number, ...beside: [string, number][]) =>
  console.log(
    [
      `${words}: ${(pieces / took).toFixed(0)} MiB/s`,
      ...beside.map(
        ([name, other]) => `${(other / took).toFixed(2)} of ${name} (${(pieces / other).toFixed(0)} MiB/s)`,
      ),
    ].join('; '),
  );

/** Sends a file and fetches it back: seconds for each, and the paper. */
async function through(fileName: string, run: number) {
  const address = await begin(fileName);
  const tookIn = await seconds(() => send(address, run, 0));
  const documentId = await outcome(address);
  const tookOut = await seconds(() => fetchAll(contentAddress(documentId)));
  const back = await fetchBack(documentId);
  return { tookIn, tookOut, same: back === hashOf(run) ? 'agrees' : 'DIFFERS' };
}

console.log(`A file of ${pieces} MiB, through one web process on this machine`);
const bareIn = await seconds(writeBare);
const rows = await through('Survey 1.pdf', 1);
const [bareCopy, bareSelect] = [await seconds(copyBare), await seconds(selectBare)];
ratio('Rows, in', rows.tookIn, ['a bare loop of inserts', bareIn]);
ratio('Rows, out', rows.tookOut, ['a bare binary copy', bareCopy], ['a select for each piece', bareSelect]);
console.log(`Rows: SHA-256 of what came back ${rows.same}`);

await makeDirectory();
await writableDb().update(library).set({ contentStore: 'directory' });
const bareWrite = await seconds(writeBareFile);
const files = await through('Survey 2.pdf', 4);
const nginx = await Nginx.serving(folder);
await fetchAll(`${nginx.url}/bare`);
const nginxOut = await seconds(() => fetchAll(`${nginx.url}/bare`));
await nginx.end();
ratio('Directory, in', files.tookIn, ['a bare loop of writes and a sync', bareWrite]);
ratio('Directory, out', files.tookOut, ['nginx', nginxOut]);
console.log(`Directory: SHA-256 of what came back ${files.same}`);
const most = watch.end();
console.log(
  `Resident memory of the web process: ${quiet.toFixed(0)} MB before, ${most.toFixed(0)} MB at the most, ${(most - quiet).toFixed(0)} MB grown`,
);

const second = await begin('Survey 3.pdf');
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
  `Killed (-9) in its midst: ${(kept / pieceBytes).toFixed(0)} MiB were kept; gone on with from there; SHA-256 ${same ? 'agrees' : 'DIFFERS'}`,
);

await bare.end();
await server.end();
await rm(folder, { recursive: true, force: true });
// Left behind where the database is still tidying up after the gigabytes; the next run makes its own.
await dropPlanted().catch(() => undefined);
