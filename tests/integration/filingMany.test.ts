import { createHash } from 'node:crypto';
import { Readable } from 'node:stream';
import { and, arrayContains, desc, eq } from 'drizzle-orm';
import type { Actor } from '@/server/gate/actor';
import { db } from '@/server/db/client';
import { document, journal, upload } from '@/server/db/schema';
import { journalOf } from '@/server/journal/read';
import { createFolder } from '@/server/places/create';
import { listChildren } from '@/server/places/open';
import { setAccess } from '@/server/access/change';
import { foreseeUploads } from '@/server/uploads/foresee';
import { ownUpload, receive } from '@/server/uploads/receive';
import { settleUpload } from '@/server/uploads/settle';
import { contentsAlike } from '@/server/uploads/alike';
import { settleUploads } from '@/server/uploads/settleMany';
import { tellOfFiled } from '@/server/uploads/tell';
import { cancelUpload, startUpload } from '@/server/uploads/start';
import { verifyLibrary } from '@/server/verify/verify';
import { mailsTo } from '../mails';
import { dropLibrary, freshLibrary, furnished, newcomer, open, refusedAs } from '../library';
import { bytesOf, filed, text } from './sending';

let keeper: Actor;
let home: Awaited<ReturnType<typeof furnished>>;

beforeAll(async () => {
  keeper = await freshLibrary();
  home = await furnished(keeper);
});
afterAll(dropLibrary);

const folder = async (name: string) => (await createFolder(keeper, { parentId: home.year.id, name })).id;

/** Lets nobody but the keeper into a place. */
const keepToKeeper = (placeId: string) =>
  setAccess(keeper, {
    on: { kind: 'place', id: placeId },
    follows: false,
    revision: 0,
    message: null,
    grants: [{ subject: { kind: 'person', id: keeper.personId }, gives: ['manage'], withholds: [] }],
  });

/** Sends a file, which then waits to be filed. */
async function sent(placeId: string, fileName: string, bytes = text(fileName), more: object = {}, by = keeper) {
  const id = crypto.randomUUID();
  await startUpload(by, id, bytes.length, { placeId, fileName, ...more });
  await receive(await ownUpload(by, id), 0, Readable.from([bytes]));
  return id;
}

const states = (outcomes: Awaited<ReturnType<typeof settleUploads>>) => outcomes.map(({ outcome }) => outcome.state);

async function lastEntryOf(placeId: string) {
  const [entry] = await db()
    .select()
    .from(journal)
    .where(arrayContains(journal.subjects, [placeId]))
    .orderBy(desc(journal.id))
    .limit(1);
  return entry;
}

it('files many in one entry of the journal, with the folders they come in, and each paper begins with it', async () => {
  const placeId = await folder('Cabinet');
  const bytes = Array.from({ length: 9 }, (_, index) => text(`cabinet ${index}`));
  const ids = await Promise.all(
    bytes.map((each, index) =>
      sent(placeId, `Paper ${index}.txt`, each, { relativePath: `Drawer ${index % 3}/Inner` }),
    ),
  );
  const entries = await db().$count(journal);
  const outcomes = await settleUploads(keeper, { uploadIds: ids });
  expect(states(outcomes)).toEqual(ids.map(() => 'filed'));
  expect((await db().$count(journal)) - entries).toBe(1);
  expect((await listChildren(keeper, { placeId })).map((each) => [each.name, each.paperCount])).toEqual([
    ['Drawer 0', 3],
    ['Drawer 1', 3],
    ['Drawer 2', 3],
  ]);
  for (const [index, { outcome }] of outcomes.entries()) {
    if (outcome.state !== 'filed') throw new Error(outcome.state);
    expect((await bytesOf(keeper, outcome.documentId)).equals(bytes[index] ?? Buffer.alloc(0))).toBe(true);
    const lines = await journalOf(keeper, { subject: 'document', id: outcome.documentId, before: null });
    expect(lines.at(-1)).toMatchObject({ words: 'filed 9 papers in “Cabinet”' });
  }
  expect((await lastEntryOf(placeId))?.detail).toMatchObject({ count: 9, toId: placeId });
  // Asked again, it answers the same and files nothing more.
  expect(await settleUploads(keeper, { uploadIds: ids })).toEqual(outcomes);
  expect((await db().$count(journal)) - entries).toBe(1);
});

it('leaves to a question what needs one, and files the rest', async () => {
  const placeId = await folder('Questions');
  const known = text('known');
  await filed(keeper, placeId, 'Minutes.txt', known);
  const twin = text('twin');
  const ids = [
    await sent(placeId, 'minutes.txt'),
    await sent(placeId, 'copy.txt', known),
    await sent(placeId, 'one.txt', twin),
    await sent(placeId, 'two.txt', twin),
    await sent(placeId, 'Title.txt'),
    await sent(placeId, 'title.txt'),
    await sent(placeId, 'Minutes.txt', undefined, { onSameName: 'both' }),
    await sent(placeId, 'Minutes.txt', undefined, { onSameName: 'both' }),
    await sent(placeId, 'MINUTES.txt', undefined, { onSameName: 'version' }),
    await sent(placeId, 'program.txt', Buffer.from('7f454c4602010100000000000000000002003e0001', 'hex')),
    await sent(placeId, 'damaged.txt', undefined, { sha256: '0'.repeat(64) }),
    await sent(placeId, 'plain.txt'),
  ];
  const outcomes = await settleUploads(keeper, { uploadIds: ids });
  expect(states(outcomes)).toEqual([
    'same-name',
    'same-content',
    'filed',
    'same-content',
    'filed',
    'same-name',
    'filed',
    'filed',
    'filed',
    'refused',
    'refused',
    'filed',
  ]);
  const titles = await db().select({ title: document.title }).from(document).where(eq(document.homeId, placeId));
  expect(titles.map((each) => each.title).sort()).toEqual([
    'Minutes',
    'Minutes (2)',
    'Minutes (3)',
    'Title',
    'one',
    'plain',
  ]);
  expect(await settleUpload(keeper, ids[0] ?? '', { onSameName: 'version' })).toMatchObject({ versionNumber: 3 });
  expect(await verifyLibrary({ contentBytes: true })).toEqual([]);
});

it('files each once where two ask at the same moment', async () => {
  const placeId = await folder('At once');
  const ids = await Promise.all([1, 2, 3, 4, 5].map((each) => sent(placeId, `at once ${each}.txt`)));
  const [one, other] = await Promise.all([
    settleUploads(keeper, { uploadIds: ids }),
    settleUploads(keeper, { uploadIds: [...ids].reverse() }),
  ]);
  expect(new Set([...states(one), ...states(other)])).toEqual(new Set(['filed']));
  expect(await db().$count(document, eq(document.homeId, placeId))).toBe(5);
});

it('files nothing where the right was withdrawn meanwhile, and nothing of anyone else’s', async () => {
  const placeId = await folder('Withdrawn');
  const contributor = await newcomer(keeper, 'Con Tributor');
  await open(keeper, placeId, contributor, 'contributor');
  const mine = await Promise.all([1, 2].map((each) => sent(placeId, `mine ${each}.txt`)));
  // Another's uploads are not there for them.
  expect(await refusedAs(settleUploads(contributor, { uploadIds: mine }))).toBe('not-found');
  const theirs = await Promise.all(
    [1, 2, 3].map((each) => sent(placeId, `theirs ${each}.txt`, undefined, { relativePath: 'New' }, contributor)),
  );
  // A contributor may file, and may not make folders.
  const outcomes = await settleUploads(contributor, { uploadIds: theirs });
  expect(outcomes.every(({ outcome }) => outcome.state === 'refused' && outcome.issue.kind === 'not-allowed')).toBe(
    true,
  );
  expect(await db().$count(document, eq(document.homeId, placeId))).toBe(0);
});

it('lets a sender repeat the request that begins an upload: begun again, or answered as before', async () => {
  const placeId = await folder('Repeated');
  const id = crypto.randomUUID();
  const bytes = text('repeated');
  const begin = () => startUpload(keeper, id, bytes.length, { placeId, fileName: 'repeated.txt', id });
  await begin();
  await receive(await ownUpload(keeper, id), 0, Readable.from([bytes.subarray(0, 4)]));
  await begin();
  expect((await ownUpload(keeper, id)).receivedBytes).toBe(0);
  await receive(await ownUpload(keeper, id), 0, Readable.from([bytes]));
  await begin();
  expect((await ownUpload(keeper, id)).receivedBytes).toBe(bytes.length);
  const outcome = await settleUpload(keeper, id);
  await begin();
  expect(await settleUpload(keeper, id)).toEqual(outcome);
  expect(await refusedAs(startUpload(keeper, id, 3, { placeId, fileName: 'other.txt', id }))).toBe('conflict');
  const other = await newcomer(keeper, 'Ot Her');
  await open(keeper, placeId, other, 'contributor');
  expect(await refusedAs(startUpload(other, id, bytes.length, { placeId, fileName: 'theirs.txt', id }))).toBe(
    'not-found',
  );
  expect(await db().$count(upload, and(eq(upload.id, id), eq(upload.personId, keeper.personId)))).toBe(1);
});

it('files the others where one is cancelled at the same moment', async () => {
  const placeId = await folder('Cancelled');
  const ids = await Promise.all([1, 2, 3, 4].map((each) => sent(placeId, `cancelled ${each}.txt`)));
  const [outcomes] = await Promise.all([
    settleUploads(keeper, { uploadIds: ids }),
    cancelUpload(keeper, { uploadId: ids[1] ?? '' }),
  ]);
  expect(states(outcomes).filter((state) => state === 'filed').length).toBeGreaterThanOrEqual(3);
  expect(await verifyLibrary({ contentBytes: true })).toEqual([]);
});

it('tells before what would become of files, and nothing of a folder that is kept from someone', async () => {
  const placeId = await folder('Foreseen');
  const openId = (await createFolder(keeper, { parentId: placeId, name: 'Open' })).id;
  const secret = (await createFolder(keeper, { parentId: placeId, name: 'Secret' })).id;
  await filed(keeper, openId, 'Minutes.txt');
  await filed(keeper, secret, 'Pact.txt');
  const files = [
    { relativePath: 'Open', title: 'MINUTES' },
    { relativePath: 'Open/Deeper', title: 'Minutes' },
    { relativePath: 'Secret', title: 'Pact' },
  ];
  expect(await foreseeUploads(keeper, { placeId, files })).toEqual({
    folders: { Open: 'there', 'Open/Deeper': 'made', Secret: 'there' },
    taken: [0, 2],
  });
  const contributor = await newcomer(keeper, 'Fore Seen');
  await open(keeper, placeId, contributor, 'contributor');
  await keepToKeeper(secret);
  // To them it is as if there were no such folder, and they may make none.
  expect(await foreseeUploads(contributor, { placeId, files })).toEqual({
    folders: { Open: 'there', 'Open/Deeper': 'refused', Secret: 'refused' },
    taken: [0],
  });
});

it('tells colleagues of what was filed, each of what is open to them, and says who could be told of nothing', async () => {
  const placeId = await folder('Told of');
  const secret = (await createFolder(keeper, { parentId: placeId, name: 'Closed' })).id;
  const [sees, seesNot] = [await newcomer(keeper, 'Sees Some'), await newcomer(keeper, 'Sees Nothing')];
  await open(keeper, placeId, sees, 'reader');
  await keepToKeeper(secret);
  const uploadIds = [await sent(placeId, 'Agenda.txt'), await sent(placeId, 'Map.txt'), await sent(secret, 'Pact.txt')];
  expect(await refusedAs(tellOfFiled(keeper, { uploadIds, personIds: [sees.personId] }))).toBe('not-found');
  await settleUploads(keeper, { uploadIds });
  const personIds = [sees.personId, seesNot.personId];
  // Of what somebody else filed nobody can tell.
  expect(await refusedAs(tellOfFiled(sees, { uploadIds, personIds }))).toBe('not-found');
  expect(await tellOfFiled(keeper, { uploadIds, personIds })).toEqual({ told: 1, notTold: ['Sees Nothing'] });
  const toldOf = async (who: Actor) => (await mailsTo(who.email)).filter((mail) => mail.includes(placeId));
  const mails = await toldOf(sees);
  expect(mails).toHaveLength(1);
  expect(mails[0]).toContain('filed 2 papers that you may read');
  expect(mails[0]).toContain('- Agenda, in ');
  expect(mails[0]).not.toContain('Pact');
  expect(await toldOf(seesNot)).toHaveLength(0);
  const entries = await journalOf(keeper, { subject: 'place', id: placeId, before: null });
  expect(JSON.stringify(entries)).toContain('told Sees Some of 3 papers just filed');
  // Its readers are told of those papers alone that are open to them.
  const theirs = await journalOf(sees, { subject: 'place', id: placeId, before: null });
  expect(JSON.stringify(theirs)).toContain('told Sees Some of 2 papers just filed');
});

it('tells before which contents are in the library already, to who may see the paper', async () => {
  const placeId = await folder('Alike');
  const bytes = text('Filed before');
  await settleUploads(keeper, { uploadIds: [await sent(placeId, 'Before.txt', bytes)] });
  const sha256s = [createHash('sha256').update(bytes).digest('hex'), '0'.repeat(64)];
  expect(await contentsAlike(keeper, { sha256s })).toMatchObject([{ sha256: sha256s[0], title: 'Before' }]);
  expect(await contentsAlike(await newcomer(keeper, 'Sees None'), { sha256s })).toEqual([]);
});
