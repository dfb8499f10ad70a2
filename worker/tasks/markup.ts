import { marked } from 'marked';
import sanitizeHtml from 'sanitize-html';
import type { TaskInput, TaskResult } from '@/server/cage/tasks';
import { invoiceMarkup } from '@/core/invoices/markup';
import { readInvoice } from '@/core/invoices/read';
import { escapedMarkup } from '@/core/text/markup';
import { decodedText } from './decoded';
import { contentFile, type Written } from './written';

/** The most of a page or a mail's body that is read. In bytes. */
const mostBytes = 8_000_000;

const options: sanitizeHtml.IOptions = {
  allowedTags: [
    ...'h1 h2 h3 h4 h5 h6 p div span br hr pre blockquote ul ol li dl dt dd table caption thead tbody tfoot tr th td'.split(
      ' ',
    ),
    ...'a b strong i em u s sub sup small code kbd samp var q cite abbr mark del ins time address figure figcaption img center'.split(
      ' ',
    ),
  ],
  allowedAttributes: {
    '*': ['dir', 'lang', 'align'],
    a: ['href', 'title'],
    td: ['colspan', 'rowspan', 'valign'],
    th: ['colspan', 'rowspan', 'valign'],
    ol: ['start', 'type'],
    // Only a picture that the paper brings along: one from elsewhere would tell its sender that it was looked at.
    img: ['src', 'alt', 'width', 'height'],
  },
  allowedSchemes: ['http', 'https', 'mailto'],
  allowedSchemesByTag: { img: ['data'] },
  allowProtocolRelative: false,
  nonTextTags: ['script', 'style', 'textarea', 'option', 'noscript', 'title', 'head'],
  exclusiveFilter: ({ tag, attribs }) =>
    tag === 'img' && !/^data:image\/(?:png|jpeg|gif|webp);/u.test(attribs['src'] ?? ''),
  transformTags: {
    a: (tagName, attribs) => ({
      tagName,
      attribs: { ...attribs, target: '_blank', rel: 'noopener noreferrer nofollow' },
    }),
  },
};
const withTargets: sanitizeHtml.IOptions = {
  ...options,
  allowedAttributes: { ...options.allowedAttributes, a: ['href', 'title', 'target', 'rel'] },
};

/** Markup that is safe to show: no script, no style of its own, nothing that is fetched from elsewhere. */
export const safeMarkup = (markup: string): string => sanitizeHtml(markup, withTargets);

/** A whole page for the office program to lay out. Its fonts are those that the system ships. */
export const pageOf = (body: string): string =>
  `<!DOCTYPE html><html><head><meta charset="utf-8"><style>
@page { size: 21cm 29.7cm; margin: 2cm }
body { font-family: "Liberation Sans", "DejaVu Sans", "Droid Sans Fallback"; font-size: 10pt }
pre { font-family: "DejaVu Sans Mono", "Droid Sans Fallback"; font-size: 9pt; white-space: pre-wrap }
td, th { border: 0.5pt solid #999; padding: 2pt 4pt; vertical-align: top }
</style></head><body>${body}</body></html>`;

/** A web page as it is, Markdown laid out, a bill as data as one reads bills; one that cannot be read as the text that it is. */
async function markupOf(form: TaskInput<'markup'>['form'], text: string): Promise<string> {
  if (form === 'html') return text;
  if (form === 'markdown') return marked.parse(text, { gfm: true });
  const invoice = readInvoice(text);
  return invoice ? invoiceMarkup(invoice) : `<pre>${escapedMarkup(text)}</pre>`;
}

/** A web page, a text in Markdown (CommonMark 0.31, with tables), or a bill as data. */
export async function readMarkup({ form }: TaskInput<'markup'>, written: Written): Promise<TaskResult<'markup'>> {
  const { text, cut } = await decodedText(contentFile, mostBytes, form === 'markdown' ? 'windows-1252' : 'asNamed');
  const markup = safeMarkup(await markupOf(form, text));
  await written.view({ form: 'markup', markup });
  await written.file('pages.html', pageOf(markup));
  return { cut };
}
