import fc from 'fast-check';
import MailComposer from 'nodemailer/lib/mail-composer';
import { eq, sql } from 'drizzle-orm';
import { fileBuffer } from '@/demo/file';
import { setAccess } from '@/server/access/change';
import { db, writableDb } from '@/server/db/client';
import { attachment, document, readingStage, searchSegment, searchText } from '@/server/db/schema';
import { disposePapers } from '@/server/disposal/dispose';
import { renamePaper } from '@/server/documents/amend';
import { crossFile } from '@/server/documents/crossFile';
import { docketOf } from '@/server/documents/docket';
import { readStages } from '@/server/extraction/read';
import { createFolder } from '@/server/places/create';
import { mergeSegments, runToMerge } from '@/server/postings/keep';
import { newcomer, refusedAs } from '../library';
import { readPaper } from '../reading';
import {
  beginLooking,
  closedId,
  endLooking,
  filed,
  keeper,
  looked,
  openId,
  reader,
  rootId,
  titles,
  why,
} from './looking';

beforeAll(beginLooking);
afterAll(endLooking);

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
    await crossFile(keeper, { documentIds: [id], toIds: [openId], kind: 'opening' });
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
