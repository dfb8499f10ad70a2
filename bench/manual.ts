/** The pages of a published manual, PostgreSQL's documentation, from Debian's `postgresql-doc`: real English to measure finding with. */
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import sanitizeHtml from 'sanitize-html';

export interface Page {
  readonly name: string;
  readonly title: string;
  readonly text: string;
}

/** Where it is installed. */
export function manualFolder(): string {
  const [name] = readdirSync('/usr/share/doc').filter((each) => /^postgresql-doc-\d+$/u.test(each));
  if (name === undefined) throw new Error('Debian’s postgresql-doc is not installed');
  return path.join('/usr/share/doc', name, 'html');
}

const entities: Readonly<Record<string, string>> = { '&amp;': '&', '&lt;': '<', '&gt;': '>', '&quot;': '"' };

/** Markup as plain text, with blanks between blocks. */
export const plain = (markup: string): string =>
  sanitizeHtml(markup.replace(/<(?=\/?(?:p|div|t[dhr]|li|h\d|br|d[td]|pre)\b)/gu, ' <'), {
    allowedTags: [],
    allowedAttributes: {},
  }).replace(/&(?:amp|lt|gt|quot);/gu, (entity) => entities[entity] ?? '');

/** Its pages, without its index, its contents and the notice. */
export const manualPages = (): Page[] =>
  readdirSync(manualFolder())
    .filter((name) => name.endsWith('.html') && !['bookindex.html', 'index.html', 'legalnotice.html'].includes(name))
    .sort()
    .map((name) => {
      const markup = readFileSync(path.join(manualFolder(), name), 'utf8');
      const title = plain(/<title>(?<title>[\s\S]*?)<\/title>/u.exec(markup)?.groups?.['title'] ?? name);
      const body = markup
        .replace(/<div class="nav(?:header|footer)">[\s\S]*?<\/table>[\s\S]*?<\/div>/gu, ' ')
        .replace(/^[\s\S]*?<body[^>]*>/u, '');
      return { name, title: title.replace(/^(?:[A-Z]\.)?[\d.]+\s+/u, ''), text: plain(body) };
    });
