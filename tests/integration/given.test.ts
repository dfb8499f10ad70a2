import fc from 'fast-check';
import { eq, sql } from 'drizzle-orm';
import { resolveGiven, shownValues, type GivingPlace } from '@/core/columns/given';
import { sameValue, type Value } from '@/core/columns/model';
import type { Actor } from '@/server/gate/actor';
import { rootOf } from '@/server/verify/root';
import { forecastGiven, givenOf, setGiven } from '@/server/columns/given';
import { setCells, setValues } from '@/server/columns/setValues';
import { db } from '@/server/db/client';
import { document, givenValue, place } from '@/server/db/schema';
import { forecastPaperMove, movePapers, putInPlaces } from '@/server/documents/amend';
import { createFolder } from '@/server/places/create';
import { createDossier } from '@/server/dossiers/create';
import { movePlace } from '@/server/places/move';
import { dropLibrary, furnished, refusedAs } from '../library';
import { beginDescribing, define, folder, paper, shown, give } from './describing';

let keeper: Actor;
let rootId: string;

beforeAll(async () => {
  ({ keeper } = await beginDescribing());
  rootId = await rootOf(db());
});
afterAll(dropLibrary);

describe('given values', () => {
  it('fill what arrives, cannot be contradicted, and change with the place, said before', async () => {
    // A series of its own: what a series gives reaches far.
    const home = await furnished(keeper, 'Giving');
    const [committee, year, meeting, note] = [
      await define('dossier', home.series.id, { name: 'Committee' }),
      await define('text', home.series.id, { name: 'Year' }),
      await define('date', home.series.id, { name: 'Meeting' }),
      await define('text', home.series.id, { name: 'Note to file' }),
    ];
    await give(home.series.id, [
      { columnId: committee, mode: 'fixed', value: null, binding: 'dossier' },
      { columnId: year, mode: 'fixed', value: null, binding: 'filingYear' },
      { columnId: meeting, mode: 'fixed', value: null, binding: 'meetingDay' },
      { columnId: note, mode: 'offered', value: 'as offered', binding: null },
    ]);
    const july = await createFolder(keeper, {
      parentId: home.year.id,
      name: '14 Jul meeting',
      meetingDay: '2026-07-14',
    });
    const id = await paper(july.id, 'Minutes');
    expect(await shown(id)).toMatchObject({
      [committee]: home.dossier.id,
      [year]: home.year.name,
      [meeting]: '2026-07-14',
      [note]: 'as offered',
    });
    expect(
      await setValues(keeper, { documentIds: [id], values: { [committee]: null, [note]: 'its own' } }),
    ).toMatchObject({ changed: 1, fixed: 1 });
    const [cell] = (await setCells(keeper, { cells: [{ documentId: id, columnId: year, text: '1999' }] })).outcomes;
    expect(cell).toMatchObject({ state: 'refused' });

    const board = await createDossier(keeper, { seriesId: home.series.id, name: 'Full board', reference: null });
    const forecast = await forecastPaperMove(keeper, { documentIds: [id], toId: board.id });
    expect(forecast.values.map((each) => each.name).sort()).toEqual(['Committee', 'Meeting', 'Year']);
    const { backTo, entryId } = await movePapers(keeper, { documentIds: [id], toId: board.id });
    expect(await shown(id)).toEqual({ [committee]: board.id, [note]: 'its own' });
    await putInPlaces(keeper, { homes: backTo, undoing: entryId });
    expect(await shown(id)).toMatchObject({ [committee]: home.dossier.id, [meeting]: '2026-07-14', [note]: 'its own' });
  });

  it('say how many papers a change of the sheet alters before it does, and by whom each is given', async () => {
    const where = await folder('Sheets');
    const column = await define('text', where.id);
    const inner = await folder('Inner', where.id);
    const ids = [await paper(where.id), await paper(inner.id)];
    await setValues(keeper, { documentIds: [ids[0] ?? ''], values: { [column]: 'mine' } });
    const given = [{ columnId: column, mode: 'fixed' as const, value: 'theirs', binding: null }];
    expect(await forecastGiven(keeper, { placeId: where.id, given })).toMatchObject({
      papers: 2,
      columns: [{ papers: 2, overwritten: 1 }],
    });
    expect(await give(where.id, given)).toEqual({ papers: 2 });
    expect((await givenOf(keeper, { placeId: inner.id })).inForce).toMatchObject([
      { columnId: column, value: 'theirs', fromName: where.name },
    ]);
    await give(where.id, []);
    expect((await shown(ids[0] ?? ''))[column]).toBe('mine');
    expect((await shown(ids[1] ?? ''))[column]).toBeUndefined();
    expect(await refusedAs(setGiven(keeper, { placeId: where.id, given, revision: 0 }))).toBe('conflict');
  });

  it('agree with a plain walk up the tree for every paper, after random sheets and moves', async () => {
    const column = await define('text', rootId, { name: 'Anything' });
    const top = await folder('Random');
    const places = [top];
    for (let made = 0; made < 10; made += 1) {
      const parent = places[Math.floor((made * 7) % places.length)] ?? top;
      places.push(await folder('Random', parent.id));
    }
    const papers = await Promise.all(places.map((each) => paper(each.id)));
    const steps = fc.sample(
      fc.record({
        kind: fc.constantFrom('give', 'take', 'move', 'own'),
        at: fc.nat(places.length - 1),
        to: fc.nat(places.length - 1),
        mode: fc.constantFrom('fixed' as const, 'offered' as const),
        value: fc.constantFrom('a', 'b', 'c'),
      }),
      { numRuns: 40, seed: 7 },
    );
    for (const { kind, at, to, mode, value } of steps) {
      const [one, other] = [places[at], places[to]];
      if (!one || !other) continue;
      if (kind === 'give') await give(one.id, [{ columnId: column, mode, value, binding: null }]);
      else if (kind === 'take') await give(one.id, []);
      else if (kind === 'own')
        await setValues(keeper, { documentIds: [papers[to] ?? ''], values: { [column]: value } });
      else if (one.id !== top.id) await movePlace(keeper, { placeId: one.id, toId: other.id }).catch(() => undefined);
    }
    const sheets = await db().select().from(givenValue).where(eq(givenValue.columnId, column));
    const rows = await db().select().from(place);
    const byId = new Map(rows.map((row) => [row.id, row]));
    const documents = await db()
      .select()
      .from(document)
      .where(sql`${document.id} = any(${sql.param(papers)}::uuid[])`);
    expect(documents).toHaveLength(papers.length);
    for (const each of documents) {
      // The plain walk: from the home upwards, the first sheet that speaks of the column.
      let expected: Value | undefined = each.ownValues[column];
      for (let at = byId.get(each.homeId); at; at = at.parentId === null ? undefined : byId.get(at.parentId)) {
        const here = sheets.find((sheet) => sheet.placeId === at?.id);
        if (!here) continue;
        if (here.mode === 'fixed') expected = here.value ?? undefined;
        break;
      }
      expect(sameValue(each.shownValues[column], expected)).toBe(true);
      const way = (byId.get(each.homeId)?.lineage ?? []).flatMap((id): GivingPlace[] => {
        const row = byId.get(id);
        const given = sheets.filter((sheet) => sheet.placeId === id);
        return row ? [{ ...row, filingYear: null, given }] : [];
      });
      const resolved = resolveGiven(way, () => 'text').get(column);
      expect(shownValues(each.ownValues, resolved?.mode === 'fixed' ? { [column]: resolved.value } : {})).toEqual(
        each.shownValues,
      );
    }
  });
});
