import { dossierIn, seriesIn } from '@/core/tree/lineage';
import { and, eq, sql } from 'drizzle-orm';
import type { GapRow, Gaps } from '@/core/expected/contract';
import { officerOf } from '@/core/dossiers/details';
import { slotsOf } from '@/core/expected/slots';
import { filingYearLabel } from '@/core/calendar/filingYear';
import { isoDay } from '@/core/calendar/period';
import { asks } from '../acts/operation';
import type { Actor } from '../gate/actor';
import { placeIsKnown } from '../gate/visible';
import { db } from '../db/client';
import { filingPlan, place } from '../db/schema';
import { knownPlace } from '../places/open';
import { expectingOf } from './expecting';
import { colleagueNames } from './rack';
import { meetingsById } from './slots';

/** Missing papers that the caller may know of, everywhere or in one series or dossier, the longest overdue first. */
export const gapsOf = asks('gaps.of', async (actor, { placeId }) => {
  const within = placeId === null ? null : await knownPlace(actor, placeId);
  const seriesId = within ? seriesIn(within.lineage) : null;
  const dossierId = within ? dossierIn(within.lineage) : null;
  const planned = await db()
    .select({ id: place.id, name: place.name })
    .from(filingPlan)
    .innerJoin(place, eq(place.id, filingPlan.seriesId))
    .where(
      and(
        sql`jsonb_array_length(${filingPlan.expected}) > 0`,
        placeIsKnown(actor),
        seriesId === null ? undefined : eq(place.id, seriesId),
      ),
    )
    .orderBy(place.position, place.id);
  const all: Gaps[] = [];
  for (const series of planned) all.push(await gapsIn(actor, series, dossierId));
  return {
    state: all.some((each) => each.state === 'counting') ? 'counting' : 'counted',
    gaps: all.flatMap((each) => each.gaps).sort((a, b) => (a.due < b.due ? -1 : Number(a.due > b.due))),
  };
});

async function gapsIn(
  actor: Actor,
  series: { readonly id: string; readonly name: string },
  dossierId: string | null,
): Promise<Gaps> {
  const { fields, dossiers, calendar, held } = await expectingOf(actor, series.id, dossierId);
  if (held === null) return { state: 'counting', gaps: [] };
  const open = dossiers.flatMap((dossier) =>
    slotsOf(dossier, held.facts, calendar.yearStartMonth)
      .filter((slot) => slot.state === 'gap')
      .map((slot) => ({ dossier, slot })),
  );
  const meetings = await meetingsById(open.flatMap(({ slot }) => slot.occasion.meetingId ?? []));
  const names = await colleagueNames(
    fields,
    dossiers.map((dossier) => dossier.details),
  );
  return {
    state: 'counted',
    gaps: open.map(({ dossier, slot: { expectation, occasion, due } }): GapRow => {
      const officer = officerOf(fields, dossier.details);
      const { startYear, meetingId } = occasion;
      return {
        expectationId: expectation.id,
        dossierId: dossier.id,
        startYear,
        meetingId,
        series: series.name,
        dossier: dossier.name,
        reference: dossier.reference,
        name: expectation.name,
        yearLabel: startYear === null ? null : filingYearLabel(startYear, calendar),
        meeting: meetingId === null ? null : (meetings.get(meetingId) ?? null),
        due: isoDay(due),
        officer: officer === null ? null : (names[officer] ?? null),
        isMine: officer === actor.personId,
      };
    }),
  };
}
