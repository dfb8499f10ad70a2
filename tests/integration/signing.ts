/** A library with people who sign, and short ways to ask, answer and seal. */
import { execFileSync } from 'node:child_process';
import { PDFDocument } from '@cantoo/pdf-lib';
import type { ReadInputOf } from '@/core/contract';
import { fileBuffer } from '@/demo/file';
import { readContent } from '@/server/blobs/content';
import { contentFor } from '@/server/documents/content';
import type { Actor } from '@/server/gate/actor';
import { answerSignOff } from '@/server/signoff/answer';
import { askForSignatures } from '@/server/signoff/ask';
import { signOffsOf } from '@/server/signoff/paper';
import { sealSigned } from '@/server/signoff/sealed';
import { newcomer, passwords } from '../library';
import { mailsTo } from '../mails';
import { placeOn, say } from '../sheets';
import { beginExpecting, find, keeper, now, reader, series, slots } from './expecting';

export let chair: Actor;
export let treasurer: Actor;
export let stranger: Actor;
/** Where papers that are to be signed are filed. */
export let place: string;

/** Founds the library of a test file. */
export async function beginSigning(): Promise<void> {
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
}

let counter = 0;
/** A number that was not used before. */
export const another = (): number => (counter += 1);
export async function pdf(words: string): Promise<Buffer> {
  const made = await PDFDocument.create();
  made.addPage([400, 300]).drawText(`${words} ${another()}`, { x: 40, y: 200, size: 14 });
  return Buffer.from(await made.save());
}
export const minutes = async (name = `Minutes ${another()}`, content?: Buffer): Promise<string> =>
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
export const ask = (documentId: string, people: readonly Actor[], more: Partial<Ask> = {}, who = keeper) =>
  now(() =>
    askForSignatures(who, {
      ...plain,
      documentId,
      versionNumber: 1,
      signers: people.map(({ personId }) => ({ personId })),
      ...more,
    }),
  );
export const stateOf = async (documentId: string, who = keeper) => {
  const { signOffs } = await signOffsOf(who, { documentId });
  return signOffs[0] ?? fail();
};
export const fail = (): never => {
  throw new Error('Nobody was asked');
};
export const signerOf = async (documentId: string, who: Pick<Actor, 'name'>): Promise<string> =>
  (await stateOf(documentId)).signers.find(({ name }) => name === who.name)?.id ?? fail();
/** The messages that ask somebody to sign a paper. */
export const asked = async ({ email }: Actor, documentId: string): Promise<string[]> =>
  (await mailsTo(email)).filter((mail) => mail.includes(`/paper/${documentId}`));
const passwordOf = (who: Actor): string => (who.keeper ? passwords.keeper : passwords.others);
export const answer = async (documentId: string, who: Actor, more: Partial<ReadInputOf<'signoff.answer'>> = {}) =>
  answerSignOff(who, {
    signerId: await signerOf(documentId, who),
    answer: 'agreed',
    reason: '',
    password: passwordOf(who),
    ...more,
  });
export async function bytesOf(documentId: string): Promise<Buffer> {
  const parts: Buffer[] = [];
  const content = await contentFor(keeper, { documentId, version: null, attachment: null }, 'take');
  for await (const part of readContent(content)) parts.push(Buffer.from(part));
  return Buffer.concat(parts);
}
export async function signedCopy(documentId: string): Promise<{ id: string; bytes: Buffer }> {
  expect(await sealSigned()).toBe(1);
  const { signedPaper } = await stateOf(documentId);
  const id = signedPaper?.id ?? fail();
  return { id, bytes: await bytesOf(id) };
}
export const toldBy = (program: string, words: readonly string[]): string =>
  execFileSync(program, [...words], { encoding: 'utf8', stdio: ['ignore', 'pipe', 'pipe'] });
