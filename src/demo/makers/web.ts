import { escapeXml, longDay, type Draft } from './paper';

/** A web page that was saved, with its draft's figures as a table. */
export async function makeHtml(draft: Draft): Promise<Buffer> {
  const rows = draft.figures.map(
    ({ what, pounds }) => `<tr><td>${escapeXml(what)}</td><td>${pounds.toFixed(2)}</td></tr>`,
  );
  return Buffer.from(`<!DOCTYPE html>
<html lang="en"><head><meta charset="utf-8"><title>${escapeXml(draft.title)}</title></head><body>
<h1>${escapeXml(draft.title)}</h1>
<p>${escapeXml(draft.subtitle)} · ${escapeXml(draft.author)}, ${longDay(draft.written)}</p>
${draft.paragraphs.map((text) => `<p>${escapeXml(text)}</p>`).join('\n')}
<table><caption>Figures</caption><tr><th>Item</th><th>Pounds</th></tr>${rows.join('')}</table>
</body></html>
`);
}

/** A letter in Rich Text Format (version 1.9; only what that format has had since its first). */
export async function makeRtf(draft: Draft): Promise<Buffer> {
  const plain = (text: string) =>
    text.replace(/[\\{}]/gu, '\\$&').replace(/[^\x00-\x7f]/gu, (letter) => `\\u${letter.charCodeAt(0)}?`);
  const lines = [
    `{\\b\\fs32 ${plain(draft.title)}}`,
    plain(`${draft.subtitle} · ${draft.author}, ${longDay(draft.written)}`),
    ...draft.paragraphs.map(plain),
  ];
  return Buffer.from(
    `{\\rtf1\\ansi\\deff0{\\fonttbl{\\f0 Liberation Serif;}}{\\info{\\title ${plain(draft.title)}}{\\author ${plain(draft.author)}}}\n` +
      `${lines.map((line) => `\\pard\\sa160 ${line}\\par`).join('\n')}\n}\n`,
    'latin1',
  );
}
