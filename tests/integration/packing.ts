/** A library with a meeting whose papers go into packs, and short ways to put one together, issue it and read it. */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { degrees, PDFDocument } from '@cantoo/pdf-lib';
import sharp from 'sharp';
import type { IssueForm } from '@/core/packs/model';
import { fileBuffer } from '@/demo/file';
import { addItems, changeItem } from '@/server/agenda/items';
import { beginAgenda } from '@/server/agenda/begin';
import { attachPapers } from '@/server/agenda/papers';
import { readContent } from '@/server/blobs/content';
import type { Actor } from '@/server/gate/actor';
import { meetingsOf } from '@/server/meetings/meetings';
import { makeNextCopy } from '@/server/packs/copies';
import { beginPack } from '@/server/packs/fromAgenda';
import { issuePack } from '@/server/packs/issue';
import { makeNextIssue } from '@/server/packs/make';
import { packSheet } from '@/server/packs/read';
import { packContent } from '@/server/packs/reading';
import { createFolder } from '@/server/places/create';
import { newcomer } from '../library';
import { readPaper } from '../reading';
import { placeOn, say } from '../sheets';
import { plainItem } from './calls';
import { beginExpecting, board, keeper, now } from './expecting';

export let secretary: Actor;
export let chair: Actor;
export let member: Actor;
export let stranger: Actor;
export let meetingId: string;
let closed: string;
const papers = new Map<string, string>();
export const id = (name: string): string => papers.get(name) ?? '';

/** A PDF whose pages say their paper's name and number. */
async function pdf(name: string, sizes: readonly (readonly [number, number, number?])[]): Promise<Buffer> {
  const made = await PDFDocument.create();
  for (const [at, [width, height, turn = 0]] of sizes.entries()) {
    const page = made.addPage([width, height]);
    page.setRotation(degrees(turn));
    page.drawText(`${name} page ${at + 1}`, { x: 60, y: 100, size: 14 });
  }
  return Buffer.from(await made.save());
}
const upright = (pages: number) => Array.from({ length: pages }, () => [595, 842] as const);

/** Founds the library of a test file: a meeting with an agenda and its papers, one of them closed to most. */
export async function beginPacking(): Promise<void> {
  await beginExpecting();
  [secretary, chair, member, stranger] = (await Promise.all(
    ['Sec Retary', 'Cha Ir', 'Mem Ber', 'Stran Ger'].map((name) => newcomer(keeper, name)),
  )) as [Actor, Actor, Actor, Actor];
  await say(keeper, placeOn(board), [
    { who: secretary, gives: ['see', 'take', 'add', 'amend'] },
    ...[chair, member].map((who) => ({ who, gives: ['see', 'take'] as const })),
  ]);
  meetingId = (await meetingsOf(keeper, { dossierId: board }))[0]?.id ?? '';
  closed = (await now(() => createFolder(keeper, { parentId: board, name: 'Closed matters' }))).id;
  await say(keeper, placeOn(closed), [{ who: secretary, gives: ['see', 'take', 'add', 'amend'] }], false);
  const file = async (name: string, ending: string, content: Buffer, placeId = board) =>
    papers.set(name, await now(() => fileBuffer(keeper, placeId, `${name}.${ending}`, content)));
  await file('Minutes', 'pdf', await pdf('Minutes', upright(3)));
  await file(
    'Plan',
    'pdf',
    await pdf('Plan', [
      [1191, 842],
      [595, 842, 90],
      [842, 595],
    ]),
  );
  await file('Tender', 'pdf', await pdf('Tender', upright(2)));
  await file('Claim', 'pdf', await pdf('Claim', upright(4)), closed);
  await file('Late', 'pdf', await pdf('Late', upright(2)));
  await file('Note', 'txt', Buffer.from('Wind and tide at the bar\n'));
  await file(
    'Photo',
    'png',
    await sharp({ create: { width: 900, height: 600, channels: 3, background: '#0d4a50' } })
      .png()
      .toBuffer(),
  );
  await file('Drawings', 'zip', Buffer.from('504b0506000000000000000000000000000000000000', 'hex'));
  await file('Secret drawings', 'zip', Buffer.from(`504b0506${'00'.repeat(18)}`, 'hex'), closed);
  for (const documentId of papers.values()) await readPaper(documentId);
  const { agendaId } = await now(() => beginAgenda(secretary, { of: { meetingId } }));
  const titles = ['Minutes of the last meeting', 'Works', 'Claim of a tenant'];
  const { itemIds } = await now(() => addItems(secretary, { agendaId, parentId: null, beforeId: null, titles }));
  const attach = (at: number, ...names: string[]) =>
    now(() => attachPapers(secretary, { itemId: itemIds[at] ?? '', documentIds: names.map(id) }));
  await attach(0, 'Minutes');
  await attach(1, 'Plan', 'Tender', 'Note', 'Photo');
  await attach(2, 'Claim');
  await changeItem(secretary, {
    itemId: itemIds[2] ?? '',
    ...plainItem,
    title: 'Claim of a tenant',
    readers: [chair.personId],
    revision: 0,
  });
}

/** Another paper of one page, read. */
export async function paperOf(name: string): Promise<string> {
  const documentId = await now(async () => fileBuffer(keeper, board, `${name}.pdf`, await pdf(name, upright(1))));
  await readPaper(documentId);
  return documentId;
}
export const sheet = (packId: string, who = secretary) => packSheet(who, { packId });
export const entryOf = async (packId: string, title: string) => {
  const found = (await sheet(packId)).entries.find((each) => each.title === title);
  if (!found) throw new Error(`There is no entry ${title}`);
  return found;
};
/** A pack of the meeting, of its own for each test. */
export const begun = async (): Promise<string> => (await now(() => beginPack(secretary, { of: { meetingId } }))).packId;
export async function issued(packId: string, asFiles = false, as: IssueForm = 'whole'): Promise<string> {
  const { issueId } = await now(() => issuePack(secretary, { packId, asFiles, as }));
  expect(await makeNextIssue()).toBe(true);
  while (await makeNextCopy());
  return issueId;
}

/** Somebody's copy as bytes, and what outside programs read of it. */
export async function copy(who: Actor, issueId: string) {
  const content = await packContent(who, issueId, 'take');
  const pieces: Uint8Array[] = [];
  for await (const piece of readContent(content)) pieces.push(piece);
  const folder = mkdtempSync(path.join(tmpdir(), 'pack-'));
  const file = path.join(folder, 'copy.pdf');
  writeFileSync(file, Buffer.concat(pieces));
  const run = (program: string, ...words: string[]) => execFileSync(program, words, { encoding: 'utf8' });
  // qpdf finds no fault in its structure, and says so by its exit.
  run('qpdf', '--check', file);
  const pages = run('pdftotext', '-layout', file, '-').split('\f').slice(0, -1);
  // Its bookmarks as another reader knows them: title and page.
  const bookmarks = [...run('mutool', 'show', file, 'outline').matchAll(/"(.*)"\s+#page=(\d+)/gu)].map(
    ([, title = '', page]) => [title, Number(page)] as const,
  );
  const cover = run('pdfimages', '-list', '-f', '1', '-l', '1', file).split('\n');
  const { getDocument } = await import('pdfjs-dist/legacy/build/pdf.mjs');
  const opened = await getDocument({ data: new Uint8Array(Buffer.concat(pieces)) }).promise;
  const leadsTo = async (destination: unknown): Promise<number> => {
    const [page] = destination as [{ num: number; gen: number }];
    return (await opened.getPageIndex(page)) + 1;
  };
  rmSync(folder, { recursive: true });
  return { pages, bookmarks, cover, opened, leadsTo };
}
