/** Python's own corpus of mails (Debian's libpython3-testsuite: test/test_email/data), read by its own parser beside ours. */
import { execFileSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { asc } from 'drizzle-orm';
import { db } from '@/server/db/client';
import { arrival, attachment } from '@/server/db/schema';
import { keepMail } from '@/server/intake/keep';
import { readArrivals } from '../arrivals';
import { dropLibrary, freshLibrary } from '../library';

/** The subject, the sender's address, and how many parts are attached (RFC 2183), as Python says. */
const inPython = `
import email, email.policy, email.utils, json, sys
for name in sys.argv[1:]:
    with open(name, 'rb') as file:
        mail = email.message_from_binary_file(file, policy=email.policy.default)
    attached = sum(1 for part in mail.walk() if not part.is_multipart() and part.get_content_disposition() == 'attachment')
    subject = ' '.join(str(mail['subject'] or '').split())
    print(json.dumps([subject, email.utils.parseaddr(str(mail['from'] or ''))[1].lower(), attached]))
`;
const data = readdirSync('/usr/lib')
  .filter((name) => /^python3\.\d+$/u.test(name))
  .map((name) => path.join('/usr/lib', name, 'test/test_email/data'))
  .find((folder) => existsSync(folder));
const names = readdirSync(data ?? '')
  .filter((name) => /^msg_\w+\.txt$/u.test(name))
  .sort();

beforeAll(() => freshLibrary());
afterAll(dropLibrary);

it('each of them waits, and says the subject, the sender and the attachments that Python finds in it', async () => {
  const files = names.map((name) => path.join(data ?? '', name));
  const told = execFileSync('/usr/bin/python3', ['-c', inPython, ...files], { encoding: 'utf8' })
    .trim()
    .split('\n');
  for (const file of files) await keepMail(readFileSync(file), { from: '', to: ['intake@library.example'] });
  await readArrivals(true);
  const rows = await db().select().from(arrival).orderBy(asc(arrival.arrivedAt));
  expect(rows.every(({ state }) => state === 'waiting' || state === 'again')).toBe(true);
  const attached = await db().select().from(attachment);
  const ours = rows.map(({ sha256, subject, senderAddress }) => [
    subject.replaceAll(/\s+/gu, ' ').trim(),
    senderAddress,
    attached.filter(({ mailSha256 }) => mailSha256 === sha256).length,
  ]);
  const differing = names.flatMap((name, at) => {
    const [subject, from, count] = JSON.parse(told[at] ?? '[]') as [string, string, number];
    const [said, sender, found] = ours[at] ?? [];
    // An address has a sign; and what is forwarded, or no text, is attached to us whether or not its sender calls it so.
    const isSame = said === subject && sender === (from.includes('@') ? from : '') && Number(found) >= count;
    return isSame ? [] : [[name, subject, from, count, ours[at]]];
  });
  expect(differing).toEqual([]);
});
