import { plainFields } from '@/core/columns/contract';
import { defineColumn } from '@/server/columns/define';
import { createList, listOf } from '@/server/columns/lists';
import { mergeTerm } from '@/server/columns/mergeTerms';
import { setValues } from '@/server/columns/setValues';
import type { Actor } from '@/server/gate/actor';
import { createDossier } from '@/server/dossiers/create';
import {
  foreseeSchedule,
  giveClass,
  keepingOf,
  putClass,
  removeClass,
  retentionClasses,
  scheduleCsv,
  takeClassAway,
  takeScheduleIn,
} from '@/server/retention/classes';
import { setStandstill } from '@/server/standstill/standstill';
import { openView } from '@/server/views/open';
import { dropLibrary, plainQuestion, refusedAs } from '../library';
import {
  beginKeeping,
  keeper,
  other,
  reader,
  home,
  ends,
  terms,
  paperOn,
  at,
  made,
  give,
  plain,
} from './keepingPapers';

beforeAll(beginKeeping);
afterAll(dropLibrary);

describe('retention classes', () => {
  it('are given by places to all papers or those of a type; the longest that speaks wins, and the others are told', async () => {
    const invoices = await made({});
    const leases = await made({ name: 'Leases', start: 'column', columnId: ends, months: 144, end: 'look' });
    const [invoice, lease, plainPaper] = [
      await paperOn('2020-02-29', terms.invoice),
      await paperOn('2020-02-29', terms.lease),
      await paperOn('2020-02-29'),
    ];
    expect(await keepingOf(keeper, { documentId: invoice })).toBeNull();
    await give(invoices, home.series.id);
    await give(leases, home.series.id, terms.lease);
    expect(await at('2026-02-28', () => keepingOf(reader, { documentId: invoice }))).toMatchObject({
      className: 'Invoices',
      authority: 'Tax law',
      until: '2026-02-28',
      standing: 'running',
      end: 'destroy',
      start: { from: 'filed', day: '2020-02-29' },
      givenBy: { placeName: 'Committees', typeName: null },
      others: [],
    });
    expect(await at('2026-03-01', () => keepingOf(reader, { documentId: plainPaper }))).toMatchObject({
      standing: 'over',
    });
    // Nothing is guessed: as long as no day is said, it is kept.
    expect(await keepingOf(keeper, { documentId: lease })).toMatchObject({
      className: 'Leases',
      until: null,
      standing: 'noStart',
      others: ['Invoices'],
    });
    await setValues(keeper, { documentIds: [lease], values: { [ends]: '2021-09-30' } });
    expect(await keepingOf(keeper, { documentId: lease })).toMatchObject({ until: '2033-09-30', standing: 'running' });
  });

  it('are counted by the schedule, and are properties of any view that agree with what each paper says', async () => {
    const rows = await retentionClasses(keeper);
    expect(
      rows.map(({ name, papers, rules }) => [
        name,
        papers,
        rules.map(({ placeName, typeName }) => [placeName, typeName]),
      ]),
    ).toEqual([
      ['Invoices', 2, [['Committees', null]]],
      ['Leases', 1, [['Committees', 'Type Lease']]],
    ]);
    const view = { ...plainQuestion, placeId: home.series.id, below: true };
    const page = await openView(reader, {
      ...view,
      conditions: [{ of: 'keptUntil', filled: true }],
      sorts: [{ of: 'keptUntil', direction: 'down' }],
      counts: ['keptClass', 'keptEnd'],
    });
    expect(page.rows.map(({ owed }) => [owed.keeping?.className, owed.keeping?.until])).toEqual([
      ['Leases', '2033-09-30'],
      ['Invoices', '2026-02-28'],
      ['Invoices', '2026-02-28'],
    ]);
    const named = (of: string) => {
      const counts = page.counts[of];
      return counts?.kind === 'values' ? counts.values.map(({ name, papers }) => `${name} ${papers}`) : [];
    };
    expect([named('keptClass'), named('keptEnd')]).toEqual([
      ['Invoices 2', 'Leases 1'],
      ['destroy 2', 'look again 1'],
    ]);
  });

  it('are changed only as they were seen, by keepers, and removed once no place gives them', async () => {
    const id = await made({ name: 'Short lived' });
    const change = (who: Actor, revision: number) =>
      refusedAs(putClass(who, { classId: id, fields: { ...plain, name: 'Short lived', months: 1 }, revision }));
    expect(await change(reader, 0)).toBe('not-allowed');
    expect((await Promise.all([change(keeper, 0), change(other, 0)])).toSorted()).toEqual(['conflict', 'done']);
    expect(await refusedAs(made({ name: 'short LIVED' }))).toBe('name-taken');
    expect(await refusedAs(made({ name: 'Of no column', start: 'column', columnId: home.series.id }))).toBe('invalid');
    await give(id, home.dossier.id);
    expect(await refusedAs(removeClass(keeper, { classId: id, revision: 1 }))).toBe('conflict');
    const rule = (await retentionClasses(keeper)).find((row) => row.id === id)?.rules[0];
    await takeClassAway(keeper, { ruleId: rule?.id ?? '' });
    await removeClass(keeper, { classId: id, revision: 1 });
    expect((await retentionClasses(keeper)).map(({ name }) => name)).toEqual(['Invoices', 'Leases']);
  });

  it('come in as they went out, and a changed schedule says before what it changes', async () => {
    const csv = await scheduleCsv(keeper);
    expect(await foreseeSchedule(keeper, { csv })).toEqual({ added: [], changed: [], same: 2, refused: [] });
    const edited = `${csv.replace(',72,', ',84,')}Minutes,,filed,,,keep\r\nBad,,whenever,,1,destroy\r\n`;
    expect(await foreseeSchedule(keeper, { csv: edited })).toMatchObject({
      added: ['Minutes'],
      changed: ['Invoices'],
      same: 1,
      refused: [{ line: 5 }],
    });
    expect(await refusedAs(takeScheduleIn(reader, { csv: edited }))).toBe('not-allowed');
    expect(await takeScheduleIn(keeper, { csv: edited })).toEqual({ added: 1, changed: 1 });
    expect((await retentionClasses(keeper)).map(({ name, months }) => [name, months])).toEqual([
      ['Invoices', 84],
      ['Leases', 144],
      ['Minutes', null],
    ]);
    await takeScheduleIn(keeper, { csv });
  });

  it('follow a term that is merged into another', async () => {
    const { id: listId } = await createList(keeper, { name: 'Other types', terms: ['Bill', 'Invoice'] });
    const [bill = '', into = ''] = (await listOf(keeper, listId)).terms.map(({ id }) => id);
    const { id: otherColumn } = await defineColumn(keeper, {
      ...plainFields,
      placeId: home.dossier.id,
      name: 'Other type',
      type: 'choice',
      listId,
    });
    const classId = await made({ name: 'Bills', months: 600 });
    await giveClass(keeper, { classId, placeId: home.dossier.id, ofType: { columnId: otherColumn, termId: bill } });
    const id = await paperOn('2020-01-01');
    await setValues(keeper, { documentIds: [id], values: { [otherColumn]: bill } });
    await mergeTerm(keeper, { termId: bill, intoId: into });
    expect(await keepingOf(keeper, { documentId: id })).toMatchObject({
      className: 'Bills',
      givenBy: { typeName: 'Other type Invoice' },
    });
    await takeClassAway(keeper, {
      ruleId: (await retentionClasses(keeper)).find((row) => row.id === classId)?.rules[0]?.id ?? '',
    });
  });

  it('count from the closing of the dossier, and from the end of the filing year', async () => {
    const dossier = (await createDossier(keeper, { seriesId: home.series.id, name: 'Tenant', reference: null })).id;
    const closing = await made({ name: 'After closing', start: 'closed', months: 240 });
    await give(closing, dossier);
    const id = await paperOn('2020-05-05', null, dossier);
    expect(await keepingOf(keeper, { documentId: id })).toMatchObject({
      className: 'After closing',
      standing: 'noStart',
    });
    await at('2024-03-01', () =>
      setStandstill(keeper, { placeId: dossier, closed: true, locked: false, reason: 'Left', revision: 0 }),
    );
    expect(await keepingOf(keeper, { documentId: id })).toMatchObject({ until: '2044-03-01', standing: 'running' });
    const page = await openView(keeper, { ...plainQuestion, placeId: dossier, below: true });
    expect(page.rows[0]?.owed.keeping).toMatchObject({ until: '2044-03-01' });
    const years = await made({ name: 'By year', start: 'yearEnd', months: 300 });
    await give(years, home.year.id);
    const filed = await paperOn('2020-05-05');
    expect((await keepingOf(keeper, { documentId: filed }))?.until).toMatch(/^20\d\d-03-31$/u);
    await takeClassAway(keeper, {
      ruleId: (await retentionClasses(keeper)).find((row) => row.id === years)?.rules[0]?.id ?? '',
    });
  });
});
