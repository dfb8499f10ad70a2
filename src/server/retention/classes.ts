import { and, eq, sql } from 'drizzle-orm';
import { isoDay } from '@/core/calendar/period';
import { orRefuse, refuse } from '@/core/errors/refusal';
import type { ClassFields, ClassRow, PaperKeeping, SchedulePreview } from '@/core/retention/contract';
import type { RetentionClass } from '@/core/retention/model';
import { keptInWords, readSchedule, writeSchedule, type ScheduledClass } from '@/core/retention/schedule';
import { standingOf } from '@/core/retention/keeping';
import { nameKey } from '@/core/text/fold';
import { acts, asks } from '../acts/operation';
import { allColumns } from '../columns/read';
import { db, type Reader, type Tx } from '../db/client';
import { place, retentionClass, retentionRule } from '../db/schema';
import type { Actor } from '../gate/actor';
import { papersFor, placeFor } from '../gate/held';
import { requireKeeper } from '../gate/keeper';
import { placeIsKnown } from '../gate/visible';
import { fullName } from '../known/places';
import { owedOf } from '../owed/papers';
import { checkType, namesOfTypes } from '../rules/ofType';
import { openView } from '../views/open';

const classColumns = {
  id: retentionClass.id,
  name: retentionClass.name,
  authority: retentionClass.authority,
  start: retentionClass.startsFrom,
  columnId: retentionClass.columnId,
  months: retentionClass.months,
  end: retentionClass.ends,
};

const stored = ({ name, authority, start, columnId, months, end }: ScheduledClass) => ({
  name,
  nameKey: nameKey(name),
  authority,
  startsFrom: start,
  columnId,
  months,
  ends: end,
});

/** How long a paper is kept, by which class, and why that one. */
export const keepingOf = asks('retention.of', async (actor, { documentId }): Promise<PaperKeeping | null> => {
  await papersFor(db(), actor, [documentId], 'see');
  const { today, owes } = await owedOf(db(), [documentId]);
  const keeping = owes.get(documentId)?.keeping;
  if (!keeping) return null;
  const { by, start, until } = keeping.kept;
  const { placeId, ofType } = keeping.rule;
  const [[known], types, columns] = await Promise.all([
    db()
      .select({ name: place.name })
      .from(place)
      .where(and(eq(place.id, placeId), placeIsKnown(actor))),
    namesOfTypes(db(), [ofType]),
    allColumns(db()),
  ]);
  const column = columns.find(({ id }) => id === by.columnId);
  return {
    className: by.name,
    authority: by.authority,
    start: { from: by.start, columnName: column?.name ?? '', day: start === null ? null : isoDay(start) },
    months: by.months,
    until: until === null ? null : isoDay(until),
    standing: standingOf(keeping.kept, today),
    end: keeping.end,
    givenBy: known ? { placeName: known.name, typeName: types.get(ofType?.termId ?? '') ?? null } : null,
    others: [...new Set(keeping.others.map(({ says }) => says.name).filter((name) => name !== by.name))],
  };
});

/** The schedule: all classes with the places that give them, and how many papers each decides about. */
export const retentionClasses = asks('retention.classes', async (actor): Promise<readonly ClassRow[]> => {
  requireKeeper(actor);
  const [rows, rules, columns, papers] = await Promise.all([
    db()
      .select({ ...classColumns, revision: retentionClass.revision })
      .from(retentionClass)
      .orderBy(retentionClass.name),
    db()
      .select({
        id: retentionRule.id,
        classId: retentionRule.classId,
        placeId: place.id,
        placeName: sql<string>`case when ${place.kind} = 'library' then 'the whole library' else ${fullName} end`,
        columnId: retentionRule.columnId,
        termId: retentionRule.termId,
      })
      .from(retentionRule)
      .innerJoin(place, eq(place.id, retentionRule.placeId))
      .orderBy(sql`array_length(${place.lineage}, 1)`, place.name),
    allColumns(db()),
    papersOfClasses(actor),
  ]);
  const types = rules.map(({ columnId, termId }) =>
    columnId === null || termId === null ? null : { columnId, termId },
  );
  const nameOf = await namesOfTypes(db(), types);
  return rows.map((row) => ({
    ...row,
    columnName: columns.find(({ id }) => id === row.columnId)?.name ?? '',
    rules: rules.flatMap(({ id, classId, placeId, placeName, termId }) =>
      classId === row.id
        ? [{ id, placeId, placeName, typeName: termId === null ? null : (nameOf.get(termId) ?? '') }]
        : [],
    ),
    papers: papers === null ? null : (papers.get(row.id) ?? 0),
  }));
});

/** How many papers each class decides about; null while the tally is being filled. */
async function papersOfClasses(actor: Actor): Promise<ReadonlyMap<string, number> | null> {
  const [root] = await db().select({ id: place.id }).from(place).where(eq(place.kind, 'library'));
  if (!root) return new Map();
  const page = await openView(actor, {
    placeId: root.id,
    below: true,
    filter: '',
    conditions: [],
    groupings: [{ of: 'keptClass', by: 'value', order: 'own', direction: 'up' }],
    sorts: [],
    counts: [],
    measures: [],
    start: 0,
    limit: 0,
  });
  if (page.state !== 'counted') return null;
  return new Map(page.groups.map((group) => [String(group.key), group.totals.papers]));
}

async function checkColumn(reader: Reader, columnId: string | null): Promise<void> {
  if (columnId === null) return;
  const column = (await allColumns(reader)).find(({ id }) => id === columnId);
  if (column?.type !== 'date' || column.retired) refuse('invalid', 'That is no column of dates.');
}

/** Makes a class, or changes one. */
export const putClass = acts('retention.putClass', [], async (tx, actor, { classId, fields, revision }) => {
  requireKeeper(actor);
  await checkColumn(tx, fields.columnId);
  const id = await kept(tx, classId, fields, revision);
  const detail = { name: fields.name, how: keptInWords(fields) };
  return { entry: { act: 'retention.classPut', subjects: [], detail }, result: { id } };
});

async function kept(tx: Tx, classId: string | null, fields: ClassFields, revision: number): Promise<string> {
  const [row] =
    classId === null
      ? await tx.insert(retentionClass).values(stored(fields)).returning({ id: retentionClass.id })
      : await tx
          .update(retentionClass)
          .set({ ...stored(fields), revision: revision + 1 })
          .where(and(eq(retentionClass.id, classId), eq(retentionClass.revision, revision)))
          .returning({ id: retentionClass.id });
  return row?.id ?? refuse('conflict');
}

/** Removes a class that no place gives. */
export const removeClass = acts('retention.removeClass', [], async (tx, actor, { classId, revision }) => {
  requireKeeper(actor);
  const rules = await tx
    .select({ id: retentionRule.id })
    .from(retentionRule)
    .where(eq(retentionRule.classId, classId))
    .limit(1);
  if (rules.length > 0) refuse('conflict', 'Places give this class to their papers. Take it from them first.');
  const [gone] = await tx
    .delete(retentionClass)
    .where(and(eq(retentionClass.id, classId), eq(retentionClass.revision, revision)))
    .returning({ name: retentionClass.name });
  if (!gone) refuse('conflict');
  return { entry: { act: 'retention.classRemoved', subjects: [], detail: { name: gone.name } }, result: null };
});

/** Gives the papers below a place a class: all, or those of one type. What they had of that place for that type is replaced. */
export const giveClass = acts('retention.give', [], async (tx, actor, { classId, placeId, ofType }) => {
  requireKeeper(actor);
  const found = await placeFor(tx, actor, placeId, 'manage', 'evenClosed');
  const typeName = await checkType(tx, ofType, found.lineage);
  const [given] = await tx
    .select({ name: retentionClass.name })
    .from(retentionClass)
    .where(eq(retentionClass.id, classId));
  if (!given) refuse('not-found');
  const { columnId = null, termId = null } = ofType ?? {};
  await tx
    .delete(retentionRule)
    .where(
      and(
        eq(retentionRule.placeId, placeId),
        sql`${retentionRule.columnId} is not distinct from ${columnId}::uuid`,
        sql`${retentionRule.termId} is not distinct from ${termId}::uuid`,
      ),
    );
  await tx.insert(retentionRule).values({ classId, placeId, columnId, termId });
  const detail = {
    of: typeName ?? 'all papers',
    at: { id: found.id, name: found.name },
    name: given.name,
  };
  return { entry: { act: 'retention.given', subjects: [found.id], detail }, result: null };
});

/** Takes a class from a place's papers. */
export const takeClassAway = acts('retention.takeAway', [], async (tx, actor, { ruleId }) => {
  requireKeeper(actor);
  const [gone] = await tx.delete(retentionRule).where(eq(retentionRule.id, ruleId)).returning();
  if (!gone) refuse('not-found');
  const [named] = await tx
    .select({ name: retentionClass.name, place: place.name })
    .from(retentionClass)
    .innerJoin(place, eq(place.id, gone.placeId))
    .where(eq(retentionClass.id, gone.classId));
  const { columnId, termId } = gone;
  const type = columnId === null || termId === null ? null : { columnId, termId };
  const of = type === null ? 'all papers' : ((await namesOfTypes(tx, [type])).get(type.termId) ?? '');
  const detail = { name: named?.name ?? '', of, at: { id: gone.placeId, name: named?.place ?? '' } };
  return { entry: { act: 'retention.takenAway', subjects: [gone.placeId], detail }, result: null };
});

/** The schedule as CSV. */
export async function scheduleCsv(actor: Actor): Promise<string> {
  requireKeeper(actor);
  const columns = await allColumns(db());
  const rows = await db().select(classColumns).from(retentionClass).orderBy(retentionClass.name);
  return writeSchedule(rows, (id) => columns.find((column) => column.id === id)?.name ?? '');
}

interface Sorted extends SchedulePreview {
  readonly classes: readonly {
    readonly id: string | null;
    readonly revision: number;
    readonly fields: ScheduledClass;
  }[];
}

/** What each line of a schedule comes to. */
async function sortedOut(reader: Reader, csv: string): Promise<Sorted> {
  const dates = (await allColumns(reader)).filter(({ type, retired }) => type === 'date' && !retired);
  const lines = orRefuse(
    readSchedule(csv, (name) => dates.find((column) => nameKey(column.name) === nameKey(name))?.id ?? null),
  );
  const there = new Map(
    (await reader.select({ ...classColumns, revision: retentionClass.revision }).from(retentionClass)).map((row) => [
      nameKey(row.name),
      row,
    ]),
  );
  const classes: { id: string | null; revision: number; fields: ScheduledClass }[] = [];
  const refused: { line: number; says: string }[] = [];
  let same = 0;
  for (const { line, read } of lines) {
    if (!read.ok) refused.push({ line, says: read.issue.says });
    else {
      const known = there.get(nameKey(read.value.name));
      if (known && isSame(known, read.value)) same += 1;
      else classes.push({ id: known?.id ?? null, revision: known?.revision ?? 0, fields: read.value });
    }
  }
  const names = (isNew: boolean) => classes.flatMap(({ id, fields }) => ((id === null) === isNew ? [fields.name] : []));
  return { classes, added: names(true), changed: names(false), same, refused };
}

const isSame = (one: RetentionClass, other: ScheduledClass): boolean =>
  (['name', 'authority', 'start', 'columnId', 'months', 'end'] as const).every((key) => one[key] === other[key]);

/** What a schedule that is taken in would change. */
export const foreseeSchedule = asks('retention.foresee', async (actor, { csv }) => {
  requireKeeper(actor);
  const { classes: _classes, ...preview } = await sortedOut(db(), csv);
  return preview;
});

/** Takes a schedule in: new classes, and those of the same name changed. Lines that cannot be read are left out; nothing is removed. */
export const takeScheduleIn = acts('retention.takeIn', [], async (tx, actor, { csv }) => {
  requireKeeper(actor);
  const { classes, added, changed } = await sortedOut(tx, csv);
  for (const { id, revision, fields } of classes) await kept(tx, id, fields, revision);
  const result = { added: added.length, changed: changed.length };
  if (classes.length === 0) return { entry: null, result };
  return { entry: { act: 'retention.takenIn', subjects: [], detail: result }, result };
});
