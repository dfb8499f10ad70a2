import { execFileSync } from 'node:child_process';
import { writeFile } from 'node:fs/promises';
import path from 'node:path';
import { PDFDocument } from '@cantoo/pdf-lib';
import { and, eq } from 'drizzle-orm';
import type { ReadInputOf } from '@/core/contract';
import { fileBuffer } from '@/demo/file';
import { atMoment } from '@/server/base/clock';
import { readContent } from '@/server/blobs/content';
import { inFolder } from '@/server/cage/file';
import { db, writableDb } from '@/server/db/client';
import { document, journal, sealCertificate, signOff, version } from '@/server/db/schema';
import { renamePaper } from '@/server/documents/amend';
import { contentFor } from '@/server/documents/content';
import { docketOf } from '@/server/documents/docket';
import type { Actor } from '@/server/gate/actor';
import { contentOutside } from '@/server/outside/papers';
import { openLink, sendCode, visitorOf } from '@/server/outside/visit';
import { destroyPapers } from '@/server/disposal/destroy';
import { disposePapers } from '@/server/disposal/dispose';
import { setActive } from '@/server/people/people';
import { checkSeals } from '@/server/seal/check';
import { answerFromOutside, answerSignOff } from '@/server/signoff/answer';
import {
  askForSignatures,
  callAgain,
  markOnPaper,
  releaseSigner,
  sealAgain,
  withdrawSignOff,
} from '@/server/signoff/ask';
import { signOffLines } from '@/server/signoff/lines';
import { signOffChoices, signOffsOf } from '@/server/signoff/paper';
import { remindSigners } from '@/server/signoff/remind';
import { sealSigned } from '@/server/signoff/sealed';
import { openView } from '@/server/views/open';
import { dropLibrary, newcomer, open, passwords, plainQuestion, refusedAs } from '../library';
import { mailsTo } from '../mails';
import { paperOn, placeOn, say, sees } from '../sheets';
import { beginExpecting, find, keeper, now, reader, series, slots } from './expecting';

let chair: Actor;
let treasurer: Actor;
let stranger: Actor;
let place: string;

beforeAll(async () => {
  await beginExpecting();
  [chair, treasurer, stranger] = (await Promise.all(
    ['Cha Ir', 'Trea Surer', 'Stran Ger'].map((name) => newcomer(keeper, name)),
  )) as [Actor, Actor, Actor];
  await say(
    keeper,
    placeOn(series),
    [chair, treasurer, reader].map((who) => ({ who, gives: ['see', 'take'] as const })),
  );
  place = find(await slots(keeper), 'Minutes', '2026-07-14').place?.id ?? '';
}, 60_000);
afterAll(dropLibrary);

let counter = 0;
async function pdf(words: string): Promise<Buffer> {
  const made = await PDFDocument.create();
  made.addPage([400, 300]).drawText(`${words} ${(counter += 1)}`, { x: 40, y: 200, size: 14 });
  return Buffer.from(await made.save());
}
const minutes = async (name = `Minutes ${(counter += 1)}`, content?: Buffer): Promise<string> =>
  now(async () => fileBuffer(keeper, place, `${name}.pdf`, content ?? (await pdf(name))));

type Ask = ReadInputOf<'signoff.ask'>;
const plain = {
  way: 'sign',
  inTurn: false,
  needed: null,
  wording: '',
  dueOn: null,
  remindDays: 0,
  slot: null,
} as const;
const ask = (documentId: string, people: readonly Actor[], more: Partial<Ask> = {}, who = keeper) =>
  now(() =>
    askForSignatures(who, {
      ...plain,
      documentId,
      versionNumber: 1,
      signers: people.map(({ personId }) => ({ personId })),
      ...more,
    }),
  );
const stateOf = async (documentId: string, who = keeper) => {
  const { signOffs } = await signOffsOf(who, { documentId });
  return signOffs[0] ?? fail();
};
const fail = (): never => {
  throw new Error('Nobody was asked');
};
const signerOf = async (documentId: string, who: Pick<Actor, 'name'>): Promise<string> =>
  (await stateOf(documentId)).signers.find(({ name }) => name === who.name)?.id ?? fail();
/** The messages that ask somebody to sign a paper. */
const asked = async ({ email }: Actor, documentId: string): Promise<string[]> =>
  (await mailsTo(email)).filter((mail) => mail.includes(`/paper/${documentId}`));
const passwordOf = (who: Actor): string => (who.keeper ? passwords.keeper : passwords.others);
const answer = async (documentId: string, who: Actor, more: Partial<ReadInputOf<'signoff.answer'>> = {}) =>
  answerSignOff(who, {
    signerId: await signerOf(documentId, who),
    answer: 'agreed',
    reason: '',
    password: passwordOf(who),
    ...more,
  });
async function bytesOf(documentId: string): Promise<Buffer> {
  const parts: Buffer[] = [];
  const content = await contentFor(keeper, { documentId, version: null, attachment: null }, 'take');
  for await (const part of readContent(content)) parts.push(Buffer.from(part));
  return Buffer.concat(parts);
}
async function signedCopy(documentId: string): Promise<{ id: string; bytes: Buffer }> {
  expect(await sealSigned()).toBe(1);
  const { signedPaper } = await stateOf(documentId);
  const id = signedPaper?.id ?? fail();
  return { id, bytes: await bytesOf(id) };
}
const toldBy = (program: string, words: readonly string[]): string =>
  execFileSync(program, [...words], { encoding: 'utf8', stdio: ['ignore', 'pipe', 'pipe'] });

describe('minutes signed by three, one after the other', () => {
  let paper: string;
  let copy: { id: string; bytes: Buffer };
  const slotOf = async () => {
    const found = find(await slots(keeper), 'Minutes', '2026-05-12');
    const { expectationId, dossierId, startYear, meetingId } = found;
    return { found, slot: { expectationId, dossierId, startYear, meetingId } };
  };

  it('are asked for of one at a time, each with the version and the wording', async () => {
    paper = await minutes('Draft record of May');
    const { slot, found } = await slotOf();
    expect(found.state).toBe('gap');
    const { notReached } = await ask(paper, [chair, treasurer, reader], {
      inTurn: true,
      wording: 'As agreed at the meeting',
      slot,
    });
    expect(notReached).toEqual([]);
    expect((await stateOf(paper)).signers.map(({ isTurn }) => isTurn)).toEqual([true, false, false]);
    expect(await asked(chair, paper)).toEqual([expect.stringContaining('asks you to sign version 1 of')]);
    expect(await asked(treasurer, paper)).toEqual([]);
    expect(await signOffLines(chair, { whose: 'mine' })).toMatchObject([{ documentId: paper, isMyTurn: true }]);
    expect(await signOffLines(treasurer, { whose: 'mine' })).toMatchObject([
      { isMyTurn: false, waitsFor: [chair.name] },
    ]);
  });

  it('are signed by nobody before their turn, nor with a wrong password, nor for somebody else', async () => {
    expect(await refusedAs(answer(paper, treasurer))).toBe('conflict');
    expect(await refusedAs(answer(paper, chair, { password: 'not the password' }))).toBe('wrong-password');
    const signerId = await signerOf(paper, chair);
    expect(
      await refusedAs(answerSignOff(treasurer, { signerId, answer: 'agreed', reason: '', password: passwords.others })),
    ).toBe('not-found');
    expect((await stateOf(paper)).agreed).toBe(0);
  });

  it('stay asked for of that version when another is filed meanwhile', async () => {
    await answer(paper, chair);
    await now(async () => fileBuffer(keeper, place, 'Draft record of May.pdf', await pdf('changed'), 'version'));
    expect(await signOffsOf(keeper, { documentId: paper })).toMatchObject({
      currentNumber: 2,
      signOffs: [{ versionNumber: 1, agreed: 1 }],
    });
    await answer(paper, treasurer);
    expect((await stateOf(paper)).state).toBe('open');
    await answer(paper, reader);
    expect(await stateOf(paper)).toMatchObject({ state: 'signed', agreed: 3, of: 3, sealState: 'waiting' });
  });

  it('are sealed, locked, filed, and fill the square that waited for them', async () => {
    copy = await signedCopy(paper);
    const [row] = await db().select().from(document).where(eq(document.id, copy.id));
    expect(row).toMatchObject({ title: 'Draft record of May, signed', locked: true });
    const { found } = await slotOf();
    expect(found).toMatchObject({ state: 'met', paper: { id: copy.id } });
    expect(row?.homeId).toBe(found.place?.id);
    // It is no copy that could take a newer version, but a paper of its own.
    expect((await docketOf(keeper, { documentId: copy.id })).origin).toBeNull();
    expect(
      await refusedAs(renamePaper(keeper, { documentId: copy.id, title: 'Other', revision: row?.revision ?? 0 })),
    ).toBe('locked');
    expect(await signOffsOf(keeper, { documentId: copy.id })).toMatchObject({
      signedOf: [{ documentId: paper, versionNumber: 1, words: 'signed by 3 of 3, version 1' }],
      signOffs: [],
    });
    expect(await sealSigned()).toBe(0);
  });

  it('have a page of signatures with names and the hash of the version that was signed', async () => {
    const [signedVersion] = await db()
      .select({ sha256: version.sha256 })
      .from(version)
      .where(and(eq(version.documentId, paper), eq(version.number, 1)));
    await inFolder(async (folder) => {
      const file = path.join(folder, 'signed.pdf');
      await writeFile(file, copy.bytes);
      const text = toldBy('pdftotext', ['-layout', file, '-']).replace(/\s+/gu, ' ');
      for (const words of [
        chair.name,
        treasurer.name,
        reader.name,
        'As agreed at the meeting',
        'Signed in, and entered the password again',
      ])
        expect(text).toContain(words);
      expect(text.replaceAll(' ', '')).toContain(signedVersion?.sha256);
      expect(text).toContain('Draft record of May');
    });
  });

  it('are a sealed PDF to poppler and to OpenSSL (ETSI EN 319 142-1, level B-B)', async () => {
    const [{ certificate } = { certificate: '' }] = await db().select().from(sealCertificate);
    await inFolder(async (folder) => {
      const within = (name: string) => path.join(folder, name);
      await writeFile(within('signed.pdf'), copy.bytes);
      const told = toldBy('pdfsig', [within('signed.pdf')]);
      expect(told).toContain('Signature is Valid.');
      expect(told).toContain('Total document signed');
      expect(told).toContain('ETSI.CAdES.detached');
      expect(told).toContain('Test Trust, library');
      const [, first = 0, second = 0] = (/\/ByteRange \[(.*?)\]/u.exec(copy.bytes.toString('latin1'))?.[1] ?? '')
        .split(' ')
        .map(Number);
      const hex = copy.bytes.subarray(first + 1, second - 1).toString('latin1');
      await writeFile(within('seal.der'), Buffer.from(hex, 'hex'));
      await writeFile(within('data'), Buffer.concat([copy.bytes.subarray(0, first), copy.bytes.subarray(second)]));
      await writeFile(within('certificate.der'), Buffer.from(certificate, 'base64'));
      toldBy('openssl', [
        'x509',
        '-inform',
        'DER',
        '-in',
        within('certificate.der'),
        '-out',
        within('certificate.pem'),
      ]);
      const verify = (data: string) =>
        toldBy('openssl', [
          ...['cms', '-verify', '-cades', '-binary', '-inform', 'DER', '-in', within('seal.der')],
          ...['-content', within(data), '-CAfile', within('certificate.pem'), '-purpose', 'any', '-out', within('out')],
        ]);
      expect(() => verify('data')).not.toThrow();
      await writeFile(within('other'), Buffer.concat([copy.bytes.subarray(0, first), copy.bytes.subarray(second + 1)]));
      expect(() => verify('other')).toThrow();
      const text = toldBy('openssl', ['cms', '-cmsout', '-print', '-inform', 'DER', '-in', within('seal.der')]);
      expect(text).toContain('id-smime-aa-signingCertificateV2');
      // The baseline has the time in the PDF, not in the seal.
      expect(text).not.toContain('signingTime');
    });
  });

  it('are told to be altered, by any byte that was changed, added or taken away', async () => {
    expect(await checkSeals(reader, { documentId: copy.id })).toEqual([
      { state: 'whole', isOurs: true, by: 'Test Trust, library' },
    ]);
    const changed = async (content: Buffer) =>
      (await checkSeals(keeper, { documentId: await minutes(`Altered ${(counter += 1)}`, content) }))[0]?.state ??
      'none';
    for (const at of [20, Math.floor(copy.bytes.length / 3), copy.bytes.length - 10]) {
      const bytes = Buffer.from(copy.bytes);
      bytes[at] = (bytes[at] ?? 0) ^ 1;
      expect(['altered', 'unreadable', 'none']).toContain(await changed(bytes));
    }
    expect(await changed(Buffer.concat([copy.bytes, Buffer.from('\n% more\n')]))).toBe('continued');
    expect(await changed(copy.bytes.subarray(0, copy.bytes.length - 1))).toBe('altered');
    expect(await checkSeals(keeper, { documentId: paper })).toEqual([]);
  });

  it('are noted in the journal, one act for each who signed', async () => {
    const rows = await db().select({ act: journal.act }).from(journal).where(eq(journal.act, 'signoff.agreed'));
    expect(rows).toHaveLength(3);
  });

  it('cannot be withdrawn any more', async () => {
    const { id } = await stateOf(paper);
    expect(await refusedAs(withdrawSignOff(keeper, { signOffId: id, reason: 'Changed our mind' }))).toBe('conflict');
  });
});

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
    const leaver = await newcomer(keeper, `Lea Ver ${(counter += 1)}`);
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

describe('what has no pages, or cannot be taken apart', () => {
  it('is attached to the page of signatures, byte by byte', async () => {
    const text = Buffer.from('A plain list of fees\n');
    const paper = await now(() => fileBuffer(keeper, place, `Fees ${(counter += 1)}.txt`, text));
    await ask(paper, [chair]);
    await answer(paper, chair);
    const { bytes } = await signedCopy(paper);
    await inFolder(async (folder) => {
      const file = path.join(folder, 'signed.pdf');
      await writeFile(file, bytes);
      expect(toldBy('pdfsig', [file])).toContain('Signature is Valid.');
      expect(toldBy('pdfdetach', ['-list', file])).toContain('Fees');
      expect(toldBy('pdfdetach', ['-save', '1', '-o', path.join(folder, 'out'), file])).toBe('');
      expect(execFileSync('cat', [path.join(folder, 'out')])).toEqual(text);
    });
  });

  it.each([
    ['is a PDF in name alone', async () => Buffer.from('%PDF-1.7\nnot at all a PDF\n%%EOF\n')],
    [
      'holds what looks like room for a seal',
      async () =>
        Buffer.concat([
          await pdf('hostile'),
          Buffer.from('\n% /ByteRange [0 /********** /********** /**********] /Contents <00>\n'),
        ]),
    ],
  ])('and what %s gets one seal that covers all of it', async (_what, made) => {
    const paper = await minutes(`Odd ${(counter += 1)}`, await made());
    await ask(paper, [chair]);
    await answer(paper, chair);
    const { id } = await signedCopy(paper);
    expect(await checkSeals(keeper, { documentId: id })).toEqual([
      { state: 'whole', isOurs: true, by: 'Test Trust, library' },
    ]);
  });
});

describe('somebody outside', () => {
  const email = 'lodger@outside.example';
  const caller = {
    address: '192.0.2.7',
    agent: 'Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0',
  };
  const tokenIn = (mail: string): string => /\/outside\/(?<token>[\w-]+)/u.exec(mail)?.groups?.['token'] ?? fail();
  const enter = () => now(entered);
  const entered = async () => {
    const token = tokenIn((await mailsTo(email)).findLast((mail) => mail.includes('/outside/')) ?? '');
    await sendCode(token);
    const code = /^Subject: (?<code>\d{6}) /mu.exec((await mailsTo(email)).at(-1) ?? '')?.groups?.['code'] ?? '';
    const { visit } = await openLink(token, { password: null, code }, caller);
    return { token, visit, visitor: (await visitorOf(token, visit)) ?? fail() };
  };
  const outside = { name: 'Lod Ger', email };
  const drawn = [[10, 10, 60, 40, 110, 20]];

  it('reads that version, proves the address, signs, and gets the evidence onto the page', async () => {
    const paper = await minutes('Lease of the boathouse');
    await ask(paper, [], { signers: [outside, { personId: chair.personId }] });
    // Read by a later version, they still have the one that they were asked to sign.
    await now(async () => fileBuffer(keeper, place, 'Lease of the boathouse.pdf', await pdf('later'), 'version'));
    const { visitor } = await enter();
    const { sha256 } = await stateOf(paper);
    expect((await contentOutside(visitor, paper, null, 'see')).sha256).toBe(sha256);
    expect(await refusedAs(answerFromOutside(visitor, { answer: 'agreed', typedName: '', drawn: [] }, caller))).toBe(
      'invalid',
    );
    await answerFromOutside(visitor, { answer: 'agreed', typedName: 'Lod Ger', drawn }, caller);
    expect(await refusedAs(answerFromOutside(visitor, { answer: 'agreed', typedName: 'Lod Ger', drawn }, caller))).toBe(
      'conflict',
    );
    await answer(paper, chair);
    const { bytes } = await signedCopy(paper);
    await inFolder(async (folder) => {
      const file = path.join(folder, 'signed.pdf');
      await writeFile(file, bytes);
      const text = toldBy('pdftotext', ['-layout', file, '-']).replace(/\s+/gu, ' ');
      for (const words of [`Entered a code sent to ${email}`, caller.address, 'Firefox 140', 'Lod Ger'])
        expect(text).toContain(words);
      // The drawn name is there as a picture.
      expect(toldBy('pdfimages', ['-list', file]).trim().split('\n').length).toBeGreaterThan(2);
    });
  });

  it('needs one who manages the paper to be asked', async () => {
    const paper = await minutes();
    const editor = await newcomer(keeper, 'Edi Tor');
    await open(keeper, place, editor, 'officer');
    expect(await refusedAs(ask(paper, [], { signers: [outside] }, editor))).toBe('not-allowed');
    await ask(paper, [chair], {}, editor);
  });

  it('has one link however often they are asked, which opens nothing any more once it is withdrawn', async () => {
    const paper = await minutes();
    await ask(paper, [], { signers: [outside] });
    const { token, visit, visitor } = await enter();
    const signerId = await signerOf(paper, outside);
    await now(() => callAgain(keeper, { signerId }));
    expect(tokenIn((await mailsTo(email)).at(-1) ?? '')).toBe(token);
    expect(await now(() => visitorOf(token, visit))).not.toBeNull();
    await withdrawSignOff(keeper, { signOffId: (await stateOf(paper)).id, reason: 'Drawn up anew' });
    expect(await now(() => visitorOf(token, visit))).toBeNull();
    expect(
      await refusedAs(answerFromOutside(visitor, { answer: 'agreed', typedName: 'Lod Ger', drawn: [] }, caller)),
    ).toBe('gone');
  });

  it('only reads by a link that was made to read', async () => {
    const paper = await minutes();
    await ask(paper, [], { signers: [outside] });
    const { visitor } = await enter();
    expect(
      await refusedAs(answerFromOutside({ ...visitor, signs: null }, { answer: 'declined', reason: 'No' }, caller)),
    ).toBe('not-found');
    await answerFromOutside(visitor, { answer: 'declined', reason: 'The rent is wrong' }, caller);
    expect(await stateOf(paper)).toMatchObject({ state: 'declined', signers: [{ reason: 'The rent is wrong' }] });
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

it('a copy that could not be made is tried some times, then said to be missing, and made once somebody asks for it', async () => {
  const paper = await minutes();
  await ask(paper, [chair]);
  await answer(paper, chair);
  const { id } = await stateOf(paper);
  // As if the process had died each time.
  await writableDb().update(signOff).set({ sealTries: 5 }).where(eq(signOff.id, id));
  expect(await sealSigned()).toBe(0);
  expect((await stateOf(paper)).sealState).toBe('failed');
  expect(await refusedAs(sealAgain(reader, { signOffId: id }))).toBe('not-allowed');
  await sealAgain(keeper, { signOffId: id });
  expect(await refusedAs(sealAgain(keeper, { signOffId: id }))).toBe('conflict');
  expect((await Promise.all([sealSigned(), sealSigned()])).toSorted()).toEqual([0, 1]);
  const title = (await stateOf(paper)).signedPaper?.title ?? '';
  expect(await db().select().from(document).where(eq(document.title, title))).toHaveLength(1);
});

it('views find papers by what came of signatures on their current version', async () => {
  const [asking, signing, declining] = [
    await minutes('For a view, one'),
    await minutes('For a view, two'),
    await minutes('For a view, three'),
  ];
  for (const paper of [asking, signing, declining]) await ask(paper, [chair]);
  await answer(signing, chair);
  await answer(declining, chair, { answer: 'declined', reason: 'No' });
  const { id: copy } = await signedCopy(signing);
  const found = async (anyOf: readonly (string | null)[]): Promise<string[]> => {
    const view = {
      ...plainQuestion,
      placeId: place,
      conditions: [
        { of: 'signature', anyOf },
        { of: 'title', text: 'starts', words: 'For a view' },
      ],
    } as const;
    const { rows } = await now(() => openView(keeper, view));
    return rows.map(({ id }) => id).sort();
  };
  expect(await found(['asked'])).toEqual([asking]);
  expect(await found(['declined'])).toEqual([declining]);
  expect(await found(['signed'])).toEqual([signing, copy].sort());
  expect(await found([null])).toEqual([]);
  // A later version inherits nothing.
  const [row] = await db().select({ title: document.title }).from(document).where(eq(document.id, signing));
  await now(async () => fileBuffer(keeper, place, `${row?.title}.pdf`, await pdf('later'), 'version'));
  expect(await found([null])).toEqual([signing]);
  const { id } = await stateOf(asking);
  await withdrawSignOff(keeper, { signOffId: id, reason: 'Not needed' });
  expect(await found([null])).toEqual([signing, asking].sort());
  // The signed copy stays signed when what was signed is destroyed.
  await disposePapers(keeper, { documentIds: [signing] });
  await destroyPapers(keeper, { documentIds: [signing] });
  expect(await found(['signed'])).toEqual([copy]);
});

it('the signed copy is open to those alone to whom the paper is', async () => {
  const paper = await minutes();
  await say(keeper, paperOn(paper), [{ who: chair, gives: ['see'] }], false);
  await ask(paper, [chair]);
  await answer(paper, chair);
  const { id } = await signedCopy(paper);
  expect([await sees(chair, id), await sees(reader, id)]).toEqual([true, false]);
});
