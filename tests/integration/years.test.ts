import { Readable } from 'node:stream';
import { and, eq } from 'drizzle-orm';
import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/gate/actor';
import { setStandstill } from '@/server/standstill/standstill';
import { db } from '@/server/db/client';
import { meeting, place } from '@/server/db/schema';
import { calendarOf, changeMeeting, makeMeetings, meetingsOf } from '@/server/meetings/meetings';
import { setPlan } from '@/server/plans/plans';
import { forecastYearClosing, forecastYearOpening, openYear, setYearClosed } from '@/server/years/years';
import type { YearLabelStyle } from '@/core/calendar/filingYear';
import { changeSettings, librarySettings } from '@/server/library/settings';
import { createSeries } from '@/server/places/create';
import { createDossier } from '@/server/dossiers/create';
import { openPlace } from '@/server/places/open';
import { ownUpload, receive } from '@/server/uploads/receive';
import { settleUpload } from '@/server/uploads/settle';
import { startUpload, unfinishedUploads } from '@/server/uploads/start';
import { dropLibrary, freshLibrary, newcomer, open, refusedAs } from '../library';

let keeper: Actor;
let officer: Actor;
let series: string;
let board: string;
const underWay = crypto.randomUUID();
const id = (at: number): string => `00000000-0000-4000-9000-00000000000${at}`;

beforeAll(async () => {
  keeper = await freshLibrary();
  officer = await newcomer(keeper, 'Off Icer');
  series = (await createSeries(keeper, { name: 'Committees', referencePattern: null })).id;
  board = (await createDossier(keeper, { seriesId: series, name: 'Board', reference: null })).id;
  await createDossier(keeper, { seriesId: series, name: 'Audit', reference: null });
  await open(keeper, series, officer, 'officer');
  await setPlan(keeper, {
    seriesId: series,
    folders: [
      { id: id(1), parentId: null, timing: 'year', pattern: 'Letters' },
      { id: id(2), parentId: null, timing: 'meeting', pattern: '{meeting:d MMM} {title}' },
    ],
    expected: [
      {
        id: id(3),
        timing: 'year',
        name: 'Report',
        folderId: null,
        conditions: [],
        dueDays: 0,
        dueFrom: 'start',
      },
    ],
    revision: 0,
  });
});
afterAll(dropLibrary);

const first = async (): Promise<number> => (await librarySettings()).filingYears[0] ?? 0;
async function yearOf(dossierId: string, startYear: number) {
  const { children } = await openPlace(keeper, { placeId: dossierId });
  const found = children.find((child) => child.filingYear === startYear);
  if (!found) throw new Error(`There is no ${startYear}`);
  return found;
}

describe('a filing year', () => {
  it('is opened in every open dossier with the folders of the plan, as was said before; nothing is made by the asking', async () => {
    const next = (await first()) + 1;
    const closed = await createDossier(keeper, { seriesId: series, name: 'Wound up', reference: null });
    await setStandstill(keeper, {
      placeId: closed.id,
      closed: true,
      locked: false,
      reason: '',
      revision: closed.revision,
    });
    const said = await forecastYearOpening(keeper, { startYear: next });
    expect(said).toEqual({ dossiers: 2, folders: 2, closedDossiers: 1 });
    expect((await librarySettings()).filingYears).not.toContain(next);
    expect(await openYear(keeper, { startYear: next })).toEqual({ made: said.dossiers, folders: said.folders });
    expect(
      (await openPlace(keeper, { placeId: (await yearOf(board, next)).id })).children.map((each) => each.name),
    ).toEqual(['Letters']);
    expect((await openPlace(keeper, { placeId: closed.id })).children.map((each) => each.filingYear)).not.toContain(
      next,
    );
    expect(await refusedAs(openYear(keeper, { startYear: next }))).toBe('name-taken');
    expect(await refusedAs(forecastYearOpening(keeper, { startYear: next }))).toBe('name-taken');
    expect(await refusedAs(openYear(officer, { startYear: next + 1 }))).toBe('not-allowed');
  });

  it('is closed in all dossiers at once, after what is unfinished was said; with a file under way into it', async () => {
    const year = await first();
    const place0 = await yearOf(board, year);
    await startUpload(keeper, underWay, 9, { placeId: place0.id, fileName: 'under way.txt' });
    const said = await forecastYearClosing(keeper, { startYear: year });
    // The dossier that is closed by itself has a place for it, too.
    expect(said).toMatchObject({
      state: 'counted',
      gaps: 3,
      gapsBySeries: [{ name: 'Committees', count: 3 }],
      uploads: 1,
    });
    expect(await refusedAs(setYearClosed(officer, { startYear: year, closed: true, reason: '' }))).toBe('not-allowed');
    expect(await setYearClosed(keeper, { startYear: year, closed: true, reason: 'Audited' })).toEqual({
      places: said.places,
    });
    expect((await librarySettings()).closedYears).toEqual([year]);
    expect(await refusedAs(fileBuffer(officer, place0.id, 'late.txt', Buffer.from('late\n')))).toBe('closed-place');
    // What was under way arrives, is not filed, and stays with its sender.
    await receive(await ownUpload(keeper, underWay), 0, Readable.from([Buffer.from('underway\n')]));
    expect(await refusedAs(settleUpload(keeper, underWay))).toBe('closed-place');
    expect((await unfinishedUploads(keeper)).map((each) => each.id)).toContain(underWay);
    // A new dossier gets the open years only.
    const fresh = await createDossier(keeper, { seriesId: series, name: 'New', reference: null });
    expect((await openPlace(keeper, { placeId: fresh.id })).children.map((each) => each.filingYear)).toEqual([
      year + 1,
    ]);
  });

  it('is opened again with a reason, and not without', async () => {
    const year = await first();
    expect(await refusedAs(setYearClosed(keeper, { startYear: year, closed: false, reason: '' }))).toBe('invalid');
    const { places } = await setYearClosed(keeper, { startYear: year, closed: false, reason: 'A letter came late' });
    expect(places).toBe(3);
    expect((await librarySettings()).closedYears).toEqual([]);
    await fileBuffer(officer, (await yearOf(board, year)).id, 'late.txt', Buffer.from('late\n'));
    expect(await settleUpload(keeper, underWay)).toMatchObject({ state: 'filed' });
    // The dossier that was made meanwhile gets a place for it.
    const [fresh] = await db().select({ id: place.id }).from(place).where(eq(place.name, 'New'));
    expect(await yearOf(fresh?.id ?? '', year)).toMatchObject({ closed: false });
    expect(await refusedAs(setYearClosed(keeper, { startYear: 1900, closed: true, reason: '' }))).toBe('not-found');
  });
});

it('a dossier that is opened again gets the years it has missed, with their folders', async () => {
  const [wound] = await db()
    .select({ id: place.id, revision: place.revision })
    .from(place)
    .where(eq(place.name, 'Wound up'));
  if (!wound) throw new Error('The closed dossier is not there');
  const next = (await first()) + 1;
  await expect(yearOf(wound.id, next)).rejects.toThrow('There is no');
  await setStandstill(keeper, {
    placeId: wound.id,
    closed: false,
    locked: false,
    reason: 'It sits again',
    revision: wound.revision,
  });
  const { children } = await openPlace(keeper, { placeId: (await yearOf(wound.id, next)).id });
  expect(children.map((each) => each.name)).toEqual(['Letters']);
});

describe('a meeting that changes', () => {
  it('takes its folder along: another name on another day, another year’s place in another year', async () => {
    const year = await first();
    await makeMeetings(keeper, { dossierId: board, days: [`${year}-07-14`], title: 'Meeting', venue: '' });
    const [made] = await meetingsOf(keeper, { dossierId: board });
    if (!made) throw new Error('No meeting was made');
    const folder = async () => {
      const rows = await db()
        .select({ name: place.name, year: place.filingYear })
        .from(place)
        .where(and(eq(place.kind, 'folder'), eq(place.plannedKey, `${id(2)} ${made.id}`)));
      return rows.map((row) => `${row.year} ${row.name}`);
    };
    expect(await folder()).toEqual([`${year} 14 Jul Meeting`]);
    const change = (who: Actor, day: string, title: string, revision: number) =>
      changeMeeting(who, { meetingId: made.id, day, title, venue: 'Harbour office', revision });
    await change(keeper, `${year}-07-21`, 'Extraordinary', 0);
    expect(await folder()).toEqual([`${year} 21 Jul Extraordinary`]);
    await change(officer, `${year + 1}-06-02`, 'Extraordinary', 1);
    expect(await folder()).toEqual([`${year + 1} 2 Jun Extraordinary`]);
    expect(await refusedAs(change(keeper, `${year}-01-01`, 'Late', 0))).toBe('conflict');
    const stranger = await newcomer(keeper, 'Stran Ger');
    expect(await refusedAs(change(stranger, `${year}-01-01`, 'Mine', 2))).toBe('not-found');
    expect(await db().$count(meeting)).toBe(1);
    const { text } = await calendarOf(officer, board);
    expect(text).toContain(`DTSTART;VALUE=DATE:${year + 1}0602`);
    expect(text).toContain('SEQUENCE:2');
    expect(await refusedAs(calendarOf(stranger, board))).toBe('not-found');
  });
});

it('years are written by both calendar years, the first or the last, also where one takes the name that another had', async () => {
  const [start = 0, next = 0] = (await librarySettings()).filingYears;
  const write = async (yearLabels: YearLabelStyle) => {
    const { rootId: _root, filingYears: _years, closedYears: _closed, ...settings } = await librarySettings();
    await changeSettings(keeper, { ...settings, families: [...settings.families], yearLabels });
    const { children } = await openPlace(keeper, { placeId: board });
    return children.filter((each) => each.kind === 'year').map((each) => each.name);
  };
  expect(next).toBe(start + 1);
  expect((await write('first')).slice(0, 2)).toEqual([`${start}`, `${next}`]);
  // Each is called now as the next one was.
  expect((await write('last')).slice(0, 2)).toEqual([`${start + 1}`, `${next + 1}`]);
  expect((await write('first')).slice(0, 2)).toEqual([`${start}`, `${next}`]);
  expect((await write('both'))[0]).toBe(`${start}–${String(next).slice(2)}`);
});
