import { readFile, readdir } from 'node:fs/promises';
import path from 'node:path';
import type { OutputOf, ReadInputOf } from '@/core/contract';
import { mostWrongTries } from '@/core/outside/model';
import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/gate/actor';
import { atMoment } from '@/server/base/clock';
import { config } from '@/server/base/config';
import { crossFile } from '@/server/documents/crossFile';
import { disposePapers } from '@/server/disposal/dispose';
import { listLinks, makeLink, withdrawLink } from '@/server/outside/links';
import { contentOutside, paperOutside, papersOutside } from '@/server/outside/papers';
import { gateOf, openLink, sendCode, visitorOf, type Visitor } from '@/server/outside/visit';
import { setActive } from '@/server/people/people';
import { createFolder } from '@/server/places/create';
import { dropLibrary, freshLibrary, furnished, newcomer, open, refusedAs } from '../library';
import { paperOn, placeOn, say } from '../sheets';

let keeper: Actor;
let manager: Actor;
let home: Awaited<ReturnType<typeof furnished>>;
let lease: string;
let minutes: string;

const day = (ahead: number): string => new Date(Date.now() + ahead * 86_400_000).toISOString().slice(0, 10);
const caller = { address: '192.0.2.9', agent: 'test' };
const nothing = { password: null, code: null };

type Make = ReadInputOf<'link.make'>;
const view = { name: 'For the auditor', below: true, filter: '', conditions: [], sorts: [] };
const plain = (on: Make['on']): Make => ({
  on,
  email: null,
  password: null,
  copies: true,
  until: day(30),
  mostOpenings: null,
  message: '',
});
const make = async (who: Actor, more: Partial<Make> & Pick<Make, 'on'>) => {
  const made: OutputOf<'link.make'> = await makeLink(who, { ...plain(more.on), ...more });
  return { id: made.id, token: made.link.slice(made.link.lastIndexOf('/') + 1) };
};
const toPaper = (id: string): Make['on'] => ({ kind: 'paper', id });
const toView = (id: string): Make['on'] => ({ kind: 'place', id, view });
const enter = async (token: string, given: Partial<typeof nothing> | object = nothing): Promise<Visitor> => {
  const { visit } = await openLink(token, { ...nothing, ...given }, caller);
  return (await visitorOf(token, visit)) ?? Promise.reject(new Error('The visit opens nothing'));
};
const titles = async (visitor: Visitor) => (await papersOutside(visitor)).papers.map((paper) => paper.title).sort();

async function lastMailTo(address: string): Promise<string> {
  const folder = config().EMBRIN_OUTBOX;
  const mails = await Promise.all(
    (await readdir(folder)).sort().map((name) => readFile(path.join(folder, name), 'utf8')),
  );
  return mails.findLast((mail) => mail.includes(address)) ?? '';
}

beforeAll(async () => {
  keeper = await freshLibrary();
  manager = await newcomer(keeper, 'Man Ager');
  home = await furnished(keeper);
  lease = await fileBuffer(keeper, home.year.id, 'Lease.txt', Buffer.from('The lease\n'));
  minutes = await fileBuffer(keeper, home.year.id, 'Minutes.txt', Buffer.from('The minutes\n'));
  await open(keeper, home.dossier.id, manager, 'manager');
});
afterAll(dropLibrary);

describe('a link to a paper', () => {
  it('shows that paper, its content and nothing else', async () => {
    const { token } = await make(manager, { on: toPaper(lease) });
    const visitor = await enter(token);
    expect(await titles(visitor)).toEqual(['Lease']);
    expect((await contentOutside(visitor, lease, null, 'take')).fileName).toBe('Lease.txt');
    expect(await refusedAs(contentOutside(visitor, minutes, null, 'see'))).toBe('not-found');
    expect(await refusedAs(paperOutside(visitor, crypto.randomUUID()))).toBe('not-found');
  });

  it('without copies lets nobody take one', async () => {
    const visitor = await enter((await make(manager, { on: toPaper(lease), copies: false })).token);
    expect((await contentOutside(visitor, lease, null, 'see')).fileName).toBe('Lease.txt');
    expect(await refusedAs(contentOutside(visitor, lease, null, 'take'))).toBe('not-allowed');
  });

  it('is made by those alone who manage it, and is then seen by those', async () => {
    const officer = await newcomer(keeper, 'Off Icer');
    await say(keeper, paperOn(minutes), [{ who: officer, gives: ['see', 'take', 'amend'] }]);
    expect(await refusedAs(make(officer, { on: toPaper(minutes) }))).toBe('not-allowed');
    expect(await refusedAs(make(officer, { on: toPaper(lease) }))).toBe('not-found');
    const { id } = await make(keeper, { on: toPaper(minutes) });
    expect((await listLinks(manager, { onId: minutes })).map((row) => row.id)).toEqual([id]);
    expect(await listLinks(officer, { onId: minutes })).toEqual([]);
    expect(await refusedAs(withdrawLink(officer, { linkId: id }))).toBe('not-found');
    await withdrawLink(manager, { linkId: id });
  });

  it('goes as far as its maker does: not after they manage it no longer, or are no longer here, or it is disposed of', async () => {
    const other = await newcomer(keeper, 'Oth Er');
    const folder = await createFolder(keeper, { parentId: home.dossier.id, name: 'Surveys' });
    const survey = await fileBuffer(keeper, folder.id, 'Survey.txt', Buffer.from('The survey\n'));
    await say(keeper, placeOn(folder.id), [{ who: other, gives: ['manage'] }]);
    const visitor = async () => {
      const { token } = await make(other, { on: toPaper(survey) });
      const { visit } = await openLink(token, nothing, caller);
      return () => visitorOf(token, visit);
    };
    const after = await visitor();
    await say(keeper, placeOn(folder.id), [{ who: other, gives: ['see', 'take', 'amend'] }]);
    const lost = await after();
    expect(lost && (await titles(lost))).toEqual([]);
    expect(lost && (await refusedAs(contentOutside(lost, survey, null, 'see')))).toBe('not-found');
    await say(keeper, placeOn(folder.id), [{ who: other, gives: ['manage'] }]);
    const again = await visitor();
    await setActive(keeper, { personId: other.personId, active: false });
    expect(await again()).toBeNull();
    await setActive(keeper, { personId: other.personId, active: true });
    const third = await visitor();
    await disposePapers(keeper, { documentIds: [survey] });
    const gone = await third();
    expect(gone && (await refusedAs(contentOutside(gone, survey, null, 'see')))).toBe('not-found');
  });
});

describe('a link to a view', () => {
  it('shows what the view holds at the moment, of what its maker manages', async () => {
    const board = await createFolder(keeper, { parentId: home.dossier.id, name: 'Board only' });
    await fileBuffer(keeper, board.id, 'Salaries.txt', Buffer.from('Salaries\n'));
    await say(keeper, placeOn(board.id), [], false);
    const { token } = await make(manager, { on: toView(home.dossier.id) });
    const visitor = await enter(token);
    expect(await titles(visitor)).toEqual(['Lease', 'Minutes']);
    const later = await fileBuffer(keeper, home.year.id, 'Chart.txt', Buffer.from('Chart\n'));
    expect(await titles(visitor)).toEqual(['Chart', 'Lease', 'Minutes']);
    await disposePapers(keeper, { documentIds: [later] });
    const narrowed = await make(manager, {
      on: { kind: 'place', id: home.dossier.id, view: { ...view, filter: 'leas' } },
    });
    const inside = await enter(narrowed.token);
    expect(await titles(inside)).toEqual(['Lease']);
    expect(await refusedAs(contentOutside(inside, minutes, null, 'see'))).toBe('not-found');
    expect(await titles(await enter((await make(keeper, { on: toView(home.dossier.id) })).token))).toEqual([
      'Lease',
      'Minutes',
      'Salaries',
    ]);
  });

  it('is not widened by a pointer, which lets nobody in', async () => {
    const far = await furnished(keeper, 'Far series');
    const secret = await fileBuffer(keeper, far.year.id, 'Far secret.txt', Buffer.from('far\n'));
    await crossFile(keeper, { documentIds: [secret], toIds: [home.year.id], kind: 'pointer' });
    expect(await titles(await enter((await make(manager, { on: toView(home.dossier.id) })).token))).toEqual([
      'Lease',
      'Minutes',
    ]);
  });
});

describe('opening a link', () => {
  it('takes the password it was given, and is shut for good when it was guessed at', async () => {
    const { token } = await make(manager, { on: toPaper(lease), password: 'told by telephone' });
    expect(await gateOf(token)).toMatchObject({ needsPassword: true, needsCode: false });
    expect(await refusedAs(enter(token))).toBe('wrong-password');
    expect(await titles(await enter(token, { password: 'told by telephone' }))).toEqual(['Lease']);
    for (let tries = 0; tries < mostWrongTries; tries += 1)
      expect(await refusedAs(enter(token, { password: `guess ${tries}` }))).toBe('wrong-password');
    expect(await refusedAs(enter(token, { password: 'told by telephone' }))).toBe('gone');
  });

  it('takes a code that is sent to the one address it is for; each code once, and one a minute', async () => {
    const { token } = await make(manager, {
      on: toPaper(lease),
      email: 'ann.outside@example.org',
      message: 'As agreed.',
    });
    expect(await lastMailTo('ann.outside@example.org')).toContain('As agreed.');
    expect(await gateOf(token)).toMatchObject({ needsPassword: false, needsCode: true });
    expect(await refusedAs(enter(token, { code: '000000' }))).toBe('wrong-password');
    await sendCode(token);
    expect(await refusedAs(sendCode(token))).toBe('too-many');
    const code = /code to open what was sent to you: (?<code>\d{6})/u.exec(await lastMailTo('ann.outside@example.org'))
      ?.groups?.['code'];
    const late = new Date(Date.now() + 11 * 60_000);
    expect(await atMoment(late, () => refusedAs(enter(token, { code })))).toBe('wrong-password');
    expect(await titles(await enter(token, { code }))).toEqual(['Lease']);
    expect(await refusedAs(enter(token, { code }))).toBe('wrong-password');
  });

  it('counts, also when many come at once, and ends with the last that it lets in; who is in goes on reading', async () => {
    const { token, id } = await make(manager, { on: toPaper(lease), mostOpenings: 3 });
    const came = await Promise.all(
      Array.from({ length: 8 }, () =>
        openLink(token, nothing, caller).then(
          ({ visit }) => visit,
          () => null,
        ),
      ),
    );
    const visits = came.filter((each) => each !== null);
    expect(visits).toHaveLength(3);
    expect(await refusedAs(gateOf(token))).toBe('gone');
    expect(await visitorOf(token, visits[0] ?? '')).not.toBeNull();
    const [row] = (await listLinks(keeper, { onId: lease })).filter((each) => each.id === id);
    expect(row).toMatchObject({ openings: 3, mostOpenings: 3, ended: 'usedUp', madeBy: 'Man Ager' });
    expect(row?.lastOpenedAt).not.toBeNull();
  });

  it('ends at its last day, and at once when it is withdrawn, for those who are reading too', async () => {
    const { token, id } = await make(manager, { on: toPaper(lease), until: day(2) });
    const { visit } = await openLink(token, nothing, caller);
    const after = new Date(Date.now() + 4 * 86_400_000);
    expect(await atMoment(after, () => refusedAs(gateOf(token)))).toBe('gone');
    expect(await atMoment(after, () => visitorOf(token, visit))).toBeNull();
    expect(await visitorOf(token, visit)).not.toBeNull();
    await withdrawLink(manager, { linkId: id });
    expect(await visitorOf(token, visit)).toBeNull();
    expect(await refusedAs(gateOf(token))).toBe('gone');
    expect(await refusedAs(gateOf('made-up-token-of-some-length'))).toBe('gone');
  });

  it('is no way to another link: a visit is good for its own alone', async () => {
    const one = await make(manager, { on: toPaper(lease) });
    const other = await make(manager, { on: toPaper(minutes) });
    const { visit } = await openLink(one.token, nothing, caller);
    expect(await visitorOf(other.token, visit)).toBeNull();
    expect(await visitorOf(one.token, `${visit.slice(0, -1)}_`)).toBeNull();
  });
});

it.each([day(-1), day(500)])('a link is not made to end on a day like %s', async (until) => {
  expect(await refusedAs(make(manager, { on: toPaper(lease), until }))).toBe('invalid');
});
