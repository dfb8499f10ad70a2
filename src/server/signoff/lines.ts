import { and, desc, eq, gt, or, sql, type SQL } from 'drizzle-orm';
import { dayAt, isoDay } from '@/core/calendar/period';
import { refuse } from '@/core/errors/refusal';
import type { SignOffLine } from '@/core/signoff/contract';
import { signOffInWords } from '@/core/signoff/standing';
import { asks } from '../acts/operation';
import { now } from '../base/clock';
import { db } from '../db/client';
import { document, person, place, signer, signOff, version } from '../db/schema';
import type { Actor } from '../gate/actor';
import { ownOf, paperAllows } from '../gate/visible';
import { standName } from '../known/standing';
import { librarySettings } from '../library/settings';
import { signersOfAll, standingFrom, type SignerRecord } from './turns';

/** So many are listed. */
const mostListed = 300;
/** What has ended is still listed for so many days. */
const endedDays = 30;

/** Signatures that wait for the caller and that the caller asked for; a keeper can have everybody's. */
export const signOffLines = asks('signoff.lines', async (actor, { whose }) => {
  const own = ownOf(actor);
  if (own === null) return [];
  if (whose === 'all') {
    if (!actor.keeper) refuse('not-allowed', 'Only a keeper is shown everybody’s.');
    return linesWhere(actor, or(eq(signOff.state, 'open'), recently()) ?? sql`false`);
  }
  const asksMe = sql`exists (select from ${signer}
    where ${signer.signOffId} = ${signOff.id} and ${signer.personId} = ${own}::uuid and ${signer.answer} is null)`;
  return linesWhere(
    actor,
    or(
      and(eq(signOff.state, 'open'), or(asksMe, eq(signOff.askedBy, own))),
      and(eq(signOff.askedBy, own), recently()),
    ) ?? sql`false`,
  );
});

const recently = () => gt(signOff.endedAt, new Date(now().getTime() - endedDays * 86_400_000));

async function linesWhere(actor: Actor, condition: SQL): Promise<SignOffLine[]> {
  const { timeZone } = await librarySettings();
  const today = isoDay(dayAt(now().getTime(), timeZone));
  const rows = await db()
    .select({
      off: signOff,
      number: version.number,
      documentId: document.id,
      title: document.title,
      placeName: standName(actor),
      asker: person.name,
    })
    .from(signOff)
    .innerJoin(document, eq(document.id, signOff.documentId))
    .innerJoin(place, eq(place.id, document.homeId))
    .innerJoin(version, eq(version.id, signOff.versionId))
    .innerJoin(person, eq(person.id, signOff.askedBy))
    .where(and(condition, paperAllows(actor, 'see')))
    .orderBy(sql`${signOff.state} <> 'open'`, sql`${signOff.dueOn} nulls last`, desc(signOff.askedAt), signOff.id)
    .limit(mostListed);
  const bySignOff = await signersOfAll(
    db(),
    rows.map(({ off }) => off.id),
  );
  return rows.map(({ off, documentId, number, title, placeName, asker }): SignOffLine => {
    const signers = bySignOff.get(off.id) ?? [];
    const standing = standingFrom(off, signers);
    const turns =
      off.state === 'open' ? standing.turns.flatMap((at): SignerRecord[] => (signers[at] ? [signers[at]] : [])) : [];
    return {
      signOffId: off.id,
      documentId,
      title,
      placeName,
      way: off.way,
      state: off.state,
      words: signOffInWords(off.way, off.state, standing, number),
      versionNumber: number,
      waitsFor: turns.map(({ name }) => name),
      isMyTurn: turns.some(({ personId }) => personId === actor.personId),
      askedByMe: off.askedBy === actor.personId,
      askedBy: asker,
      askedAt: off.askedAt.toISOString(),
      dueOn: off.dueOn,
      today,
    };
  });
}
