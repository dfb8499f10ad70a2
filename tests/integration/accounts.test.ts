import { readFile, readdir } from 'node:fs/promises';
import path from 'node:path';
import { symmetricEncrypt } from 'better-auth/crypto';
import { desc, eq } from 'drizzle-orm';
import { pauseRule } from '@/core/people/pause';
import type { Actor } from '@/server/gate/actor';
import { dropSecondStep, endSession, openAccount } from '@/server/account/open';
import { actorFrom } from '@/server/auth/actorFrom';
import { watched } from '@/server/auth/watch';
import { config } from '@/server/base/config';
import { writableDb } from '@/server/db/client';
import { doorEvent, person, rateLimit, twoFactor } from '@/server/db/schema';
import { dropLibrary, freshLibrary, furnished, newcomer, open, passwords, refusedAs } from '../library';

let keeper: Actor;
let officer: Actor;

beforeAll(async () => {
  keeper = await freshLibrary();
  officer = await newcomer(keeper, 'Offi Cer');
  const home = await furnished(keeper);
  await open(keeper, home.series.id, officer, 'officer');
});
afterAll(dropLibrary);
beforeEach(() => writableDb().delete(rateLimit));

/** Knocks at one of the doors as a browser would; cookies as a browser would send them. */
async function knock(door: string, body: unknown, cookie = '', from = '192.0.2.1') {
  const request = new Request(`${config().EMBRIN_URL}/api/auth/${door}`, {
    method: 'POST',
    headers: {
      'content-type': 'application/json',
      origin: config().EMBRIN_URL,
      cookie,
      'x-embrin-address': from,
      'user-agent': 'Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0',
    },
    body: JSON.stringify(body),
  });
  const response = await watched(door, request, await request.clone().json());
  const cookies = response.headers
    .getSetCookie()
    .map((each) => each.split(';')[0] ?? '')
    .filter((each) => !each.endsWith('='));
  return {
    status: response.status,
    cookie: cookies.join('; '),
    body: (await response.json()) as Record<string, unknown>,
  };
}
const signIn = (who: Actor, password: string = passwords.others, from?: string) =>
  knock('sign-in/email', { email: who.email, password }, '', from);
const lastEvents = async (email: string, count: number) =>
  (
    await writableDb()
      .select({ event: doorEvent.event })
      .from(doorEvent)
      .where(eq(doorEvent.email, email))
      .orderBy(desc(doorEvent.id))
      .limit(count)
  )
    .map((row) => row.event)
    .reverse();

/** Runs work as if the machine's clock stood at a moment. */
async function atClock<T>(seconds: number, work: () => Promise<T>): Promise<T> {
  jest.useFakeTimers({
    now: seconds * 1000,
    doNotFake: [
      'nextTick',
      'setImmediate',
      'clearImmediate',
      'setTimeout',
      'clearTimeout',
      'setInterval',
      'clearInterval',
      'queueMicrotask',
      'performance',
      'hrtime',
    ],
  });
  try {
    return await work();
  } finally {
    jest.useRealTimers();
  }
}

describe('codes of the second step', () => {
  // RFC 6238, appendix B, SHA-1. The tables give eight digits; six are the last of them (RFC 4226, section 5.3).
  const key = '12345678901234567890';
  const vectors = [
    [59, '94287082'],
    [1111111109, '07081804'],
    [1111111111, '14050471'],
    [1234567890, '89005924'],
    [2000000000, '69279037'],
    [20000000000, '65353130'],
  ] as const;

  async function withSecret(who: Actor): Promise<void> {
    const secret = await symmetricEncrypt({ key: config().EMBRIN_SECRET, data: key });
    const backupCodes = await symmetricEncrypt({ key: config().EMBRIN_SECRET, data: '["aaaaa-bbbbb","ccccc-ddddd"]' });
    await writableDb().delete(twoFactor).where(eq(twoFactor.userId, who.personId));
    await writableDb().insert(twoFactor).values({ userId: who.personId, secret, backupCodes, verified: true });
    await writableDb().update(person).set({ twoFactorEnabled: true }).where(eq(person.id, who.personId));
  }

  it.each(vectors)('at second %d are those of RFC 6238, once', async (seconds, digits) => {
    const code = digits.slice(-6);
    await withSecret(officer);
    await atClock(seconds, async () => {
      await writableDb().delete(rateLimit);
      const half = await signIn(officer);
      expect([half.status, half.body['twoFactorRedirect']]).toEqual([200, true]);
      expect(await actorFrom(new Headers({ cookie: half.cookie }))).toBeNull();
      const wrong = await knock(
        'two-factor/verify-totp',
        { code: code === '000000' ? '000001' : '000000' },
        half.cookie,
      );
      expect(wrong.status).toBe(401);
      // Trusting a device is not among what can be asked for.
      const right = await knock('two-factor/verify-totp', { code, trustDevice: true }, half.cookie);
      expect(right.cookie).not.toContain('trust');
      expect(right.status).toBe(200);
      expect((await actorFrom(new Headers({ cookie: right.cookie })))?.personId).toBe(officer.personId);
      const again = await signIn(officer);
      expect((await knock('two-factor/verify-totp', { code }, again.cookie)).status).toBe(401);
    });
    expect(await lastEvents(officer.email, 5)).toEqual(['halfIn', 'wrongCode', 'signedIn', 'halfIn', 'wrongCode']);
  });

  it('can be stood in for by a recovery code, each once', async () => {
    await withSecret(officer);
    const half = await signIn(officer);
    expect((await knock('two-factor/verify-backup-code', { code: 'aaaaa-bbbbb' }, half.cookie)).status).toBe(200);
    const again = await signIn(officer);
    expect((await knock('two-factor/verify-backup-code', { code: 'aaaaa-bbbbb' }, again.cookie)).status).toBe(401);
    expect(await openAccount(officer)).toMatchObject({ twoStep: true, codesLeft: 1 });
  });

  it('are no longer asked for once a keeper has taken the second step off, and old sessions have ended', async () => {
    await withSecret(officer);
    const half = await signIn(officer);
    const into = await knock('two-factor/verify-backup-code', { code: 'ccccc-ddddd' }, half.cookie);
    expect(await refusedAs(dropSecondStep(officer, { personId: officer.personId }))).toBe('not-allowed');
    await dropSecondStep(keeper, { personId: officer.personId });
    expect(await actorFrom(new Headers({ cookie: into.cookie }))).toBeNull();
    expect((await signIn(officer)).body['twoFactorRedirect']).toBeUndefined();
  });
});

describe('the door', () => {
  it('is paused after ten wrong passwords, for the right one too, and for an account there is not', async () => {
    const someone = await newcomer(keeper, 'Pau Sed');
    for (const email of [someone.email, 'nobody@test.example']) {
      const answers = [];
      for (let at = 0; at < pauseRule.wrongTries; at += 1) {
        await writableDb().delete(rateLimit);
        answers.push((await knock('sign-in/email', { email, password: 'wrong wrong wrong wrong' })).status);
      }
      expect(new Set(answers)).toEqual(new Set([401]));
      expect(await refusedAs(knock('sign-in/email', { email, password: passwords.others }))).toBe('too-many');
    }
    expect(await lastEvents(someone.email, 2)).toEqual(['wrongPassword', 'paused']);
  });

  it('counts tries that come all at once', async () => {
    const someone = await newcomer(keeper, 'At Once');
    const answers = await Promise.all(
      Array.from({ length: 25 }, (_each, at) =>
        refusedAs(
          knock(
            'sign-in/email',
            { email: someone.email, password: `wrong number ${at} of many` },
            '',
            `192.0.2.${at + 10}`,
          ),
        ),
      ),
    );
    expect(answers.filter((each) => each === 'done')).toHaveLength(pauseRule.wrongTries);
  });

  it('counts nothing that was turned away before it was looked at', async () => {
    const someone = await newcomer(keeper, 'Turned Away');
    const answers: number[] = [];
    for (let at = 0; at < 12; at += 1) answers.push((await signIn(someone)).status);
    expect([answers.filter((each) => each === 200).length, answers.at(-1)]).toEqual([10, 429]);
    await writableDb().delete(rateLimit);
    expect((await signIn(someone)).status).toBe(200);
    expect(new Set(await lastEvents(someone.email, 50))).toEqual(new Set(['signedIn']));
  });

  it.each(['update-user', 'list-sessions', 'delete-user', 'two-factor/get-totp-uri', 'sign-up/email', 'change-email'])(
    'is not there for %s, which would lead past the journal',
    async (door) => {
      const into = await signIn(officer);
      expect(await refusedAs(knock(door, { name: 'Kea Keeper', password: passwords.others }, into.cookie))).toBe(
        'not-found',
      );
      const [row] = await writableDb()
        .select({ name: person.name })
        .from(person)
        .where(eq(person.id, officer.personId));
      expect(row?.name).toBe('Offi Cer');
    },
  );

  it('keeps no password that was typed where the address belongs', async () => {
    await knock('sign-in/email', { email: 'my secret password', password: 'x' });
    const [row] = await writableDb().select().from(doorEvent).orderBy(desc(doorEvent.id)).limit(1);
    expect(JSON.stringify(row)).not.toContain('my secret');
  });

  it.each([
    ['passwordpassword', 'a common word twice'],
    ['aaaaaaaaaaaaaaaaaaaa', 'one letter'],
    ['12345678901234567890', 'digits in a row'],
    ['qwertyuiopasdfghjkl', 'keys in a row'],
    ['offi.cer@test.example', 'their own address'],
    ['summer2026summer2026', 'a word and a year twice'],
  ])(
    'takes no new password like %s (%s), and does so by the list alone, not by composition (NIST SP 800-63B-4, 3.1.1.2)',
    async (guessable) => {
      const into = await signIn(officer);
      const change = (newPassword: string) =>
        refusedAs(knock('change-password', { currentPassword: passwords.others, newPassword }, into.cookie));
      expect(await change(guessable)).toBe('invalid');
      expect((await signIn(officer)).status).toBe(200);
      // Sixty-four characters and more, spaces, no capital and no digit: all fit.
      const long = 'the tide turns twice a day and the pilots know it better than anyone else';
      expect(await change(long)).toBe('done');
      expect((await signIn(officer, long)).status).toBe(200);
      const again = await signIn(officer, long);
      await knock('change-password', { currentPassword: long, newPassword: passwords.others }, again.cookie);
    },
  );

  it('begins a new session at each sign-in, whatever cookie came along (session fixation)', async () => {
    const planted = 'embrin.session_token=planted.by-someone';
    const first = await knock('sign-in/email', { email: keeper.email, password: passwords.keeper }, planted);
    const second = await knock('sign-in/email', { email: keeper.email, password: passwords.keeper }, first.cookie);
    expect(first.cookie).not.toContain('planted');
    expect(second.cookie).not.toBe(first.cookie);
  });

  it('is opened again by a new password that a message to the account’s own address allows; a link does so once', async () => {
    const someone = await newcomer(keeper, 'For Got');
    const into = await signIn(someone);
    await knock('request-password-reset', { email: someone.email });
    const asked = await knock('request-password-reset', { email: someone.email });
    const unknown = await knock('request-password-reset', { email: 'nobody@test.example' });
    expect(unknown).toEqual({ ...asked, cookie: unknown.cookie });
    const folder = config().EMBRIN_OUTBOX;
    const mails = await Promise.all(
      (await readdir(folder)).sort().map((name) => readFile(path.join(folder, name), 'utf8')),
    );
    const [earlier, token] = mails
      .filter((each) => each.includes(someone.email) && each.includes('new-password/'))
      .slice(-2)
      .map((each) => /new-password\/(?<token>[\w-]+)/u.exec(each.replace(/=\r?\n/gu, ''))?.groups?.['token']);
    expect(earlier).not.toBe(token);
    const renewed = { newPassword: 'an entirely new password', token };
    expect((await knock('reset-password', { ...renewed, newPassword: 'xq7 vb!2 zt' })).status).toBe(400);
    expect((await knock('reset-password', renewed)).status).toBe(200);
    expect((await knock('reset-password', renewed)).status).toBe(400);
    // The other link, which nobody has used, is good no longer either.
    expect((await knock('reset-password', { newPassword: 'another new password', token: earlier })).status).toBe(400);
    expect(await actorFrom(new Headers({ cookie: into.cookie }))).toBeNull();
    expect((await signIn(someone)).status).toBe(401);
    expect((await signIn(someone, renewed.newPassword)).status).toBe(200);
    const after = await Promise.all(
      (await readdir(folder)).sort().map((name) => readFile(path.join(folder, name), 'utf8')),
    );
    expect(after.findLast((each) => each.includes(someone.email))).toContain('Your account: password renewed');
    expect(await lastEvents(someone.email, 3)).toEqual(['passwordRenewed', 'wrongPassword', 'signedIn']);
  });

  it('lists one’s own sessions with what one sits at, and ends them one by one, never another’s', async () => {
    const someone = await newcomer(keeper, 'Ses Sions');
    const [one, other] = [await signIn(someone), await signIn(someone, passwords.others, '198.51.100.7')];
    const here = await actorFrom(new Headers({ cookie: one.cookie }));
    if (!here) throw new Error('Not signed in');
    const { sessions, door } = await openAccount(here);
    expect(sessions.map((each) => [each.current, each.address, each.browser])).toEqual(
      expect.arrayContaining([
        [true, '192.0.2.1', 'Firefox 140 on Linux'],
        [false, '198.51.100.7', 'Firefox 140 on Linux'],
      ]),
    );
    expect(door.map((line) => line.event)).toEqual(['signedIn', 'signedIn']);
    const away = sessions.find((each) => !each.current)?.id ?? '';
    expect(await refusedAs(endSession(officer, { sessionId: away }))).toBe('not-found');
    await endSession(here, { sessionId: away });
    expect(await actorFrom(new Headers({ cookie: other.cookie }))).toBeNull();
    expect(await actorFrom(new Headers({ cookie: one.cookie }))).not.toBeNull();
  });
});
