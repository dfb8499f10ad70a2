import { and, eq, gte, sql } from 'drizzle-orm';
import path from 'node:path';
import sharp from 'sharp';
import { momentInWords } from '@/core/calendar/moment';
import { signaturePage, drawnSvg, type SignaturePage } from '@/core/signoff/page';
import { signedTitle, signOffInWords } from '@/core/signoff/standing';
import { appendToJournal } from '../acts/append';
import { now } from '../base/clock';
import { sha256Hex } from '../base/sha256';
import { contentColumns } from '../blobs/content';
import { storeBytes } from '../blobs/keep';
import { bytesFile, inFolder, madeBytes } from '../cage/file';
import { printedPage } from '../cage/printed';
import { readCaged } from '../cage/reader';
import { browserInWords } from '../auth/browser';
import { db, writableDb, type Tx } from '../db/client';
import { accessGrant, blob, document, expectedSay, person, place, signOff, version } from '../db/schema';
import { transaction } from '../db/transaction';
import { takeValues } from '../documents/copy';
import { filePapers } from '../documents/file';
import { noteSignatures } from '../documents/signature';
import { OpenContent } from '../extraction/openContent';
import type { Actor } from '../gate/actor';
import { librarySettings } from '../library/settings';
import { logFault } from '../log/fault';
import { planOfSeries } from '../plans/read';
import { recomputePapers } from '../scopes/scopes';
import { ownFingerprints, sealer } from '../seal/certificate';
import { sealPdf } from '../seal/seal';
import { signersOf, standingFrom } from './turns';

/** After so many failures a signed copy is not tried any more; whoever asked sees that. */
const mostTries = 5;

/** Makes the signed copies that are waited for, and files them. Of two workers one files each. Returns how many. */
export async function sealSigned(): Promise<number> {
  await writableDb()
    .update(signOff)
    .set({ sealState: 'failed' })
    .where(and(eq(signOff.sealState, 'waiting'), gte(signOff.sealTries, mostTries)));
  const waiting = await db().select({ id: signOff.id }).from(signOff).where(eq(signOff.sealState, 'waiting'));
  let sealed = 0;
  for (const { id } of waiting) {
    // Counted before it is tried: what ends this process counts too.
    await writableDb()
      .update(signOff)
      .set({ sealTries: sql`${signOff.sealTries} + 1` })
      .where(and(eq(signOff.id, id), eq(signOff.sealState, 'waiting')));
    const done = await sealOne(id).catch((error: unknown) => {
      logFault(error, { where: 'signed copy' });
      return false;
    });
    if (done) sealed += 1;
  }
  return sealed;
}

type Signed = NonNullable<Awaited<ReturnType<typeof signedVersion>>>;

/** What was signed: the version with its content, and the place where the signed copy goes. */
async function signedVersion(signOffId: string) {
  const [found] = await db()
    .select({
      off: signOff,
      number: version.number,
      fileName: version.fileName,
      mediaType: version.mediaType,
      documentId: document.id,
      title: document.title,
      homeId: document.homeId,
      asker: person,
      ...contentColumns,
    })
    .from(signOff)
    .innerJoin(document, eq(document.id, signOff.documentId))
    .innerJoin(version, eq(version.id, signOff.versionId))
    .innerJoin(blob, eq(blob.sha256, version.sha256))
    .innerJoin(person, eq(person.id, signOff.askedBy))
    .where(and(eq(signOff.id, signOffId), eq(signOff.sealState, 'waiting')));
  return found ?? null;
}

async function sealOne(signOffId: string): Promise<boolean> {
  const signed = await signedVersion(signOffId);
  if (!signed) return false;
  const { off } = signed;
  const page = await pageOf(signed);
  const bytes = await sealedCopy(signed, page);
  const sha256 = sha256Hex(bytes);
  const title = signedTitle(signed.title, off.way);
  return transaction([], async (tx) => {
    const [still] = await tx
      .select({ placeId: signOff.placeId })
      .from(signOff)
      .where(and(eq(signOff.id, signOffId), eq(signOff.sealState, 'waiting')))
      .for('update');
    if (!still) return false;
    // Filed in the name of whoever asked; the place was checked when they did.
    const { id: personId, name, email } = signed.asker;
    const actor: Actor = { personId, name, email, keeper: true };
    await storeBytes(tx, sha256, bytes);
    const [filed] = await filePapers(tx, actor, [
      {
        placeId: still.placeId ?? signed.homeId,
        title,
        remark: `Version ${signed.number} of “${signed.title}”, ${page.outcome}.`,
        content: {
          sha256,
          arrived: null,
          sizeBytes: bytes.length,
          fileName: `${title}.pdf`,
          mediaType: 'application/pdf',
          stamp: 'PDF',
        },
      },
    ]);
    if (!filed) throw new Error('The signed copy was not filed');
    await takeValues(tx, [filed.documentId], [signed.documentId]);
    await tx.update(document).set({ locked: true }).where(eq(document.id, filed.documentId));
    await takeAccess(tx, signed.documentId, filed.documentId);
    await tx
      .update(signOff)
      .set({ sealState: 'done', signedId: filed.documentId, signedSha256: sha256 })
      .where(eq(signOff.id, signOffId));
    await noteSignatures(tx, [filed.documentId]);
    const met = await meetExpected(tx, off, filed.documentId);
    await appendToJournal(tx, null, {
      act: 'signoff.sealed',
      subjects: [signed.documentId, filed.documentId, still.placeId ?? signed.homeId, ...(met ? [met] : [])],
      detail: { title: signed.title, number: signed.number, signed: filed.title, sha256, versionSha256: signed.sha256 },
    });
    return true;
  });
}

/** Whoever may not see a paper may not see its signed copy: what the paper's own sheet says of access is taken over. */
async function takeAccess(tx: Tx, fromId: string, toId: string): Promise<void> {
  const [from] = await tx.select({ follows: document.follows }).from(document).where(eq(document.id, fromId));
  const grants = await tx.select().from(accessGrant).where(eq(accessGrant.documentId, fromId));
  if (from?.follows !== false && grants.length === 0) return;
  await tx
    .update(document)
    .set({ follows: from?.follows ?? true })
    .where(eq(document.id, toId));
  if (grants.length > 0)
    await tx.insert(accessGrant).values(grants.map(({ id: _id, ...grant }) => ({ ...grant, documentId: toId })));
  await recomputePapers(tx, [toId]);
}

/** Says that the signed copy is the expected paper that it was meant to be, if the plan still expects it. Returns the dossier. */
async function meetExpected(
  tx: Tx,
  { expectationId, dossierId, startYear, meetingId, askedBy }: Signed['off'],
  documentId: string,
): Promise<string | null> {
  if (expectationId === null || dossierId === null) return null;
  const [dossier] = await tx.select({ seriesId: place.parentId }).from(place).where(eq(place.id, dossierId));
  if (!dossier?.seriesId) return null;
  const { expected } = await planOfSeries(tx, dossier.seriesId);
  if (!expected.some(({ id }) => id === expectationId)) return null;
  await tx
    .insert(expectedSay)
    // A meeting belongs to one year, so what is said of it is found by the meeting alone.
    .values({
      expectationId,
      dossierId,
      startYear: meetingId === null ? startYear : null,
      meetingId,
      documentId,
      saidBy: askedBy,
    })
    // Somebody has said meanwhile which paper it is: that stands.
    .onConflictDoNothing();
  return dossierId;
}

async function pageOf({ off, ...signed }: Signed): Promise<SignaturePage> {
  const { timeZone, name } = await librarySettings();
  const signers = await signersOf(db(), off.id);
  const moment = (at: Date | null): string => (at === null ? '' : momentInWords(at.toISOString(), timeZone));
  const { state: _state, ...counts } = standingFrom(off, signers);
  return {
    library: name,
    title: signed.title,
    versionNumber: signed.number,
    fileName: signed.fileName,
    sha256: signed.sha256,
    way: off.way,
    wording: off.wording,
    askedBy: signed.asker.name,
    askedAt: moment(off.askedAt),
    endedAt: moment(off.endedAt),
    outcome: signOffInWords(off.way, 'signed', counts, signed.number),
    isAttached: false,
    signers: await Promise.all(
      signers.map(async (one) => ({
        name: one.name,
        email: one.email ?? '',
        answer: one.answer,
        at: moment(one.answeredAt),
        proof: one.proof,
        address: one.address,
        browser: one.agent === '' ? '' : browserInWords(one.agent),
        typedName: one.typedName,
        // Of numbers alone, which were checked when they came in.
        drawnPng:
          one.drawn === null
            ? null
            : (
                await sharp(Buffer.from(drawnSvg(one.drawn)))
                  .png()
                  .toBuffer()
              ).toString('base64'),
        reason: one.reason,
      })),
    ),
  };
}

/**
 * The pages that were signed with the page of signatures, or, of what has no pages, that page with the file attached: under the
 * library's seal.
 */
async function sealedCopy(signed: Signed, page: SignaturePage): Promise<Buffer> {
  const library = await librarySettings();
  const sealedBy = `${library.name}, library`;
  const asked = { title: signedTitle(signed.title, signed.off.way), sealedBy, at: now().toISOString() };
  const bound = await inFolder(async (folder) => {
    const opened = new OpenContent(signed, folder, false);
    const bind = async (file: string, isAttached: boolean) => {
      const printed = await printedPage(signaturePage({ ...page, isAttached }));
      const attachAs = isAttached ? { name: signed.fileName, mediaType: signed.mediaType } : null;
      const told = await readCaged('bind', file, { ...asked, page: printed.toString('base64'), attachAs });
      return told === null ? null : madeBytes(path.join(folder, 'bound'));
    };
    const pages = await opened.pages();
    return (pages === null ? null : await bind(pages, false)) ?? bind(await opened.file(), true);
  });
  if (bound === null) throw new Error('The signed copy could not be bound');
  const sealed = await sealPdf(bound, await sealer(library.name));
  await requireWhole(sealed);
  return sealed;
}

/** What was signed is brought in by people: that its bytes do not look like a seal of their own is seen from the seal that came of it. */
async function requireWhole(sealed: Buffer): Promise<void> {
  const seals = await inFolder(async (folder) => readCaged('seals', await bytesFile(folder, sealed), {}));
  const own = await ownFingerprints();
  const isWhole =
    seals.length === 1 && seals.every(({ state, fingerprint }) => state === 'whole' && own.has(fingerprint ?? ''));
  if (!isWhole) throw new Error('The seal of a signed copy is not whole');
}
