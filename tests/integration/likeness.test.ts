import { Prose } from '@/demo/prose';
import { Chance } from '@/core/chance/chance';
import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/gate/actor';
import { setAccess } from '@/server/access/change';
import { accessSheet } from '@/server/access/sheet';
import { disposePapers } from '@/server/disposal/dispose';
import { alikePapers } from '@/server/likeness/alike';
import { dropLibrary, freshLibrary, furnished, newcomer, refusedAs } from '../library';
import { readPaper } from '../reading';

let keeper: Actor;
let placeId: string;

beforeAll(async () => {
  keeper = await freshLibrary();
  placeId = (await furnished(keeper)).year.id;
});
afterAll(dropLibrary);

const prose = (seed: number): string => new Prose(new Chance(seed)).paragraphs(8, 8).join('\n\n');

async function filed(fileName: string, text: string): Promise<string> {
  const id = await fileBuffer(keeper, placeId, fileName, Buffer.from(text));
  await readPaper(id);
  return id;
}

const told = async (actor: Actor, documentId: string) =>
  (await alikePapers(actor, { documentId })).papers.map(({ title, likeness }) => [title, likeness] as const);

describe('papers that are like one another', () => {
  it('are told the likest first: the same text, whatever kind of file it is in, then what is much like it', async () => {
    const text = prose(1);
    const first = await filed('minutes.txt', text);
    await filed('minutes again.md', text);
    await filed('minutes, corrected.txt', text.replace(/the /u, 'those '));
    await filed('something else.txt', prose(2));
    const found = await told(keeper, first);
    expect(found.map(([title]) => title)).toEqual(['minutes again', 'minutes, corrected']);
    expect(found[0]?.[1]).toBe(1);
    expect(found[1]?.[1]).toBeLessThan(1);
    expect(found[1]?.[1]).toBeGreaterThan(0.8);
  });

  it('are not told of to those from whom they are kept, nor once they are disposed of', async () => {
    const text = prose(3);
    const open = await filed('open.txt', text);
    const kept = await filed('kept.txt', `${text}\nAnd one line more.`);
    const reader = await newcomer(keeper, 'Rea Reader');
    const on = { kind: 'paper', id: open } as const;
    const { revision } = await accessSheet(keeper, { on });
    const grants = [
      {
        subject: { kind: 'person' as const, id: reader.personId },
        gives: ['see' as const, 'take' as const],
        withholds: [],
      },
    ];
    await setAccess(keeper, { on, follows: false, grants, revision, message: null });
    expect(await told(keeper, open)).toHaveLength(1);
    expect(await told(reader, open)).toEqual([]);
    expect(await refusedAs(alikePapers(reader, { documentId: kept }))).toBe('not-found');
    await disposePapers(keeper, { documentIds: [kept] });
    expect(await told(keeper, open)).toEqual([]);
  });

  it('say whether they have been read yet', async () => {
    const unread = await fileBuffer(keeper, placeId, 'unread.txt', Buffer.from(prose(4)));
    expect(await alikePapers(keeper, { documentId: unread })).toEqual({ isRead: false, papers: [] });
    await readPaper(unread);
    expect((await alikePapers(keeper, { documentId: unread })).isRead).toBe(true);
  });
});
