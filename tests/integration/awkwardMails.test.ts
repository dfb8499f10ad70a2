import { eq } from 'drizzle-orm';
import { createTransport } from 'nodemailer';
import { db } from '@/server/db/client';
import { arrival } from '@/server/db/schema';
import { createDossier } from '@/server/dossiers/create';
import type { Actor } from '@/server/gate/actor';
import { fileArrival } from '@/server/intake/act';
import { arrivalsOf } from '@/server/intake/lists';
import { arrivalSheet } from '@/server/intake/read';
import { receiveMail } from '@/server/intake/receive';
import { readArrivals } from '../arrivals';
import { dropLibrary, freshLibrary, furnished } from '../library';

let keeper: Actor;
let lantern: string;
let post: Awaited<ReturnType<typeof receiveMail>>;

beforeAll(async () => {
  keeper = await freshLibrary();
  const { series } = await furnished(keeper, 'Suppliers');
  lantern = (await createDossier(keeper, { seriesId: series.id, name: 'Lantern Dredging', reference: 'S-017' })).id;
  post = await receiveMail(0);
});
afterAll(async () => {
  await post.stop();
  await dropLibrary();
});

const head = (subject: string, type: string) =>
  [
    ...['From: Bill Ing <billing@lantern.example>', 'To: intake@library.example', `Subject: ${subject}`],
    ...[`Message-ID: <${subject.replaceAll(/\W+/gu, '-')}@lantern.example>`, 'Date: Mon, 2 Nov 2026 10:00:00 +0000'],
    ...['MIME-Version: 1.0', `Content-Type: ${type}`],
  ].join('\r\n');
const part = (type: string, body: string, more = '') => `--b\r\nContent-Type: ${type}\r\n${more}\r\n${body}\r\n`;
const text = part('text/plain; charset=utf-8', 'For S-017, please.');
const attached = (name: string, type: string, body = 'AAAA') =>
  part(
    `${type}; name="${name}"`,
    body,
    `Content-Disposition: attachment; filename="${name}"\r\nContent-Transfer-Encoding: base64\r\n`,
  );
const mixed = (subject: string, type: string, ...parts: readonly string[]) =>
  `${head(subject, `${type}; boundary=b`)}\r\n\r\n${parts.join('')}--b--\r\n`;
const base64 = (words: string) => Buffer.from(words).toString('base64');

async function arrives(raw: string | Buffer) {
  const transport = createTransport({ host: '127.0.0.1', port: post.port, secure: false, ignoreTLS: true });
  const envelope = { from: 'billing@lantern.example', to: ['intake@library.example'] };
  const before = await db().$count(arrival);
  await transport.sendMail({ envelope, raw });
  transport.close();
  expect(await db().$count(arrival)).toBe(before + 1);
  await readArrivals();
  const rows = await db().select().from(arrival).where(eq(arrival.state, 'waiting'));
  const last = rows.toSorted((one, other) => other.arrivedAt.getTime() - one.arrivedAt.getTime())[0];
  return arrivalSheet(keeper, { arrivalId: last?.id ?? '' });
}
const counting = ({ parts }: Awaited<ReturnType<typeof arrives>>) =>
  parts.filter(({ counts }) => counts).map(({ attachment, name }) => (attachment === null ? 'the mail' : name));

// Forms of the standards named; bodies by hand.
it.each([
  // RFC 1847, 2.1 and RFC 8551, 3.5.3.
  [
    'signed',
    mixed(
      'signed',
      'multipart/signed; protocol="application/pkcs7-signature"',
      text,
      attached('smime.p7s', 'application/pkcs7-signature'),
    ),
    ['the mail'],
  ],
  // RFC 3156, 4.
  [
    'encrypted',
    mixed(
      'encrypted',
      'multipart/encrypted; protocol="application/pgp-encrypted"',
      part('application/pgp-encrypted', 'Version: 1'),
      part('application/octet-stream; name="encrypted.asc"', '-----BEGIN PGP MESSAGE-----'),
    ),
    ['the mail'],
  ],
  // RFC 8551, 3.3.
  [
    'encrypted as a whole',
    `${head('encrypted as a whole', 'application/pkcs7-mime; smime-type=enveloped-data; name="smime.p7m"')}\r\nContent-Transfer-Encoding: base64\r\n\r\nMIIB\r\n`,
    ['the mail'],
  ],
  // [MS-OXTNEF], 2.1.
  [
    'winmail.dat',
    mixed('winmail.dat', 'multipart/mixed', text, attached('winmail.dat', 'application/ms-tnef')),
    ['the mail'],
  ],
  // RFC 5545 and RFC 6047.
  [
    'an invitation',
    mixed(
      'an invitation',
      'multipart/mixed',
      text,
      attached('invite.ics', 'text/calendar; method=REQUEST', base64('BEGIN:VCALENDAR\r\nEND:VCALENDAR')),
    ),
    ['the mail'],
  ],
  // RFC 2046, 5.2.1.
  [
    'a mail in a mail',
    mixed(
      'a mail in a mail',
      'multipart/mixed',
      text,
      part(
        'message/rfc822',
        `${head('inside', 'text/plain')}\r\n\r\nInside.`,
        'Content-Disposition: attachment; filename="inside.eml"\r\n',
      ),
    ),
    ['inside.eml'],
  ],
  ['with nothing', `${head('with nothing', 'text/plain')}\r\n\r\n`, ['the mail']],
  [
    'a name that climbs',
    mixed(
      'a name that climbs',
      'multipart/mixed',
      text,
      attached('../../etc/passwd.txt', 'text/plain', base64('root')),
    ),
    ['.. .. etc passwd.txt'],
  ],
] as const)('%s: it waits, with what counts ticked, and is filed', async (_what, raw, parts) => {
  const sheet = await arrives(raw);
  expect(counting(sheet)).toEqual(parts);
  const [first] = sheet.parts.filter(({ counts }) => counts);
  const { documentIds } = await fileArrival(keeper, {
    ...{ arrivalId: sheet.id, revision: sheet.revision, placeId: lantern },
    parts: [{ attachment: first?.attachment ?? null, title: sheet.subject }],
  });
  expect(documentIds).toHaveLength(1);
});

it('with 250 attachments: 200 are looked at, and the mail says that there are more', async () => {
  const many = Array.from({ length: 250 }, (_none, at) =>
    attached(`Note ${at}.txt`, 'text/plain', base64('The same note')),
  );
  const sheet = await arrives(mixed('very many', 'multipart/mixed', text, ...many));
  expect(sheet.parts).toHaveLength(201);
});

it('of 60 MB: it is kept, read within its limits, and waits', async () => {
  const line = `${'AAAA'.repeat(19)}\r\n`;
  const large = attached(
    'large.bin',
    'application/octet-stream',
    line.repeat(Math.floor((60 * 1024 * 1024) / line.length)),
  );
  const sheet = await arrives(mixed('large', 'multipart/mixed', text, large));
  expect(counting(sheet)).toEqual(['large.bin']);
});

it('a loop of automatic answers waits, and says that programs sent it', async () => {
  for (const number of [1, 2, 3]) {
    const raw = `Auto-Submitted: auto-replied\r\n${head(`Away ${number}`, 'text/plain')}\r\n\r\nAway.\r\n`;
    expect((await arrives(raw)).automatic).toBe(true);
  }
  const { arrivals } = await arrivalsOf(keeper, { which: 'waiting' });
  expect(arrivals.filter(({ subject }) => subject.startsWith('Away'))).toHaveLength(3);
});
