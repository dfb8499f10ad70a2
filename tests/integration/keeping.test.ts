import { and, eq, sql } from 'drizzle-orm';
import { plainFields } from '@/core/columns/contract';
import { findings, untellingTitle, type Finding } from '@/core/health/model';
import type { InputOf } from '@/core/contract';
import { fileBuffer } from '@/demo/file';
import { setAccess } from '@/server/access/change';
import { atMoment } from '@/server/base/clock';
import { defineColumn } from '@/server/columns/define';
import { db } from '@/server/db/client';
import { healthCount } from '@/server/db/schema';
import { disposePapers } from '@/server/disposal/dispose';
import { renamePaper } from '@/server/documents/amend';
import { copyPapers } from '@/server/documents/copy';
import { docketOf } from '@/server/documents/docket';
import type { Actor } from '@/server/gate/actor';
import { healthCounts, healthList, noteHealth } from '@/server/health/health';
import { findInJournal } from '@/server/journal/read';
import { createGroup } from '@/server/people/people';
import { createFolder } from '@/server/places/create';
import { readPaper } from '../reading';
import { dropLibrary, type furnished, newcomer, refusedAs, sharedLibrary } from '../library';

let keeper: Actor;
let reader: Actor;
let home: Awaited<ReturnType<typeof furnished>>;

beforeAll(async () => {
  ({ keeper, reader, home } = await sharedLibrary());
});
afterAll(dropLibrary);

const file = (name: string, content = name, placeId = home.year.id, at?: 'version'): Promise<string> =>
  fileBuffer(keeper, placeId, `${name}.txt`, Buffer.from(content), at);

describe('the journal', () => {
  const all: InputOf<'journal.find'> = {
    about: null,
    group: null,
    personId: null,
    from: null,
    to: null,
    words: '',
    before: null,
  };
  const words = async (over: Partial<InputOf<'journal.find'>>, actor = keeper) =>
    (await findInJournal(actor, { ...all, ...over })).lines.map((line) => line.words);

  it('is found by words, kind of act, person and days', async () => {
    const id = await file('Tidal survey');
    const { revision } = await docketOf(keeper, { documentId: id });
    await renamePaper(keeper, { documentId: id, title: 'Tidal survey, final', revision });
    await disposePapers(keeper, { documentIds: [id] });
    expect(await words({ words: 'tidal RENAMED' })).toEqual(['renamed “Tidal survey” to “Tidal survey, final”']);
    expect(await words({ words: 'kea tidal', group: 'disposal' })).toEqual([
      'put “Tidal survey, final” into the disposal tray',
    ]);
    expect(await words({ personId: reader.personId })).toEqual(['joined the library']);
    expect(await words({ to: '2000-01-01' })).toEqual([]);
    const today = new Intl.DateTimeFormat('en-CA', { timeZone: 'Europe/London' }).format(new Date());
    expect(await words({ from: today, to: today, words: 'tidal' })).toHaveLength(3);
    expect(await words({ words: '%' })).toEqual([]);
  });

  it('goes on from where a page ended, with nothing twice and nothing left out', async () => {
    for (let at = 0; at < 120; at += 1) await createFolder(keeper, { parentId: home.year.id, name: `Folder ${at}` });
    const first = await findInJournal(keeper, { ...all, words: 'made the folder' });
    expect([first.lines.length, first.next]).toEqual([100, first.lines.at(-1)?.id]);
    const second = await findInJournal(keeper, { ...all, words: 'made the folder', before: first.next });
    const ids = [...first.lines, ...second.lines].map(({ id }) => id);
    expect(new Set(ids).size).toBe(ids.length);
    expect([ids.length >= 120, second.next]).toEqual([true, null]);
  });

  it('of a place includes what lies below it, and names nothing that is kept from a person', async () => {
    const shut = await createFolder(keeper, { parentId: home.year.id, name: 'Shut' });
    const on = { kind: 'place', id: shut.id } as const;
    await setAccess(keeper, { on, follows: false, revision: 0, message: null, grants: [] });
    await file('Secret of the shut', 'x', shut.id);
    await file('Open to all');
    const below = { about: { subject: 'place', id: home.dossier.id } } as const;
    expect(await words({ ...below, words: 'secret' })).toHaveLength(1);
    expect(await words({ ...below, words: 'secret' }, reader)).toEqual([]);
    expect(await words({ ...below, words: 'shut' }, reader)).toEqual([]);
    expect(await words({ ...below, words: 'open to all' }, reader)).toHaveLength(1);
    expect(await refusedAs(findInJournal(reader, { ...all, about: { subject: 'place', id: shut.id } }))).toBe(
      'not-found',
    );
    expect(await refusedAs(findInJournal(reader, all))).toBe('not-allowed');
  });
});

describe('the health of the library', () => {
  const number = async (finding: Finding) =>
    (await healthCounts(keeper)).find((each) => each.finding === finding)?.number ?? -1;
  const names = async (finding: Finding) => (await healthList(keeper, { finding })).map(({ name }) => name);

  it('is for keepers', async () => {
    expect(await refusedAs(healthCounts(reader))).toBe('not-allowed');
    expect(await refusedAs(healthList(reader, { finding: 'large' }))).toBe('not-allowed');
  });

  it('finds each kind of thing, and as many as it lists', async () => {
    await file('twice one', 'the same words');
    await file('twice two', 'the same words');
    await file('scan0012', 'a scan');
    await createGroup(keeper, { name: 'Nobody in it' });
    await newcomer(keeper, 'No Access');
    await defineColumn(keeper, { ...plainFields, name: 'Needed', type: 'text', required: true, placeId: home.year.id });
    const original = await file('Form');
    await copyPapers(keeper, { documentIds: [original], toIds: [home.dossier.id], onSameName: 'number' });
    await file('Form', 'a newer form', home.year.id, 'version');
    expect(await names('sameContent')).toEqual(expect.arrayContaining(['twice one', 'twice two']));
    expect(await names('untelling')).toEqual(['scan0012']);
    expect(await names('emptyGroups')).toEqual(['Nobody in it']);
    expect(await names('noAccess')).toEqual(['No Access']);
    expect(await names('behind')).toEqual(['Form']);
    expect(await names('standAlone')).toEqual(['Shut']);
    expect((await names('emptyFolders')).length).toBe(120);
    expect(await number('lacking')).toBeGreaterThan(3);
    for (const finding of findings) expect(await number(finding)).toBe((await names(finding)).length);
  });

  it('finds drafts of one text, and none of texts that are the same or have only a sentence in common', async () => {
    const sentence = (at: number) =>
      `On day ${at} the ${['tide', 'quay', 'crane', 'barge'][at % 4]} number ${at * 7} was looked at by the harbour master.`;
    const words = Array.from({ length: 60 }, (_each, at) => sentence(at)).join('\n');
    const other = Array.from({ length: 60 }, (_each, at) => sentence(at + 1000)).join('\n');
    const drafts = {
      'First draft': words,
      'Second draft': `${words}\nOne line more.`,
      'Same words': words.toUpperCase(),
      Apart: `${other}\n${sentence(3)}`,
    };
    for (const [name, content] of Object.entries(drafts)) await readPaper(await file(name, content));
    expect((await names('alikeText')).sort()).toEqual(['First draft', 'Same words', 'Second draft']);
    const [second] = (await healthList(keeper, { finding: 'alikeText' })).filter(({ name }) => name === 'Second draft');
    expect(second?.about).toMatch(/^like “First draft”, /u);
    expect((await names('sameText')).sort()).toEqual(['First draft', 'Same words']);
  });

  it('keeps its numbers day by day, each day once', async () => {
    const day = (count: number) => new Date(Date.now() - count * 86_400_000);
    await atMoment(day(2), noteHealth);
    await atMoment(day(1), noteHealth);
    await atMoment(day(1), noteHealth);
    const { before } = (await healthCounts(keeper)).find(({ finding }) => finding === 'emptyGroups') ?? { before: [] };
    expect(before.map((each) => each.number)).toEqual([1, 1]);
    expect(
      await db()
        .select({ day: healthCount.day })
        .from(healthCount)
        .where(and(eq(healthCount.finding, 'large'))),
    ).toHaveLength(2);
  });

  it.each([
    ['scan0012', true],
    ['IMG_2041', true],
    ['Document (3)', true],
    ['untitled', true],
    ['Copy of document 2', true],
    ['scanned image 4', true],
    ['Scanner contract', false],
    ['Document register', false],
    ['Photo of the slipway crane', false],
    ['New pontoon', false],
    ['Form 12', false],
  ])('says of the title %s that it says nothing: %s', async (title, untelling) => {
    const { rows } = await db().execute<{ is: boolean }>(sql`select ${title}::text ~* ${untellingTitle} as is`);
    expect(rows[0]?.is).toBe(untelling);
  });
});
