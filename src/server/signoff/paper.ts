import { and, desc, eq, sql } from 'drizzle-orm';
import { has } from '@/core/access/capability';
import { refuse } from '@/core/errors/refusal';
import type { PaperSignOffs, SignerRow, SignOffChoices, SignOffRow } from '@/core/signoff/contract';
import { signOffInWords } from '@/core/signoff/standing';
import { dayInWords } from '@/core/calendar/moment';
import { asks } from '../acts/operation';
import { readersOf } from '../access/readers';
import { db } from '../db/client';
import { idIn } from '../db/idIn';
import { document, person, place, signOff, version } from '../db/schema';
import { expectedOf } from '../expected/slots';
import type { Actor } from '../gate/actor';
import { capabilitiesOn, papersFor } from '../gate/held';
import { ownOf } from '../gate/visible';
import { namesOf } from '../known/names';
import { librarySettings } from '../library/settings';
import { signersOfAll, standingFrom } from './turns';

/** All about the signatures of one paper. */
export const signOffsOf = asks('signoff.of', async (actor, { documentId }): Promise<PaperSignOffs> => {
  const [paper] = await papersFor(db(), actor, [documentId], 'see');
  if (!paper) refuse('not-found');
  const held = await capabilitiesOn(db(), actor, documentId);
  const isOwnSight = ownOf(actor) !== null;
  const [current] = await db()
    .select({ number: version.number, mediaType: version.mediaType })
    .from(version)
    .where(eq(version.id, paper.versionId ?? ''));
  return {
    currentNumber: current?.number ?? 1,
    isPdf: current?.mediaType === 'application/pdf',
    signOffs: await signOffRows(actor, documentId, has(held, 'manage')),
    signedOf: await signedOf(actor, documentId),
    mayAsk: isOwnSight && has(held, 'manage'),
    mayMark: isOwnSight && has(held, 'amend'),
  };
});

async function signOffRows(actor: Actor, documentId: string, manages: boolean): Promise<SignOffRow[]> {
  const found = await db()
    .select({
      off: signOff,
      number: version.number,
      sha256: version.sha256,
      asker: person.name,
    })
    .from(signOff)
    .innerJoin(version, eq(version.id, signOff.versionId))
    .innerJoin(person, eq(person.id, signOff.askedBy))
    .where(eq(signOff.documentId, documentId))
    .orderBy(desc(signOff.askedAt), desc(signOff.id));
  const signers = await signersOfAll(
    db(),
    found.map(({ off }) => off.id),
  );
  const titles = await namesOf(db(), actor, { document: found.flatMap(({ off }) => off.signedId ?? []) });
  const readers = new Set((await readersOf(db(), documentId)).map(({ id }) => id));
  const own = ownOf(actor);
  return found.map(({ off, number, sha256, asker }): SignOffRow => {
    const those = signers.get(off.id) ?? [];
    const standing = standingFrom(off, those);
    const mayManage = own !== null && (manages || off.askedBy === own);
    const turns = new Set(off.state === 'open' ? standing.turns : []);
    const signedTitle = titles[off.signedId ?? ''];
    return {
      id: off.id,
      way: off.way,
      state: off.state,
      versionNumber: number,
      sha256,
      wording: off.wording,
      inTurn: off.inTurn,
      needed: standing.needed,
      agreed: standing.agreed,
      of: standing.of,
      dueOn: off.dueOn,
      askedBy: asker,
      askedAt: off.askedAt.toISOString(),
      endReason: off.endReason,
      signers: those.map((one, at): SignerRow => ({
        id: one.id,
        name: one.name,
        outside: one.personId === null && one.email !== null,
        answer: one.answer,
        reason: one.reason,
        answeredAt: one.answeredAt?.toISOString() ?? null,
        proof: one.proof,
        isTurn: turns.has(at),
        isMe: one.personId !== null && one.personId === own,
        cannotAnswer:
          manages && off.state === 'open' && one.answer === null && one.personId !== null && !readers.has(one.personId),
      })),
      sealState: off.sealState,
      signedPaper: off.signedId !== null && signedTitle !== undefined ? { id: off.signedId, title: signedTitle } : null,
      mayManage,
    };
  });
}

/** What a paper is the signed copy, or the scan, of, as far as the caller may see that. */
async function signedOf(actor: Actor, documentId: string): Promise<PaperSignOffs['signedOf']> {
  const rows = await db()
    .select({ off: signOff, documentId: version.documentId, number: version.number, sha256: version.sha256 })
    .from(signOff)
    .innerJoin(version, eq(version.id, signOff.versionId))
    .where(and(eq(signOff.signedId, documentId), eq(signOff.state, 'signed')))
    .orderBy(desc(signOff.endedAt));
  const titles = await namesOf(db(), actor, { document: rows.map((row) => row.documentId) });
  const signers = await signersOfAll(
    db(),
    rows.map(({ off }) => off.id),
  );
  return rows.flatMap(({ off, documentId: ofId, number, sha256 }) => {
    const title = titles[ofId];
    if (title === undefined) return [];
    const words = signOffInWords(off.way, off.state, standingFrom(off, signers.get(off.id) ?? []), number);
    return [{ signOffId: off.id, documentId: ofId, title, versionNumber: number, words, sha256 }];
  });
}

/** So many expected papers are offered. */
const mostSlots = 60;

/** Who can be asked to sign a paper, and which missing papers its signed copy could be. Needs `manage`. */
export const signOffChoices = asks('signoff.choices', async (actor, { documentId }): Promise<SignOffChoices> => {
  const [paper] = await papersFor(db(), actor, [documentId], 'manage', 'evenClosed');
  if (!paper) refuse('not-found');
  const people = await readersOf(db(), documentId);
  const [dossier] = await db()
    .select({ id: place.id })
    .from(place)
    .where(and(idIn(place.id, paper.lineage), eq(place.kind, 'dossier')))
    .limit(1);
  if (!dossier) return { people: people.map(({ id, name }) => ({ id, name })), slots: [], likely: null };
  const { slots } = await expectedOf(actor, { dossierId: dossier.id });
  const own = await occasionOf(documentId);
  const { timeZone } = await librarySettings();
  const missing = slots
    .filter(({ state, place: there }) => there !== null && (state === 'gap' || state === 'ahead'))
    // The paper's own meeting and year first.
    .sort((a, b) => nearness(b, own) - nearness(a, own))
    .slice(0, mostSlots);
  const isLikely = ({ name }: { readonly name: string }): boolean => /\bsigned\b/iu.test(name);
  const likely = missing.findIndex((slot) => isLikely(slot) && nearness(slot, own) >= 1);
  return {
    people: people.map(({ id, name }) => ({ id, name })),
    slots: missing.map((slot) => ({
      slot: {
        expectationId: slot.expectationId,
        dossierId: slot.dossierId,
        startYear: slot.startYear,
        meetingId: slot.meetingId,
      },
      words:
        slot.meeting === null
          ? slot.name
          : `${slot.name}, ${slot.meeting.title}, ${dayInWords(`${slot.meeting.day}T12:00:00Z`, timeZone)}`,
      placeName: slot.place?.name ?? '',
    })),
    likely: likely === -1 ? null : likely,
  };
});

interface OwnOccasion {
  readonly startYear: number | null;
  readonly meetingIds: ReadonlySet<string>;
}

/** The filing year and the meetings of whose folders a paper is. */
async function occasionOf(documentId: string): Promise<OwnOccasion> {
  const rows = await db()
    .select({ year: place.filingYear, key: place.plannedKey })
    .from(document)
    .innerJoin(
      place,
      sql`${place.id} = any (select unnest(home.lineage) from ${place} as home where home.id = ${document.homeId})`,
    )
    .where(eq(document.id, documentId));
  return {
    startYear: rows.find(({ year }) => year !== null)?.year ?? null,
    meetingIds: new Set(rows.flatMap(({ key }) => key?.split(' ').at(-1) ?? [])),
  };
}

/** How near a missing paper is to one: of its meeting, of its year, or of the dossier itself. */
function nearness(
  { startYear, meetingId }: { readonly startYear: number | null; readonly meetingId: string | null },
  own: OwnOccasion,
): number {
  if (meetingId !== null) return own.meetingIds.has(meetingId) ? 3 : startYear === own.startYear ? 0.5 : 0;
  if (startYear === null) return 1;
  return startYear === own.startYear ? 2 : 0;
}
