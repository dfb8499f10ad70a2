import { eq } from 'drizzle-orm';
import MailComposer from 'nodemailer/lib/mail-composer';
import { plainFields } from '@/core/columns/contract';
import { defineColumn } from '@/server/columns/define';
import { db, writableDb } from '@/server/db/client';
import { arrival, document, documentLabel, person, version } from '@/server/db/schema';
import { createDossier } from '@/server/dossiers/create';
import type { Actor } from '@/server/gate/actor';
import { fileArrival, takeArrivalBack } from '@/server/intake/act';
import { agreeToArrivals } from '@/server/intake/agree';
import { arrivalFields, filingFields } from '@/server/intake/fields';
import { fileNextByRule } from '@/server/intake/fileByRule';
import { keepMail } from '@/server/intake/keep';
import { arrivalSheet } from '@/server/intake/read';
import { filingRules, keepFilingRule, removeFilingRule } from '@/server/intake/rules';
import { journalOf } from '@/server/journal/read';
import { createLabel, putLabel } from '@/server/labels/labels';
import { readArrivals } from '../arrivals';
import { dropLibrary, freshLibrary, furnished, newcomer, refusal } from '../library';
import { mailsTo } from '../mails';
import { paperOn, placeOn, say } from '../sheets';

let keeper: Actor;
let clerk: Actor;
let stranger: Actor;
let gull: string;
let rope: string;
let urgent: string;
let own: string;

beforeAll(async () => {
  keeper = await freshLibrary();
  [clerk, stranger] = [await newcomer(keeper, 'Cle Rk'), await newcomer(keeper, 'Stran Ger')];
  const { series } = await furnished(keeper, 'Suppliers');
  gull = (await createDossier(keeper, { seriesId: series.id, name: 'Gull Chandlers', reference: 'S-018' })).id;
  await say(keeper, placeOn(gull), [{ who: clerk, gives: ['see', 'add', 'amend'] }], false);
  const field = { name: 'Budget line', type: 'text' as const, required: false };
  rope = (await defineColumn(keeper, { ...plainFields, ...field, placeId: gull })).id;
  urgent = (await createLabel(keeper, { name: 'Urgent', hue: 'teal', shared: true })).id;
  own = (await createLabel(keeper, { name: 'Mine alone', hue: 'teal', shared: false })).id;
});
afterAll(dropLibrary);
beforeEach(async () => {
  await writableDb().delete(arrival);
});

let sent = 0;
async function comes(subject: string, attachments: { filename: string; content: string }[] = []): Promise<string> {
  const messageId = `<${(sent += 1)}@gull.example>`;
  const from = 'bills@gull.example';
  const raw = await new MailComposer({
    from,
    to: 's-018@library.example',
    subject,
    text: `For ${subject} ${sent}.`,
    messageId,
    attachments,
  })
    .compile()
    .build();
  const { arrivalId } = await keepMail(raw, { from, to: ['s-018@library.example'] });
  await readArrivals();
  return arrivalId;
}
const sheetOf = (arrivalId: string, actor = keeper) => arrivalSheet(actor, { arrivalId });
const labelsOf = async (documentId: string) =>
  (await db().select().from(documentLabel).where(eq(documentLabel.documentId, documentId))).map(
    ({ labelId }) => labelId,
  );
const rule = (more: {
  values?: Record<string, string>;
  labelIds?: string[];
  tell?: string[];
  filesFrom?: number | null;
}) =>
  keepFilingRule(keeper, {
    ...{ id: null, revision: 0, name: 'Gull', on: true, placeId: gull, title: '', filesFrom: null },
    conditions: [{ field: 'from', text: 'gull.example' }],
    ...more,
  });

describe('a filing rule that says more than the place', () => {
  it('fills in values, labels and whom to tell, each with its reason; what is agreed is so filed, and told', async () => {
    const { id } = await rule({
      values: { [rope]: 'Ropes' },
      labelIds: [urgent],
      tell: [clerk.personId, stranger.personId],
    });
    expect((await filingRules(keeper, {}))[0]?.people.map(({ name }) => name).sort()).toEqual(['Cle Rk', 'Stran Ger']);
    expect((await filingFields(keeper, { placeId: gull })).map(({ name, text }) => [name, text])).toEqual([
      ['Budget line', ''],
    ]);
    const arrivalId = await comes('Rope');
    const { revision, places, labels, tell } = await sheetOf(arrivalId);
    expect([...labels, ...tell].map(({ name, why }) => [name, why])).toEqual(
      ['Urgent', 'Cle Rk', 'Stran Ger'].map((name) => [name, 'The filing rule “Gull” says so.']),
    );
    const placeId = places[0]?.placeId ?? '';
    const [{ fields } = { fields: [] }] = await arrivalFields(keeper, { arrivalId, placeId });
    expect(fields).toMatchObject([{ name: 'Budget line', text: 'Ropes', why: 'The filing rule “Gull” says so.' }]);
    expect(await agreeToArrivals(keeper, { arrivals: [{ id: arrivalId, revision }] })).toMatchObject({
      filed: [arrivalId],
    });
    const documentId = (await sheetOf(arrivalId)).done?.papers[0]?.id ?? '';
    expect(await labelsOf(documentId)).toEqual([urgent]);
    const [paper] = await db().select().from(document).where(eq(document.id, documentId));
    expect(paper?.ownValues).toMatchObject({ [rope]: 'Ropes' });
    const [row] = await db().select().from(arrival).where(eq(arrival.id, arrivalId));
    // Who may not read it hears nothing of it.
    expect([row?.told, row?.corrected]).toEqual([[clerk.personId], []]);
    expect((await mailsTo(clerk.email)).filter((mail) => mail.includes(documentId))).toHaveLength(1);
    expect((await mailsTo(stranger.email)).filter((mail) => mail.includes(documentId))).toEqual([]);
    await removeFilingRule(keeper, { id });
  });

  it('is refused with a value that cannot be, a label of one’s own, or somebody who has left', async () => {
    expect(await refusal(rule({ labelIds: [own] }))).toMatch(/somebody’s own/u);
    expect(await refusal(rule({ values: { [crypto.randomUUID()]: 'x' } }))).toMatch(/^gone/u);
    await writableDb().update(person).set({ active: false }).where(eq(person.id, stranger.personId));
    expect(await refusal(rule({ tell: [stranger.personId] }))).toMatch(/has left/u);
    expect(await refusal(filingFields(clerk, { placeId: gull }))).toMatch(/^not-allowed/u);
  });

  it('that files by itself does all of it, and it is noted who was told', async () => {
    const { id } = await rule({
      ...{ values: { [rope]: 'Ropes' }, labelIds: [urgent], filesFrom: 50 },
      tell: [clerk.personId],
    });
    const arrivalId = await comes('By itself');
    while (await fileNextByRule());
    const { done, state } = await sheetOf(arrivalId);
    expect(state).toBe('filed');
    const paper = done?.papers[0]?.id ?? '';
    expect(await labelsOf(paper)).toEqual([urgent]);
    const [last] = await journalOf(keeper, { subject: 'document', id: paper, before: null });
    expect(last?.words).toMatch(/by the rule “Gull” and told Cle Rk/u);
    await removeFilingRule(keeper, { id });
  });
});

it('what was usually done with what came from a sender is proposed; a label of one’s own never is', async () => {
  for (const subject of ['One', 'Two', 'Three']) {
    const arrivalId = await comes(subject);
    const { revision, places } = await sheetOf(arrivalId);
    const { documentIds } = await fileArrival(keeper, {
      ...{ arrivalId, revision, placeId: places[0]?.placeId ?? '', labelIds: [urgent], tell: [clerk.personId] },
      parts: [{ attachment: null, title: subject }],
    });
    await putLabel(keeper, { labelId: own, documentIds: [...documentIds], on: true });
  }
  const { labels, tell } = await sheetOf(await comes('Four'));
  expect([...labels, ...tell].map(({ name, why }) => [name, why])).toEqual([
    ['Urgent', 'On the papers of 3 of the last 3 arrivals from bills@gull.example.'],
    ['Cle Rk', 'Told of 3 of the last 3 arrivals from bills@gull.example.'],
  ]);
});

it('labels and tellings of papers that are kept from those who see their dossier are told to nobody', async () => {
  for (const subject of ['Five', 'Six', 'Seven']) {
    const arrivalId = await comes(subject);
    const { revision, places } = await sheetOf(arrivalId);
    const { documentIds } = await fileArrival(keeper, {
      ...{ arrivalId, revision, placeId: places[0]?.placeId ?? '', labelIds: [urgent], tell: [clerk.personId] },
      parts: [{ attachment: null, title: subject }],
    });
    for (const id of documentIds) await say(keeper, paperOn(id), [], false);
  }
  expect(await sheetOf(await comes('Eight'))).toMatchObject({ labels: [], tell: [] });
});

describe('a newer version of a paper', () => {
  const report = (name: string, content: string) => comes(name, [{ filename: `${name}.txt`, content }]);
  async function filed(): Promise<string> {
    const arrivalId = await report('Tender report v1', 'The first');
    const { revision, places } = await sheetOf(arrivalId);
    const { documentIds } = await fileArrival(keeper, {
      ...{ arrivalId, revision, placeId: places[0]?.placeId ?? '' },
      parts: [{ attachment: 1, title: 'Tender report' }],
    });
    return documentIds[0] ?? '';
  }
  const numbers = async (documentId: string) =>
    (await db().select().from(version).where(eq(version.documentId, documentId)))
      .toSorted((one, other) => one.number - other.number)
      .map(({ number, restoredFrom }) => [number, restoredFrom]);

  it('is proposed by what its name says, filed as such, and taken back: the earlier one is the current one again', async () => {
    const documentId = await filed();
    const arrivalId = await report('Tender report v2', 'The second');
    const { parts, revision } = await sheetOf(arrivalId);
    expect(parts.find(({ attachment }) => attachment === 1)?.newerOf).toMatchObject([{ id: documentId, isSure: true }]);
    await agreeToArrivals(keeper, { arrivals: [{ id: arrivalId, revision }] });
    expect(await numbers(documentId)).toEqual([
      [1, null],
      [2, null],
    ]);
    expect((await sheetOf(arrivalId)).done?.papers.map(({ id }) => id)).toEqual([documentId]);
    await takeArrivalBack(keeper, { arrivalId });
    expect(await numbers(documentId)).toEqual([
      [1, null],
      [2, null],
      [3, 1],
    ]);
    const [paper] = await db().select().from(document).where(eq(document.id, documentId));
    expect(paper?.disposedAt).toBeNull();
    const [last] = await journalOf(keeper, { subject: 'document', id: documentId, before: null });
    expect(last?.words).toMatch(/checked again/u);
    expect((await sheetOf(arrivalId)).state).toBe('waiting');
  });

  it('is not taken back over one that came since; and is refused of a paper that one may not change, or twice at once', async () => {
    const documentId = await filed();
    const filing = async (arrivalId: string, actor: Actor, older: string[]) => {
      const { revision, places } = await sheetOf(arrivalId, actor);
      const parts = older.map((versionOf, at) => ({ attachment: at === 0 ? 1 : null, title: 'x', versionOf }));
      return fileArrival(actor, { arrivalId, revision, placeId: places[0]?.placeId ?? '', parts });
    };
    const [second, third] = [await report('Tender report v2', 'Two'), await report('Tender report v3', 'Three')];
    expect(await refusal(filing(second, clerk, [crypto.randomUUID()]))).toMatch(/^not-found/u);
    expect(await refusal(filing(second, keeper, [documentId, documentId]))).toMatch(/one newer version at once/u);
    await filing(second, keeper, [documentId]);
    await filing(third, clerk, [documentId]);
    expect(await refusal(takeArrivalBack(keeper, { arrivalId: second }))).toMatch(/another version since/u);
    await takeArrivalBack(keeper, { arrivalId: third });
    expect((await numbers(documentId)).at(-1)).toEqual([4, 2]);
  });

  it('is made by no rule that files by itself: whoever can send a mail could change a paper with it', async () => {
    const documentId = await filed();
    const { id } = await rule({ filesFrom: 50 });
    const arrivalId = await report('Tender report v9', 'Not ours');
    while (await fileNextByRule());
    expect(await sheetOf(arrivalId)).toMatchObject({ state: 'waiting' });
    expect((await sheetOf(arrivalId)).leftBecause).toMatch(/newer version of a paper, which a person decides/u);
    expect(await numbers(documentId)).toHaveLength(1);
    await removeFilingRule(keeper, { id });
  });

  it('is only offered where the names are the same and neither says more: statements are called alike each month', async () => {
    await filed();
    const { parts } = await sheetOf(await report('Tender report', 'Another'));
    const { newerOf = [] } = parts.find(({ attachment }) => attachment === 1) ?? {};
    expect(newerOf.length > 0 && newerOf.every(({ isSure }) => !isSure)).toBe(true);
  });
});
