import { and, asc, count, desc, eq, inArray, isNull, sql, type SQL } from 'drizzle-orm';
import { has } from '@/core/access/capability';
import { filingYearOf } from '@/core/calendar/filingYear';
import { refuse } from '@/core/errors/refusal';
import type { ArrivalPlace, ArrivalRow, ArrivalSheet } from '@/core/intake/contract';
import { standsOut, sureOfFirst } from '@/core/intake/evidence';
import { likelyFolder } from '@/core/intake/likelyFolder';
import { invoiceFaults } from '@/core/invoices/check';
import type { Candidate, Proposal } from '@/core/intake/model';
import { kindOfMediaType, type Stamp } from '@/core/files/fileKind';
import { asks } from '../acts/operation';
import { now } from '../base/clock';
import { contentColumns, requireWhole } from '../blobs/content';
import { db } from '../db/client';
import { idIn } from '../db/idIn';
import { arrival, attachment, blob, document, person, place, version } from '../db/schema';
import { viewOf } from '../extraction/openContent';
import { everywhere, type Actor } from '../gate/actor';
import { paperAllows, placeAllows, placeIsStill } from '../gate/visible';
import { namesOn, pathOf } from '../known/names';
import { standName } from '../known/standing';
import { libraryCalendar } from '../calendar/libraryCalendar';
import { readableOf } from '../reading/read';
import { arrivalIsTheirs } from './access';
import { attachedTo } from './attached';

/** So many arrivals are listed at once. */
const mostListed = 200;

type Row = typeof arrival.$inferSelect & { readonly dossier: string | null };

/** Arrivals that the caller may check, and that are so. */
const listed = (actor: Actor, also: SQL) =>
  db()
    .select({ arrival, dossier: sql<string | null>`nullif(concat_ws(' ', ${place.reference}, ${place.name}), '')` })
    .from(arrival)
    .leftJoin(place, eq(place.id, arrival.dossierId))
    .where(and(arrivalIsTheirs(actor), also))
    .$dynamic();

/** The arrivals that the caller may check. */
export const arrivalsOf = asks('arrivals.list', async (actor, { which }) => {
  const states = which === 'waiting' ? (['waiting'] as const) : (['filed', 'notOurs'] as const);
  const order = which === 'waiting' ? [asc(arrival.arrivedAt), asc(arrival.id)] : [desc(arrival.doneAt)];
  const rows = await listed(actor, inArray(arrival.state, [...states]))
    .orderBy(...order)
    .limit(mostListed + 1);
  return {
    arrivals: rows.slice(0, mostListed).map((each) => rowOf({ ...each.arrival, dossier: each.dossier })),
    hasMore: rows.length > mostListed,
    unread:
      which === 'waiting' && has(everywhere(actor), 'add')
        ? await db().$count(arrival, eq(arrival.state, 'unread'))
        : 0,
  };
});

/** How many arrivals wait for the caller. */
export const arrivalsWaiting = asks('arrivals.waiting', async (actor) => {
  const [found] = await db()
    .select({ waiting: count() })
    .from(arrival)
    .leftJoin(place, eq(place.id, arrival.dossierId))
    .where(and(eq(arrival.state, 'waiting'), arrivalIsTheirs(actor)));
  return { waiting: found?.waiting ?? 0 };
});

function rowOf({ id, way, arrivedAt, state, senderName, senderAddress, subject, proposal, dossier }: Row): ArrivalRow {
  return {
    id,
    way,
    arrivedAt: arrivedAt.toISOString(),
    state,
    sender: senderName === '' ? senderAddress : senderName,
    subject,
    papers: proposal?.parts.filter(({ counts }) => counts).length ?? 0,
    dossier,
    sure: state === 'waiting' && proposal?.candidates.length ? sureOfFirst(proposal.candidates) : null,
  };
}

/** An arrival that has been read, and that the caller may check. @throws Refusal `not-found` */
export async function foundArrival(actor: Actor, arrivalId: string): Promise<Row & { readonly proposal: Proposal }> {
  const [row] = await listed(actor, eq(arrival.id, arrivalId));
  const { proposal, state } = row?.arrival ?? {};
  if (!row || !proposal || state === 'unread' || state === 'again') refuse('not-found');
  return { ...row.arrival, proposal, dossier: row.dossier };
}

/** An arrival as the caller checks it. */
export const arrivalSheet = asks('arrival.of', async (actor, { arrivalId }): Promise<ArrivalSheet> => {
  const row = await foundArrival(actor, arrivalId);
  const view = await viewOf(row.sha256);
  const mail = view?.form === 'mail' ? view : null;
  const parts = await partsOf(actor, row);
  const { candidates } = row.proposal;
  const places = await placesFor(actor, candidates, (parts.find(({ counts }) => counts) ?? parts[0])?.stamp ?? 'MAIL');
  const isElsewhere = row.envelopeFrom !== '' && row.envelopeFrom.toLowerCase() !== row.senderAddress;
  return {
    ...rowOf(row),
    // Said of the likeliest alone: nothing where that is not among the places that the caller may add to.
    sure: places[0]?.evidence === candidates[0]?.evidence ? rowOf(row).sure : null,
    revision: row.revision,
    senderAddress: row.senderAddress,
    sentBy: isElsewhere ? row.envelopeFrom : null,
    automatic: mail?.automatic === true || row.envelopeFrom === '',
    parts,
    places,
    standsOut: standsOut(candidates),
    done: await doneTo(actor, row),
  };
});

async function partsOf(actor: Actor, row: Row & { readonly proposal: Proposal }): Promise<ArrivalSheet['parts']> {
  const contents = await attachedTo(row.sha256);
  const filed = await db()
    .select({ id: document.id, title: document.title, sha256: version.sha256, place: standName(actor) })
    .from(version)
    .innerJoin(document, eq(document.versionId, version.id))
    .innerJoin(place, eq(place.id, document.homeId))
    .where(
      and(
        inArray(version.sha256, [row.sha256, ...contents.map(({ sha256 }) => sha256)]),
        isNull(document.disposedAt),
        paperAllows(actor, 'see'),
      ),
    )
    .limit(50);
  return row.proposal.parts.flatMap(({ attachment: number, title, counts, bill, differs = [] }) => {
    const content = number === null ? mailItself(row) : contents.find((each) => each.number === number);
    if (!content) return [];
    const filedAlready = filed.flatMap(({ sha256, id, title: named, place: where }) =>
      sha256 === content.sha256 ? [{ id, title: named, place: where }] : [],
    );
    const { name, mediaType } = content;
    const stamp = kindOfMediaType(mediaType)?.stamp ?? 'TEXT';
    const sums = bill ? invoiceFaults(bill).map(({ rule, says }) => `${says} (${rule})`) : [];
    const billFaults = bill ? [...sums, ...differs] : null;
    return [
      { attachment: number, name, stamp, title, counts: counts && filedAlready.length === 0, billFaults, filedAlready },
    ];
  });
}

const mailItself = ({ sha256, fileName, mediaType }: Row) => ({
  number: null,
  name: fileName,
  mediaType,
  sha256,
});

const yearAbove = sql`(select above.filing_year from ${place} as above
  where above.id = any(${place.lineage}) and above.filing_year is not null limit 1)`;
/** Papers of a kind whose home is a place: letters and invoices seldom lie in one folder. */
const papersIn = (stamp: Stamp) => sql`(select count(*)::int from ${document}
  where ${document.homeId} = ${place.id} and ${document.disposedAt} is null and ${document.stamp} = ${stamp})`;

/** Where in each dossier it would go; dossiers to which the caller may not add are left out, with what speaks for them. */
async function placesFor(actor: Actor, candidates: readonly Candidate[], stamp: Stamp): Promise<ArrivalPlace[]> {
  const year = filingYearOf(now(), await libraryCalendar(db()));
  const places: ArrivalPlace[] = [];
  for (const { dossierId, placeId, evidence } of candidates) {
    const folders = await db()
      .select({
        id: place.id,
        kind: place.kind,
        name: place.name,
        lineage: place.lineage,
        // Wrapped in a select, because drizzle drops table names in the fields of a one-table select.
        year: sql<number | null>`(select ${yearAbove})`,
        papers: sql<number>`(select ${papersIn(stamp)})`,
      })
      .from(place)
      .where(
        and(
          sql`${place.lineage} @> array[${dossierId}::uuid]`,
          inArray(place.kind, ['dossier', 'year', 'folder']),
          isNull(place.meetingDay),
          placeAllows(actor, 'add'),
          sql`not ${placeIsStill('add')}`,
        ),
      )
      .orderBy(sql`array_length(${place.lineage}, 1)`, asc(place.position), asc(place.id));
    const chosen = folders.find(({ id }) => id === placeId) ?? likelyFolder(folders, year);
    const lineage = folders.find(({ id }) => id === chosen?.id)?.lineage;
    if (!chosen || !lineage) continue;
    const path = namesOn(await pathOf(db(), actor, lineage));
    places.push({ placeId: chosen.id, path, evidence });
  }
  return places;
}

async function doneTo(
  actor: Actor,
  { state, dossierId, documentIds, doneBy, doneAt }: Row,
): Promise<ArrivalSheet['done']> {
  if (doneBy === null || doneAt === null) return null;
  const [who] = await db().select({ name: person.name }).from(person).where(eq(person.id, doneBy));
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
