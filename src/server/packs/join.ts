import { writeFile } from 'node:fs/promises';
import path from 'node:path';
import { z } from 'zod';
import { runProgram, type ProgramEnd } from '../cage/program';
import { CagedFault, plainLimits, type Limits } from '../cage/limits';
import type { Link, PageSize } from './front';

/** Limits for joining the pages of a whole pack. */
const joining: Limits = {
  timeMs: 300_000,
  cpuSeconds: 300,
  memoryBytes: 500_000_000,
  // It is read whole by the worker, to be kept.
  fileBytes: 200_000_000,
};

/** Damaged files are mended with warnings, which are no failure. */
const calm = ['--warning-exit-0', '--no-warn'];

async function qpdf(words: readonly string[], folder: string): Promise<string> {
  const end: ProgramEnd = await runProgram('qpdf', [...calm, ...words], folder, joining);
  if (!end.ok) throw new CagedFault('brokeOff');
  return end.printed;
}

/** Some pages of a file, in the order in which they are given. */
export interface Taken {
  readonly file: string;
  /** As qpdf takes them: "1-3,7". */
  readonly ranges: string;
}

/** Joins pages of files into one file. What else a file has (what runs when it is opened, its own bookmarks) stays behind. */
export async function joinPages(taken: readonly Taken[], into: string, folder: string): Promise<void> {
  // In a file of its own, as thousands of words are more than a command takes.
  const words = ['--empty', '--pages', ...taken.flatMap(({ file, ranges }) => [file, ranges]), '--', into];
  const list = path.join(folder, 'joined.args');
  await writeFile(list, words.join('\n'));
  await qpdf([`@${list}`], folder);
}

/** Lays the pages of a file over those of another, one on one. */
export const layOver = (file: string, over: string, into: string, folder: string): Promise<string> =>
  qpdf([file, '--overlay', over, '--', into], folder);

/** The sizes of a file's pages as they are shown: turned where the file says so. @throws CagedFault */
export async function pageSizes(file: string, folder: string): Promise<PageSize[]> {
  const end = await runProgram('pdfinfo', ['-f', '1', '-l', '99999', file], folder, plainLimits);
  if (!end.ok) throw new CagedFault('brokeOff');
  const sizes: { width: number; height: number }[] = [];
  for (const line of end.printed.split('\n')) {
    const size = /^Page\s+(?<page>\d+) size:\s+(?<width>[\d.]+) x (?<height>[\d.]+)/u.exec(line)?.groups;
    if (size?.['page'])
      sizes[Number(size['page']) - 1] = { width: Number(size['width']), height: Number(size['height']) };
    const turn = /^Page\s+(?<page>\d+) rot:\s+(?<turn>\d+)/u.exec(line)?.groups;
    const turned = sizes[Number(turn?.['page'] ?? 0) - 1];
    if (turned && Number(turn?.['turn']) % 180 !== 0)
      sizes[Number(turn?.['page']) - 1] = { width: turned.height, height: turned.width };
  }
  return sizes;
}

/** A bookmark: its title, how deep it lies (1 at the top), and to which page of the file it leads, from 1. */
export interface Bookmark {
  readonly title: string;
  readonly depth: number;
  readonly page: number;
}

const objects = z.record(z.string(), z.object({ value: z.unknown() }).loose());
const pagesTold = z.object({
  pages: z.array(z.object({ object: z.string() }).loose()),
  qpdf: z.tuple([z.object({ maxobjectid: z.number().int() }).loose(), objects]),
});
const objectsTold = z.object({ qpdf: z.tuple([z.unknown(), objects]) });
const trailerTold = z.object({ '/Root': z.string() }).loose();
const dictionary = z.record(z.string(), z.unknown());

/**
 * Gives a file bookmarks (ISO 32000-1, 12.3.3), and links on some of its pages (12.5.6.5).
 * @param links by the page of the file on which each lies, from 1
 */
export async function addBookmarks(
  file: string,
  bookmarks: readonly Bookmark[],
  links: readonly (Omit<Link, 'on'> & { readonly onPage: number })[],
  title: string,
  into: string,
  folder: string,
): Promise<void> {
  const printed = await qpdf(
    ['--json=2', '--json-key=pages', '--json-key=qpdf', '--json-object=trailer', file],
    folder,
  );
  const told = pagesTold.parse(JSON.parse(printed));
  const pageRefs = told.pages.map(({ object }) => object);
  let last = told.qpdf[0].maxobjectid;
  const next = (): string => `${(last += 1)} 0 R`;
  const trailer = trailerTold.parse(told.qpdf[1]['trailer']?.value);
  const root = trailer['/Root'];
  const linked = [...new Set(links.map(({ onPage }) => pageRefs[onPage - 1] ?? ''))];
  const wanted = [root, ...linked].map((ref) => `--json-object=${ref.split(' ').slice(0, 2).join(',')}`);
  const found = objectsTold.parse(JSON.parse(await qpdf(['--json=2', '--json-key=qpdf', ...wanted, file], folder)))
    .qpdf[1];
  const valueOf = (ref: string) => dictionary.parse(found[`obj:${ref}`]?.value ?? {});
  const made: Record<string, { value: unknown }> = {};
  const put = (ref: string, value: unknown) => {
    made[`obj:${ref}`] = { value };
  };
  const destination = (page: number) => [pageRefs[page - 1] ?? pageRefs[0], '/Fit'];
  for (const ref of linked) {
    const annotations = links
      .filter(({ onPage }) => pageRefs[onPage - 1] === ref)
      .map(({ box, page }) => {
        const link = next();
        put(link, {
          '/Type': '/Annot',
          '/Subtype': '/Link',
          '/Rect': box,
          '/Border': [0, 0, 0],
          '/Dest': destination(page),
        });
        return link;
      });
    put(ref, { ...valueOf(ref), '/Annots': annotations });
  }
  const outlines = bookmarks.length === 0 ? null : putOutlines(bookmarks, next, put, destination);
  const info = next();
  put(info, { '/Title': `u:${title}`, '/Producer': 'u:Embrin' });
  put(root, { ...valueOf(root), ...(outlines === null ? {} : { '/Outlines': outlines, '/PageMode': '/UseOutlines' }) });
  made['trailer'] = { value: { ...trailer, '/Info': info } };
  const head = {
    jsonversion: 2,
    pdfversion: '1.7',
    pushedinheritedpageresources: false,
    calledgetallpages: false,
    maxobjectid: last,
  };
  const update = path.join(folder, 'update.json');
  await writeFile(update, JSON.stringify({ qpdf: [head, made] }));
  await qpdf([file, `--update-from-json=${update}`, into], folder);
}

interface Node {
  readonly ref: string;
  readonly bookmark: Bookmark;
  readonly within: Node[];
}

/** Puts the outline tree: every node knows its parent, its neighbours, and its first and last child. Returns its root. */
function putOutlines(
  bookmarks: readonly Bookmark[],
  next: () => string,
  put: (ref: string, value: unknown) => void,
  destination: (page: number) => unknown,
): string {
  const root = next();
  const top: Node[] = [];
  const way: Node[] = [];
  for (const bookmark of bookmarks) {
    const node: Node = { ref: next(), bookmark, within: [] };
    way.length = Math.min(way.length, bookmark.depth - 1);
    (way.at(-1)?.within ?? top).push(node);
    way.push(node);
  }
  const ends = (nodes: readonly Node[]) =>
    nodes.length === 0 ? {} : { '/First': nodes[0]?.ref, '/Last': nodes.at(-1)?.ref, '/Count': countOf(nodes) };
  const putAll = (nodes: readonly Node[], parent: string) => {
    for (const [at, { ref, bookmark, within }] of nodes.entries()) {
      const [before, after] = [nodes[at - 1], nodes[at + 1]];
      put(ref, {
        '/Title': `u:${bookmark.title}`,
        '/Parent': parent,
        '/Dest': destination(bookmark.page),
        ...(before ? { '/Prev': before.ref } : {}),
        ...(after ? { '/Next': after.ref } : {}),
        ...ends(within),
      });
      putAll(within, ref);
    }
  };
  putAll(top, root);
  put(root, { '/Type': '/Outlines', ...ends(top) });
  return root;
}

const countOf = (nodes: readonly Node[]): number => nodes.reduce((sum, { within }) => sum + 1 + countOf(within), 0);
