/**
 * Measures taking mail in: 1,000 mails with one attachment each over SMTP, four senders at once, each told that its mail was taken once
 * it is kept for good. Beside it, in the same run, a bare loop that inserts a row with the same bytes and commits. In a library of
 * its own, dropped at the end.
 *   bin/bench intake
 */
import { createTransport } from 'nodemailer';
import MailComposer from 'nodemailer/lib/mail-composer';
import { randomBytes } from 'node:crypto';
import pg from 'pg';
import { db } from '@/server/db/client';
import { arrival } from '@/server/db/schema';
import { receiveMail } from '@/server/intake/receive';
import { dropLibrary, freshLibrary } from '../tests/library';

const mails = 1000;
const atOnce = 4;
const attachedBytes = 30_000;
process.env['EMBRIN_ANCHORS'] = '';
process.env['EMBRIN_TEST_CLUSTER'] ??= process.env['DATABASE_URL'] ?? '';
await freshLibrary();
const post = await receiveMail(0);

const raws = await Promise.all(
  Array.from({ length: mails }, (_mail, at) =>
    new MailComposer({
      from: 'billing@lantern.example',
      to: 'intake@library.example',
      subject: `Invoice ${at}`,
      text: 'Attached.',
      attachments: [{ filename: `Invoice ${at}.pdf`, content: randomBytes(attachedBytes) }],
    })
      .compile()
      .build(),
  ),
);

async function timed(work: (raw: Buffer) => Promise<unknown>): Promise<number> {
  let next = 0;
  const began = performance.now();
  await Promise.all(
    Array.from({ length: atOnce }, async () => {
      for (let raw = raws[next++]; raw; raw = raws[next++]) await work(raw);
    }),
  );
  return performance.now() - began;
}

const transport = createTransport({
  ...{ host: '127.0.0.1', port: post.port, secure: false, ignoreTLS: true, pool: true },
  ...{ maxConnections: atOnce, maxMessages: Infinity },
});
const taken = await timed((raw) =>
  transport.sendMail({ envelope: { from: 'billing@lantern.example', to: ['intake@library.example'] }, raw }),
);
transport.close();
if ((await db().$count(arrival)) !== mails) throw new Error('Some are not there');

const pool = new pg.Pool({ connectionString: process.env['DATABASE_URL'], max: atOnce });
await pool.query('create table bare (data bytea not null)');
const bare = await timed((raw) => pool.query('insert into bare values ($1)', [raw]));
await pool.end();

const rate = (ms: number): string => `${((mails / ms) * 1000).toFixed(0)} a second`;
console.log(`Mails taken in: ${rate(taken)}`);
console.log(`Bare inserts of the same bytes: ${rate(bare)}; ${(taken / bare).toFixed(2)} times as long by mail`);
await post.stop();
await dropLibrary();
process.exit(0);
