import ExcelJS from 'exceljs';
import { plainFields, type ColumnFields } from '@/core/columns/contract';
import { fileBuffer } from '@/demo/file';
import { defineColumn } from '@/server/columns/define';
import { changeTerm, createList, listOf } from '@/server/columns/lists';
import { setValues } from '@/server/columns/setValues';
import { renamePaper, setRemark } from '@/server/documents/amend';
import { docketOf } from '@/server/documents/docket';
import { type Actor } from '@/server/gate/actor';
import { createLabel, putLabel } from '@/server/labels/labels';
import { createFolder } from '@/server/places/create';
import { forgetSearches, recentSearches, rememberSearch } from '@/server/search/recent';
import { whyFound } from '@/server/search/why';
import { readPaper } from '../reading';
import {
  beginLooking,
  closedId,
  endLooking,
  filed,
  keeper,
  looked,
  openId,
  openSeriesId,
  reader,
  rootId,
  titles,
  why,
} from './looking';

beforeAll(beginLooking);
afterAll(endLooking);

/** A workbook of several sheets, with a word in the last of them. */
async function workbook(names: readonly string[], word: string): Promise<Buffer> {
  const book = new ExcelJS.Workbook();
  for (const name of names) book.addWorksheet(name).addRow(['Nothing', 1]);
  book.worksheets.at(-1)?.addRow(['', word]);
  return Buffer.from(await book.xlsx.writeBuffer());
}

describe('what is known of a paper finds it as its text does', () => {
  it('values, also by the other names of a term, labels, remarks, file names and places, together in one question', async () => {
    const { id: listId } = await createList(keeper, {
      name: 'Suppliers',
      terms: ['Cobble & Strand', 'Fairlead Marine'],
    });
    const [cobble] = (await listOf(keeper, listId)).terms;
    if (!cobble) throw new Error('No term');
    await changeTerm(keeper, {
      termId: cobble.id,
      name: cobble.name,
      otherNames: ['Quernstone Works'],
      parentId: null,
    });
    const column = (over: Partial<ColumnFields>) =>
      defineColumn(keeper, { ...plainFields, name: 'Supplier', type: 'choice', placeId: openSeriesId, ...over });
    const supplier = await column({ listId });
    const paid = await column({ name: 'Paid', type: 'amount', currency: 'GBP' });
    const due = await column({ name: 'Due', type: 'date' });
    const id = await filed(openId, 'scan0001.txt', 'Twelve bollards, galvanised.');
    await setValues(keeper, {
      documentIds: [id],
      values: { [supplier.id]: cobble.id, [paid.id]: 4_715.5, [due.id]: '2031-07-10' },
    });
    const label = await createLabel(keeper, { name: 'Urgentissimo', hue: 'plum', shared: true });
    await putLabel(keeper, { labelId: label.id, documentIds: [id], on: true });
    const { revision } = await docketOf(keeper, { documentId: id });
    const { revision: next } = await setRemark(keeper, { documentId: id, remark: 'Ask the storekeeper', revision });
    await renamePaper(keeper, { documentId: id, title: 'An invoice', revision: next });
    for (const words of [
      'bollards quernstone',
      'cobble strand bollard',
      'invoice urgentissimo storekeepers',
      'scan0001 galvanised',
      '£4,715.50 bollards',
      '4715.50',
      'july 2031 bollards',
      '10/7/31',
    ])
      expect([words, await titles(keeper, words)]).toEqual([words, ['An invoice']]);
    expect(await titles(keeper, 'bollards 11/7/31')).toEqual([]);
    expect(await titles(keeper, 'quernstone', rootId, 'titles')).toEqual([]);
    expect(await titles(keeper, 'bollards', rootId, 'values')).toEqual([]);
    expect(await titles(keeper, 'quernstone urgentissimo', rootId, 'values')).toEqual(['An invoice']);
    expect((await why(keeper, 'quernstone scan0001'))?.beside).toEqual([
      expect.objectContaining({ what: 'Supplier', text: 'Cobble & Strand (also Quernstone Works)' }),
      expect.objectContaining({ what: 'File', text: 'scan0001.txt' }),
    ]);
    // The values are changed: so is what finds it, at once.
    await setValues(keeper, { documentIds: [id], values: { [supplier.id]: null } });
    expect(await titles(keeper, 'bollards quernstone')).toEqual([]);
  });

  it('places by their names and references', async () => {
    const folder = await createFolder(keeper, { parentId: openId, name: 'Whinchat correspondence' });
    await filed(folder.id, 'about reeds.txt', 'The reeds were cut.');
    expect(await titles(keeper, 'whinchat reeds')).toEqual(['about reeds']);
    expect((await why(keeper, 'whinchat reeds'))?.pathMarks.flat().length).toBeGreaterThan(0);
  });

  it('an earlier version, after what is current, and says which', async () => {
    const id = await filed(openId, 'tenders.txt', 'The lowest tender was from Oakum Brothers.');
    const upload = await fileBuffer(
      keeper,
      openId,
      'tenders.txt',
      Buffer.from('All tenders were withdrawn.'),
      'version',
    );
    expect(upload).toBe(id);
    await readPaper(id);
    await filed(openId, 'other.txt', 'Oakum was bought.');
    expect(await titles(keeper, 'oakum')).toEqual(['other', 'tenders']);
    expect(await titles(keeper, 'withdrawn')).toEqual(['tenders']);
    const { rows } = await looked(keeper, 'oakum brothers');
    const [told] = await whyFound(keeper, {
      documentIds: rows.map((row) => row.id),
      words: 'oakum brothers',
      among: 'everything',
    });
    expect(told?.inside?.version).toBe(1);
  });

  it('a word in the third sheet of a workbook', async () => {
    const id = await fileBuffer(keeper, openId, 'figures.xlsx', await workbook(['One', 'Two', 'Three'], 'holystone'));
    await readPaper(id);
    expect(await titles(keeper, 'holystone')).toEqual(['figures']);
    expect((await why(keeper, 'holystone'))?.inside?.page).toBe(3);
  });
});

describe('a word that is misspelt', () => {
  const meant = async (actor: Actor, words: string) => (await looked(actor, words)).found?.meant ?? null;

  it('is corrected from words of titles, values and texts, as they are written there', async () => {
    await filed(openId, 'The pilotage committee.txt', 'Of ballasting and unballasting.');
    expect(await meant(keeper, 'pilotege')).toBe('pilotage');
    expect(await meant(keeper, 'balasting')).toBe('ballasting');
    expect(await meant(keeper, '"pilotege"')).toBe('"pilotage"');
    expect(await meant(keeper, 'pilotage')).toBeNull();
    expect(await meant(keeper, 'zzzzzzzz')).toBeNull();
  });

  it('is not corrected from papers that are kept from someone', async () => {
    await filed(closedId, 'The sequestration.txt', 'Of the escheatment.');
    expect(await meant(keeper, 'sequestratoin')).toBe('sequestration');
    expect(await meant(keeper, 'escheatmant')).toBe('escheatment');
    expect(await meant(reader, 'sequestratoin')).toBeNull();
    expect(await meant(reader, 'escheatmant')).toBeNull();
  });
});

describe('what somebody looked for lately', () => {
  it('is told to them alone, the newest first, and none of it once they do not want it kept', async () => {
    await rememberSearch(keeper, { words: 'tide tables' });
    await rememberSearch(keeper, { words: 'leases' });
    await rememberSearch(keeper, { words: 'tide tables' });
    const told = async (actor: Actor) => (await recentSearches(actor))?.map(({ words }) => words);
    expect(await told(keeper)).toEqual(['tide tables', 'leases']);
    expect(await told(reader)).toEqual([]);
    for (let at = 0; at < 15; at += 1) await rememberSearch(reader, { words: `search ${at}` });
    expect(await told(reader)).toHaveLength(10);
    await forgetSearches(keeper, { words: 'leases', keep: true });
    expect(await told(keeper)).toEqual(['tide tables']);
    await forgetSearches(keeper, { words: null, keep: false });
    await rememberSearch(keeper, { words: 'again' });
    expect(await told(keeper)).toBeUndefined();
    await forgetSearches(keeper, { words: null, keep: true });
    expect(await told(keeper)).toEqual([]);
  });

  it('is not told to someone who looks as another', async () => {
    await rememberSearch(reader, { words: 'private' });
    const seeing = { ...keeper, seenBy: { scopes: new Map(), byOpening: new Set<string>() } } as unknown as Actor;
    expect(await recentSearches(seeing)).toBeNull();
  });
});
