import { fromBER, OctetString } from 'asn1js';
import { ContentInfo, SignedData } from 'pkijs';
import { execFileSync } from 'node:child_process';
import { writeFile } from 'node:fs/promises';
import path from 'node:path';
import { and, eq } from 'drizzle-orm';
import { fileBuffer } from '@/demo/file';
import { inFolder } from '@/server/cage/file';
import { db, writableDb } from '@/server/db/client';
import { document, journal, sealCertificate, signOff, version } from '@/server/db/schema';
import { renamePaper } from '@/server/documents/amend';
import { docketOf } from '@/server/documents/docket';
import { destroyPapers } from '@/server/disposal/destroy';
import { disposePapers } from '@/server/disposal/dispose';
import { checkSeals } from '@/server/seal/check';
import { answerSignOff } from '@/server/signoff/answer';
import { sealAgain, withdrawSignOff } from '@/server/signoff/ask';
import { signOffLines } from '@/server/signoff/lines';
import { signOffsOf } from '@/server/signoff/paper';
import { sealSigned } from '@/server/signoff/sealed';
import { openView } from '@/server/views/open';
import { dropLibrary, passwords, plainQuestion, refusedAs } from '../library';
import { paperOn, say, sees } from '../sheets';
import { find, keeper, now, reader, slots } from './expecting';
import {
  chair,
  treasurer,
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
  toldBy,
} from './signing';

beforeAll(beginSigning);
afterAll(dropLibrary);

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
      (await checkSeals(keeper, { documentId: await minutes(`Altered ${another()}`, content) }))[0]?.state ?? 'none';
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

describe('what has no pages, or cannot be taken apart', () => {
  it('is attached to the page of signatures, byte by byte', async () => {
    const text = Buffer.from('A plain list of fees\n');
    const paper = await now(() => fileBuffer(keeper, place, `Fees ${another()}.txt`, text));
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
    const paper = await minutes(`Odd ${another()}`, await made());
    await ask(paper, [chair]);
    await answer(paper, chair);
    const { id } = await signedCopy(paper);
    expect(await checkSeals(keeper, { documentId: id })).toEqual([
      { state: 'whole', isOurs: true, by: 'Test Trust, library' },
    ]);
  });
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

it('a seal that brings what was signed along, instead of being over the file, proves nothing', async () => {
  const paper = await minutes();
  await ask(paper, [chair]);
  await answer(paper, chair);
  const { bytes } = await signedCopy(paper);
  const [, first = 0, second = 0] = (/\/ByteRange \[(.*?)\]/u.exec(bytes.toString('latin1'))?.[1] ?? '')
    .split(' ')
    .map(Number);
  const original = Buffer.concat([bytes.subarray(0, first), bytes.subarray(second)]);
  // Our own seal, with the bytes that it was over put into it (RFC 5652, 5.2), in a file of other bytes.
  const cms = fromBER(
    new Uint8Array(Buffer.from(bytes.subarray(first + 1, second - 1).toString('latin1'), 'hex')).buffer,
  );
  const signed = new SignedData({ schema: new ContentInfo({ schema: cms.result }).content });
  signed.encapContentInfo.eContent = new OctetString({ valueHex: new Uint8Array(original).buffer });
  const content = new ContentInfo({ contentType: '1.2.840.113549.1.7.2', content: signed.toSchema(true) });
  const hex = Buffer.from(content.toSchema().toBER()).toString('hex');
  const rangeOf = (head: string, tail: string) =>
    `[0 ${String(head.length).padStart(6)} ${String(head.length + hex.length + 2).padStart(6)} ${String(tail.length).padStart(6)}]`;
  const head = (range: string) => `%PDF-1.7\n% I owe you nothing\n/ByteRange ${range}\n/Contents `;
  const tail = '\n%%EOF\n';
  const forged = `${head(rangeOf(head('[0 000000 000000 000000]'), tail))}<${hex}>${tail}`;
  const id = await minutes(`Forged ${another()}`, Buffer.from(forged, 'latin1'));
  const [seal] = await checkSeals(keeper, { documentId: id });
  expect(seal?.state).toBe('unreadable');
});
