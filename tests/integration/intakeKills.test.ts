import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { rmSync } from 'node:fs';
import path from 'node:path';
import { createInterface } from 'node:readline';
import { build } from 'esbuild';
import { eq } from 'drizzle-orm';
import { createTransport } from 'nodemailer';
import MailComposer from 'nodemailer/lib/mail-composer';
import { Chance } from '@/core/chance/chance';
import { sha256Hex } from '@/server/base/sha256';
import { contentColumns, readContent } from '@/server/blobs/content';
import { db } from '@/server/db/client';
import { arrival, blob } from '@/server/db/schema';
import { verifyLibrary } from '@/server/verify/verify';
import { readArrivals } from '../arrivals';
import { dropLibrary, freshLibrary } from '../library';

const kills = 6;
const mails = 20;
/** How many send at once. */
const atOnce = 4;
const seed = 20_261_128;
const chance = new Chance(seed);

// Inside the project, where packages are found.
const taker = path.join(process.cwd(), '.embrin', `taker-${process.pid}.mjs`);
let port = 0;
let child: ChildProcess | null = null;

async function start(): Promise<void> {
  child = spawn(process.execPath, [taker, String(port)], {
    env: { ...process.env, NODE_OPTIONS: '' },
    stdio: ['ignore', 'pipe', 'ignore'],
  });
  if (!child.stdout) throw new Error('It says nothing');
  const [line] = (await once(createInterface({ input: child.stdout }), 'line')) as [string];
  port = Number(line);
}
async function kill(): Promise<void> {
  if (!child) return;
  const gone = once(child, 'exit');
  child.kill('SIGKILL');
  await gone;
}

beforeAll(async () => {
  await freshLibrary();
  await build({
    entryPoints: [path.join(__dirname, 'mailTaker.ts')],
    outfile: taker,
    bundle: true,
    format: 'esm',
    platform: 'node',
    packages: 'external',
  });
  await start();
});
afterAll(async () => {
  await kill();
  rmSync(taker, { force: true });
  await dropLibrary();
});

const rawOf = (number: number): Promise<Buffer> =>
  new MailComposer({
    from: 'billing@lantern.example',
    to: 'intake@library.example',
    subject: `Mail ${number}`,
    text: `Words of mail ${number}`,
    date: new Date(Date.UTC(2026, 4, 1)),
    messageId: `<${number}@lantern.example>`,
    attachments: [{ filename: `Paper ${number}.txt`, content: `Paper ${number}\n`.repeat(2000) }],
  })
    .compile()
    .build();

it(`takes each mail once, whole, though it is killed ${kills} times while they come (seed ${seed})`, async () => {
  const raws = await Promise.all(Array.from({ length: mails }, (_mail, at) => rawOf(at)));
  let next = 0;
  let taken = 0;
  let tries = 0;
  const send = async (raw: Buffer): Promise<void> => {
    const transport = createTransport({ host: '127.0.0.1', port, secure: false, ignoreTLS: true });
    try {
      await transport.sendMail({
        envelope: { from: 'billing@lantern.example', to: ['intake@library.example'] },
        raw,
      });
    } finally {
      transport.close();
    }
  };
  const sender = async () => {
    while (next < raws.length) {
      const raw = raws[next] ?? Buffer.alloc(0);
      next += 1;
      // As a sending server does: again and again, until it is told that the mail was taken.
      for (let isTaken = false; !isTaken;) {
        tries += 1;
        isTaken = await send(raw).then(
          () => true,
          () => false,
        );
      }
      taken += 1;
    }
  };
  const killer = async () => {
    for (let at = 0; at < kills; at += 1) {
      // At some moment between one mail and the next few, however fast the machine is.
      const until = Math.min(mails - 1, taken + 1 + Math.floor(chance.next() * 4));
      while (taken < until) await new Promise((soon) => setTimeout(soon, chance.next() * 10));
      await kill();
      await start();
    }
  };
  await Promise.all([...Array.from({ length: atOnce }, sender), killer()]);
  expect(tries).toBeGreaterThan(mails);

  for (const raw of raws) {
    const [kept] = await db()
      .select(contentColumns)
      .from(blob)
      .where(eq(blob.sha256, sha256Hex(raw)));
    if (!kept) throw new Error('A mail that was taken is not there');
    const pieces: Uint8Array[] = [];
    for await (const piece of readContent(kept)) pieces.push(piece);
    expect(Buffer.concat(pieces).equals(raw)).toBe(true);
  }
  // What was committed and not told in time was sent again: it waits once all the same.
  await readArrivals();
  const waiting = await db().select({ subject: arrival.subject }).from(arrival).where(eq(arrival.state, 'waiting'));
  expect(waiting.map(({ subject }) => subject).sort()).toEqual(
    Array.from({ length: mails }, (_mail, at) => `Mail ${at}`).sort(),
  );
  expect(await verifyLibrary({ contentBytes: true })).toEqual([]);
});
