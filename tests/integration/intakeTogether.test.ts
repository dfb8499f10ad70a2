import { eq } from 'drizzle-orm';
import MailComposer from 'nodemailer/lib/mail-composer';
import { defineColumn } from '@/server/columns/define';
import { db, writableDb } from '@/server/db/client';
import { arrival, document, filingRule, person } from '@/server/db/schema';
import { createDossier } from '@/server/dossiers/create';
import type { Actor } from '@/server/gate/actor';
import { fileArrival, setArrivalAside, takeArrivalsBack } from '@/server/intake/act';
import { agreeToArrivals, alikeArrivals } from '@/server/intake/agree';
import { askAboutArrival, putArrivalOff } from '@/server/intake/ask';
import { fileNextByRule } from '@/server/intake/fileByRule';
import { keepMail } from '@/server/intake/keep';
import { arrivalsOf, arrivalsWaiting } from '@/server/intake/lists';
import { arrivalSheet } from '@/server/intake/read';
import { keepFilingRule } from '@/server/intake/rules';
import { readArrivals } from '../arrivals';
import { dropLibrary, freshLibrary, furnished, newcomer, refusal } from '../library';
import { mailsTo } from '../mails';
import { plainFields } from '@/core/columns/contract';
import { placeOn, say } from '../sheets';

let keeper: Actor;
let clerk: Actor;
let stranger: Actor;
let gull: string;
let other: string;

beforeAll(async () => {
  keeper = await freshLibrary();
  [clerk, stranger] = [await newcomer(keeper, 'Cle Rk'), await newcomer(keeper, 'Stran Ger')];
  const { series } = await furnished(keeper, 'Suppliers');
  gull = (await createDossier(keeper, { seriesId: series.id, name: 'Gull Chandlers', reference: 'S-018' })).id;
  other = (await createDossier(keeper, { seriesId: series.id, name: 'Lantern Dredging', reference: 'S-017' })).id;
  await say(keeper, placeOn(gull), [{ who: clerk, gives: ['see', 'add', 'amend'] }], false);
});
afterAll(dropLibrary);
beforeEach(async () => {
  await writableDb().delete(arrival);
  await writableDb().delete(filingRule);
});

let sent = 0;
async function comes(
  subject: string,
  more: { from?: string; by?: string; to?: string; text?: string } = {},
): Promise<string> {
  const { from = 'bills@gull.example', to = 's-018@library.example' } = more;
  const messageId = `<${(sent += 1)}@gull.example>`;
  const raw = await new MailComposer({ from, to, subject, text: more.text ?? `For ${subject}.`, messageId })
    .compile()
    .build();
  const { arrivalId } = await keepMail(raw, { from: more.by ?? from, to: [to] });
  await readArrivals();
  return arrivalId;
}
const revisionOf = async (arrivalId: string) => (await arrivalSheet(keeper, { arrivalId })).revision;
const subjects = async (actor: Actor, which: 'waiting' | 'later' | 'byRule' | 'done') =>
  (await arrivalsOf(actor, { which })).arrivals.map(({ subject }) => subject);
const rowOf = async (id: string) => (await db().select().from(arrival).where(eq(arrival.id, id)))[0];
const rule = (filesFrom: number | null, more: { id?: string; revision?: number } = {}) =>
  keepFilingRule(keeper, {
    ...{ id: null, revision: 0, name: 'Gull', on: true, placeId: gull, title: '', filesFrom, ...more },
    conditions: [{ field: 'from', text: 'gull.example' }],
  });
const filedByRules = async () => {
  while (await fileNextByRule());
};

describe('a rule that files by itself', () => {
  it('files what is sure enough, marked as filed by it, listed for a day and taken back in one act', async () => {
    await rule(60);
    const ids = [await comes('One'), await comes('Two')];
    await filedByRules();
    expect(await subjects(keeper, 'waiting')).toEqual([]);
    expect((await subjects(keeper, 'byRule')).sort()).toEqual(['One', 'Two']);
    const { arrivals } = await arrivalsOf(clerk, { which: 'byRule' });
    expect(arrivals).toMatchObject([{ byRule: 'Gull' }, { byRule: 'Gull' }]);
    const { done } = await arrivalSheet(clerk, { arrivalId: ids[0] ?? '' });
    expect(done).toMatchObject({ by: keeper.name, papers: [{ title: 'One' }] });
    expect(await takeArrivalsBack(keeper, { arrivalIds: ids })).toEqual({ takenBack: 2 });
    expect((await subjects(keeper, 'waiting')).sort()).toEqual(['One', 'Two']);
    const papers = await db().select().from(document).where(eq(document.title, 'One'));
    expect(papers.map(({ disposedAt }) => disposedAt !== null)).toEqual([true]);
    // What was taken back once is a person’s: it is not filed by itself again.
    await filedByRules();
    expect(await subjects(keeper, 'byRule')).toEqual([]);
    // Nor when the rule is changed, and all that looks like it is proposed anew.
    const [kept] = await db().select().from(filingRule);
    await rule(70, { id: kept?.id ?? '', revision: kept?.revision ?? 0 });
    await readArrivals();
    await filedByRules();
    expect((await subjects(keeper, 'waiting')).sort()).toEqual(['One', 'Two']);
  });

  it('leaves to a person what it is not sure of, what another sent in that name, and all once nobody stands for it', async () => {
    await rule(99);
    const unsure = await comes('Unsure', { to: 'intake@library.example' });
    await filedByRules();
    expect((await rowOf(unsure))?.leftBecause).toMatch(/It is \d+ % sure, and the rule files by itself from 99 % on/u);
    await writableDb().update(filingRule).set({ filesFrom: 60 });
    const forged = await comes('Forged', { by: 'somebody@elsewhere.example' });
    await filedByRules();
    expect((await arrivalSheet(keeper, { arrivalId: forged })).leftBecause).toMatch(/sent by another/u);
    await writableDb().update(person).set({ keeper: false }).where(eq(person.id, keeper.personId));
    const orphaned = await comes('Orphaned');
    await filedByRules();
    await writableDb().update(person).set({ keeper: true }).where(eq(person.id, keeper.personId));
    expect((await rowOf(orphaned))?.leftBecause).toMatch(/no keeper any more/u);
    expect((await subjects(keeper, 'waiting')).sort()).toEqual(['Forged', 'Orphaned', 'Unsure']);
  });

  it('is not before a person: whoever files first, it is filed once; and one that is off, or asks, files nothing', async () => {
    await rule(60);
    const arrivalId = await comes('Both');
    const parts = [{ attachment: null, title: 'Both' }];
    const revision = await revisionOf(arrivalId);
    await Promise.all([
      fileArrival(clerk, { arrivalId, revision, placeId: gull, parts }).catch(() => null),
      fileNextByRule(),
      fileNextByRule(),
    ]);
    expect(await db().$count(document, eq(document.title, 'Both'))).toBe(1);
    await writableDb().update(filingRule).set({ filesFrom: null });
    await comes('Asks');
    await filedByRules();
    expect(await subjects(keeper, 'waiting')).toEqual(['Asks']);
  });

  it('what the process left when it died is filed by the next', async () => {
    await rule(60);
    const arrivalId = await comes('Left');
    // The proposal is made and nothing more: as when the process died there.
    expect((await rowOf(arrivalId))?.state).toBe('waiting');
    await filedByRules();
    expect((await rowOf(arrivalId))?.byRule).toBe('Gull');
  });
});

describe('many alike', () => {
  it('are looked at and filed together as proposed; what cannot be is told, and waits on', async () => {
    const ids = [await comes('A'), await comes('B'), await comes('C')];
    await comes('Another sender', { from: 'else@lantern.example' });
    const alike = await alikeArrivals(clerk, { arrivalId: ids[1] ?? '' });
    expect(alike.map(({ subject }) => subject)).toEqual(['B', 'A', 'C']);
    expect(alike[0]).toMatchObject({ parts: [{ title: 'B' }], sender: 'bills@gull.example' });
    expect((await arrivalSheet(clerk, { arrivalId: ids[0] ?? '' })).alike).toBe(2);
    const [changed] = alike;
    const { filed, left } = await agreeToArrivals(clerk, {
      arrivals: alike.map(({ id, revision }) => ({ id, revision: id === changed?.id ? revision + 1 : revision })),
    });
    expect(filed).toHaveLength(2);
    expect(left).toEqual([{ arrivalId: changed?.id, says: 'This was changed meanwhile. Load it again.' }]);
    expect((await subjects(clerk, 'waiting')).sort()).toEqual(['Another sender', 'B']);
    expect((await rowOf(ids[0] ?? ''))?.corrected).toEqual([]);
  });

  it('agreed by two at once, each is filed once; and nobody agrees to what is not theirs to check', async () => {
    const id = await comes('Twice');
    const arrivals = [{ id, revision: await revisionOf(id) }];
    const both = await Promise.all([agreeToArrivals(clerk, { arrivals }), agreeToArrivals(keeper, { arrivals })]);
    expect(both.flatMap(({ filed }) => filed)).toEqual([id]);
    expect(await db().$count(document, eq(document.title, 'Twice'))).toBe(1);
    const hidden = await comes('Hidden');
    const hiddenToo = [{ id: hidden, revision: await revisionOf(hidden) }];
    expect(await refusal(agreeToArrivals(stranger, { arrivals: hiddenToo }))).toMatch(/^not-found/u);
    expect(await refusal(takeArrivalsBack(stranger, { arrivalIds: [id] }))).toMatch(/^not-found/u);
  });
});

describe('what is done otherwise than proposed', () => {
  it('is noted: the title, the place, a value; and nothing where somebody just agreed', async () => {
    const amount = { name: 'Amount', type: 'amount', currency: 'EUR' } as const;
    await defineColumn(keeper, { ...plainFields, ...amount, required: false, placeId: gull });
    const [same, changed] = [await comes('Same'), await comes('Other', { text: 'Amount due: 120.00 EUR' })];
    for (const [arrivalId, title] of [
      [same, 'Same'],
      [changed, 'Called otherwise'],
    ] as const) {
      const { revision, places } = await arrivalSheet(clerk, { arrivalId });
      const placeId = places[0]?.placeId ?? '';
      await fileArrival(clerk, { arrivalId, revision, placeId, parts: [{ attachment: null, title }] });
    }
    const elsewhere = await comes('Elsewhere');
    await fileArrival(keeper, {
      ...{ arrivalId: elsewhere, revision: await revisionOf(elsewhere), placeId: other },
      parts: [{ attachment: null, title: 'Elsewhere' }],
    });
    expect((await rowOf(elsewhere))?.corrected).toEqual(['Place']);
    expect((await rowOf(same))?.corrected).toEqual([]);
    expect((await rowOf(changed))?.corrected).toEqual(['Title', 'Amount']);
  });
});

describe('not now', () => {
  it('later: it is not among what waits until that day, for anybody, and can be had back', async () => {
    const arrivalId = await comes('Later');
    const putOff = async (until: string | null) =>
      putArrivalOff(clerk, { arrivalId, revision: await revisionOf(arrivalId), until });
    expect(await refusal(putOff('2020-01-01'))).toMatch(/still to come/u);
    await putOff('2099-01-01');
    expect(await subjects(clerk, 'waiting')).toEqual([]);
    expect(await subjects(clerk, 'later')).toEqual(['Later']);
    expect(await arrivalsWaiting(clerk, {})).toEqual({ waiting: 0 });
    expect((await arrivalsOf(clerk, { which: 'waiting' })).elsewhere).toEqual({ later: 1, byRule: 0 });
    await putOff(null);
    expect(await subjects(clerk, 'waiting')).toEqual(['Later']);
    expect(await refusal(putOff(null))).toMatch(/^conflict/u);
    await writableDb().update(arrival).set({ putOffUntil: '2020-01-01' });
    expect(await subjects(clerk, 'waiting')).toEqual(['Later']);
  });

  it('ask: whoever is asked sees it and its content, is told, answers; and sees it no more once it is seen to', async () => {
    const arrivalId = await comes('Whose is it');
    expect(await refusal(arrivalSheet(stranger, { arrivalId }))).toMatch(/^not-found/u);
    const asks = async (actor: Actor, of: Actor, says: string) =>
      askAboutArrival(actor, { arrivalId, revision: await revisionOf(arrivalId), personId: of.personId, says });
    expect(await asks(clerk, stranger, 'Is this yours?')).toEqual({ sent: true });
    expect((await mailsTo(stranger.email)).at(-1)).toContain('Is this yours?');
    expect(await arrivalsWaiting(stranger, {})).toEqual({ waiting: 1 });
    expect((await arrivalSheet(stranger, { arrivalId })).said).toMatchObject([
      { by: 'Cle Rk', says: 'Is this yours?' },
    ]);
    await asks(stranger, clerk, 'No, it is yours.');
    expect(await refusal(arrivalSheet(stranger, { arrivalId }))).toMatch(/^not-found/u);
    const sheet = await arrivalSheet(clerk, { arrivalId });
    expect(sheet.said.map(({ says }) => says)).toEqual(['Is this yours?', 'No, it is yours.']);
    expect(sheet.askedOf?.id).toBe(clerk.personId);
    expect(await refusal(asks(clerk, clerk, 'Me?'))).toMatch(/That is you/u);
    await asks(clerk, stranger, 'Sure?');
    await setArrivalAside(clerk, { arrivalId, revision: await revisionOf(arrivalId) });
    expect(await refusal(arrivalSheet(stranger, { arrivalId }))).toMatch(/^not-found/u);
  });
});
