import { eq, sql } from 'drizzle-orm';
import fc from 'fast-check';
import ExcelJS from 'exceljs';
import MailComposer from 'nodemailer/lib/mail-composer';
import { plainFields, type ColumnFields } from '@/core/columns/contract';
import { fileBuffer } from '@/demo/file';
import { defineColumn } from '@/server/columns/define';
import { changeTerm, createList, listOf } from '@/server/columns/lists';
import { setValues } from '@/server/columns/setValues';
import { setAccess } from '@/server/access/change';
import { createLabel, putLabel } from '@/server/labels/labels';
import { createFolder } from '@/server/places/create';
import { forgetSearches, recentSearches, rememberSearch } from '@/server/search/recent';
import type { Actor } from '@/server/gate/actor';
import { db, writableDb } from '@/server/db/client';
import { attachment, document, place, readingStage, searchSegment, searchText } from '@/server/db/schema';
import { disposePapers, renamePaper, setRemark } from '@/server/documents/amend';
import { crossFile } from '@/server/documents/crossFile';
import { docketOf } from '@/server/documents/docket';
import { readStages } from '@/server/extraction/read';
import { mergeSegments, runToMerge } from '@/server/postings/keep';
import { stopTally } from '@/server/tally/host';
import { whyFound } from '@/server/search/why';
import { openView } from '@/server/views/open';
import type { Among } from '@/core/search/among';
import { dropLibrary, freshLibrary, furnished, newcomer, open, plainQuestion, refusedAs } from '../library';
import { readPaper } from '../reading';

let keeper: Actor;
let reader: Actor;
let openId: string;
let closedId: string;
let rootId: string;
let openSeriesId: string;

beforeAll(async () => {
  keeper = await freshLibrary();
  reader = await newcomer(keeper, 'Rea Der');
  const [first, second] = [await furnished(keeper, 'Open'), await furnished(keeper, 'Closed')];
  openId = first.year.id;
  openSeriesId = first.series.id;
  closedId = second.year.id;
  rootId = await rootOf();
  await open(keeper, first.series.id, reader, 'reader');
});
afterAll(async () => {
  await stopTally();
  await dropLibrary();
});

const rootOf = async (): Promise<string> => {
  const [root] = await db().select({ id: place.id }).from(place).where(eq(place.kind, 'library'));
  return root?.id ?? '';
};

const mailWith = (text: string): Promise<Buffer> =>
  new MailComposer({
    from: 'ida@saltmarrow.example',
    to: 'office@saltmarrow.example',
    subject: 'For the archive',
    text: 'See what is attached.',
    attachments: [{ filename: 'history.txt', content: text }],
  })
    .compile()
    .build();

/** A workbook of several sheets, with a word in the last of them. */
async function workbook(names: readonly string[], word: string): Promise<Buffer> {
  const book = new ExcelJS.Workbook();
  for (const name of names) book.addWorksheet(name).addRow(['Nothing', 1]);
  book.worksheets.at(-1)?.addRow(['', word]);
  return Buffer.from(await book.xlsx.writeBuffer());
}

async function filed(placeId: string, fileName: string, text: string): Promise<string> {
  const id = await fileBuffer(keeper, placeId, fileName, Buffer.from(text));
  await readPaper(id);
  return id;
}

/** What words find: the page of the view that they are a condition of. */
const looked = (actor: Actor, find: string, placeId = rootId, among: Among = 'everything') =>
  openView(actor, { ...plainQuestion, placeId, below: true, conditions: [{ of: 'find', find, among }] });
const titles = async (actor: Actor, words: string, placeId = rootId, among: Among = 'everything'): Promise<string[]> =>
  (await looked(actor, words, placeId, among)).rows.map(({ title }) => title);
/** Why the first paper was found. */
async function why(actor: Actor, words: string) {
  const { rows } = await looked(actor, words);
  const [found] = await whyFound(actor, {
    documentIds: rows.slice(0, 1).map(({ id }) => id),
    words,
    among: 'everything',
  });
  return found;
}

describe('what is found', () => {
  it('is found by words inside, in any order and form, and says where it stands', async () => {
    await filed(openId, 'survey.txt', 'The fender piles at the ferry stage were inspected and are to be lifted.');
    await filed(openId, 'rota.txt', 'Nobody is on the quay on Sundays.');
    expect(await titles(keeper, 'lifting piles')).toEqual(['survey']);
    const found = await why(keeper, 'lifting piles');
    expect(found?.inside?.passage).toContain('fender piles at the ferry stage');
    expect(found?.inside?.marks.map(([from, to]) => found.inside?.passage.slice(from, to))).toEqual([
      'piles',
      'lifted',
    ]);
    expect(await titles(keeper, '"fender piles"')).toEqual(['survey']);
    expect(await titles(keeper, '"piles fender"')).toEqual([]);
    expect(await titles(keeper, 'piles -ferry')).toEqual([]);
  });

  it('is found by its title as well, which counts for more', async () => {
    await filed(openId, 'capstan.txt', 'Grease it each spring.');
    await filed(openId, 'inventory.txt', 'One capstan, two winches, and a capstan bar.');
    expect(await titles(keeper, 'capstan')).toEqual(['capstan', 'inventory']);
    const [inventory] = (await looked(keeper, 'winches')).rows;
    if (!inventory) throw new Error('Not found');
    const { revision } = await docketOf(keeper, { documentId: inventory.id });
    await renamePaper(keeper, { documentId: inventory.id, title: 'What lies in the boathouse', revision });
    expect(await titles(keeper, 'boathouse')).toEqual(['What lies in the boathouse']);
  });

  it('is found on the page where it stands, by a part of a number, by a reference however it is joined', async () => {
    const pages = Array.from({ length: 30 }, (_none, at) => `Line ${at} of nothing.`).join('\n');
    await filed(openId, 'ledger.csv', `${pages}\nInvoice INV-2031-00815,91.70\n`);
    for (const words of ['INV-2031-00815', 'inv203100815', '00815', 'invoice 00815', '0081', '31-008'])
      expect(await titles(keeper, words)).toEqual(['ledger']);
  });

  it('is nothing for words that say nothing, or make no sense', async () => {
    for (const words of ['"', '-', '-piles', '%', '_', "' or 1=1 --", '\u0000', '((((', '*', '🙂', 'x'.repeat(2000)])
      expect(await titles(keeper, words)).toEqual([]);
  });

  it('is found in scripts without blanks, from right to left, and by signs', async () => {
    await filed(openId, 'abroad.txt', '港务局会议记录 שלום לנמל 🦀 naïve Ὀδυσσεύς');
    for (const words of ['会议', 'לנמל', 'NAIVE', 'οδυσσευς'])
      expect([words, await titles(keeper, words)]).toEqual([words, ['abroad']]);
  });

  it('is looked for in the time of any other question, however many words there are', async () => {
    const many = Array.from({ length: 300 }, (_none, at) => `w${at}`).join(' ');
    const { found, rows } = await looked(keeper, many);
    expect(rows).toEqual([]);
    expect(found?.leftOut).toBe(268);
    await expect(looked(keeper, 'x '.repeat(10_000))).resolves.toBeDefined();
    expect(await titles(keeper, `${'('.repeat(900)}${'a*'.repeat(500)}`)).toEqual([]);
  });

  it('of one word a hundred thousand times is found like any other, and shown by one passage', async () => {
    await filed(openId, 'all one.csv', `${'spindrift,'.repeat(100_000)}\n`);
    expect(await titles(keeper, 'spindrift')).toEqual(['all one']);
    expect((await why(keeper, 'spindrift'))?.inside?.passage.length).toBeLessThan(1500);
  });

  it('in an attachment of a mail is found as that mail, and says in which one', async () => {
    const mail = await mailWith('The steam crane was sold for scrap in 1931.');
    const id = await fileBuffer(keeper, openId, 'about the crane.eml', mail);
    await readPaper(id);
    const attached = await db().select({ sha256: attachment.sha256 }).from(attachment);
    for (const { sha256 } of attached) await readStages(sha256);
    expect(await titles(keeper, 'steam crane 1931')).toEqual(['about the crane']);
    expect((await why(keeper, 'steam crane 1931'))?.inside?.attachment).toEqual({ number: 1, name: 'history.txt' });
    expect(await titles(keeper, 'crane saltmarrow.example', rootId, 'mail')).toEqual(['about the crane']);
    expect(await titles(keeper, 'survey', rootId, 'mail')).toEqual([]);
    expect(await titles(reader, 'steam crane 1931')).toEqual(['about the crane']);
  });

  it('of two places is what lies in the one that was asked about, and below it', async () => {
    await filed(openId, 'here.txt', 'A heron stood on the slip.');
    await filed(closedId, 'there.txt', 'A heron stood on the bar.');
    expect((await titles(keeper, 'heron')).sort()).toEqual(['here', 'there']);
    expect(await titles(keeper, 'heron', openId)).toEqual(['here']);
  });
});

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

describe('nothing is told of what is kept from someone', () => {
  it('not its title, its passages, nor that there is more', async () => {
    for (let at = 0; at < 35; at += 1) await filed(closedId, `kept ${at}.txt`, `The kittiwake nests in hole ${at}.`);
    await filed(openId, 'birds.txt', 'One kittiwake was seen from the ferry.');
    expect((await looked(keeper, 'kittiwake')).totals?.papers).toBe(36);
    const told = await looked(reader, 'kittiwake');
    expect(told.rows.map(({ title }) => title)).toEqual(['birds']);
    expect(told.totals?.papers).toBe(1);
    expect(await titles(reader, 'hole')).toEqual([]);
  });

  it('not in which place it has its home, to those who see it by another', async () => {
    const id = await filed(closedId, 'sandpiper.txt', 'A sandpiper ran along the hard.');
    await crossFile(keeper, { documentIds: [id], toId: openId, kind: 'opening' });
    expect(await titles(keeper, 'sandpiper', closedId)).toEqual(['sandpiper']);
    expect(await titles(reader, 'sandpiper')).toEqual(['sandpiper']);
    expect(await titles(reader, 'sandpiper', openId)).toEqual(['sandpiper']);
    expect(await refusedAs(titles(reader, 'sandpiper', closedId))).toBe('not-found');
  });

  it('nor more of a text than the word itself, to someone who may have no copies', async () => {
    const watcher = await newcomer(keeper, 'Wat Cher');
    const { id: folderId } = await createFolder(keeper, { parentId: openId, name: 'To be read only' });
    await filed(folderId, 'whimbrel.txt', 'Seven whimbrels stood by the sluice that nobody mentions.');
    await setAccess(keeper, {
      on: { kind: 'place', id: folderId },
      follows: true,
      revision: 0,
      message: null,
      grants: [{ subject: { kind: 'person', id: watcher.personId }, gives: ['see'], withholds: [] }],
    });
    expect((await why(reader, 'whimbrel'))?.inside?.passage).toContain('sluice that nobody mentions');
    const told = await why(watcher, 'whimbrel');
    expect(told?.inside).toMatchObject({ page: 1, passage: 'whimbrels', marks: [[0, 9]] });
    expect(JSON.stringify(told)).not.toMatch(/sluice|mentions/u);
  });

  it('is what looking through what may be seen finds, for random questions', async () => {
    const vocabulary = ['guillemot', 'razorbill', 'puffin', 'gannet', 'fulmar'];
    const library: { title: string; text: string; open: boolean }[] = [];
    for (let at = 0; at < 24; at += 1) {
      const text = vocabulary.filter((_word, index) => ((at * 7 + index * 3) >> (index % 3)) % 2 === 0).join(' ');
      if (text === '') continue;
      const each = { title: `sighting ${at}`, text, open: at % 3 === 0 };
      library.push(each);
      await filed(each.open ? openId : closedId, `${each.title}.txt`, `${text} seen on day ${at}`);
    }
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.record({ word: fc.constantFrom(...vocabulary), minus: fc.boolean() }), {
          minLength: 1,
          maxLength: 4,
        }),
        fc.boolean(),
        async (asked, asReader) => {
          const words = asked.map(({ word, minus }) => `${minus ? '-' : ''}${word}`).join(' ');
          const expected = library
            .filter(({ open: isOpen }) => isOpen || !asReader)
            .filter(
              ({ text }) =>
                asked.some(({ minus }) => !minus) &&
                asked.every(({ word, minus }) => text.split(' ').includes(word) !== minus),
            )
            .map(({ title }) => title);
          expect((await titles(asReader ? reader : keeper, words)).sort()).toEqual(expected.sort());
        },
      ),
      { numRuns: 60, seed: 20261127 },
    );
  });
});

describe('the index', () => {
  it('answers the same after its segments are merged, and as well for what is filed afterwards', async () => {
    const before = await titles(keeper, 'kittiwake');
    expect(await mergeSegments()).toBeGreaterThan(0);
    const segments = await db().select().from(searchSegment);
    expect(segments.length).toBeLessThan(60);
    expect(await titles(keeper, 'kittiwake')).toEqual(before);
    await filed(openId, 'late.txt', 'A late kittiwake and a late cormorant.');
    expect(await titles(keeper, 'cormorant')).toEqual(['late']);
    expect(await titles(keeper, '"late kittiwake"')).toEqual(['late']);
  });

  it('takes in two texts at once under numbers of their own, in order', async () => {
    const ids = await Promise.all(
      ['one', 'two', 'three', 'four'].map((name) =>
        fileBuffer(keeper, openId, `dunlin ${name}.txt`, Buffer.from(`A dunlin, ${name}`)),
      ),
    );
    await Promise.all(ids.map(readPaper));
    const numbers = await db().select({ number: searchText.number }).from(searchText);
    expect(new Set(numbers.map(({ number }) => number)).size).toBe(numbers.length);
    expect(await titles(keeper, 'dunlin -four')).toHaveLength(3);
  });

  it('has a text that is read again once, and none of what was destroyed or disposed of', async () => {
    const id = await filed(openId, 'turnstone.txt', 'A turnstone on the slip.');
    const [sha] = await db()
      .select({ sha256: searchText.sha256 })
      .from(searchText)
      .orderBy(sql`${searchText.number} desc`)
      .limit(1);
    await writableDb()
      .update(readingStage)
      .set({ program: 0 })
      .where(eq(readingStage.sha256, sha?.sha256 ?? ''));
    await readPaper(id);
    expect(await titles(keeper, 'turnstone')).toEqual(['turnstone']);
    await disposePapers(keeper, { documentIds: [id] });
    expect(await titles(keeper, 'turnstone')).toEqual([]);
    const [row] = await db().select({ id: document.id }).from(document).where(eq(document.id, id));
    expect(row).toBeDefined();
  });

  it('is merged only where enough neighbours are of one size', () => {
    const of = (...texts: number[]) => texts.map((each, segment) => ({ segment, texts: each }));
    expect(runToMerge(of(...Array.from({ length: 23 }, () => 1)))).toEqual([]);
    expect(runToMerge(of(500, ...Array.from({ length: 24 }, () => 1)))).toHaveLength(24);
    expect(
      runToMerge([
        ...of(...Array.from({ length: 20 }, () => 1)),
        ...of(600),
        ...of(...Array.from({ length: 20 }, () => 1)),
      ]),
    ).toEqual([]);
  });
});
