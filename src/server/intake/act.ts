import { and, desc, eq } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import { kindOfMediaType } from '@/core/files/fileKind';
import { dossierIn } from '@/core/tree/lineage';
import type { JournalEvent } from '@/core/journal/events';
import { perform } from '../acts/act';
import { acts, actsInSteps } from '../acts/operation';
import { now } from '../base/clock';
import type { Tx } from '../db/client';
import { attachment, blob, version } from '../db/schema';
import { typedValues } from '../columns/typed';
import { putInTray } from '../disposal/dispose';
import { addVersion, filePapers, fileVersion, type Filing } from '../documents/file';
import { messagesAbout } from '../documents/tell';
import { acceptedFamilies, receivingPlace } from '../uploads/settle';
import type { Actor } from '../gate/actor';
import { papersFor } from '../gate/held';
import { trySendMail, type Mail } from '../mail/outbox';
import { arrivalFor } from './access';
import { labelFiled } from './alongside';
import { partAgain } from './join';
import { joinAgain } from './joinAgain';
import { asProposed } from './offered';
import { requireWaiting, settle, type Arrival } from './settle';

/** What is filed of an arrival, and where. */
interface What {
  readonly placeId: string;
  readonly parts: readonly {
    readonly attachment: number | null;
    readonly title: string;
    /** The paper of which it becomes the newer version; left out: it becomes a paper. */
    readonly versionOf?: string | undefined;
    /** By the id of their column, as they are typed. */
    readonly values?: Readonly<Record<string, string>> | undefined;
  }[];
  readonly labelIds?: readonly string[] | undefined;
  /** The ids of who is told. */
  readonly tell?: readonly string[] | undefined;
}

/** Files parts of an arrival as papers of a place. Filed once, whoever else agrees at the same moment. */
export const fileArrival = actsInSteps('arrival.file', async (actor, { arrivalId, revision, ...what }) => {
  const { documentIds, mails, notTold } = await perform(actor, async (tx) => {
    const found = await arrivalFor(tx, actor, arrivalId);
    requireWaiting(found, revision);
    const { entry, ...result } = await fileParts(tx, actor, found, what, null);
    return { entry, result };
  });
  await Promise.all(mails.map(trySendMail));
  return { documentIds, notTold };
});

/** Files parts of an arrival whose row is locked. @param byRule the name of the rule that does it by itself; null: a person does */
export async function fileParts(
  tx: Tx,
  actor: Actor,
  found: Arrival,
  what: What,
  byRule: string | null,
): Promise<{
  readonly entry: JournalEvent;
  readonly documentIds: readonly string[];
  /** What is sent to those who are told, once all is committed. */
  readonly mails: readonly Mail[];
  readonly notTold: readonly string[];
}> {
  const { placeId, parts, labelIds = [], tell = [] } = what;
  if (new Set(parts.map((each) => each.attachment)).size < parts.length)
    refuse('invalid', 'A part of an arrival is filed once.');
  const older = parts.flatMap(({ versionOf }) => versionOf ?? []);
  if (new Set(older).size < older.length) refuse('invalid', 'A paper gets one newer version at once.');
  const target = await receivingPlace(tx, actor, placeId);
  const families = await acceptedFamilies();
  const filings: Filing[] = [];
  const newer: { readonly documentId: string; readonly content: Filing['content'] }[] = [];
  for (const [at, { attachment: number, title, values = {}, versionOf }] of parts.entries()) {
    const content = await partOf(tx, found, number);
    const kind = kindOfMediaType(content.mediaType);
    if (!kind || !families.includes(kind.family))
      refuse(
        'kind-refused',
        `This library does not take files like “${content.fileName}”. Nothing was filed: leave it out.`,
      );
    const stored = { ...content, arrived: null, stamp: kind.stamp };
    if (versionOf !== undefined) newer.push({ documentId: versionOf, content: stored });
    else {
      const typed = await typedValues(tx, actor, target.lineage, values, (column) => `parts.${at}.values.${column}`);
      filings.push({ placeId: target.id, title, remark: '', content: stored, values: typed });
    }
  }
  const corrected = await correctedIn(actor, found, what, byRule === null);
  const made = filings.length === 0 ? [] : await filePapers(tx, actor, filings);
  const versions: Record<string, number> = {};
  const filed = [...made];
  for (const { documentId, content } of newer) {
    const { result } = await fileVersion(tx, actor, documentId, content);
    versions[documentId] = result.versionNumber;
    filed.push(result);
  }
  const documentIds = filed.map(({ documentId }) => documentId);
  await labelFiled(tx, actor, documentIds, labelIds);
  const { mails, told, notTold } = await messagesAbout(
    tx,
    actor,
    documentIds.map((id) => ({ id })),
    tell,
  );
  await settle(tx, found, {
    ...{ state: 'filed', corrected, byRule, doneBy: actor.personId, doneAt: now(), documentIds, versions },
    told: told.map(({ id }) => id),
    // The dossier in which it lies now: what it teaches, and who may see to it.
    dossierId: dossierIn(target.lineage),
    ...{ fileBy: null, leftBecause: null, askedOf: null, putOffUntil: null },
  });
  const people = told.map(({ name }) => name).join(', ');
  const detail = { count: filed, from: found.senderAddress, place: target };
  return { entry: filedEntry([...documentIds, target.id], detail, byRule, people), documentIds, mails, notTold };
}

/** The journal's entry for what was filed. @param people who was told; '' for nobody */
function filedEntry(
  subjects: readonly string[],
  detail: Extract<JournalEvent, { act: 'arrival.filed' }>['detail'],
  rule: string | null,
  people: string,
): JournalEvent {
  if (rule === null)
    return people === ''
      ? { act: 'arrival.filed', subjects, detail }
      : { act: 'arrival.filedAndTold', subjects, detail: { ...detail, people } };
  return people === ''
    ? { act: 'arrival.filedByRule', subjects, detail: { ...detail, rule } }
    : { act: 'arrival.filedByRuleAndTold', subjects, detail: { ...detail, rule, people } };
}

/** What is filed otherwise than it was proposed to whoever files it, in words. */
async function correctedIn(
  actor: Actor,
  found: Arrival,
  { placeId, parts, labelIds = [], tell = [] }: What,
  byPerson: boolean,
): Promise<string[]> {
  const { proposal } = found;
  const offer = proposal === null ? null : await asProposed(actor, { ...found, proposal }, byPerson);
  if (offer === null) return ['Place'];
  const corrected = new Set<string>();
  if (offer.placeId !== placeId) corrected.add('Place');
  if (offer.parts.length !== parts.length) corrected.add('Which parts');
  if (!isSame(offer.labelIds, labelIds)) corrected.add('Labels');
  if (!isSame(offer.tell, tell)) corrected.add('Whom to tell');
  for (const { attachment: number, title, values = {}, versionOf } of parts) {
    const proposed = offer.parts.find((each) => each.attachment === number);
    if (!proposed) corrected.add('Which parts');
    else if (proposed.versionOf !== versionOf) corrected.add('Newer version');
    else if (versionOf === undefined && proposed.title !== title) corrected.add('Title');
    // Of another place the columns may be others.
    if (offer.placeId !== placeId || versionOf !== undefined) continue;
    for (const { columnId, name, text } of proposed?.fields ?? [])
      if ((values[columnId] ?? '').trim() !== text) corrected.add(name);
  }
  return [...corrected];
}

const isSame = (some: readonly string[], others: readonly string[]): boolean =>
  some.length === others.length && some.every((each) => others.includes(each));

async function partOf(tx: Tx, { sha256, fileName, mediaType }: Arrival, number: number | null) {
  const [found] =
    number === null
      ? await tx.select({ sha256: blob.sha256, sizeBytes: blob.sizeBytes }).from(blob).where(eq(blob.sha256, sha256))
      : await tx
          .select({
            sha256: blob.sha256,
            sizeBytes: blob.sizeBytes,
            fileName: attachment.name,
            mediaType: attachment.mediaType,
          })
          .from(attachment)
          .innerJoin(blob, eq(blob.sha256, attachment.sha256))
          .where(and(eq(attachment.mailSha256, sha256), eq(attachment.number, number)));
  if (!found) refuse('invalid', 'One of these parts is not in the arrival. Nothing was filed.');
  return { fileName, mediaType, ...found };
}

/** Sets an arrival aside as not ours. */
export const setArrivalAside = acts('arrival.setAside', [], async (tx, actor, { arrivalId, revision }) => {
  const found = await arrivalFor(tx, actor, arrivalId);
  requireWaiting(found, revision);
  await settle(tx, found, {
    ...{ state: 'notOurs', doneBy: actor.personId, doneAt: now() },
    ...{ fileBy: null, leftBecause: null, askedOf: null, putOffUntil: null },
  });
  return { entry: { act: 'arrival.setAside', subjects: [], detail: { from: found.senderAddress } }, result: null };
});

/** Has an arrival wait again, with all that was done undone: its papers go into the disposal tray. */
export const takeArrivalBack = acts('arrival.takeBack', ['content'], async (tx, actor, { arrivalId }) => {
  const { found, papers } = await takeBack(tx, actor, arrivalId);
  const subjects = [...papers.map(({ id }) => id), ...new Set(papers.map(({ homeId }) => homeId))];
  return { entry: { act: 'arrival.takenBack', subjects, detail: { from: found.senderAddress } }, result: null };
});

/** Has several wait again in one act: all of them, or none. */
export const takeArrivalsBack = acts('arrivals.takeBack', ['content'], async (tx, actor, { arrivalIds }) => {
  const ids = [...new Set(arrivalIds)].sort();
  const papers = [];
  for (const id of ids) papers.push(...(await takeBack(tx, actor, id)).papers);
  const subjects = [...papers.map(({ id }) => id), ...new Set(papers.map(({ homeId }) => homeId))];
  return {
    entry: { act: 'arrivals.takenBack', subjects, detail: { count: ids.length } },
    result: { takenBack: ids.length },
  };
});

async function takeBack(tx: Tx, actor: Actor, arrivalId: string) {
  const found = await arrivalFor(tx, actor, arrivalId);
  if (found.state === 'waiting') refuse('conflict', 'It waits to be checked already.');
  if (found.state === 'cut') await joinAgain(tx, found);
  if (found.joinedTo !== null) await partAgain(tx, found);
  const older = Object.entries(found.versions);
  const restored = [];
  for (const [documentId, number] of older) restored.push(await restoreBefore(tx, actor, documentId, number));
  const made = found.documentIds.filter((id) => !(id in found.versions));
  const papers = [...restored, ...(made.length === 0 ? [] : await putInTray(tx, actor, made))];
  await settle(tx, found, {
    // A scan that separators took apart was not proposed as a whole.
    ...{
      state: found.proposal === null ? 'unread' : 'waiting',
      isPersons: true,
      cut: null,
      joins: null,
      joinedTo: null,
      documentIds: [],
      versions: {},
      told: [],
      corrected: null,
      byRule: null,
      doneBy: null,
      doneAt: null,
    },
  });
  return { found, papers };
}

/** Has a paper be again as it was before it got a version, which stays among its versions. */
async function restoreBefore(tx: Tx, actor: Actor, documentId: string, number: number) {
  const [paper] = await papersFor(tx, actor, [documentId], 'amend');
  if (!paper) refuse('not-found', 'The paper that got a newer version is gone, or you may not change it.');
  const all = await tx.select().from(version).where(eq(version.documentId, documentId)).orderBy(desc(version.number));
  if (all[0]?.number !== number)
    refuse('conflict', `“${paper.title}” has got another version since: see to it there first.`);
  const before = all[1];
  if (before) await addVersion(tx, actor, documentId, number + 1, before, now(), { restoredFrom: before.number });
  return { id: paper.id, homeId: paper.homeId };
}
