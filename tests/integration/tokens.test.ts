import { capabilities, type Capability } from '@/core/access/capability';
import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/gate/actor';
import { openAccount } from '@/server/account/open';
import { createToken, tokenActor, withdrawToken } from '@/server/auth/tokens';
import { actorFrom } from '@/server/auth/actorFrom';
import { writableDb } from '@/server/db/client';
import { rateLimit } from '@/server/db/schema';
import { papersByIds } from '@/server/documents/ledger';
import { renamePaper } from '@/server/documents/amend';
import { setActive } from '@/server/people/people';
import { openView } from '@/server/views/open';
import { dropLibrary, freshLibrary, furnished, newcomer, open, plainQuestion, refusedAs } from '../library';

let keeper: Actor;
let officer: Actor;
let year: { id: string };
let paper: string;

beforeAll(async () => {
  keeper = await freshLibrary();
  officer = await newcomer(keeper, 'Offi Cer');
  const home = await furnished(keeper);
  year = home.year;
  paper = await fileBuffer(keeper, year.id, 'Minutes.txt', Buffer.from('Minutes\n'));
  await open(keeper, home.series.id, officer, 'officer');
});
afterAll(dropLibrary);
beforeEach(() => writableDb().delete(rateLimit));

describe('a token', () => {
  const until = new Date(Date.now() + 30 * 86_400_000).toISOString().slice(0, 10);
  const make = async (who: Actor, some: readonly Capability[]): Promise<Actor> => {
    const { token } = await createToken(who, { name: 'For a program', capabilities: [...some], until });
    const actor = await actorFrom(new Headers({ authorization: `Bearer ${token}` }));
    if (!actor) throw new Error('The token opens nothing');
    return actor;
  };
  /** What can be tried with each capability, in order, as whoever has the token. */
  const tried = async (actor: Actor) => {
    const [row] = await papersByIds(keeper, { documentIds: [paper] });
    return {
      see: (await papersByIds(actor, { documentIds: [paper] })).length === 1,
      add:
        (await refusedAs(
          fileBuffer(actor, year.id, `${crypto.randomUUID()}.txt`, Buffer.from(crypto.randomUUID())),
        )) === 'done',
      amend:
        (await refusedAs(renamePaper(actor, { documentId: paper, title: 'Minutes', revision: row?.revision ?? 0 }))) ===
        'done',
      manage: (await refusedAs(open(actor, year.id, officer, 'officer'))) === 'done',
    };
  };
  const nothing = { see: false, add: false, amend: false, manage: false };

  it('does what its person may, and of that no more than it was given', async () => {
    expect(await tried(await make(officer, ['see']))).toEqual({ ...nothing, see: true });
    expect(await tried(await make(officer, ['amend']))).toEqual({ ...nothing, see: true, amend: true });
    expect(await tried(await make(officer, ['manage']))).toEqual({ see: true, add: true, amend: true, manage: false });
  });

  it('of a keeper sees everything, and keeps nothing unless it was given that', async () => {
    for (const capability of capabilities.filter((each) => each !== 'manage')) {
      const actor = await make(keeper, [capability]);
      expect(await tried(actor)).toEqual({
        ...nothing,
        see: true,
        ...(capability === 'add' || capability === 'amend' ? { [capability]: true } : {}),
      });
      expect((await openView(actor, { ...plainQuestion, placeId: year.id })).lines).toBeGreaterThan(0);
      expect(await refusedAs(setActive(actor, { personId: officer.personId, active: true }))).toBe('not-allowed');
    }
    expect(await tried(await make(keeper, ['manage']))).toEqual({ see: true, add: true, amend: true, manage: true });
  });

  it('reaches no account, not even its own person’s', async () => {
    const actor = await make(keeper, ['manage']);
    expect(await refusedAs(openAccount(actor))).toBe('not-allowed');
    expect(await refusedAs(createToken(actor, { name: 'Another', capabilities: ['see'], until }))).toBe('not-allowed');
  });

  it('opens nothing once it is withdrawn, has run out, or its person is switched off; a made-up one never', async () => {
    const someone = await newcomer(keeper, 'To Ken');
    const { token } = await createToken(someone, { name: 'One', capabilities: ['see'], until });
    expect((await tokenActor(token))?.personId).toBe(someone.personId);
    expect(await tokenActor(`${token.slice(0, -2)}xx`)).toBeNull();
    await setActive(keeper, { personId: someone.personId, active: false });
    expect(await tokenActor(token)).toBeNull();
    await setActive(keeper, { personId: someone.personId, active: true });
    const [row] = (await openAccount(someone)).tokens;
    expect(await refusedAs(withdrawToken(officer, { tokenId: row?.id ?? '' }))).toBe('not-found');
    await withdrawToken(someone, { tokenId: row?.id ?? '' });
    expect(await tokenActor(token)).toBeNull();
    for (const day of ['2001-01-01', '2999-01-01'])
      expect(await refusedAs(createToken(someone, { name: 'Two', capabilities: ['see'], until: day }))).toBe('invalid');
  });
});
