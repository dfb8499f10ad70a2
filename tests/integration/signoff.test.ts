import { fileBuffer } from '@/demo/file';
import { createFolder } from '@/server/places/create';
import { openPlace } from '@/server/places/open';
import { setStandstill } from '@/server/standstill/standstill';
import type { ReadInputOf } from '@/core/contract';
import { atMoment } from '@/server/base/clock';
import type { Actor } from '@/server/gate/actor';
import { setActive } from '@/server/people/people';
import { answerSignOff } from '@/server/signoff/answer';
import { markOnPaper, releaseSigner, withdrawSignOff } from '@/server/signoff/ask';
import { signOffLines } from '@/server/signoff/lines';
import { signOffChoices, signOffsOf } from '@/server/signoff/paper';
import { remindSigners } from '@/server/signoff/remind';
import { sealSigned } from '@/server/signoff/sealed';
import { dropLibrary, newcomer, open, passwords, refusedAs } from '../library';
import { mailsTo } from '../mails';
import { paperOn, say } from '../sheets';
import { keeper, now, reader } from './expecting';
import {
  chair,
  treasurer,
  stranger,
  place,
  beginSigning,
  another,
  pdf,
  minutes,
  ask,
  stateOf,
  signerOf,
  asked,
  answer,
  signedCopy,
} from './signing';

beforeAll(beginSigning);
afterAll(dropLibrary);

describe('asking', () => {
  it('is for those who may change the paper, of people who may see it, of each once', async () => {
    const paper = await minutes();
    expect(await refusedAs(ask(paper, [chair], {}, reader))).toBe('not-allowed');
    expect(await refusedAs(ask(paper, [chair], {}, stranger))).toBe('not-found');
    expect(await refusedAs(ask(paper, [chair, stranger]))).toBe('invalid');
    expect(await refusedAs(ask(paper, [chair, chair]))).toBe('invalid');
    expect(await refusedAs(ask(paper, [chair], { needed: 2 }))).toBe('invalid');
    expect(await refusedAs(ask(paper, [chair], { dueOn: '2026-09-14' }))).toBe('invalid');
    expect(await refusedAs(ask(paper, [chair], { versionNumber: 2 }))).toBe('conflict');
    await ask(paper, [chair]);
    expect(await refusedAs(ask(paper, [treasurer, chair]))).toBe('conflict');
    // To approve is another thing than to sign.
    await ask(paper, [chair], { way: 'approve' });
  });

  it('offers those who may see the paper, and the missing papers that the copy could be', async () => {
    const paper = await minutes();
    const { people, slots: offered, likely } = await now(() => signOffChoices(keeper, { documentId: paper }));
    expect(people.map(({ name }) => name)).toEqual(['Cha Ir', 'Kea Keeper', 'Rea Der', 'Trea Surer']);
    expect(offered.map(({ words }) => words)).toContain('Agenda, Meeting, 12 May 2026');
    // None of them is called signed.
    expect(likely).toBeNull();
    expect(await refusedAs(signOffChoices(reader, { documentId: paper }))).toBe('not-allowed');
  });

  it('is for who manages the paper: those alone are told who may see it', async () => {
    const paper = await minutes();
    const officer = await newcomer(keeper, 'Off Icer');
    await open(keeper, place, officer, 'officer');
    expect(await refusedAs(ask(paper, [chair], {}, officer))).toBe('not-allowed');
    expect(await refusedAs(signOffChoices(officer, { documentId: paper }))).toBe('not-allowed');
    expect(await signOffsOf(officer, { documentId: paper })).toMatchObject({ mayAsk: false, mayMark: true });
  });

  it('is not done where the signed copy could not be filed', async () => {
    const { id } = await now(() => createFolder(keeper, { parentId: place, name: `Closed ${another()}` }));
    const paper = await now(async () => fileBuffer(keeper, id, 'Record.pdf', await pdf('Record')));
    const folder = await openPlace(keeper, { placeId: id });
    await now(() =>
      setStandstill(keeper, { placeId: id, locked: false, closed: true, reason: '', revision: folder.place.revision }),
    );
    expect(await refusedAs(ask(paper, [chair]))).toBe('closed-place');
  });

  it('tells somebody without access nothing', async () => {
    const paper = await minutes();
    await ask(paper, [chair]);
    expect(await refusedAs(signOffsOf(stranger, { documentId: paper }))).toBe('not-found');
    expect(await signOffLines(stranger, { whose: 'mine' })).toEqual([]);
    expect(await refusedAs(signOffLines(reader, { whose: 'all' }))).toBe('not-allowed');
  });
});

describe('answers', () => {
  it('of two at once are both kept; of one at once twice, once', async () => {
    const paper = await minutes();
    await ask(paper, [chair, treasurer]);
    await Promise.all([answer(paper, chair), answer(paper, treasurer)]);
    expect(await stateOf(paper)).toMatchObject({ state: 'signed', agreed: 2 });
    await signedCopy(paper);
    const other = await minutes();
    await ask(other, [chair, treasurer]);
    const twice = await Promise.all([1, 2].map(() => refusedAs(answer(other, chair))));
    expect(twice.toSorted()).toEqual(['conflict', 'done']);
  });

  it('may decline, with a reason, which ends it where all have to agree', async () => {
    const paper = await minutes();
    await ask(paper, [chair, treasurer]);
    expect(await refusedAs(answer(paper, chair, { answer: 'declined' }))).toBe('invalid');
    await answer(paper, chair, { answer: 'declined', reason: 'Item 4 is wrong' });
    expect(await stateOf(paper)).toMatchObject({ state: 'declined', sealState: 'none' });
    expect(await refusedAs(answer(paper, treasurer))).toBe('conflict');
    expect((await mailsTo(keeper.email)).some((mail) => mail.includes('was declined'))).toBe(true);
  });

  it('are enough when so many have agreed', async () => {
    const paper = await minutes();
    await ask(paper, [chair, treasurer, reader], { needed: 2 });
    await answer(paper, chair, { answer: 'declined', reason: 'Was not there' });
    await answer(paper, treasurer);
    await answer(paper, reader);
    expect(await stateOf(paper)).toMatchObject({ state: 'signed', agreed: 2, of: 3 });
    await signedCopy(paper);
  });

  it('are not possible for one who may not see the paper any more; whoever asked sees it, and lets them off', async () => {
    const paper = await minutes();
    const leaver = await newcomer(keeper, `Lea Ver ${another()}`);
    await open(keeper, place, leaver, 'reader');
    await ask(paper, [leaver, chair], { inTurn: true });
    const signerId = await signerOf(paper, leaver);
    await setActive(keeper, { personId: leaver.personId, active: false });
    expect((await stateOf(paper)).signers[0]).toMatchObject({ cannotAnswer: true });
    expect((await stateOf(paper, reader)).signers[0]).toMatchObject({ cannotAnswer: false });
    expect(await refusedAs(releaseSigner(reader, { signerId, reason: 'Has left' }))).toBe('not-allowed');
    await releaseSigner(keeper, { signerId, reason: 'Has left' });
    expect((await stateOf(paper)).signers.map(({ answer: said, isTurn }) => [said, isTurn])).toEqual([
      ['released', false],
      [null, true],
    ]);
    const last = await signerOf(paper, chair);
    expect(await refusedAs(releaseSigner(keeper, { signerId: last, reason: 'Has left too' }))).toBe('invalid');
    await answer(paper, chair);
    expect(await stateOf(paper)).toMatchObject({ state: 'signed', agreed: 1, of: 1 });
    await signedCopy(paper);
  });

  it('are refused once the paper is closed to the one who was asked', async () => {
    const paper = await minutes();
    await ask(paper, [treasurer]);
    const signerId = await signerOf(paper, treasurer);
    await say(keeper, paperOn(paper), [], false);
    expect(
      await refusedAs(answerSignOff(treasurer, { signerId, answer: 'agreed', reason: '', password: passwords.others })),
    ).toBe('not-found');
  });

  it('are not asked for, by no message, of one who may not see the paper any more', async () => {
    const paper = await minutes();
    const [gone, late] = [await newcomer(keeper, `Go Ne ${another()}`), await newcomer(keeper, `La Ter ${another()}`)];
    await say(
      keeper,
      paperOn(paper),
      [gone, late, chair].map((who) => ({ who, gives: ['see'] as const })),
      false,
    );
    await ask(paper, [chair, gone], { inTurn: true, dueOn: '2026-10-01', remindDays: 7 });
    await ask(paper, [late], { way: 'approve', dueOn: '2026-10-01', remindDays: 7 });
    expect(await asked(late, paper)).toHaveLength(1);
    await say(keeper, paperOn(paper), [{ who: chair, gives: ['see'] }], false);
    const { signOffs } = await signOffsOf(chair, { documentId: paper });
    const signerId = signOffs.flatMap(({ signers }) => signers).find(({ isMe }) => isMe)?.id ?? '';
    await answerSignOff(chair, { signerId, answer: 'agreed', reason: '', password: passwords.others });
    await atMoment(new Date('2026-09-25T10:00:00Z'), () => remindSigners());
    expect([await asked(gone, paper), await asked(late, paper)].map(({ length }) => length)).toEqual([0, 1]);
  });

  it('pause the account after many wrong passwords, as its door does', async () => {
    const paper = await minutes();
    const guesser = await newcomer(keeper, 'Gue Sser');
    await open(keeper, place, guesser, 'reader');
    await ask(paper, [guesser]);
    const tries: string[] = [];
    for (let at = 0; at < 12; at += 1) tries.push(await refusedAs(answer(paper, guesser, { password: `guess ${at}` })));
    expect(tries.at(-1)).toBe('too-many');
    expect(await refusedAs(answer(paper, guesser))).toBe('too-many');
  });

  it('come from nobody by a token', async () => {
    const paper = await minutes();
    await ask(paper, [chair]);
    const byToken: Actor = { ...chair, narrowed: { to: 31, everywhere: false } };
    expect(await refusedAs(answer(paper, byToken))).toBe('not-allowed');
  });
});

it('a scan is said to be what people signed on paper, and that is withdrawn where it was wrong', async () => {
  const [paper, scan] = [await minutes('Accord'), await minutes('Accord, scan')];
  const mark = (more: Partial<ReadInputOf<'signoff.markOnPaper'>> = {}) =>
    now(() =>
      markOnPaper(keeper, {
        scanId: scan,
        documentId: paper,
        versionNumber: 1,
        signers: [
          { name: 'Cha Ir', on: '2026-07-20' },
          { name: 'Lod Ger', on: '2026-07-22' },
        ],
        ...more,
      }),
    );
  expect(await refusedAs(mark({ versionNumber: 4 }))).toBe('invalid');
  expect(await refusedAs(mark({ scanId: paper }))).toBe('invalid');
  expect(await refusedAs(mark({ signers: [{ name: 'Cha Ir', on: '2030-01-01' }] }))).toBe('invalid');
  expect(
    await refusedAs(
      markOnPaper(reader, {
        scanId: scan,
        documentId: paper,
        versionNumber: 1,
        signers: [{ name: 'X', on: '2026-07-01' }],
      }),
    ),
  ).toBe('not-allowed');
  const { signOffId } = await mark();
  expect(await stateOf(paper)).toMatchObject({ way: 'onPaper', state: 'signed', agreed: 2, signedPaper: { id: scan } });
  expect(await signOffsOf(reader, { documentId: scan })).toMatchObject({
    signedOf: [{ documentId: paper, words: 'signed on paper by 2 of 2, version 1' }],
  });
  await withdrawSignOff(keeper, { signOffId, reason: 'Another scan was meant' });
  expect((await signOffsOf(reader, { documentId: scan })).signedOf).toEqual([]);
  expect(await sealSigned()).toBe(0);
});

it('reminders go out before the day, on it and after it, once each, also with two workers', async () => {
  const paper = await minutes();
  const late = await newcomer(keeper, 'La Te');
  await open(keeper, place, late, 'reader');
  await ask(paper, [late], { dueOn: '2026-10-01', remindDays: 7 });
  const sent: number[] = [];
  for (const day of ['2026-09-16', '2026-09-24', '2026-09-25', '2026-10-01', '2026-10-02', '2026-10-09'])
    sent.push(
      await atMoment(new Date(`${day}T10:00:00Z`), async () =>
        (await Promise.all([remindSigners(), remindSigners()])).reduce((sum, each) => sum + each, 0),
      ),
    );
  expect(sent).toEqual([0, 1, 0, 1, 1, 0]);
  expect(await asked(late, paper)).toHaveLength(1 + 3);
});
