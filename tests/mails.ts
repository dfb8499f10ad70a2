import { readdir, readFile } from 'node:fs/promises';
import path from 'node:path';
import { config } from '@/server/base/config';

/** The messages that went out to an address, with lines that were broken softly on the way joined again (RFC 2045, quoted-printable). */
export async function mailsTo(address: string): Promise<string[]> {
  const outbox = config().EMBRIN_OUTBOX;
  const names = (await readdir(outbox)).sort();
  const mails = await Promise.all(names.map((name) => readFile(path.join(outbox, name), 'utf8')));
  return mails.map((mail) => mail.replace(/=\r?\n/gu, '')).filter((mail) => mail.includes(address));
}
