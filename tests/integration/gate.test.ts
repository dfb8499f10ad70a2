import { eq } from 'drizzle-orm';
import { contract, type OperationName, type ReadInputOf } from '@/core/contract';
import { Refusal } from '@/core/errors/refusal';
import type { Actor } from '@/server/gate/actor';
import { addAttendees } from '@/server/agenda/attendance';
import { beginAgenda } from '@/server/agenda/begin';
import { addItems } from '@/server/agenda/items';
import { attachPapers } from '@/server/agenda/papers';
import { recordOutcome } from '@/server/minutes/record';
import { beginPack } from '@/server/packs/fromAgenda';
import { setValues } from '@/server/columns/setValues';
import { writableDb } from '@/server/db/client';
import {
  apiToken,
  document,
  journal,
  agendaPaper as agendaPaperTable,
  arrival as arrivalTable,
  filingRule as filingRuleTable,
  wayIn as wayInTable,
  attendee as attendeeTable,
  packEntry as packEntryTable,
  packIssue as packIssueTable,
  meeting as meetingTable,
  place,
  scope,
  session as sessionTable,
  upload as uploadTable,
} from '@/server/db/schema';
import { putLabel } from '@/server/labels/labels';
import { makeLink } from '@/server/outside/links';
import { operations } from '@/server/operations/operations';
import { startUpload } from '@/server/uploads/start';
import { saveView } from '@/server/views/saved';
import { plainFields } from '@/core/columns/contract';
import { fileBuffer } from '@/demo/file';
import { defineColumn } from '@/server/columns/define';
import { setGiven } from '@/server/columns/given';
import { renamePaper } from '@/server/documents/amend';
import { docketOf } from '@/server/documents/docket';
import { openPlace } from '@/server/places/open';
import { dropLibrary, freshLibrary, newcomer, open } from '../library';
import { contentOf } from '../reading';
import { calls, plainOutcome, saved } from './calls';
import { made, oneOfEach, type Ids } from './oneOfEach';

const names = Object.keys(contract) as OperationName[];
const acts = names.filter((name) => contract[name].kind === 'act');

let keeper: Actor;
let outsider: Actor;
let reader: Actor;
let real: Ids;

beforeAll(async () => {
  keeper = await freshLibrary();
  outsider = await newcomer(keeper, 'Out Sider');
  reader = await newcomer(keeper, 'Rea Der');
  const things = await oneOfEach(keeper, 'Secret');
  const { paper } = things;
  const { entryId } = await setValues(keeper, { documentIds: [paper], values: { [things.column]: 'secret words' } });
  await putLabel(keeper, { labelId: things.label, documentIds: [paper], on: true });
  const upload = crypto.randomUUID();
  const { id: view } = await saveView(keeper, {
    ...saved,
    placeId: things.place,
    name: 'Secret view',
    audience: 'me',
    opensHere: false,
  });
  await startUpload(keeper, upload, 10, { placeId: things.place, fileName: 'Secret upload.txt' });
  const soon = new Date(Date.now() + 86_400_000);
  const [session] = await writableDb()
    .insert(sessionTable)
    .values({ token: 'secret session', userId: keeper.personId, expiresAt: soon })
    .returning();
  const [token] = await writableDb()
    .insert(apiToken)
    .values({ personId: keeper.personId, name: 'Secret token', tokenHash: 'secret', capabilities: 31, expiresAt: soon })
    .returning();
  const [meetingRow] = await writableDb()
    .insert(meetingTable)
    .values({ dossierId: things.other, day: '2026-07-14', title: 'Secret meeting' })
    .returning();
  const meeting = meetingRow?.id ?? '';
  const { agendaId } = await beginAgenda(keeper, { of: { meetingId: meeting } });
  const { itemIds } = await addItems(keeper, { agendaId, parentId: null, beforeId: null, titles: ['Secret item'] });
  await attachPapers(keeper, { itemId: itemIds[0] ?? '', documentIds: [paper] });
  await addAttendees(keeper, {
    meetingId: meeting,
    people: [{ personId: null, name: 'Secret guest', part: 'member' }],
  });
  const [attached] = await writableDb().select().from(agendaPaperTable);
  const [guest] = await writableDb().select().from(attendeeTable);
  const { outcomeId } = await recordOutcome(keeper, {
    itemId: itemIds[0] ?? '',
    kind: 'action',
    ...plainOutcome,
    text: 'Secret action',
  });
  const { packId } = await beginPack(keeper, { of: { meetingId: meeting } });
  const [entryRow] = await writableDb().select().from(packEntryTable);
  const [issueRow] = await writableDb()
    .insert(packIssueTable)
    .values({ packId, number: 1, called: 'Issue 1', record: secretRecord, issuedBy: keeper.personId, askedAt: soon })
    .returning();
  const [arrivalRow] = await writableDb()
    .insert(arrivalTable)
    .values({
      ...{
        way: 'mail',
        arrivedAt: soon,
        sha256: await contentOf(paper),
        fileName: 'Mail.eml',
        mediaType: 'message/rfc822',
      },
      ...{
        envelopeFrom: 'a@b.example',
        sentTo: [],
        state: 'waiting',
        subject: 'Secret subject',
        dossierId: things.other,
      },
      proposal: { parts: [{ attachment: null, title: 'Secret mail', counts: true }], candidates: [] },
    })
    .returning();
  const [ruleRow] = await writableDb()
    .insert(filingRuleTable)
    .values({ name: 'Secret rule', conditions: [], placeId: things.other, title: '', position: 1 })
    .returning();
  const [wayRow] = await writableDb()
    .insert(wayInTable)
    .values({ name: 'Secret way', settings: { kind: 'scans', folder: 'secret', atBlanks: false } })
    .returning();
  const link = await makeLink(keeper, {
    on: { kind: 'paper', id: paper },
    email: null,
    password: null,
    copies: true,
    until: soon.toISOString().slice(0, 10),
    mostOpenings: null,
    message: '',
  });
  real = {
    ...things,
    person: keeper.personId,
    upload,
    view,
    session: session?.id ?? '',
    token: token?.id ?? '',
    link: link.id,
    meeting,
    agenda: agendaId,
    agendaItem: itemIds[0] ?? '',
    agendaPaper: attached?.id ?? '',
    outcome: outcomeId,
    attendee: guest?.id ?? '',
    pack: packId,
    packEntry: entryRow?.id ?? '',
    issue: issueRow?.id ?? '',
    arrival: arrivalRow?.id ?? '',
    filingRule: ruleRow?.id ?? '',
    wayIn: wayRow?.id ?? '',
    entry: entryId ?? 0,
  };
  await open(keeper, things.series, reader, 'reader');
});
afterAll(dropLibrary);

const secretRecord = {
  name: 'Secret pack',
  description: '',
  preparedBy: '',
  forWhom: '',
  day: null,
  library: '',
  stampPlace: 'topLeft',
  sheets: true,
  firstPage: 1,
  called: '',
  entries: [],
} as const;

/** What an actor is answered, as the edge would read the input and word a refusal. */
async function answer<N extends OperationName>(actor: Actor, name: N, ids: Ids): Promise<string> {
  const perform = operations[name] as (actor: Actor, input: ReadInputOf<N>) => Promise<unknown>;
  try {
    const input = contract[name].input.parse(calls[name](ids)) as ReadInputOf<N>;
    return `answered ${JSON.stringify(await perform(actor, input))}`;
  } catch (error) {
    if (error instanceof Refusal) return `refused ${JSON.stringify(error.issue)}`;
    throw error;
  }
}

const fingerprint = async (): Promise<string> =>
  JSON.stringify([
    await writableDb().$count(journal),
    await writableDb().select().from(document).orderBy(document.id),
    await writableDb()
      .select({ id: place.id, name: place.name, parentId: place.parentId, closed: place.closed })
      .from(place)
      .orderBy(place.id),
  ]);

/** What people note of their own looking about. */
const notes: ReadonlySet<OperationName> = new Set([
  'place.look',
  'passed.mark',
  'paper.remember',
  'paper.readAgain',
  'library.readAgain',
  'search.remember',
  'search.forget',
  'hand.pickUp',
  'hand.putDown',
  'desk.arrange',
  'bookmark.put',
  'bookmark.remove',
  'follow.put',
  'follow.remove',
  'follow.setTimes',
]);

/** What whoever may take copies may do: they are given an archive of them, and the journal says so. */
const copies: ReadonlySet<OperationName> = new Set(['export.ask']);

/** Lists are the whole library's words, and no secret: all may read them, and who may not add to one is told so. */
const openToAll: ReadonlySet<OperationName> = new Set(['term.add', 'lists.all']);

describe('someone to whom nothing is open', () => {
  it.each(names.filter((name) => !openToAll.has(name)))(
    'is answered by %s for what there is as for what never was',
    async (name) => {
      const answered = await answer(outsider, name, real);
      // Ids that a caller gave may come back to them, whole; nothing else may differ.
      const plain = (text: string, ids: Ids): string =>
        Object.entries(ids).reduce((all, [key, id]) => all.replace(new RegExp(`\\b${id}\\b`, 'gu'), key), text);
      expect(plain(answered, real)).toBe(plain(await answer(outsider, name, made), made));
      expect(answered.toLowerCase()).not.toContain('secret');
    },
  );

  it('changes nothing by any act, however it is called', async () => {
    const before = await fingerprint();
    for (const name of acts) await answer(outsider, name, real);
    expect(await fingerprint()).toBe(before);
  });
});

describe('someone who sees the library as another would', () => {
  it('does nothing by any act, in nobody’s name, even where that other could', async () => {
    const scopes = new Map((await writableDb().select({ id: scope.id }).from(scope)).map(({ id }) => [id, 31]));
    const looker: Actor = {
      ...keeper,
      keeper: false,
      seenBy: { personId: outsider.personId, name: 'Out', scopes, byOpening: new Set() },
    };
    const before = await fingerprint();
    const uploads = await writableDb().$count(uploadTable);
    const notDone = expect.stringContaining('someone else would. Nothing was changed') as string;
    for (const name of acts) expect([name, await answer(looker, name, real)]).toEqual([name, notDone]);
    expect(await fingerprint()).toBe(before);
    expect(await writableDb().$count(uploadTable)).toBe(uploads);
  });
});

describe('someone who may only read', () => {
  it('changes nothing by any act, and is told that it was not done', async () => {
    const before = await fingerprint();
    const done: string[] = [];
    for (const name of acts) {
      // What a person has looked at is theirs to note.
      if (notes.has(name) || copies.has(name)) continue;
      const answered = await answer(reader, name, real);
      // Cells are refused one by one, and bringing a table in finds nothing that may be changed.
      const nothing = name === 'papers.setCells' ? '"state":"refused"' : name === 'table.apply' ? '"changed":0' : null;
      if (answered.startsWith('answered') && !(nothing && answered.includes(nothing)))
        done.push(`${name}: ${answered}`);
    }
    expect(done).toEqual([]);
    expect(await fingerprint()).toBe(before);
  });

  it('sees what is open to them: the same calls are answered', async () => {
    for (const name of [
      'place.open',
      'paper.docket',
      'papers.values',
      'columns.at',
      'given.of',
      'view.open',
      'view.crossTable',
      'views.at',
      'journal.of',
    ] as const)
      expect(await answer(reader, name, real)).toMatch(/^answered/u);
    expect(await answer(reader, 'find', real)).toContain('Secret pact');
    // A private label of the keeper's is not theirs to see, on a paper that is.
    expect(await answer(reader, 'paper.docket', real)).toContain('"labels":[]');
    const [row] = await writableDb()
      .select({ shown: document.shownValues })
      .from(document)
      .where(eq(document.id, real.paper));
    expect(row?.shown).toEqual({ [real.column]: 'secret words' });
  });
});

describe('a question that says nothing of papers', () => {
  it('is answered the same when papers have changed', async () => {
    const silent = names.filter((name) => contract[name].kind === 'ask' && contract[name].reads === 'noPapers');
    const { id: columnId } = await defineColumn(keeper, {
      ...plainFields,
      placeId: real.series,
      name: 'Follows',
      type: 'document',
    });
    const { place: at } = await openPlace(keeper, { placeId: real.place });
    const given = [{ columnId, mode: 'fixed' as const, value: real.paper, binding: null }];
    await setGiven(keeper, { placeId: real.place, given, revision: at.revision });
    const all = () =>
      Promise.all(
        silent.flatMap((name) => [keeper, reader].map(async (who) => [name, await answer(who, name, real)] as const)),
      );
    const before = await all();
    const { revision } = await docketOf(keeper, { documentId: real.paper });
    await renamePaper(keeper, { documentId: real.paper, title: 'Another title', revision });
    const more = await fileBuffer(keeper, real.place, 'More.txt', Buffer.from('More\n'));
    await putLabel(keeper, { labelId: real.label, documentIds: [more], on: true });
    expect(await all()).toEqual(before);
    expect(silent.length).toBeGreaterThan(10);
  });
});
