import { eq } from 'drizzle-orm';
import { plainView } from '@/core/views/spec';
import { fileBuffer } from '@/demo/file';
import { setAccess } from '@/server/access/change';
import { atMoment } from '@/server/base/clock';
import { writableDb } from '@/server/db/client';
import { followMail, person } from '@/server/db/schema';
import { followedBy, newsOfFollowed, putFollow, removeFollow } from '@/server/follow/follow';
import { sendSummaries, setSummaryTimes, stopByLink, stopMark, summaryTimesOf } from '@/server/follow/summary';
import type { Actor } from '@/server/gate/actor';
import { createFolder } from '@/server/places/create';
import { renamePaper } from '@/server/documents/amend';
import { docketOf } from '@/server/documents/docket';
import { saveView } from '@/server/views/saved';
import { dropLibrary, type furnished, refusedAs, sharedLibrary } from '../library';
import { mailsTo } from '../mails';

let keeper: Actor;
let reader: Actor;
let home: Awaited<ReturnType<typeof furnished>>;

beforeAll(async () => {
  ({ keeper, reader, home } = await sharedLibrary('officer'));
});
afterAll(dropLibrary);
beforeEach(async () => {
  for (const { kind, ref } of await followedBy(reader)) await removeFollow(reader, { on: { kind, ref } });
});

const file = (name: string, placeId = home.year.id, actor = keeper): Promise<string> =>
  fileBuffer(actor, placeId, `${name}.txt`, Buffer.from(name));
const place = (ref: string) => ({ on: { kind: 'place', ref } }) as const;
const folder = async (name: string) => (await createFolder(keeper, { parentId: home.year.id, name })).id;
const titles = async (): Promise<string[]> =>
  (await newsOfFollowed(reader)).flatMap(({ papers }) => papers.map(({ title }) => title));
async function shut(id: string): Promise<void> {
  await setAccess(keeper, { on: { kind: 'place', id }, follows: false, revision: 0, message: null, grants: [] });
}

it('tells of what others change in a paper, a place with all below it, and a view, and of nothing else', async () => {
  const [one, two] = [await folder('One'), await folder('Two')];
  const { id: inner } = await createFolder(keeper, { parentId: one, name: 'Inner' });
  const [kept, other] = [await file('in two', two), await file('also in two', two)];
  await putFollow(reader, place(one));
  await Promise.all([1, 2].map(() => putFollow(reader, { on: { kind: 'paper', ref: kept } })));
  expect((await followedBy(reader)).map(({ kind, name }) => [kind, name])).toEqual([
    ['paper', 'in two'],
    ['place', 'One'],
  ]);
  await file('deep inside', inner);
  await file('by myself', one, reader);
  const { revision } = await docketOf(keeper, { documentId: other });
  await renamePaper(keeper, { documentId: other, title: 'not followed', revision });
  expect(await titles()).toEqual(['deep inside', 'in two']);
  const spec = {
    ...plainView,
    below: true,
    conditions: [{ of: 'title' as const, text: 'contains' as const, words: 'not followed' }],
  };
  const view = {
    placeId: two,
    name: 'Mine',
    purpose: '',
    audience: 'me' as const,
    groupIds: [],
    spec,
    opensHere: false,
  };
  const { id: viewId } = await saveView(reader, view);
  await putFollow(reader, { on: { kind: 'view', ref: viewId } });
  expect(await titles()).toContain('not followed');
  await removeFollow(reader, { on: { kind: 'view', ref: viewId } });
  expect(await titles()).not.toContain('not followed');
});

it('tells of nothing that was closed since, and nobody can follow what is kept from them', async () => {
  const id = await folder('Closing');
  await putFollow(reader, place(id));
  await file('was open', id);
  expect(await titles()).toEqual(['was open']);
  await shut(id);
  expect([await titles(), await followedBy(reader)]).toEqual([[], []]);
  expect(await refusedAs(putFollow(reader, place(id)))).toBe('not-found');
  expect(await refusedAs(putFollow(reader, { on: { kind: 'view', ref: id } }))).toBe('not-found');
});

describe('a summary by mail', () => {
  const eight = new Date('2027-03-01T08:30:00Z');
  const hours = (count: number): Date => new Date(eight.getTime() + count * 3_600_000);
  const mails = async () => (await mailsTo(reader.email)).filter((mail) => mail.includes(`/stop/${reader.personId}/`));

  it('comes once a day at its hour, with what is open then, by one of two workers', async () => {
    const [id, closing] = [await folder('Told of'), await folder('To be shut')];
    await putFollow(reader, place(id));
    await putFollow(reader, place(closing));
    await setSummaryTimes(reader, { times: { every: 'daily', hour: 8, weekday: 1 } });
    await file('news of today', id);
    await file('shut before it is told', closing);
    await shut(closing);
    expect(await atMoment(hours(-2), sendSummaries)).toBe(0);
    const sent = await Promise.all([atMoment(eight, sendSummaries), atMoment(eight, sendSummaries)]);
    expect(sent[0] + sent[1]).toBe(1);
    const [mail = '', ...more] = await mails();
    expect(more).toEqual([]);
    expect(mail).toContain('news of today');
    expect(mail).not.toContain('shut before it is told');
    expect(await atMoment(hours(3), sendSummaries)).toBe(0);
    // The day after there is nothing new, and so no mail.
    expect(await atMoment(hours(24), sendSummaries)).toBe(0);
    expect(await mails()).toHaveLength(1);
  });

  it('is not sent to someone whose account is off', async () => {
    await writableDb()
      .update(followMail)
      .set({ sentDay: null, since: new Date(0) });
    await writableDb().update(person).set({ active: false }).where(eq(person.id, reader.personId));
    expect(await atMoment(hours(48), sendSummaries)).toBe(0);
    await writableDb().update(person).set({ active: true }).where(eq(person.id, reader.personId));
  });

  it('is stopped by the link in it, and by no other', async () => {
    const mark = /stop\/[0-9a-f-]+\/([0-9a-f]+)/u.exec((await mails())[0] ?? '')?.[1] ?? '';
    for (const wrong of ['', 'x', stopMark(keeper.personId), mark.slice(1), `${mark}0`])
      expect(await refusedAs(stopByLink(reader.personId, wrong))).toBe('not-found');
    expect(await summaryTimesOf(reader)).not.toBeNull();
    await stopByLink(reader.personId, mark);
    expect(await summaryTimesOf(reader)).toBeNull();
  });
});
