import { readFile, stat } from 'node:fs/promises';
import { isAutomatic } from '@/core/intake/automatic';
import type { MailForm } from '@/core/reading/form';
import type { TaskResult } from '@/server/cage/tasks';
import { escapedMarkup as escaped } from '@/core/text/markup';
import { pageOf, safeMarkup } from './markup';
import { contentFile, TooLarge, type Written } from './written';

/** A larger mail is not taken apart. In bytes. */
const mostMailBytes = 150_000_000;
const mostAttachments = 200;
/** A picture of more than this within the body is left to the attachments. In bytes. */
const mostPictureBytes = 2_000_000;
/** So many results of what servers looked at are kept, so long at most. */
const mostChecked = 10;
const longestCheck = 4000;
/** The most of a body that is shown. In characters. */
const mostBody = 2_000_000;

type Head = Omit<MailForm, 'form' | 'attachments' | 'moreAttachments'>;
interface Taken {
  readonly name: string;
  readonly bytes: Uint8Array;
  /** Shown within the body, and not listed beside it. */
  readonly contentId: string | null;
}
interface Mail {
  readonly head: Head;
  readonly attachments: readonly Taken[];
}

/** A mail: its head and body for the screen, its pages, its attachments as files. */
export async function readMail(form: 'eml' | 'msg', written: Written): Promise<TaskResult<'mail'>> {
  if ((await stat(contentFile)).size > mostMailBytes) throw new TooLarge();
  const bytes = await readFile(contentFile);
  const mail = await (form === 'eml' ? internetMail(bytes) : compoundMail(bytes)).catch(() => null);
  if (!mail) return null;
  const { head, attachments } = mail;
  const cut = (head.markup ?? head.text).length > mostBody;
  const shown = {
    ...head,
    markup: head.markup === null ? null : safeMarkup(withPictures(head.markup.slice(0, mostBody), attachments)),
    text: head.text.slice(0, mostBody),
  };
  const listed = attachments.filter(({ contentId }) => contentId === null || !isShown(head.markup, contentId));
  const taken: { number: number; name: string; sizeBytes: number }[] = [];
  for (const { name, bytes: data } of listed.slice(0, mostAttachments)) {
    const number = taken.length + 1;
    await written.file(`attachment-${number}`, data);
    taken.push({ number, name, sizeBytes: data.byteLength });
  }
  const more = Math.max(0, listed.length - mostAttachments);
  await written.view({ form: 'mail', ...shown, attachments: [], moreAttachments: more });
  await written.file('pages.html', pageOf(`${headMarkup(shown, taken)}<hr>${bodyMarkup(shown)}`));
  return { attachments: taken, more, cut };
}

const isShown = (markup: string | null, contentId: string): boolean => markup?.includes(`cid:${contentId}`) ?? false;

/** Puts the pictures that a body shows by their identifiers (RFC 2392) into it. */
function withPictures(markup: string, attachments: readonly Taken[]): string {
  return markup.replace(/cid:(?<id>[^"'\s>)]+)/gu, (whole, id: string) => {
    const picture = attachments.find(({ contentId }) => contentId === id);
    if (!picture || picture.bytes.byteLength > mostPictureBytes) return whole;
    const kind = pictureKind(picture.bytes);
    return kind === null ? whole : `data:image/${kind};base64,${Buffer.from(picture.bytes).toString('base64')}`;
  });
}

function pictureKind(bytes: Uint8Array): string | null {
  const beginning = Buffer.from(bytes.subarray(0, 12)).toString('latin1');
  if (beginning.startsWith('\u0089PNG')) return 'png';
  if (beginning.startsWith('\u00ff\u00d8\u00ff')) return 'jpeg';
  if (beginning.startsWith('GIF8')) return 'gif';
  return beginning.startsWith('RIFF') && beginning.endsWith('WEBP') ? 'webp' : null;
}

function headMarkup(head: Head, attachments: readonly { readonly name: string }[]): string {
  const people = (all: Head['from']) =>
    all.map(({ name, address }) => (name === '' ? address : `${name} <${address}>`)).join(', ');
  const lines: readonly (readonly [string, string])[] = [
    ['From', people(head.from)],
    ['To', people(head.to)],
    ['Copied to', people(head.copiedTo)],
    ['Sent', head.sentAt ?? ''],
    ['Attached', attachments.map(({ name }) => name).join(', ')],
  ];
  const told = lines.filter(([, value]) => value !== '');
  return `<h2>${escaped(head.subject)}</h2>${told
    .map(([name, value]) => `<p><b>${name}:</b> ${escaped(value)}</p>`)
    .join('')}`;
}

const bodyMarkup = ({ markup, text }: Head): string => markup ?? `<pre>${escaped(text)}</pre>`;

/** A mail by RFC 5322 and MIME. A mail that was forwarded as such stays an attachment. */
async function internetMail(bytes: Buffer): Promise<Mail> {
  const { default: PostalMime } = await import('postal-mime');
  const mail = await PostalMime.parse(bytes, { forceRfc822Attachments: true, maxNestingDepth: 50 });
  const people = (all: typeof mail.to): Head['from'] =>
    (all ?? []).flatMap((each) => (each.group ? each.group : [each])).map(({ name, address }) => ({ name, address }));
  const sent = mail.date === undefined ? Number.NaN : Date.parse(mail.date);
  return {
    head: {
      subject: mail.subject ?? '',
      from: people(mail.from ? [mail.from] : mail.sender ? [mail.sender] : []),
      to: people(mail.to),
      copiedTo: people(mail.cc),
      sentAt: Number.isNaN(sent) ? null : new Date(sent).toISOString(),
      automatic: isAutomatic(mail.headers, null),
      messageId: (mail.messageId ?? '').slice(0, 1000),
      checked: mail.headers
        .filter(({ key }) => key === 'authentication-results')
        .slice(0, mostChecked)
        .map(({ value }) => value.slice(0, longestCheck)),
      markup: mail.html ?? null,
      text: mail.text ?? '',
    },
    // What only says that the rest is encrypted is nothing to anybody (RFC 3156, 4).
    attachments: mail.attachments
      .filter(({ mimeType }) => mimeType !== 'application/pgp-encrypted')
      .map(({ filename, mimeType, content, contentId }, index) => ({
        name: filename ?? `${mimeType === 'message/rfc822' ? 'Forwarded mail.eml' : `Attachment ${index + 1}`}`,
        bytes: typeof content === 'string' ? Buffer.from(content, 'utf8') : new Uint8Array(content as ArrayBuffer),
        contentId: contentId?.replace(/^<|>$/gu, '') ?? null,
      })),
  };
}

/** A mail kept as a compound file (.msg), after its published format ([MS-OXMSG]). */
async function compoundMail(bytes: Buffer): Promise<Mail> {
  const loaded = await import('@kenjiuno/msgreader');
  // It is a CommonJS module, whose default is wrapped once more for modules.
  const Reader = (loaded.default as unknown as { default?: typeof loaded.default }).default ?? loaded.default;
  const reader = new Reader(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer);
  const mail = reader.getFileData();
  if ('error' in mail && mail.error) throw new Error('No mail');
  const recipients = (kind: 'to' | 'cc'): Head['from'] =>
    (mail.recipients ?? [])
      .filter(({ recipType }) => (recipType ?? 'to') === kind)
      .map(({ name, smtpAddress, email }) => ({ name: name ?? '', address: smtpAddress ?? email ?? '' }));
  const sent = Date.parse(mail.clientSubmitTime ?? mail.messageDeliveryTime ?? '');
  return {
    head: {
      subject: mail.subject ?? '',
      from: [{ name: mail.senderName ?? '', address: mail.senderSmtpAddress ?? mail.senderEmail ?? '' }],
      to: recipients('to'),
      copiedTo: recipients('cc'),
      sentAt: Number.isNaN(sent) ? null : new Date(sent).toISOString(),
      markup: mail.bodyHtml ?? (mail.html ? Buffer.from(mail.html).toString('utf8') : null),
      text: mail.body ?? '',
    },
    attachments: (mail.attachments ?? []).map((each, index) => {
      const { fileName, content } = reader.getAttachment(index);
      return {
        name: fileName || each.name || `Attachment ${index + 1}`,
        bytes: content,
        contentId: each.pidContentId ?? null,
      };
    }),
  };
}
