import { mkdir, rename, writeFile } from 'node:fs/promises';
import path from 'node:path';
import MailComposer from 'nodemailer/lib/mail-composer';
import { config } from '../base/config';

/** A message to one person. */
export interface Mail {
  readonly to: { readonly name: string; readonly address: string };
  readonly subject: string;
  readonly text: string;
  /** Set where a program answers a mail by itself: its Message-ID, '' where it has none (RFC 3834, 3.1). */
  readonly answers?: string;
}

/**
 * The stand-in for a mail server: writes each message to a file (RFC 5322) in the outbox folder, atomically.
 */
export async function sendMail(mail: Mail): Promise<void> {
  const folder = config().EMBRIN_OUTBOX;
  const message = await new MailComposer({
    from: { name: 'Embrin', address: 'library@embrin.invalid' },
    to: { name: mail.to.name, address: mail.to.address },
    subject: mail.subject,
    text: mail.text,
    ...(mail.answers === undefined ? {} : answering(mail.answers)),
  })
    .compile()
    .build();
  await mkdir(/* turbopackIgnore: true */ folder, { recursive: true });
  const name = `${new Date().toISOString().replace(/[:.]/gu, '-')}-${crypto.randomUUID().slice(0, 8)}.eml`;
  const file = path.join(/* turbopackIgnore: true */ folder, name);
  await writeFile(`${file}.part`, message);
  await rename(`${file}.part`, file);
}

/** What tells other programs not to answer this one (RFC 3834, 3.1.4 to 3.1.7 and 5). */
const answering = (messageId: string) => ({
  headers: { 'Auto-Submitted': 'auto-replied' },
  ...(messageId === '' ? {} : { inReplyTo: messageId, references: messageId }),
});

/** Sends a message about something already done. Returns whether it could be sent. */
export const trySendMail = (mail: Mail): Promise<boolean> =>
  sendMail(mail).then(
    () => true,
    () => false,
  );
