import { disposePapers } from '@/server/disposal/dispose';
import { paperOn, say } from '../sheets';
import { writeFile } from 'node:fs/promises';
import path from 'node:path';
import { fileBuffer } from '@/demo/file';
import { inFolder } from '@/server/cage/file';
import { contentOutside } from '@/server/outside/papers';
import { openLink, sendCode, visitorOf } from '@/server/outside/visit';
import { answerFromOutside } from '@/server/signoff/answer';
import { callAgain, withdrawSignOff } from '@/server/signoff/ask';
import { dropLibrary, newcomer, open, refusedAs } from '../library';
import { mailsTo } from '../mails';
import { keeper, now } from './expecting';
import {
  chair,
  place,
  beginSigning,
  another,
  pdf,
  minutes,
  ask,
  stateOf,
  fail,
  signerOf,
  answer,
  signedCopy,
  toldBy,
} from './signing';

beforeAll(beginSigning);
afterAll(dropLibrary);

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

  it('cannot sign what is in the disposal tray, nor what whoever asked manages no more', async () => {
    const manager = await newcomer(keeper, `Man Ager ${another()}`);
    await open(keeper, place, manager, 'manager');
    const [tray, closed] = [await minutes(), await minutes()];
    const signing = { answer: 'agreed', typedName: 'Lod Ger', drawn: [] } as const;
    await ask(tray, [], { signers: [outside] }, manager);
    const inTray = await enter();
    await disposePapers(keeper, { documentIds: [tray] });
    expect(await refusedAs(now(() => answerFromOutside(inTray.visitor, signing, caller)))).toBe('not-found');
    await ask(closed, [], { signers: [outside] }, manager);
    const { token, visit } = await enter();
    await say(keeper, paperOn(closed), [], false);
    const visitor = (await now(() => visitorOf(token, visit))) ?? fail();
    expect(await refusedAs(now(() => answerFromOutside(visitor, signing, caller)))).toBe('not-found');
    expect(await stateOf(closed)).toMatchObject({ state: 'open', agreed: 0 });
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
