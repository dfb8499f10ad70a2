import { eq, sql } from 'drizzle-orm';
import fc from 'fast-check';
import MailComposer from 'nodemailer/lib/mail-composer';
import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/gate/actor';
import { db, writableDb } from '@/server/db/client';
import { attachment, document, readingStage, searchSegment, searchText } from '@/server/db/schema';
import { disposePapers, renamePaper } from '@/server/documents/amend';
import { crossFile } from '@/server/documents/crossFile';
import { docketOf } from '@/server/documents/docket';
import { readStages } from '@/server/extraction/read';
import { mergeSegments, runToMerge } from '@/server/search/keep';
import { searchPapers } from '@/server/search/papers';
import { dropLibrary, freshLibrary, furnished, newcomer, open } from '../library';
import { readPaper } from '../reading';

let keeper: Actor;
let reader: Actor;
let openId: string;
let closedId: string;

beforeAll(async () => {
  keeper = await freshLibrary();
  reader = await newcomer(keeper, 'Rea Der');
  const [first, second] = [await furnished(keeper, 'Open'), await furnished(keeper, 'Closed')];
  openId = first.year.id;
  closedId = second.year.id;
  await open(keeper, first.series.id, reader, 'reader');
});
afterAll(dropLibrary);

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

async function filed(placeId: string, fileName: string, text: string): Promise<string> {
  const id = await fileBuffer(keeper, placeId, fileName, Buffer.from(text));
  await readPaper(id);
  return id;
}

const titles = async (actor: Actor, words: string, placeId: string | null = null): Promise<string[]> =>
  (await searchPapers(actor, { words, placeId, skip: 0 })).papers.map(({ title }) => title);

describe('what is found', () => {
  it('is found by words inside, in any order and form, and says where it stands', async () => {
    await filed(openId, 'survey.txt', 'The fender piles at the ferry stage were inspected and are to be lifted.');
    await filed(openId, 'rota.txt', 'Nobody is on the quay on Sundays.');
    const { papers } = await searchPapers(keeper, { words: 'lifting piles', placeId: null, skip: 0 });
    expect(papers.map(({ title }) => title)).toEqual(['survey']);
    const [found] = papers;
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
    const [inventory] = (await searchPapers(keeper, { words: 'winches', placeId: null, skip: 0 })).papers;
    if (!inventory) throw new Error('Not found');
    const { revision } = await docketOf(keeper, { documentId: inventory.documentId });
    await renamePaper(keeper, { documentId: inventory.documentId, title: 'What lies in the boathouse', revision });
    expect(await titles(keeper, 'boathouse')).toEqual(['What lies in the boathouse']);
  });

  it('is found on the page where it stands, by a part of a number, by a reference however it is joined', async () => {
    const pages = Array.from({ length: 30 }, (_none, at) => `Line ${at} of nothing.`).join('\n');
    await filed(openId, 'ledger.csv', `${pages}\nInvoice INV-2031-00815,91.70\n`);
    for (const words of ['INV-2031-00815', 'inv202300815'.replace('2023', '2031'), '00815', 'invoice 00815'])
      expect(await titles(keeper, words)).toEqual(['ledger']);
  });

  it('is nothing for words that say nothing, or make no sense', async () => {
    for (const words of [
      '',
      ' ',
      '"',
      '-',
      '-piles',
      '%',
      '_',
      "' or 1=1 --",
      '\u0000',
      '((((',
      '*',
      '🙂',
      'x'.repeat(2000),
    ])
      expect(await titles(keeper, words)).toEqual([]);
  });

  it('in an attachment of a mail is found as that mail, and says in which one', async () => {
    const mail = await mailWith('The steam crane was sold for scrap in 1931.');
    const id = await fileBuffer(keeper, openId, 'about the crane.eml', mail);
    await readPaper(id);
    const attached = await db().select({ sha256: attachment.sha256 }).from(attachment);
    for (const { sha256 } of attached) await readStages(sha256);
    const { papers } = await searchPapers(keeper, { words: 'steam crane 1931', placeId: null, skip: 0 });
    expect(papers.map((each) => [each.title, each.inside?.attachment])).toEqual([['about the crane', 'history.txt']]);
    expect(await titles(reader, 'steam crane 1931')).toEqual(['about the crane']);
  });

  it('of two places is what lies in the one that was asked about, and below it', async () => {
    await filed(openId, 'here.txt', 'A heron stood on the slip.');
    await filed(closedId, 'there.txt', 'A heron stood on the bar.');
    expect((await titles(keeper, 'heron')).sort()).toEqual(['here', 'there']);
    expect(await titles(keeper, 'heron', openId)).toEqual(['here']);
  });
});

describe('nothing is told of what is kept from someone', () => {
  it('not its title, its passages, nor that there is more', async () => {
    for (let at = 0; at < 35; at += 1) await filed(closedId, `kept ${at}.txt`, `The kittiwake nests in hole ${at}.`);
    await filed(openId, 'birds.txt', 'One kittiwake was seen from the ferry.');
    const all = await searchPapers(keeper, { words: 'kittiwake', placeId: null, skip: 0 });
    expect(all.papers).toHaveLength(30);
    expect(all.more).toBe(true);
    const next = await searchPapers(keeper, { words: 'kittiwake', placeId: null, skip: 30 });
    expect(next.papers).toHaveLength(6);
    expect(next.more).toBe(false);
    const told = await searchPapers(reader, { words: 'kittiwake', placeId: null, skip: 0 });
    expect(told.papers.map(({ title }) => title)).toEqual(['birds']);
    expect(told.more).toBe(false);
    expect(await titles(reader, 'hole')).toEqual([]);
  });

  it('not in which place it has its home, to those who see it by another', async () => {
    const id = await filed(closedId, 'sandpiper.txt', 'A sandpiper ran along the hard.');
    await crossFile(keeper, { documentIds: [id], toId: openId, kind: 'opening' });
    expect(await titles(keeper, 'sandpiper', closedId)).toEqual(['sandpiper']);
    expect(await titles(reader, 'sandpiper')).toEqual(['sandpiper']);
    expect(await titles(reader, 'sandpiper', openId)).toEqual(['sandpiper']);
    expect(await titles(reader, 'sandpiper', closedId)).toEqual([]);
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
