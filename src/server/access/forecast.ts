import { and, eq, sql } from 'drizzle-orm';
import { changed, resolveLibrary, type AccessChange } from '@/core/access/library';
import { difference, type PersonImpact, type Shift } from '@/core/access/impact';
import { inOrder, kindsOf, type ImpactLine } from '@/core/access/impactWords';
import { bitOf, noCapabilities } from '@/core/access/capability';
import { asks } from '../acts/operation';
import type { Reader } from '../db/client';
import { idIn } from '../db/idIn';
import { document, person, place } from '../db/schema';
import { snapshot } from '../db/transaction';
import { readSheet } from './change';
import type { Actor } from '../gate/actor';
import { managed } from './managed';
import { partBelow, partOfPapers, sightsAt, grantees, type LibraryPart } from '../scopes/parts';
import { paperAllows, placeIsKnown } from '../gate/visible';

/** What saving a sheet would change. */
export const forecastAccess = asks('access.forecast', async (actor, input) => {
  return snapshot(async (tx) => {
    const { on } = await managed(tx, actor, input.on);
    const step = readSheet(input);
    return on.kind === 'place'
      ? impactOf(tx, actor, await partBelow(tx, on.id), { kind: 'placeStep', placeId: on.id, step })
      : impactOf(tx, actor, await partOfPapers(tx, [on.id]), { kind: 'paperStep', paperId: on.id, step });
  });
});

/**
 * Who would gain and lose what by a change to a part of the library. Leaves out papers and places that the caller may not
 * know of, and keepers, for whom nothing changes.
 */
export async function impactOf(
  reader: Reader,
  actor: Actor,
  part: LibraryPart,
  change: AccessChange,
): Promise<ImpactLine[]> {
  const people = await grantees(reader);
  const known = new Map([...part.known, ...(await sightsAt(reader, targetsOf(change)))]);
  const before = resolveLibrary(part.library, people, known);
  const after = resolveLibrary(changed(part.library, change), people, known);
  return linesOf(reader, actor, part, difference(before, after));
}

/**
 * Groups differences for display: one line for all people to whom the same happens, counted and named as far as the caller may know.
 * @param stay people who will still see something afterwards; if left out, those who see anything outside the part
 */
export async function linesOf(
  reader: Reader,
  actor: Actor,
  part: LibraryPart,
  impacts: readonly PersonImpact[],
  stay?: ReadonlySet<string>,
): Promise<ImpactLine[]> {
  if (impacts.length === 0) return [];
  const names = await peopleByName(
    reader,
    impacts.map((each) => each.personId),
  );
  const papers = await plainPapers(reader, actor, part);
  const places = await knownAmong(
    reader,
    actor,
    part.library.places.map((each) => each.id),
  );
  const seen = await seenAmong(
    reader,
    actor,
    part.library.papers.map((each) => each.id),
  );
  const lines = new Map<string, ImpactLine>();
  const losing = impacts.filter((each) => losesAll(each)).map((each) => each.personId);
  const elsewhere = stay ?? (await seeElsewhere(reader, losing, part));
  const byPerson = new Map(impacts.map((each) => [each.personId, each]));
  for (const [personId, name] of names) {
    const impact = byPerson.get(personId);
    if (!impact) continue;
    for (const line of linesFor(impact, places, papers, seen)) {
      const whole = { ...line, lastWay: line.kind === 'loses' && !elsewhere.has(impact.personId) };
      const key = JSON.stringify([whole.kind, whole.set, whole.papers, whole.places, whole.examples, whole.lastWay]);
      lines.set(key, { ...whole, names: [...(lines.get(key)?.names ?? []), name] });
    }
  }
  return inOrder([...lines.values()]);
}

const targetsOf = (change: AccessChange): readonly string[] => {
  if (change.kind === 'openings') return [change.placeId];
  return change.kind === 'placeMove' || change.kind === 'paperMove' ? [change.toId] : [];
};

async function peopleByName(reader: Reader, ids: readonly string[]): Promise<ReadonlyMap<string, string>> {
  const rows = await reader
    .select({ id: person.id, name: person.name })
    .from(person)
    .where(and(idIn(person.id, ids), eq(person.active, true), eq(person.keeper, false)))
    .orderBy(person.name);
  return new Map(rows.map((row) => [row.id, row.name]));
}

/** The number of papers in each place of a part that have no access of their own, and the titles of a few. */
async function plainPapers(reader: Reader, actor: Actor, { library }: LibraryPart) {
  const rows = await reader.execute<{ home_id: string; papers: number; titles: string[] }>(sql`
    select home_id, count(*)::int as papers, (array_agg(title order by title))[1:3] as titles
    from (select ${document.homeId} as home_id, ${document.title} as title from ${document}
      where ${idIn(
        document.homeId,
        library.places.map((each) => each.id),
      )}
        and ${paperAllows(actor, 'see')}
        and not ${idIn(
          document.id,
          library.papers.map((each) => each.id),
        )}) as plain
    group by 1`);
  return new Map(rows.rows.map((row) => [row.home_id, row]));
}

/** Titles of the papers, among these, that the caller may see. */
async function seenAmong(reader: Reader, actor: Actor, ids: readonly string[]): Promise<ReadonlyMap<string, string>> {
  if (ids.length === 0) return new Map();
  const rows = await reader
    .select({ id: document.id, title: document.title })
    .from(document)
    .where(and(idIn(document.id, ids), paperAllows(actor, 'see')));
  return new Map(rows.map((row) => [row.id, row.title]));
}

/** The places, among these, that the caller may know of. */
async function knownAmong(reader: Reader, actor: Actor, ids: readonly string[]): Promise<ReadonlySet<string>> {
  const rows = await reader
    .select({ id: place.id })
    .from(place)
    .where(and(idIn(place.id, ids), placeIsKnown(actor)));
  return new Set(rows.map((row) => row.id));
}

type Plain = Awaited<ReturnType<typeof plainPapers>>;

function linesFor(
  impact: PersonImpact,
  known: ReadonlySet<string>,
  plain: Plain,
  seen: ReadonlyMap<string, string>,
): Omit<ImpactLine, 'names'>[] {
  const lines = new Map<
    string,
    { kind: ImpactLine['kind']; set: number; papers: number; places: number; examples: string[] }
  >();
  const add = (shift: Shift, papers: number, places: number, titles: readonly string[]): void => {
    for (const { kind, set } of kindsOf(shift)) {
      const key = `${kind} ${set}`;
      const line = lines.get(key) ?? { kind, set, papers: 0, places: 0, examples: [] };
      lines.set(key, {
        ...line,
        papers: line.papers + papers,
        places: line.places + places,
        examples: [...line.examples, ...titles].slice(0, 3),
      });
    }
  };
  for (const [id, shift] of impact.places)
    if (known.has(id)) add(shift, plain.get(id)?.papers ?? 0, 1, plain.get(id)?.titles ?? []);
  for (const [id, shift] of impact.papers) {
    const title = seen.get(id);
    if (title !== undefined) add(shift, 1, 0, [title]);
  }
  return [...lines.values()]
    .filter((line) => line.papers + line.places > 0)
    .map((line) => ({ ...line, lastWay: false }));
}

const losesAll = ({ places, papers }: PersonImpact): boolean =>
  [...places.values(), ...papers.values()].some((shift) => shift.after === noCapabilities);

/** The people, among these, who see anything outside a part of the library. */
async function seeElsewhere(
  reader: Reader,
  ids: readonly string[],
  { library }: LibraryPart,
): Promise<ReadonlySet<string>> {
  if (ids.length === 0) return new Set();
  const rows = await reader.execute<{ person_id: string }>(sql`
    select distinct entry.person_id from scope_entry as entry
    where entry.person_id = any(${sql.param(ids)}::uuid[]) and entry.capabilities & ${bitOf('see')} <> 0 and (
      exists (select from ${place} where ${place.scopeId} = entry.scope_id
        and not ${idIn(
          place.id,
          library.places.map((each) => each.id),
        )})
      or exists (select from ${document} where ${document.scopeId} = entry.scope_id and ${document.disposedAt} is null
        and not ${idIn(
          document.id,
          library.papers.map((each) => each.id),
        )}))`);
  return new Set(rows.rows.map((row) => row.person_id));
}
