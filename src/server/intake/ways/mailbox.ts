import { ImapFlow } from 'imapflow';
import { mostMailBytes } from '@/core/intake/model';
import { unlocked } from '../../base/locked';
import { keepFetchedMail } from '../keep';
import { leftInWords, mostAtOnce, NotFetched, notKept, type Look, type WayIn } from './model';

/** A mail server that does not answer for so long is given up until the next look. */
const answersWithinMs = 20_000;
/** However much there is, a look comes to its end after so long: the other ways in wait for it. */
const longestLookMs = 180_000;

/**
 * Fetches the mail of a mailbox that came since the last look (IMAP, RFC 9051). It is opened for reading alone, so that nobody who reads
 * mail there sees a difference.
 */
export async function lookAtMailbox(way: WayIn<'mailbox'>): Promise<Look> {
  const { host, port, line, user, folder } = way.settings;
  const password = way.lockedPassword === null ? null : unlocked(way.lockedPassword, 'mailbox password');
  if (password === null) throw new NotFetched('The password is not known any more: give it again.');
  const client = new ImapFlow({
    ...{ host, port, logger: false, connectionTimeout: answersWithinMs, greetingTimeout: answersWithinMs },
    ...{
      secure: line === 'tls',
      doSTARTTLS: line === 'starttls',
      socketTimeout: answersWithinMs,
      disableAutoIdle: true,
    },
    auth: { user, pass: password.toString('utf8') },
  });
  // Told by what fails because of it.
  client.on('error', () => undefined);
  const deadline = setTimeout(() => client.close(), longestLookMs);
  try {
    await client.connect();
    const lock = await client.getMailboxLock(folder, { readOnly: true });
    try {
      return await fetched(client, way);
    } finally {
      lock.release();
    }
  } catch (error) {
    throw inWords(error, way.settings);
  } finally {
    clearTimeout(deadline);
    client.close();
  }
}

async function fetched(client: ImapFlow, way: WayIn<'mailbox'>): Promise<Look> {
  if (client.mailbox === false) throw new NotFetched('The mailbox could not be opened.');
  const validity = String(client.mailbox.uidValidity);
  // Where the server has counted anew, numbers from before mean nothing: what was taken already is known by what it says.
  const from = way.reached?.validity === validity ? (way.reached.uid ?? 0) : 0;
  const sizes = new Map<number, number>();
  if (client.mailbox.exists > 0)
    for await (const { uid, size } of client.fetch(`${from + 1}:*`, { uid: true, size: true }, { uid: true }))
      // Asked for what comes after the last, a server answers with the last.
      if (uid > from) sizes.set(uid, size ?? 0);
  const uids = [...sizes.keys()].sort((one, other) => one - other);
  const originOf = (uid: number) => `${way.id}/${validity}/${uid}`;
  const now = uids.slice(0, mostAtOnce);
  const fresh = await notKept(now.map(originOf));
  const large: string[] = [];
  let taken = 0;
  for (const uid of now) {
    if (!fresh.has(originOf(uid))) continue;
    if ((sizes.get(uid) ?? 0) > mostMailBytes) {
      large.push(`Mail ${uid}`);
      continue;
    }
    const message = await client.fetchOne(String(uid), { source: { maxLength: mostMailBytes } }, { uid: true });
    // Deleted meanwhile.
    if (message === false || !message.source) continue;
    if (await keepFetchedMail(message.source, { wayInId: way.id, origin: originOf(uid) })) taken += 1;
  }
  return {
    taken,
    reached: { validity, uid: now.at(-1) ?? from },
    left: leftInWords(large, 'of the mailbox is larger than 64 MB and is left.'),
    hasMore: uids.length > mostAtOnce,
  };
}

/** What went wrong between the library and a mail server, in words for whoever set it up; what is none of that stays as it is. */
function inWords(error: unknown, { host, port, user, folder }: WayIn<'mailbox'>['settings']): unknown {
  const {
    code = '',
    authenticationFailed,
    mailboxMissing,
    responseStatus,
    tlsFailed,
  } = error as {
    readonly code?: string;
    readonly authenticationFailed?: boolean;
    readonly mailboxMissing?: boolean;
    readonly responseStatus?: string;
    readonly tlsFailed?: boolean;
  };
  const at = `${host}, port ${port}`;
  if (authenticationFailed) return new NotFetched(`The mail server does not take the password of ${user}.`);
  if (mailboxMissing || responseStatus === 'NO')
    return new NotFetched(`There is no folder “${folder}” in the mailbox.`);
  if (['ECONNREFUSED', 'EHOSTUNREACH', 'ENETUNREACH'].includes(code))
    return new NotFetched(`There is no mail server at ${at}.`);
  if (['ENOTFOUND', 'EAI_AGAIN'].includes(code)) return new NotFetched(`There is no server called ${host}.`);
  if (/CERT|SELF_SIGNED|ALTNAME/u.test(code))
    return new NotFetched(`The certificate of ${host} is not one that can be trusted (${code}).`);
  if (tlsFailed || code.startsWith('ERR_SSL') || code === 'EPROTO')
    return new NotFetched(`The mail server at ${at} does not speak TLS in this way.`);
  if (/timeout|NoConnection|EConnectionClosed|ECONNRESET|ETIMEDOUT|ClosedAfterConnect|EPIPE/iu.test(code))
    return new NotFetched(`The mail server at ${at} stopped answering. What it has is fetched at the next look.`);
  return error;
}
