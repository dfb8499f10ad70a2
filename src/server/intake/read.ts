import { and, eq } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import type { ArrivalSheet } from '@/core/intake/contract';
import { standsOut } from '@/core/intake/evidence';
import { checksInWords, isDoubtful } from '@/core/intake/senderChecks';
import { isMail } from '@/core/intake/model';
import { asks } from '../acts/operation';
import { contentColumns, requireWhole } from '../blobs/content';
import { db } from '../db/client';
import { idIn } from '../db/idIn';
import { arrival, attachment, blob, document, person, place } from '../db/schema';
import { viewOf } from '../extraction/openContent';
import type { Actor } from '../gate/actor';
import { paperAllows } from '../gate/visible';
import { namesOn, pathOf } from '../known/names';
import { readableOf } from '../reading/read';
import { alikeTo, foundArrival, rowOf, type Row } from './lists';
import { alongsideOf } from './alongside';
import { expectedAmong } from './expected';
import { partsOf, placesFor } from './offered';

/** An arrival as the caller checks it. */
export const arrivalSheet = asks('arrival.of', async (actor, { arrivalId }): Promise<ArrivalSheet> => {
  const row = await foundArrival(actor, arrivalId);
  const view = isMail(row.mediaType) ? await viewOf(row.sha256) : null;
  const mail = view?.form === 'mail' ? view : null;
  const parts = await partsOf(actor, row);
  const { candidates } = row.proposal;
  const expected = row.state === 'waiting' ? await expectedAmong(actor, row.proposal, row.subject) : null;
  const places = await placesFor(actor, row, parts, expected);
  const { envelopeFrom } = row;
  const isElsewhere = envelopeFrom !== null && envelopeFrom !== '' && envelopeFrom.toLowerCase() !== row.senderAddress;
  return {
    ...rowOf(row),
    // Said of the likeliest alone: nothing where that is not among the places that the caller may add to.
    sure: places[0]?.evidence === candidates[0]?.evidence ? rowOf(row).sure : null,
    senderAddress: row.senderAddress,
    sentBy: isElsewhere ? envelopeFrom : null,
    automatic: mail?.automatic === true || envelopeFrom === '',
    checked: { says: checksInWords(row.senderChecks), isDoubtful: isDoubtful(row.senderChecks) },
    parts,
    places,
    ...(await alongsideOf(actor, row.proposal)),
    standsOut: standsOut(candidates),
    leftBecause: row.leftBecause,
    newcomer: { name: row.senderName, address: row.senderAddress, identifiers: row.identifiers },
    cutInto: row.state === 'cut' ? await db().$count(arrival, eq(arrival.partOf, row.id)) : null,
    said: await saidIn(row),
    alike: row.state === 'waiting' ? Math.max(0, (await alikeTo(actor, row)).length - 1) : 0,
    done: await doneTo(actor, row),
  };
});

async function saidIn({ said }: Row): Promise<ArrivalSheet['said']> {
  const ids = [...new Set(said.map(({ by }) => by))];
  const people =
    ids.length === 0
      ? []
      : await db().select({ id: person.id, name: person.name }).from(person).where(idIn(person.id, ids));
  return said.map(({ by, at, says }) => ({ by: people.find(({ id }) => id === by)?.name ?? '', at, says }));
}

async function doneTo(
  actor: Actor,
  { state, dossierId, documentIds, doneBy, doneAt }: Row,
): Promise<ArrivalSheet['done']> {
  if (doneAt === null) return null;
  const [who] =
    doneBy === null ? [] : await db().select({ name: person.name }).from(person).where(eq(person.id, doneBy));
  const papers = await db()
    .select({ id: document.id, title: document.title })
    .from(document)
    .where(and(idIn(document.id, documentIds), paperAllows(actor, 'see')));
  const [filedIn] =
    state !== 'filed' || dossierId === null
      ? []
      : await db().select({ lineage: place.lineage }).from(place).where(eq(place.id, dossierId));
  const dossier =
    filedIn && dossierId !== null ? { id: dossierId, path: namesOn(await pathOf(db(), actor, filedIn.lineage)) } : null;
  return { by: who?.name ?? '', at: doneAt.toISOString(), papers, dossier };
}

/** The content of an arrival, or of what is attached to it: whoever may check it may have it. */
export async function arrivalContent(actor: Actor, arrivalId: string, attached: number | null) {
  const row = await foundArrival(actor, arrivalId);
  const [content] =
    attached === null
      ? await db().select(contentColumns).from(blob).where(eq(blob.sha256, row.sha256))
      : await db()
          .select({ ...contentColumns, fileName: attachment.name, mediaType: attachment.mediaType })
          .from(attachment)
          .innerJoin(blob, eq(blob.sha256, attachment.sha256))
          .where(and(eq(attachment.mailSha256, row.sha256), eq(attachment.number, attached)));
  if (!content) refuse('not-found');
  await requireWhole(content);
  const { fileName, mediaType, subject } = row;
  return { title: subject, fileName, mediaType, ...content, mayTake: true };
}

/** What the reader is told of an arrival, or of a part of it, before any of it is fetched. */
export const arrivalReading = asks('arrival.reading', async (actor, { arrivalId, attachment: attached }) =>
  readableOf(await arrivalContent(actor, arrivalId, attached), 1),
);
