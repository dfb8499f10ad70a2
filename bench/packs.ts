/**
 * Measures issuing a pack of 800 pages of 60 papers that are read already, beside `qpdf --empty --pages` of the same pages; the
 * first copy of it; putting a pack of 300 papers on the screen. In a library of its own, dropped at the end.
 *   bin/bench packs
 */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { PDFDocument } from '@cantoo/pdf-lib';
import { fileBuffer } from '@/demo/file';
import { makeNextCopy } from '@/server/packs/copies';
import { addPapers } from '@/server/packs/entries';
import { beginPack } from '@/server/packs/fromAgenda';
import { issuePack } from '@/server/packs/issue';
import { drawStamps } from '@/server/packs/front';
import { joinPages, layOver, pageSizes } from '@/server/packs/join';
import { makeNextIssue } from '@/server/packs/make';
import { packSheet } from '@/server/packs/read';
import { dropLibrary, freshLibrary, furnished } from '../tests/library';
import { readPaper } from '../tests/reading';

const papers = 60;
const pages = 800;
const rounds = 3;
process.env['EMBRIN_ANCHORS'] = '';
process.env['EMBRIN_TEST_CLUSTER'] ??= process.env['DATABASE_URL'] ?? '';
const keeper = await freshLibrary();
const { year } = await furnished(keeper);
const folder = mkdtempSync(path.join(tmpdir(), 'embrin-bench-'));

async function pdf(name: string, count: number): Promise<Buffer> {
  const made = await PDFDocument.create();
  for (let page = 1; page <= count; page += 1) {
    const drawn = made.addPage([595, 842]);
    for (let line = 0; line < 40; line += 1)
      drawn.drawText(`${name}, page ${page}, line ${line}: wind and tide at the bar of the harbour`, {
        x: 50,
        y: 780 - line * 17,
        size: 10,
      });
  }
  return Buffer.from(await made.save());
}

const median = (all: readonly number[]): number => [...all].sort((a, b) => a - b)[Math.floor(all.length / 2)] ?? 0;
const timed = async (work: () => Promise<unknown> | unknown): Promise<number> => {
  const began = performance.now();
  await work();
  return performance.now() - began;
};

const ids: string[] = [];
const files: string[] = [];
for (let at = 0; at < papers; at += 1) {
  const bytes = await pdf(`Paper ${at}`, Math.floor(pages / papers) + (at < pages % papers ? 1 : 0));
  const file = path.join(folder, `${at}.pdf`);
  writeFileSync(file, bytes);
  files.push(file);
  const id = await fileBuffer(keeper, year.id, `Paper ${at}.pdf`, bytes);
  await readPaper(id);
  ids.push(id);
}
const { packId } = await beginPack(keeper, { of: { placeId: year.id, name: 'Measured' } });
await addPapers(keeper, { packId, parentId: null, documentIds: ids });

const bare: number[] = [];
const joined: number[] = [];
const stamped: number[] = [];
const whole: number[] = [];
const copies: number[] = [];
for (let round = 0; round < rounds; round += 1) {
  const words = ['--empty', '--pages', ...files.flatMap((file) => [file, '1-z']), '--', path.join(folder, 'bare.pdf')];
  bare.push(await timed(() => execFileSync('qpdf', words)));
  const within = (name: string) => path.join(folder, name);
  const taken = files.map((file) => ({ file, ranges: '1-z' }));
  joined.push(await timed(() => joinPages(taken, within('joined.pdf'), folder)));
  stamped.push(
    await timed(async () => {
      const sizes = await pageSizes(within('joined.pdf'), folder);
      writeFileSync(
        within('stamps.pdf'),
        await drawStamps(sizes, 'bottomRight', (at) => `Pack page ${at + 1} of ${sizes.length}`),
      );
      await layOver(within('joined.pdf'), within('stamps.pdf'), within('body.pdf'), folder);
    }),
  );
  await issuePack(keeper, { packId, asFiles: false, as: 'whole' });
  whole.push(await timed(makeNextIssue));
  copies.push(await timed(makeNextCopy));
  while (await makeNextCopy());
}
const peak = process.resourceUsage().maxRSS / 1024;
console.log(`${pages} pages of ${papers} papers`);
console.log(`  qpdf alone          ${Math.round(median(bare))} ms`);
console.log(
  `  joined              ${Math.round(median(joined))} ms, ${(median(joined) / median(bare)).toFixed(2)} times`,
);
console.log(`  stamped             ${Math.round(median(stamped))} ms`);
console.log(
  `  issue in all        ${Math.round(median(whole))} ms, ${(median(whole) / median(bare)).toFixed(1)} times`,
);
console.log(
  `  a copy, bookmarks   ${Math.round(median(copies))} ms, ${(median(copies) / median(bare)).toFixed(1)} times`,
);
console.log(`  this process at most ${Math.round(peak)} MB`);

for (let at = papers; at < 300; at += 1)
  ids.push(await fileBuffer(keeper, year.id, `Letter ${at}.txt`, Buffer.from(`Letter ${at}\n`)));
await addPapers(keeper, { packId, parentId: null, documentIds: ids.slice(papers, papers + 200) });
await addPapers(keeper, { packId, parentId: null, documentIds: ids.slice(papers + 200) });
const opened: number[] = [];
for (let round = 0; round < 11; round += 1) opened.push(await timed(() => packSheet(keeper, { packId })));
console.log(`a pack of 300 papers, for the screen: ${Math.round(median(opened))} ms`);
rmSync(folder, { recursive: true });
await dropLibrary();
process.exit(0);
