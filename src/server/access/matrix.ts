import { and, eq } from 'drizzle-orm';
import { resolveLibrary, topDown, type Sight } from '@/core/access/library';
import { matrixOf, rowsFor, type MatrixSubject } from '@/core/access/matrix';
import type { Grantee } from '@/core/access/resolve';
import { has } from '@/core/access/capability';
import type { ReadInputOf } from '@/core/contract';
import { refuse } from '@/core/errors/refusal';
import { groupsOn } from '@/core/people/belonging';
import { asks } from '../acts/operation';
import { db } from '../db/client';
import { idIn } from '../db/idIn';
import { document, person, personGroup, place } from '../db/schema';
import { termsOf, today } from '../scopes/memberships';
import type { Actor } from '../gate/actor';
import { placeFor } from '../gate/held';
import { partBelow, grantees } from '../scopes/parts';
import { paperAllows, placeAllows } from '../gate/visible';

/** Who may do what in a place and below it, where the caller manages it. Leaves out keepers, who may do everything. */
export const accessMatrix = asks('access.matrix', async (actor, input) => {
  const at = await placeFor(db(), actor, input.placeId, 'manage', 'evenClosed');
  const { library, known } = await partBelow(db(), at.id);
  const { subjects, people, above } = await subjectsFor(input, at.lineage);
  const resolved = resolveLibrary(library, people, new Map([...known, ...above]));
  const mine = new Map(
    (
      await db()
        .select({ id: place.id, name: place.name, kind: place.kind, reference: place.reference })
        .from(place)
        .where(
          and(
            idIn(
              place.id,
              library.places.map((each) => each.id),
            ),
            placeAllows(actor, 'manage'),
          ),
        )
    ).map((row) => [row.id, row]),
  );
  const seenPapers = await papersAmong(
    actor,
    library.papers.map((each) => each.id),
  );
  const told = { ...topDown(library), papers: library.papers.filter((each) => seenPapers.has(each.id)) };
  const all = matrixOf(told, resolved, subjects, await outsiders()).filter((row) => mine.has(row.id));
  return {
    name: at.name,
    subjects,
    rows: rowsFor(all, input.show, (row) => input.personId === null || row.sets.some((set) => has(set, 'see'))).map(
      (row) => {
        const named = mine.get(row.id);
        return { ...row, name: named?.name ?? '', kind: named?.kind ?? 'folder', reference: named?.reference ?? null };
      },
    ),
    places: all.length,
  };
});

/** The papers, among these, that the caller may see: a paper that does not inherit may be closed to its place's manager. */
async function papersAmong(actor: Actor, ids: readonly string[]): Promise<ReadonlySet<string>> {
  const rows = await db()
    .select({ id: document.id })
    .from(document)
    .where(and(idIn(document.id, ids), paperAllows(actor, 'see')));
  return new Set(rows.map((row) => row.id));
}

async function outsiders(): Promise<ReadonlySet<string>> {
  const rows = await db()
    .select({ id: person.id })
    .from(person)
    .where(and(eq(person.active, true), eq(person.outside, true)));
  return new Set(rows.map((row) => row.id));
}

interface Subjects {
  readonly subjects: MatrixSubject[];
  readonly people: Grantee[];
  /** Access of groups in the place above; access is stored for people only. */
  readonly above: ReadonlyMap<string, Sight>;
}

async function subjectsFor(input: ReadInputOf<'access.matrix'>, lineage: readonly string[]): Promise<Subjects> {
  if (input.who === 'groups' && input.personId === null) return groupsAsSubjects(lineage);
  const rows = await db()
    .select({ id: person.id, name: person.name, outside: person.outside })
    .from(person)
    .where(and(eq(person.active, true), eq(person.keeper, false)))
    .orderBy(person.name);
  const wanted = rows.filter((row) =>
    input.personId === null ? input.who === 'people' || row.outside : row.id === input.personId,
  );
  if (input.personId !== null && wanted.length === 0) refuse('not-found');
  return {
    subjects: wanted.map((row) => ({ ...row, kind: 'person' })),
    people: await grantees(db()),
    above: new Map(),
  };
}

/** Each group, treated as a person who is a member of it and of nothing else. */
async function groupsAsSubjects(lineage: readonly string[]): Promise<Subjects> {
  const groups = await db()
    .select({ id: personGroup.id, name: personGroup.name })
    .from(personGroup)
    .orderBy(personGroup.name);
  const terms = await termsOf(db());
  const belonging = groupsOn(
    [
      ...terms,
      ...groups.map(({ id }) => ({
        groupId: id,
        member: { kind: 'person' as const, id },
        from: null,
        until: null,
      })),
    ],
    await today(db()),
  );
  const people = groups.map(({ id }) => ({ personId: id, groupIds: belonging.get(id) ?? new Set<string>() }));
  const root = lineage[0];
  const whole = root === undefined || lineage.length === 1 ? null : await partBelow(db(), root);
  return {
    subjects: groups.map((group) => ({ ...group, kind: 'group', outside: false })),
    people,
    above: whole === null ? new Map() : resolveLibrary(whole.library, people).places,
  };
}
