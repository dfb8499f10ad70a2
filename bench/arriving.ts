/**
 * Measures how quick the library stays while very much arrives: pages are asked for one after the other, first with nothing arriving, then
 * while mails come over SMTP as fast as they are taken, then while these are read. Needs the library running (`npm start`), and leaves the
 * arrivals in it.
 *   npm run bench:arriving -- MAILS
 */
import { createTransport } from 'nodemailer';
import MailComposer from 'nodemailer/lib/mail-composer';
import { demoPassword, keeper } from '@/demo/people';

const mails = Number(process.argv[2] ?? 10_000);
if (!Number.isInteger(mails) || mails < 100) throw new Error('Say how many mails: npm run bench:arriving -- 10000');
const url = process.env['EMBRIN_URL'] ?? 'http://127.0.0.1:4780';
const port = Number(process.env['EMBRIN_MAIL_PORT'] ?? 4725);
const atOnce = 4;
const asked = 15;
const pages = ['/desk', '/intake', '/find?words=rope'] as const;

const signedIn = await fetch(`${url}/api/auth/sign-in/email`, {
  method: 'POST',
  headers: { 'content-type': 'application/json', origin: url },
  body: JSON.stringify({ email: keeper.email, password: demoPassword }),
});
const cookie = signedIn.headers
  .getSetCookie()
  .map((each) => each.split(';')[0])
  .join('; ');

const middle = (all: readonly number[], part: number): number =>
  Math.round(all.toSorted((one, other) => one - other)[Math.floor(all.length * part)] ?? 0);

/** Asks for each page some times, and tells how long that took: the middle one, and of ten the slowest. In milliseconds. */
async function ask(when: string): Promise<void> {
  for (const page of pages) {
    const times: number[] = [];
    for (let at = 0; at < asked; at += 1) {
      const began = performance.now();
      const answer = await fetch(url + page, { headers: { cookie } });
      await answer.arrayBuffer();
      if (answer.status !== 200) throw new Error(`${page} answers ${answer.status}`);
      times.push(performance.now() - began);
    }
    console.log(`${when}: ${page} ${middle(times, 0.5)} ms, of ten the slowest ${middle(times, 0.9)} ms`);
  }
}

async function send(): Promise<number> {
  const transport = createTransport({
    ...{ host: '127.0.0.1', port, secure: false, ignoreTLS: true, pool: true },
    ...{ maxConnections: atOnce, maxMessages: Infinity },
  });
  let next = 0;
  const began = performance.now();
  const one = async () => {
    for (let at = next++; at < mails; at = next++) {
      const raw = await new MailComposer({
        from: `accounts@sender${at % 50}.example`,
        to: 'intake@library.example',
        subject: `Invoice ${began.toFixed(0)}-${at}`,
        text: 'Attached.',
        attachments: [
          { filename: `Invoice ${at}.txt`, content: `Invoice number: B${at}\nTotal due £${at}.50\n`.repeat(20) },
        ],
      })
        .compile()
        .build();
      await transport.sendMail({ envelope: { from: 'bench@sender.example', to: ['intake@library.example'] }, raw });
    }
  };
  await Promise.all(Array.from({ length: atOnce }, one));
  transport.close();
  return mails / ((performance.now() - began) / 1000);
}

for (const page of pages) await fetch(url + page, { headers: { cookie } });
await ask('Nothing arrives');
const sending = send();
await ask(`${mails} mails arrive`);
console.log(`${Math.round(await sending)} mails were taken in a second`);
await ask('They are read');
