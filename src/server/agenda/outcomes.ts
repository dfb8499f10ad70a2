import { and, asc, desc, eq, gte, isNotNull, isNull, lt, or, sql, type SQL } from 'drizzle-orm';
import { fullNumbersOf } from '@/core/agenda/numbering';
import { has } from '@/core/access/capability';
import { dayAt, isoDay } from '@/core/calendar/period';
import { grouped } from '@/core/collections/grouped';
import type { MeetingOutcome, OutcomeRow } from '@/core/minutes/contract';
import { readersWithin } from '@/core/outline/told';
import { searchKey } from '@/core/text/fold';
import { asks } from '../acts/operation';
import { db, type Reader } from '../db/client';
import { idIn } from '../db/idIn';
import { agenda, agendaItem, itemOutcome, meeting, person, place } from '../db/schema';
import type { Actor } from '../gate/actor';
import { capabilitiesIn, placeFor } from '../gate/held';
import { ownOf, placeAllows } from '../gate/visible';
import { librarySettings } from '../library/settings';
import { agendaSubject, readableItems } from './read';

/** So many decisions or actions a register shows, and so many are looked through for words. */
const [mostShown, mostSearched] = [300, 20_000];

const doer = sql`doer`;
const columns = {
  id: itemOutcome.id,
  itemId: itemOutcome.itemId,
  kind: itemOutcome.kind,
  text: itemOutcome.text,
  personId: itemOutcome.personId,
  who: sql<string>`coalesce((select name from ${person} as ${doer} where ${doer}.id = ${itemOutcome.personId}), ${itemOutcome.who})`,
  dueOn: itemOutcome.dueOn,
  doneAt: itemOutcome.doneAt,
  doneBy: sql<string>`coalesce((select name from ${person} as ${doer} where ${doer}.id = ${itemOutcome.doneBy}), '')`,
  doneRemark: itemOutcome.doneRemark,
  revision: itemOutcome.revision,
};

/**
 * Outcomes of items that are on their agendas, in the order of meetings and items, as far as the caller is told of them: of a
 * confidential item's its readers are, who may change the agenda, and of an action who does it.
 * @param which a condition on outcomes, agendas, meetings and dossiers (`place`)
 * @param toldToAll leaves out what is confidential, whoever asks
 */
export async function outcomesWhere(
  reader: Reader,
  actor: Actor,
  which: SQL | undefined,
  {
    most,
    newestFirst = false,
    toldToAll = false,
  }: { readonly most: number; readonly newestFirst?: boolean; readonly toldToAll?: boolean },
): Promise<MeetingOutcome[]> {
  const { timeZone } = await librarySettings();
  const turned = newestFirst ? desc : asc;
  const rows = await reader
    .select({
      ...columns,
      agendaId: agenda.id,
      meeting: { id: meeting.id, day: meeting.day, title: meeting.title },
      dossier: { id: place.id, name: place.name },
      scopeId: place.scopeId,
    })
    .from(itemOutcome)
    .innerJoin(agendaItem, eq(agendaItem.id, itemOutcome.itemId))
    .innerJoin(agenda, eq(agenda.id, agendaItem.agendaId))
    .innerJoin(meeting, eq(meeting.id, agenda.meetingId))
    .innerJoin(place, eq(place.id, meeting.dossierId))
    .where(and(isNull(itemOutcome.removedAt), isNull(agendaItem.removedAt), placeAllows(actor, 'see'), which))
    .orderBy(
      turned(meeting.day),
      turned(meeting.id),
      asc(agendaItem.position),
      asc(itemOutcome.position),
      asc(itemOutcome.id),
    )
    .limit(most);
  const [items, mayChange] = [
    await itemsOfAgendas(reader, new Set(rows.map(({ agendaId }) => agendaId))),
    await amendableScopes(reader, actor, new Set(rows.map(({ scopeId }) => scopeId))),
  ];
  const me = actor.seenBy?.personId ?? actor.personId;
  return rows.flatMap(({ agendaId: _agenda, scopeId, doneAt, doneBy, doneRemark, ...row }): MeetingOutcome[] => {
    const item = items.get(row.itemId);
    const amends = mayChange.has(scopeId);
    const isMine = row.kind === 'action' && row.personId === me;
    if (!item) return [];
    if (item.readers !== null && (toldToAll || !(amends || isMine || item.readers.has(me)))) return [];
    return [
      {
        ...row,
        number: item.number,
        done:
          doneAt === null ? null : { on: isoDay(dayAt(doneAt.getTime(), timeZone)), by: doneBy, remark: doneRemark },
        maySettle: row.kind === 'action' && (amends || isMine),
      },
    ];
  });
}

/** The numbers of the items of some agendas, and who may know of each. */
async function itemsOfAgendas(reader: Reader, agendaIds: ReadonlySet<string>) {
  const rows =
    agendaIds.size === 0
      ? []
      : await reader
          .select({
            id: agendaItem.id,
            parentId: agendaItem.parentId,
            confidential: agendaItem.confidential,
            agendaId: agendaItem.agendaId,
            numbering: agenda.numbering,
          })
          .from(agendaItem)
          .innerJoin(agenda, eq(agenda.id, agendaItem.agendaId))
          .where(and(idIn(agendaItem.agendaId, agendaIds), isNull(agendaItem.removedAt)))
          .orderBy(asc(agendaItem.position));
  const readers = readersWithin(await readableItems(reader, rows));
  const found = new Map<string, { number: string; readers: ReadonlySet<string> | null }>();
  for (const items of grouped(rows, ({ agendaId }) => agendaId).values()) {
    const numbers = fullNumbersOf(items, items[0]?.numbering ?? 'figures');
    for (const [at, { id }] of items.entries())
      found.set(id, { number: numbers[at] ?? '', readers: readers.get(id) ?? null });
  }
  return found;
}

/** In which of some scopes the caller may change agendas. */
async function amendableScopes(reader: Reader, actor: Actor, scopeIds: ReadonlySet<string | null>) {
  const may = new Set<string | null>();
  for (const scopeId of scopeIds) if (has(await capabilitiesIn(reader, actor, scopeId), 'amend')) may.add(scopeId);
  return may;
}

/** The outcomes of a meeting's items as the caller is told of them. The caller has been checked to see its dossier. */
export const outcomesOfMeeting = (reader: Reader, actor: Actor, meetingId: string): Promise<OutcomeRow[]> =>
  outcomesWhere(reader, actor, eq(meeting.id, meetingId), { most: mostSearched });

/** The caller's own open actions, the first due first; those without a day last. */
export const myActions = asks('actions.mine', async (actor): Promise<readonly MeetingOutcome[]> => {
  const personId = ownOf(actor);
  if (personId === null) return [];
  const which = and(eq(itemOutcome.kind, 'action'), eq(itemOutcome.personId, personId), isNull(itemOutcome.doneAt));
  const open = await outcomesWhere(db(), actor, which, { most: mostShown });
  const due = ({ dueOn }: MeetingOutcome) => dueOn ?? '9999-12-31';
  return open.sort((one, other) => due(one).localeCompare(due(other)));
});

/** Which actions were open when a meeting was held, of earlier meetings of its dossier. */
export const openAt = (held: { readonly dossierId: string; readonly day: string }): SQL | undefined =>
  and(
    eq(itemOutcome.kind, 'action'),
    eq(meeting.dossierId, held.dossierId),
    lt(meeting.day, held.day),
    or(isNull(itemOutcome.doneAt), gte(itemOutcome.doneAt, sql`${held.day}::date`)),
  );

/** Actions of earlier meetings that a meeting finds open. */
export const openActions = asks('actions.open', async (actor, { meetingId }) => {
  const { meeting: held } = await agendaSubject(db(), actor, { meetingId }, 'see');
  if (held === null) return [];
  return outcomesWhere(db(), actor, openAt(held), { most: mostShown });
});

/** The decisions, or the actions, of all meetings in a place, the newest meeting first. */
export const registerOf = asks('register.of', async (actor, { placeId, kind, words, year, openOnly }) => {
  const within = await placeFor(db(), actor, placeId, 'see');
  const inPlace = and(eq(itemOutcome.kind, kind), sql`${place.lineage} @> array[${within.id}::uuid]`);
  const inYear = year === null ? undefined : sql`${meeting.day} between ${`${year}-01-01`} and ${`${year}-12-31`}`;
  const open = openOnly ? isNull(itemOutcome.doneAt) : undefined;
  const found = await outcomesWhere(db(), actor, and(inPlace, inYear, open), {
    most: mostSearched,
    newestFirst: true,
  });
  const keys = searchKey(words).split(' ');
  const rows = found.filter(({ text, who }) => {
    const key = searchKey(`${text} ${who}`);
    return keys.every((each) => key.includes(each));
  });
  // Which years there are is told of what the caller is told of.
  const all = year === null && !openOnly ? found : await outcomesWhere(db(), actor, inPlace, { most: mostSearched });
  const years = [...new Set(all.map(({ meeting: { day } }) => Number(day.slice(0, 4))))].sort((a, b) => b - a);
  return { rows: rows.slice(0, mostShown), more: rows.length > mostShown, years };
});

/** The outcomes of a meeting with their lines in the minutes, also those that were removed and still stand there. */
export const writtenOf = (reader: Reader, meetingId: string) =>
  reader
    .select({
      id: itemOutcome.id,
      itemId: itemOutcome.itemId,
      kind: itemOutcome.kind,
      text: itemOutcome.text,
      who: columns.who,
      dueOn: itemOutcome.dueOn,
      written: itemOutcome.written,
      removedAt: itemOutcome.removedAt,
      revision: itemOutcome.revision,
    })
    .from(itemOutcome)
    .innerJoin(agendaItem, eq(agendaItem.id, itemOutcome.itemId))
    .innerJoin(agenda, eq(agenda.id, agendaItem.agendaId))
    .where(and(eq(agenda.meetingId, meetingId), or(isNull(itemOutcome.removedAt), isNotNull(itemOutcome.written))))
    .orderBy(asc(agendaItem.position), asc(itemOutcome.position));
