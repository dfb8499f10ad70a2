import ICAL from 'ical.js';
import { plainFields } from '@/core/columns/contract';
import { plainView } from '@/core/views/spec';
import type { ReviewCycle } from '@/core/reviews/model';
import { fileBuffer } from '@/demo/file';
import { setAccess } from '@/server/access/change';
import { accessSheet } from '@/server/access/sheet';
import { atMoment } from '@/server/base/clock';
import { defineColumn } from '@/server/columns/define';
import { addTerm, createList, listOf } from '@/server/columns/lists';
import { setValues } from '@/server/columns/setValues';
import { movePapers } from '@/server/documents/amend';
import { putFollow } from '@/server/follow/follow';
import { sendSummaries, setSummaryTimes } from '@/server/follow/summary';
import type { Actor } from '@/server/gate/actor';
import { journalOf } from '@/server/journal/read';
import { setActive } from '@/server/people/people';
import { createFolder } from '@/server/places/create';
import { calendarOfReviews, reviewsOfMine } from '@/server/reviews/mine';
import { doReview, reviewOf, setOwnCycle, takeBackReview } from '@/server/reviews/paper';
import { removeReviewRule, reviewRules, setReviewRule } from '@/server/reviews/rules';
import { setStandstill } from '@/server/standstill/standstill';
import { openView } from '@/server/views/open';
import { saveView } from '@/server/views/saved';
import { mailsTo } from '../mails';
import { dropLibrary, type furnished, newcomer, plainQuestion, refusedAs, sharedLibrary } from '../library';

let keeper: Actor;
let reader: Actor;
let officer: Actor;
let home: Awaited<ReturnType<typeof furnished>>;
let column: string;
let terms: { policy: string; leave: string; minutes: string };

beforeAll(async () => {
  ({ keeper, reader, home } = await sharedLibrary());
  officer = await newcomer(keeper, 'Off Icer');
  await openTo(reader, officer);
  const { id: listId } = await createList(keeper, { name: 'Types', terms: ['Policy', 'Minutes'] });
  const { terms: made } = await listOf(keeper, listId);
  const [policy = '', minutes = ''] = made.map(({ id }) => id);
  const { id: leave } = await addTerm(keeper, { listId, name: 'Leave policy', parentId: policy });
  terms = { policy, leave, minutes };
  column = (
    await defineColumn(keeper, { ...plainFields, placeId: home.series.id, name: 'Type', type: 'choice', listId })
  ).id;
});
afterAll(dropLibrary);

/** Opens the series to these people, to see, and to nobody else. */
async function openTo(...people: readonly Actor[]): Promise<void> {
  const { revision } = await accessSheet(keeper, { on: { kind: 'place', id: home.series.id } });
  await setAccess(keeper, {
    on: { kind: 'place', id: home.series.id },
    follows: true,
    revision,
    message: null,
    grants: people.map(({ personId }) => ({
      subject: { kind: 'person', id: personId },
      gives: ['see'],
      withholds: [],
    })),
  });
}

const cycle: ReviewCycle = { rhythm: { everyMonths: 24 }, firstOn: null, warnDays: 30, responsibleId: null };
let counter = 0;
const paperOn = (day: string, type: string | null = null, placeId = home.year.id): Promise<string> =>
  atMoment(new Date(`${day}T10:00:00Z`), async () => {
    const id = await fileBuffer(keeper, placeId, `policy ${(counter += 1)}.txt`, Buffer.from(`words ${counter}`));
    if (type !== null) await setValues(keeper, { documentIds: [id], values: { [column]: type } });
    return id;
  });
const at = <T>(day: string, work: () => Promise<T>): Promise<T> => atMoment(new Date(`${day}T10:00:00Z`), work);
const done = { versionNumber: 1, outcome: 'kept' as const, note: '', replacedById: null };
const rule = (placeId: string, termId: string | null, more: Partial<ReviewCycle> = {}) =>
  setReviewRule(keeper, {
    placeId,
    ruleId: null,
    ofType: termId === null ? null : { columnId: column, termId },
    cycle: { ...cycle, ...more },
    revision: 0,
  });
const dueOf = async (id: string): Promise<string | null> =>
  (await reviewOf(keeper, { documentId: id })).next?.due ?? null;

describe('a rule of a place', () => {
  it('is of papers of one type and narrower ones below it, and the nearest place decides', async () => {
    const near = (await createFolder(keeper, { parentId: home.year.id, name: 'Near' })).id;
    const policy = await paperOn('2024-05-31', terms.policy);
    const leave = await paperOn('2024-02-29', terms.leave, near);
    const minutes = await paperOn('2024-05-31', terms.minutes);
    expect(await dueOf(policy)).toBeNull();
    await rule(home.series.id, terms.policy);
    expect(await Promise.all([policy, leave, minutes].map(dueOf))).toEqual(['2026-05-31', '2026-02-28', null]);
    await rule(near, null, { rhythm: { everyMonths: 12 } });
    expect(await dueOf(leave)).toBe('2025-02-28');
    expect(await reviewOf(reader, { documentId: leave })).toMatchObject({
      from: 'given',
      givenBy: { placeName: 'Near', typeName: null },
      mayReview: false,
      maySet: false,
    });
    // It follows the paper: to where another rule speaks, and to another type.
    await movePapers(keeper, { documentIds: [leave], toId: home.year.id });
    expect(await dueOf(leave)).toBe('2026-02-28');
    await setValues(keeper, { documentIds: [leave], values: { [column]: terms.minutes } });
    expect(await dueOf(leave)).toBeNull();
  });

  it('is listed with those above, changed only as it was seen, and refused twice for one type', async () => {
    const rules = await reviewRules(keeper, { placeId: home.year.id });
    expect(rules.map(({ ofType, placeName, mayChange }) => [ofType?.name, placeName, mayChange])).toEqual([
      ['Type Policy', 'Committees', true],
    ]);
    expect((await reviewRules(reader, { placeId: home.year.id })).map(({ mayChange }) => mayChange)).toEqual([false]);
    expect(await refusedAs(rule(home.series.id, terms.policy))).toBe('conflict');
    const [one] = rules;
    if (!one) throw new Error('There is a rule');
    const change = (revision: number) =>
      setReviewRule(keeper, {
        placeId: home.series.id,
        ruleId: one.id,
        ofType: { columnId: column, termId: terms.policy },
        cycle: { ...cycle, warnDays: 60, responsibleId: officer.personId },
        revision,
      });
    const both = await Promise.all([refusedAs(change(one.revision)), refusedAs(change(one.revision))]);
    expect(both.toSorted()).toEqual(['conflict', 'done']);
    expect((await reviewRules(keeper, { placeId: home.year.id }))[0]?.responsible).toBe('Off Icer');
  });

  it.each([
    ['a term of no list of the place', () => rule(home.series.id, home.series.id)],
    [
      'a cycle of nothing',
      () => rule(home.dossier.id, null, { rhythm: { rule: 'FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30' } }),
    ],
    ['one who is not there', () => rule(home.dossier.id, null, { responsibleId: home.series.id })],
    ['a cycle announced always', () => rule(home.dossier.id, null, { rhythm: { everyMonths: 1 }, warnDays: 200 })],
  ])('is refused for %s', async (_what, set) => {
    expect(await refusedAs(set())).toBe('invalid');
  });

  it('is made and removed by whoever manages the place', async () => {
    const set = (who: Actor) =>
      setReviewRule(who, { placeId: home.dossier.id, ruleId: null, ofType: null, cycle, revision: 0 });
    expect(await refusedAs(set(reader))).toBe('not-allowed');
    await set(keeper);
    const own = (await reviewRules(keeper, { placeId: home.dossier.id })).find(
      ({ placeId }) => placeId === home.dossier.id,
    );
    if (!own) throw new Error('There is a rule');
    expect(await refusedAs(removeReviewRule(reader, { ruleId: own.id, revision: 0 }))).toBe('not-allowed');
    expect(await refusedAs(removeReviewRule(keeper, { ruleId: own.id, revision: 7 }))).toBe('conflict');
    await removeReviewRule(keeper, { ruleId: own.id, revision: 0 });
    expect(await reviewRules(keeper, { placeId: home.dossier.id })).toHaveLength(1);
  });
});

describe('a review', () => {
  it('is noted by whoever answers for it, of the version that was looked at, and the next day follows', async () => {
    const id = await paperOn('2024-03-01', terms.policy);
    expect(await at('2026-03-20', () => reviewOf(officer, { documentId: id }))).toMatchObject({
      next: { due: '2026-03-01', since: '2024-03-01' },
      responsible: 'Off Icer',
      mayReview: true,
      maySet: false,
    });
    expect(await refusedAs(doReview(reader, { documentId: id, ...done }))).toBe('not-allowed');
    expect(await refusedAs(doReview(officer, { documentId: id, ...done, versionNumber: 2 }))).toBe('conflict');
    expect(await refusedAs(doReview(officer, { documentId: id, ...done, outcome: 'changed' }))).toBe('invalid');
    expect(await refusedAs(doReview(officer, { documentId: id, ...done, outcome: 'replaced' }))).toBe('invalid');
    await at('2026-03-20', () => doReview(officer, { documentId: id, ...done, note: 'Still right' }));
    expect(await at('2026-03-21', () => reviewOf(keeper, { documentId: id }))).toMatchObject({
      next: { due: '2028-03-20', since: '2026-03-20' },
      done: [{ by: 'Off Icer', outcome: 'kept', note: 'Still right', versionNumber: 1, day: '2026-03-20' }],
    });
    const [line] = await journalOf(reader, { subject: 'document', id, before: null });
    expect(line?.words).toMatch(/reviewed version 1 of “policy \d+”: kept as it is/u);
  });

  it('is noted once where two note it at the same moment', async () => {
    const id = await paperOn('2024-03-01', terms.policy);
    const both = await Promise.all(
      [keeper, officer].map((who) => refusedAs(doReview(who, { documentId: id, ...done }))),
    );
    expect(both.toSorted()).toEqual(['conflict', 'done']);
    expect((await reviewOf(keeper, { documentId: id })).done).toHaveLength(1);
  });

  it('is taken back by whoever noted it or manages the paper, while it is the last', async () => {
    const id = await paperOn('2022-03-01', terms.policy);
    const { reviewId: first } = await at('2024-03-01', () => doReview(officer, { documentId: id, ...done }));
    const { reviewId: second } = await at('2026-03-01', () => doReview(keeper, { documentId: id, ...done }));
    expect(await refusedAs(takeBackReview(keeper, { reviewId: first }))).toBe('conflict');
    expect(await refusedAs(takeBackReview(officer, { reviewId: second }))).toBe('not-allowed');
    await takeBackReview(keeper, { reviewId: second });
    expect(await dueOf(id)).toBe('2026-03-01');
    await takeBackReview(officer, { reviewId: first });
    expect(await dueOf(id)).toBe('2024-03-01');
  });

  it('says that the paper was changed once a new version is there, and that another replaces it', async () => {
    const folder = (await createFolder(keeper, { parentId: home.year.id, name: 'Versions' })).id;
    const id = await fileBuffer(keeper, folder, 'rules.txt', Buffer.from('one'));
    await setValues(keeper, { documentIds: [id], values: { [column]: terms.policy } });
    await fileBuffer(keeper, folder, 'rules.txt', Buffer.from('two'), 'version');
    await at('2030-01-01', () => doReview(keeper, { documentId: id, ...done, versionNumber: 2, outcome: 'changed' }));
    const other = await paperOn('2024-03-01', terms.policy);
    await at('2031-01-01', () =>
      doReview(keeper, { documentId: id, ...done, versionNumber: 2, outcome: 'replaced', replacedById: other }),
    );
    expect(await reviewOf(keeper, { documentId: id })).toMatchObject({
      next: null,
      done: [{ outcome: 'replaced', replacedBy: { id: other } }, { outcome: 'changed' }],
    });
  });

  it('stays the last after the clock was set back', async () => {
    const id = await paperOn('2020-03-01', terms.policy);
    await at('2030-05-05', () => doReview(keeper, { documentId: id, ...done }));
    await fileBuffer(keeper, home.year.id, `policy ${counter}.txt`, Buffer.from('changed'), 'version');
    await at('2026-05-05', () => doReview(keeper, { documentId: id, ...done, versionNumber: 2 }));
    expect(await dueOf(id)).toBe('2032-05-05');
  });

  it('is done in a closed place, where nothing else is changed', async () => {
    const folder = (await createFolder(keeper, { parentId: home.year.id, name: 'Shut' })).id;
    const id = await paperOn('2022-03-01', terms.policy, folder);
    await setStandstill(keeper, { placeId: folder, closed: true, locked: false, reason: 'Done', revision: 0 });
    await doReview(officer, { documentId: id, ...done });
    expect((await reviewOf(keeper, { documentId: id })).done).toHaveLength(1);
  });
});

it('a paper has a cycle of its own, or none, in place of what its places say; as it was seen', async () => {
  const id = await paperOn('2024-03-01', terms.policy);
  const set = (own: ReviewCycle | 'never' | null, revision: number | null) =>
    setOwnCycle(keeper, { documentId: id, cycle: own, revision });
  await set('never', null);
  expect(await reviewOf(keeper, { documentId: id })).toMatchObject({ cycle: null, from: 'never', revision: 0 });
  expect(await refusedAs(set(cycle, null))).toBe('conflict');
  await set({ ...cycle, rhythm: { rule: 'FREQ=YEARLY;BYMONTH=4;BYDAY=1MO' }, firstOn: '2024-04-01' }, 0);
  expect(await dueOf(id)).toBe('2024-04-01');
  await set(null, 1);
  expect(await dueOf(id)).toBe('2026-03-01');
  expect(await refusedAs(setOwnCycle(reader, { documentId: id, cycle: 'never', revision: null }))).toBe('not-allowed');
});

describe('all reviews', () => {
  const inView = async (who: Actor, conditions: Parameters<typeof openView>[1]['conditions']) => {
    const view = { ...plainQuestion, placeId: home.series.id, below: true, conditions };
    return openView(who, { ...view, sorts: [{ of: 'reviewOn', direction: 'up' }], counts: ['reviewer', 'reviewOn'] });
  };

  it('are a property of any view: to filter, sort, group and count by, as the docket says them', async () => {
    const page = await inView(keeper, [{ of: 'reviewOn', filled: true }]);
    expect(page.rows.length).toBeGreaterThan(5);
    const dues = await Promise.all(page.rows.map(({ id }) => dueOf(id)));
    expect(page.rows.map(({ owed }) => owed.review?.due)).toEqual(dues);
    expect(dues).toEqual(dues.toSorted());
    const mine = await inView(officer, [{ of: 'reviewer', who: ['me'] }]);
    expect(mine.rows.length).toBeGreaterThan(0);
    expect(mine.rows.every(({ owed }) => owed.review?.responsible === 'Off Icer')).toBe(true);
    const { reviewer } = page.counts;
    expect(reviewer?.kind === 'values' && reviewer.values.map(({ name }) => name)).toEqual(['Off Icer']);
    const before = await inView(keeper, [{ of: 'reviewOn', span: { is: 'before-today' } }]);
    expect(before.rows.every(({ owed }) => (owed.review?.due ?? '9') < new Date().toISOString().slice(0, 10))).toBe(
      true,
    );
  });

  it('wait on the desk of whoever answers for them, and of the keepers where nobody does', async () => {
    const mine = await reviewsOfMine(officer);
    expect(mine.length).toBeGreaterThan(0);
    expect(mine.every(({ isNobodys }) => !isNobodys)).toBe(true);
    expect(await reviewsOfMine(reader)).toEqual([]);
    const folder = (await createFolder(keeper, { parentId: home.year.id, name: 'Nobody’s' })).id;
    const id = await paperOn('2020-01-01', null, folder);
    await rule(folder, null);
    expect((await reviewsOfMine(keeper)).find(({ documentId }) => documentId === id)).toMatchObject({
      isNobodys: true,
    });
    // What is no longer open to them is not told of.
    await openTo(reader);
    expect(await reviewsOfMine(officer)).toEqual([]);
    await openTo(reader, officer);
    expect((await reviewsOfMine(officer)).length).toBe(mine.length);
  });

  it('are a calendar that another reader of RFC 5545 reads', async () => {
    const calendar = new ICAL.Component(ICAL.parse(await calendarOfReviews(officer)) as unknown[]);
    const events = calendar.getAllSubcomponents('vevent').map((each) => new ICAL.Event(each));
    expect(events.map(({ startDate }) => startDate.toString())).toContain('2026-05-31');
    expect(events.every(({ startDate, summary }) => startDate.isDate && summary.startsWith('Review: '))).toBe(true);
  });

  it('are still asked for of one whose account is off, and are then the business of the keepers to give to another', async () => {
    await setActive(keeper, { personId: officer.personId, active: false });
    const page = await inView(keeper, [{ of: 'reviewer', anyOf: [officer.personId] }]);
    expect(page.rows.length).toBeGreaterThan(0);
    await setActive(keeper, { personId: officer.personId, active: true });
  });

  it('are in the summary by mail on the day they are announced and on the day they are due, and on no other', async () => {
    const folder = (await createFolder(keeper, { parentId: home.year.id, name: 'Told by mail' })).id;
    await paperOn('2031-05-10', null, folder);
    const told = await newcomer(keeper, 'To Ld');
    await openTo(reader, officer, told);
    await rule(folder, null, { rhythm: { everyMonths: 12 }, warnDays: 10, responsibleId: told.personId });
    await at('2032-04-01', () => setSummaryTimes(told, { times: { every: 'daily', hour: 8, weekday: 1 } }));
    const sentOn = async (day: string): Promise<number> => {
      await at(day, sendSummaries);
      return (await mailsTo(told.email)).filter((mail) => mail.includes(`/stop/${told.personId}/`)).length;
    };
    expect(await sentOn('2032-04-29')).toBe(0);
    expect(await sentOn('2032-04-30')).toBe(1);
    expect(await sentOn('2032-05-01')).toBe(1);
    expect(await sentOn('2032-05-10')).toBe(2);
    expect(await sentOn('2032-05-11')).toBe(2);
    const [first = ''] = (await mailsTo(told.email)).filter((mail) => mail.includes(`/stop/${told.personId}/`));
    expect(first).toContain('in 10 d');
    expect(first).toContain('Told by mail');
  });

  it('cannot be followed as a view: the worker does not know them', async () => {
    const view = await saveView(keeper, {
      placeId: home.series.id,
      name: 'Reviews',
      purpose: '',
      audience: 'me',
      groupIds: [],
      opensHere: false,
      spec: { ...plainView, below: true, conditions: [{ of: 'reviewOn', filled: true }] },
    });
    expect(await refusedAs(putFollow(keeper, { on: { kind: 'view', ref: view.id } }))).toBe('invalid');
  });
});
