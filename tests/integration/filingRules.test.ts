import { eq } from 'drizzle-orm';
import MailComposer from 'nodemailer/lib/mail-composer';
import type { RuleCondition } from '@/core/intake/filingRule';
import { db } from '@/server/db/client';
import { arrival } from '@/server/db/schema';
import { createDossier } from '@/server/dossiers/create';
import type { Actor } from '@/server/gate/actor';
import { fileArrival } from '@/server/intake/act';
import { keepMail } from '@/server/intake/keep';
import { arrivalSheet } from '@/server/intake/read';
import { filingRules, keepFilingRule, moveFilingRule, removeFilingRule, tryFilingRule } from '@/server/intake/rules';
import { createFolder } from '@/server/places/create';
import { setStandstill } from '@/server/standstill/standstill';
import { readArrivals } from '../arrivals';
import { dropLibrary, freshLibrary, furnished, newcomer, refusedAs } from '../library';

let keeper: Actor;
let clerk: Actor;
let seriesId: string;
let gull: string;
let lantern: string;

beforeAll(async () => {
  keeper = await freshLibrary();
  clerk = await newcomer(keeper, 'Cle Rk');
  const { series } = await furnished(keeper, 'Suppliers');
  seriesId = series.id;
  const dossier = async (name: string) => (await createDossier(keeper, { seriesId, name, reference: name })).id;
  [gull, lantern] = [await dossier('Gull'), await dossier('Lantern')];
});
afterAll(() => dropLibrary());

let sent = 0;
async function comes(from: string, subject: string, text = 'Attached.'): Promise<string> {
  const raw = await new MailComposer({
    from,
    to: 'intake@library.example',
    subject,
    text,
    messageId: `<${(sent += 1)}@x>`,
  })
    .compile()
    .build();
  const { arrivalId } = await keepMail(raw, { from, to: ['intake@library.example'] });
  await readArrivals();
  return arrivalId;
}
async function filed(from: string, subject: string, placeId: string, text?: string): Promise<void> {
  const arrivalId = await comes(from, subject, text);
  const { revision } = await arrivalSheet(keeper, { arrivalId });
  await fileArrival(keeper, {
    arrivalId,
    revision,
    placeId,
    parts: [{ attachment: null, title: `${subject} ${sent}` }],
  });
}
const when = (field: RuleCondition['field'], text: string): RuleCondition => ({ field, text });
const keep = (
  name: string,
  placeId: string,
  conditions: RuleCondition[],
  more: { id?: string; revision?: number; title?: string; on?: boolean; filesFrom?: number; beforeId?: string } = {},
) =>
  keepFilingRule(keeper, {
    id: null,
    revision: 0,
    on: true,
    title: '',
    filesFrom: null,
    ...more,
    name,
    placeId,
    conditions,
  });
const names = async () => (await filingRules(keeper, {})).map(({ name }) => name);

describe('a filing rule', () => {
  it('is tried on what was filed: how often it would have been right, and where it would not', async () => {
    for (let count = 0; count < 3; count += 1) await filed('bills@gull.example', 'Rope', gull, 'Mooring buoys');
    await filed('bills@gull.example', 'Rope for the other', lantern, 'Mooring buoys');
    await filed('bills@lantern.example', 'Dredging', lantern);
    await comes('new@gull.example', 'Rope again', 'More mooring buoys');
    const tried = (...conditions: RuleCondition[]) => tryFilingRule(keeper, { conditions, placeId: gull });
    expect(await tried(when('from', 'gull.example'))).toMatchObject({ tried: 5, meant: 4, right: 3, waiting: 1 });
    const byWords = await tried(when('words', 'mooring buoys'), when('subject', 'rope'));
    expect(byWords).toMatchObject({ meant: 4, right: 3, waiting: 1 });
    expect(byWords.others.map(({ subject, dossier }) => [subject, dossier])).toEqual([
      ['Rope for the other', 'Lantern Lantern'],
    ]);
    expect(await tried(when('from', 'ull.example'))).toMatchObject({ meant: 0, waiting: 0 });
  });

  it('comes before all else that speaks for a place, names its papers, and is said as the reason', async () => {
    const { places: before } = await arrivalSheet(keeper, {
      arrivalId: await comes('x@new.example', 'Bill', 'For Lantern'),
    });
    expect(before[0]?.path[1]).toBe('Lantern');
    const folder = await createFolder(keeper, { parentId: gull, name: 'Ropes' });
    const waits = await comes('bills@new.example', 'Bill', 'For Lantern');
    await keep('New supplier', folder.id, [when('from', 'new.example')], { title: 'Bill: {subject}' });
    await readArrivals();
    // What waited already is proposed anew.
    for (const arrivalId of [waits, await comes('other@new.example', 'Chain', 'For Lantern')]) {
      const { places, parts, sure } = await arrivalSheet(keeper, { arrivalId });
      expect(places[0]?.path.slice(1)).toEqual(['Gull', 'Ropes']);
      expect(places[0]?.evidence[0]).toEqual({ kind: 'rule', about: 'New supplier' });
      expect(parts[0]?.title).toMatch(/^Bill: (?:Bill|Chain)$/u);
      expect(sure).toBeGreaterThan(0.5);
    }
  });

  it('that is off, or whose place is closed, does nothing; of several the first counts', async () => {
    await keep('Second', lantern, [when('subject', 'ordered')]);
    await keep('Third', gull, [when('subject', 'ordered')]);
    const place = async () =>
      (await arrivalSheet(keeper, { arrivalId: await comes('a@b.example', 'Ordered') })).places[0]?.path[1];
    expect(await place()).toBe('Lantern');
    const third = (await filingRules(keeper, {})).find(({ name }) => name === 'Third');
    await moveFilingRule(keeper, { id: third?.id ?? '', by: 'up' });
    expect(await place()).toBe('Gull');
    const now = (await filingRules(keeper, {})).find(({ name }) => name === 'Third');
    await keep('Third', gull, [when('subject', 'ordered')], {
      id: now?.id ?? '',
      revision: now?.revision ?? 0,
      on: false,
    });
    expect(await place()).toBe('Lantern');
  });

  it('is put back where it stood, and last where the rule after it is gone', async () => {
    const order = async () => (await names()).filter((name) => /^(?:Ahead|Midway|Behind|Last)$/u.test(name));
    await keep('Ahead', gull, [when('from', 'ahead.example')]);
    const { id: behind } = await keep('Behind', gull, [when('from', 'behind.example')]);
    await keep('Midway', gull, [when('from', 'midway.example')], { beforeId: behind });
    expect(await order()).toEqual(['Ahead', 'Midway', 'Behind']);
    await keep('Last', gull, [when('from', 'last.example')], { beforeId: crypto.randomUUID() });
    expect(await order()).toEqual(['Ahead', 'Midway', 'Behind', 'Last']);
  });

  it('is made by keepers, for places that take papers, with conditions that mean something', async () => {
    const conditions = [when('from', 'a.example')];
    const fields = { id: null, revision: 0, on: true, title: '', filesFrom: null, name: 'X', conditions };
    expect(await refusedAs(keepFilingRule(clerk, { ...fields, placeId: gull }))).toBe('not-allowed');
    expect(await refusedAs(filingRules(clerk, {}))).toBe('not-allowed');
    expect(await refusedAs(tryFilingRule(clerk, { conditions, placeId: gull }))).toBe('not-allowed');
    expect(await refusedAs(keep('X', seriesId, conditions))).toBe('invalid');
    expect(await refusedAs(keep('X', gull, [when('leastAmount', '1,28,4')]))).toBe('invalid');
    expect(await refusedAs(keep('X', crypto.randomUUID(), conditions))).toBe('not-found');
    const closed = (await createDossier(keeper, { seriesId, name: 'Closed', reference: 'Closed' })).id;
    await setStandstill(keeper, { placeId: closed, closed: true, locked: false, reason: '', revision: 0 });
    expect(await refusedAs(keep('X', closed, conditions))).toBe('closed-place');
    expect(await names()).not.toContain('X');
  });

  it('that is removed, or no longer means it, speaks for nothing that waits', async () => {
    const { id } = await keep('Passing', gull, [when('from', 'passing.example')]);
    const arrivalId = await comes('a@passing.example', 'Hello');
    const reasons = async () => {
      await readArrivals();
      return (await arrivalSheet(keeper, { arrivalId })).places.flatMap(({ evidence }) =>
        evidence.map(({ kind }) => kind),
      );
    };
    expect(await reasons()).toEqual(['rule']);
    await keep('Passing by', gull, [when('from', 'elsewhere.example')], { id, revision: 0 });
    expect(await reasons()).toEqual([]);
    await keep('Passing by', gull, [when('from', 'passing.example')], { id, revision: 1 });
    expect(await reasons()).toEqual(['rule']);
    await removeFilingRule(keeper, { id });
    expect(await reasons()).toEqual([]);
  });

  it('that two keepers change at once is changed by one; moved at once, each stays once', async () => {
    const { id } = await keep('Raced', gull, [when('from', 'raced.example')]);
    const change = (name: string) => keep(name, gull, [when('from', 'raced.example')], { id, revision: 0 });
    const ends = await Promise.allSettled([change('Raced one'), change('Raced two')]);
    expect(ends.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
    const before = await names();
    await Promise.allSettled([moveFilingRule(keeper, { id, by: 'up' }), moveFilingRule(keeper, { id, by: 'up' })]);
    expect((await names()).toSorted()).toEqual(before.toSorted());
    await removeFilingRule(keeper, { id });
    expect(await refusedAs(removeFilingRule(keeper, { id }))).toBe('not-found');
    expect(await refusedAs(change('Gone'))).toBe('not-found');
    // What waited where a rule spoke that was moved or is gone is proposed anew, and waits again.
    await readArrivals();
    expect(await db().$count(arrival, eq(arrival.state, 'unread'))).toBe(0);
  });
});
