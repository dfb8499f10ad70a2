import fc from 'fast-check';
import { and, eq, isNull, sql } from 'drizzle-orm';
import { plainFields } from '@/core/columns/contract';
import { meets, type AskedFor, type PickCondition } from '@/core/views/conditions';
import { sameValue, type ColumnType, type Value } from '@/core/columns/model';
import { naturalCompare } from '@/core/text/natural';
import type { Actor } from '@/server/gate/actor';
import { defineColumn } from '@/server/columns/define';
import { createList, listOf } from '@/server/columns/lists';
import { setValues, undoValues } from '@/server/columns/setValues';
import { db } from '@/server/db/client';
import { document, person } from '@/server/db/schema';
import { ledgerPage } from '@/server/documents/ledger';
import { openView } from '@/server/views/open';
import { createLabel, putLabel } from '@/server/labels/labels';
import { createFolder } from '@/server/places/create';
import { createDossier } from '@/server/dossiers/create';
import { fillWithPapers } from '../../bench/large';
import { dropLibrary, freshLibrary, furnished, newcomer, plainQuestion } from '../library';

let keeper: Actor;
let folder: string;
let ids: string[];
const columns = new Map<ColumnType, string>();
/** The values that papers may have, by type, in the order in which the ledger is to sort them. */
const values = new Map<ColumnType, Value[]>();
const papers = 60;

beforeAll(async () => {
  keeper = await freshLibrary();
  const home = await furnished(keeper);
  folder = (await createFolder(keeper, { parentId: home.year.id, name: 'Valued' })).id;
  await fillWithPapers(keeper, [folder], papers);
  ids = (
    await db().select({ id: document.id }).from(document).where(eq(document.homeId, folder)).orderBy(document.title)
  ).map((row) => row.id);
  const { id: listId } = await createList(keeper, { name: 'Types', terms: ['Zebra', 'Agenda', 'Minutes'] });
  const terms = (await listOf(keeper, listId)).terms.map((each) => each.id);
  const people = [await newcomer(keeper, 'Ann Other'), await newcomer(keeper, 'Zoe Last')];
  const dossiers = [];
  for (const name of ['Berth 2', 'Berth 10'])
    dossiers.push((await createDossier(keeper, { seriesId: home.series.id, name, reference: null })).id);
  const of: Partial<Record<ColumnType, Value[]>> = {
    choice: terms,
    choices: [[terms[0] ?? ''], [terms[0] ?? '', terms[2] ?? ''], [terms[1] ?? '', terms[2] ?? '']],
    text: ['Appendix 2', 'Appendix 10', 'Café', 'zebra'],
    number: [-5, 0, 2, 10.5],
    amount: [0.5, 12, 1000],
    date: ['2024-02-29', '2026-07-14'],
    yesNo: [false, true],
    person: people.map((each) => each.personId),
    dossier: dossiers,
  };
  for (const [type, some] of Object.entries(of) as [ColumnType, Value[]][]) {
    const { id } = await defineColumn(keeper, {
      ...plainFields,
      placeId: folder,
      name: type,
      type,
      listId: type === 'choice' || type === 'choices' ? listId : null,
      currency: type === 'amount' ? 'GBP' : '',
    });
    columns.set(type, id);
    values.set(type, some);
    // Each value on some of the papers, in a spread that no order of the papers hides; some have none.
    for (const [index, value] of some.entries()) {
      const documentIds = ids.filter((_, at) => (at * 7 + type.length) % (some.length + 1) === index);
      await setValues(keeper, {
        documentIds,
        values: { [id]: Array.isArray(value) ? [...(value as string[])] : (value as string) },
      });
    }
  }
});
afterAll(dropLibrary);

const shownById = async (): Promise<Map<string, Record<string, Value>>> =>
  new Map(
    (
      await db()
        .select({ id: document.id, shown: document.shownValues })
        .from(document)
        .where(eq(document.homeId, folder))
    ).map((row) => [row.id, { ...row.shown }]),
  );
const ask = { placeId: '', sort: 'title', direction: 'up' as const, filter: '', after: null, limit: 1000 };

it('shows just the papers that core/views says meet the conditions, on random ones', async () => {
  const shown = await shownById();
  const condition = fc.constantFrom(...columns.keys()).chain((type) => {
    const single = (values.get(type) ?? []).flatMap((value) =>
      Array.isArray(value) ? (value as string[]) : [value as AskedFor],
    );
    return fc.record({
      of: fc.constant(columns.get(type) ?? ''),
      anyOf: fc.uniqueArray(fc.constantFrom<AskedFor>(null, ...single), { maxLength: 3 }),
    });
  });
  const questions = fc.sample(fc.uniqueArray(condition, { selector: (each) => each.of, maxLength: 3 }), {
    numRuns: 120,
    seed: 18,
  });
  for (const conditions of questions as PickCondition[][]) {
    const page = await ledgerPage(keeper, { ...ask, placeId: folder, conditions });
    const expected = ids.filter((id) => conditions.every((each) => meets(each, shown.get(id)?.[each.of])));
    expect(page.rows.map((row) => row.id).sort()).toEqual([...expected].sort());
    expect(page.totals?.papers).toBe(expected.length);
  }
});

it('counts each value under all other conditions: choosing it gives just that many', async () => {
  const conditions: PickCondition[] = [
    { of: columns.get('yesNo') ?? '', anyOf: [true, null] },
    { of: columns.get('number') ?? '', anyOf: [2, 10.5, -5] },
  ];
  for (const columnId of columns.values()) {
    const view = await openView(keeper, { ...plainQuestion, placeId: folder, conditions, counts: [columnId] });
    const counts = view.counts[columnId];
    for (const { value, papers: count } of counts?.kind === 'values' ? counts.values : []) {
      const others = conditions.filter((each) => each.of !== columnId);
      const page = await ledgerPage(keeper, {
        ...ask,
        placeId: folder,
        conditions: [...others, { of: columnId, anyOf: [value] }],
      });
      expect(page.totals?.papers).toBe(count);
    }
  }
});

it.each(['choice', 'choices', 'text', 'number', 'amount', 'date', 'yesNo', 'person', 'dossier'] as const)(
  'sorts by a column of type %s in its own order, both ways, those without a value last, in pages that join',
  async (type) => {
    const columnId = columns.get(type) ?? '';
    const shown = await shownById();
    const names = new Map(
      (await db().select({ id: person.id, name: person.name }).from(person)).map((row) => [row.id, row.name]),
    );
    const rank = (value: Value | undefined): number => {
      if (value === undefined) return -1;
      const first = Array.isArray(value) ? (value as readonly string[])[0] : value;
      const all = type === 'choices' ? (values.get('choice') ?? []) : (values.get(type) ?? []);
      if (type === 'text') return [...all].sort((a, b) => naturalCompare(String(a), String(b))).indexOf(String(first));
      if (type === 'person')
        return [...all]
          .sort((a, b) => naturalCompare(names.get(String(a)) ?? '', names.get(String(b)) ?? ''))
          .indexOf(String(first));
      return all.findIndex((each) => each === first);
    };
    for (const direction of ['up', 'down'] as const) {
      const seen: string[] = [];
      for (let after: string | null = null; ;) {
        const page: Awaited<ReturnType<typeof ledgerPage>> = await ledgerPage(keeper, {
          ...ask,
          placeId: folder,
          sort: columnId,
          direction,
          after,
          limit: 7,
        });
        seen.push(...page.rows.map((row) => row.id));
        after = page.next;
        if (after === null) break;
      }
      expect([...seen].sort()).toEqual([...ids].sort());
      const ranks = seen.map((id) => rank(shown.get(id)?.[columnId]));
      const filled = ranks.filter((each) => each !== -1);
      expect(ranks.slice(0, filled.length)).toEqual(filled);
      expect(filled).toEqual([...filled].sort((a, b) => (direction === 'up' ? a - b : b - a)));
    }
  },
);

it('filters by labels, and by having none', async () => {
  const { id } = await createLabel(keeper, { name: 'For approval', hue: 'rust', shared: true });
  await putLabel(keeper, { labelId: id, documentIds: ids.slice(0, 13), on: true });
  const count = async (anyOf: AskedFor[]) =>
    (await ledgerPage(keeper, { ...ask, placeId: folder, conditions: [{ of: 'label', anyOf }] })).totals?.papers;
  expect([await count([id]), await count([null]), await count([id, null]), await count(['nothing'])]).toEqual([
    13,
    papers - 13,
    papers,
    0,
  ]);
});

it('gives no powers to what is asked for: quotes, percent signs and patterns are plain', async () => {
  const columnId = columns.get('text') ?? '';
  for (const value of ["' or true --", '%', '_', '.*', '"', '\\', '{"a":1}', '$1']) {
    const page = await ledgerPage(keeper, { ...ask, placeId: folder, conditions: [{ of: columnId, anyOf: [value] }] });
    expect(page.rows).toEqual([]);
  }
  const [first = ''] = ids;
  await setValues(keeper, { documentIds: [first], values: { [columnId]: `it's 100 % "so" \\ {x}` } });
  const page = await ledgerPage(keeper, {
    ...ask,
    placeId: folder,
    conditions: [{ of: columnId, anyOf: [`it's 100 % "so" \\ {x}`] }],
  });
  expect(page.rows.map((row) => row.id)).toEqual([first]);
});

it('comes back to the beginning when all that was set is undone, last act first, whatever it was', async () => {
  const where = await db()
    .select({ id: document.id, own: document.ownValues })
    .from(document)
    .where(and(eq(document.homeId, folder), isNull(document.disposedAt)));
  const before = new Map(where.map((row) => [row.id, row.own]));
  const steps = fc.sample(
    fc.record({
      type: fc.constantFrom<ColumnType>('text', 'number', 'yesNo', 'choice', 'choices'),
      pick: fc.nat(5),
      from: fc.nat(papers - 1),
      count: fc.integer({ min: 1, max: papers }),
    }),
    { numRuns: 40, seed: 19 },
  );
  const entries: number[] = [];
  for (const { type, pick, from, count } of steps) {
    const some = values.get(type) ?? [];
    const value = some[pick] ?? null;
    const { entryId } = await setValues(keeper, {
      documentIds: ids.slice(from, from + count),
      values: { [columns.get(type) ?? '']: Array.isArray(value) ? [...(value as string[])] : (value as string | null) },
    });
    if (entryId !== null) entries.push(entryId);
  }
  expect(entries.length).toBeGreaterThan(20);
  for (const entryId of entries.reverse()) expect((await undoValues(keeper, { entryId })).left).toBe(0);
  const after = await db()
    .select({ id: document.id, own: document.ownValues, shown: document.shownValues })
    .from(document)
    .where(sql`${document.id} = any(${sql.param(ids)}::uuid[])`);
  for (const row of after) {
    const was = before.get(row.id) ?? {};
    expect(Object.keys(row.own).sort()).toEqual(Object.keys(was).sort());
    for (const [columnId, value] of Object.entries(was)) expect(sameValue(row.own[columnId], value)).toBe(true);
    expect(row.shown).toEqual(row.own);
  }
});
