/** The layout of plain text on a page: characters per line, lines per page. */
export const textPage = { columns: 92, lines: 62 } as const;

/**
 * Lays out plain text in pages of lines, for a fixed-width font. Wraps long lines between words, or within a word longer
 * than a line; a form feed starts a page. There is at least one page.
 */
export function textPages(text: string): string[][] {
  const pages: string[][] = [];
  for (const part of text.replace(/\r\n?/gu, '\n').split('\f')) {
    const lines = part.split('\n').flatMap(wrapped);
    // A line end at the very end starts no new line.
    if (lines.length > 1 && lines.at(-1) === '') lines.pop();
    for (let at = 0; at < lines.length; at += textPage.lines) pages.push(lines.slice(at, at + textPage.lines));
  }
  return pages;
}

function wrapped(line: string): string[] {
  const letters = [...line.replace(/\t/gu, '    ').replace(/[\p{Cc}\p{Cs}\u202A-\u202E\u2066-\u2069]/gu, '')];
  const lines: string[] = [];
  let from = 0;
  while (letters.length - from > textPage.columns) {
    const blank = letters.lastIndexOf(' ', from + textPage.columns);
    const to = blank > from ? blank : from + textPage.columns;
    lines.push(letters.slice(from, to).join(''));
    from = blank > from ? to + 1 : to;
  }
  return [...lines, letters.slice(from).join('')];
}
