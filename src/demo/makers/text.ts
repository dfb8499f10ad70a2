import MailComposer from 'nodemailer/lib/mail-composer';
import Papa from 'papaparse';
import { longDay, wrapped, type Draft } from './paper';
import { makePdf } from './pdf';
import { makePicture } from './pictures';

/** Plain text in UTF-8. */
export async function makeText(draft: Draft): Promise<Buffer> {
  const body = draft.paragraphs.flatMap((paragraph) => [...wrapped(paragraph, 78), '']);
  return Promise.resolve(
    Buffer.from([draft.title, `${draft.subtitle}, ${longDay(draft.written)}`, '', ...body].join('\n')),
  );
}

/** A statement as CSV (RFC 4180). */
export async function makeCsv(draft: Draft): Promise<Buffer> {
  const rows = draft.figures.map(({ what, pounds }, index) => ({
    Line: index + 1,
    Item: what,
    Pounds: pounds.toFixed(2),
    Note: draft.paragraphs[index % Math.max(1, draft.paragraphs.length)]?.split('. ')[0] ?? '',
  }));
  return Promise.resolve(Buffer.from(`${Papa.unparse(rows, { newline: '\r\n' })}\r\n`));
}

/** A list in Markdown (CommonMark). */
export async function makeMarkdown(draft: Draft): Promise<Buffer> {
  const rows = draft.figures.map(({ what, pounds }) => `| ${what} | ${pounds.toFixed(2)} |`);
  const lines = [
    `# ${draft.title}`,
    `*${draft.subtitle}*, ${longDay(draft.written)}`,
    ...draft.paragraphs.map((text) => `- ${text}`),
    ['| Item | Pounds |', '| --- | ---: |', ...rows].join('\n'),
  ];
  return Promise.resolve(Buffer.from(`${lines.join('\n\n')}\n`));
}

/** A mail (RFC 5322) to the Trust's office. */
export const makeMail = (draft: Draft): Promise<Buffer> => mail(draft, []);

/** The same with papers attached: a letter, figures, a picture. */
export async function makeMailWithPapers(draft: Draft): Promise<Buffer> {
  const [letter, figures, picture] = await Promise.all([makePdf(draft), makeCsv(draft), makePicture(draft)]);
  return mail(draft, [
    { filename: 'Covering letter.pdf', content: letter },
    { filename: 'Prices.csv', content: figures },
    { filename: 'Drawing.png', content: picture },
  ]);
}

async function mail(draft: Draft, attachments: { filename: string; content: Buffer }[]): Promise<Buffer> {
  const local = draft.author
    .normalize('NFKD')
    .replace(/[^a-z ]/giu, '')
    .trim()
    .toLowerCase()
    .replaceAll(' ', '.');
  return new MailComposer({
    from: { name: draft.author, address: `${local}@example.org` },
    to: { name: 'Saltmarrow Harbour Trust', address: 'office@saltmarrow.example' },
    subject: draft.title,
    date: draft.written,
    messageId: `<${local}.${draft.written.getTime()}@example.org>`,
    text: `${draft.paragraphs.join('\n\n')}\n\n${draft.author}\n`,
    attachments,
    baseBoundary: `saltmarrow-${draft.written.getTime()}`,
  })
    .compile()
    .build();
}
