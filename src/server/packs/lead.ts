import { and, eq, gt, sql } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import type { PackLead } from '@/core/packs/contract';
import { pageAtPlace, placeInCopy } from '@/core/packs/copies';
import { pageLabel } from '@/core/packs/letIn';
import { actsInSteps, asks } from '../acts/operation';
import { now } from '../base/clock';
import { db, writableDb } from '../db/client';
import { packLead, person } from '../db/schema';
import { copyOf } from './copies';
import { mayLead } from './mayLead';
import { readingOf } from './reading';

/** Who was not heard of for so long leads no more. */
const silentSeconds = 45;

/** Tells those who follow at which page somebody is. Who leads takes over from who did. Has no journal entry: nothing is kept of it. */
export const leadThrough = actsInSteps('pack.lead', async (actor, { issueId, page }) => {
  const { issue, pack, place, leftOut } = await readingOf(actor, issueId);
  if (!(await mayLead(db(), actor, { meetingId: pack.meetingId, held: place.held })))
    refuse('not-allowed', 'Only members who attend the meeting lead through its pack, and who may change it.');
  if (page === null) {
    await writableDb()
      .delete(packLead)
      .where(and(eq(packLead.issueId, issueId), eq(packLead.personId, actor.personId)));
    return null;
  }
  const number = pageAtPlace(copyOf(issue.record, leftOut).runs, page);
  // A sheet that says what is left out of their own copy is a page of nobody else's.
  if (number === null) return null;
  const led = { personId: actor.personId, number, at: now() };
  await writableDb()
    .insert(packLead)
    .values({ issueId, ...led })
    .onConflictDoUpdate({ target: packLead.issueId, set: led });
  return null;
});

/** Whom the readers of an issue may follow, and at which page of the caller's copy they are. */
export const ledBy = asks('pack.led', async (actor, { issueId }): Promise<PackLead | null> => {
  const { issue, leftOut } = await readingOf(actor, issueId);
  const [found] = await db()
    .select({ personId: packLead.personId, by: person.name, number: packLead.number })
    .from(packLead)
    .innerJoin(person, eq(person.id, packLead.personId))
    .where(
      and(
        eq(packLead.issueId, issueId),
        gt(packLead.at, sql`${now()}::timestamptz - ${`${silentSeconds} seconds`}::interval`),
      ),
    );
  if (!found) return null;
  return {
    by: found.by,
    isMe: found.personId === actor.personId,
    number: pageLabel(issue.record, found.number),
    page: placeInCopy(copyOf(issue.record, leftOut).runs, found.number),
  };
});
