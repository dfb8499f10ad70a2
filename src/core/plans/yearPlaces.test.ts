import type { RealFolder } from './planDifference';
import { yearDifference, type RealYear } from './yearPlaces';

const year = (startYear: number, more: Partial<RealYear> = {}): RealYear => ({
  id: `y${startYear}`,
  startYear,
  name: String(startYear),
  holds: false,
  still: false,
  ...more,
});
const folder = (id: string, startYear: number | null): RealFolder => ({
  id,
  parentId: null,
  startYear,
  name: id,
  key: null,
  plannedName: null,
  empty: true,
  still: false,
});
const open = [2025, 2026].map((startYear) => ({ startYear, label: String(startYear) }));
const nothing = { remove: [], move: [] };

it('adds the open years that are lacking, and removes none, where dossiers are filed by year', () => {
  const told = yearDifference(true, open, [year(2024), year(2025)], [], nothing);
  expect(told).toEqual({ add: [open[1]], remove: [], leave: [] });
});

it('removes the years that hold nothing where they are not, leaves the others, and does not touch closed ones', () => {
  const years = [year(2023, { still: true }), year(2024, { holds: true }), year(2025), year(2026)];
  const told = yearDifference(false, open, years, [folder('Letters', 2026), folder('Lease', null)], nothing);
  expect(told.add).toEqual([]);
  expect(told.remove.map((each) => each.startYear)).toEqual([2025]);
  expect(told.leave.map((each) => each.startYear)).toEqual([2024, 2026]);
});

it('removes a year whose folders all go or move elsewhere', () => {
  const [going, moving] = [folder('Invoices', 2025), folder('Lease', 2026)];
  const move = [{ id: moving.id, name: moving.name, wanted: {} as never }];
  const told = yearDifference(false, open, [year(2025), year(2026)], [going, moving], { remove: [going], move });
  expect(told.remove.map((each) => each.startYear)).toEqual([2025, 2026]);
});
