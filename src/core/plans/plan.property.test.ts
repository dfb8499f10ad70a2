import { Chance } from '../../../tests/oracle/chance';
import { nameKey } from '../text/fold';
import { expandPlan, type PlannedDossier, type WantedFolder } from './expand';
import { checkPlan, exampleName, type FilingPlan, type PlannedFolder } from './plan';
import { nothingToDo, planDifference, type PlanDifference, type RealFolder } from './planDifference';

const folder = (id: string, timing: PlannedFolder['timing'], pattern: string, parentId: string | null = null) => ({
  id,
  parentId,
  timing,
  pattern,
});

describe('a plan', () => {
  const wrong = (...folders: PlannedFolder[]): string => {
    const checked = checkPlan({ byYear: true, folders });
    return checked.ok ? 'sound' : `${checked.issue.fields?.[0]?.path}: ${checked.issue.says}`;
  };

  it('is sound where names can be told apart, each as often as what it stands in', () => {
    expect(wrong(folder('a', 'once', 'Lease'), folder('b', 'year', 'Lease'), folder('c', 'once', 'Old', 'a'))).toBe(
      'sound',
    );
    expect(wrong(folder('a', 'once', 'Lease'), folder('b', 'once', 'LEASE'))).toBe(
      'folders.1.pattern: Two folders beside each other would be called “LEASE”.',
    );
    // Both stand in the year's place.
    expect(wrong(folder('a', 'year', '14 Jul 2026'), folder('b', 'meeting', '{meeting}'))).toMatch(/^folders\.1/u);
    expect(wrong(folder('a', 'once', 'Lease'), folder('b', 'year', 'Rent', 'a'))).toBe(
      'folders.1.pattern: A folder in another is made as often as that one.',
    );
    expect(wrong(folder('b', 'once', 'Rent', 'a'), folder('a', 'once', 'Lease'))).toMatch(/do not hang together/u);
    expect(wrong(folder('a', 'once', '{client}'))).toMatch(/^folders\.0\.pattern: There is no part/u);
  });

  it('shows what a name would be while it is typed', () => {
    expect(exampleName('Minutes {meeting:d MMM}', 'meeting')).toEqual({ ok: true, value: 'Minutes 14 Jul' });
  });
});

const patterns = {
  once: ['Lease', 'Letters', '{dossier}', '{reference} papers', 'Insurance'],
  year: ['Accounts', 'Letters {year}', 'Budget {year:first}', 'Claims'],
  meeting: ['{meeting}', '{meeting:d MMM} {title}', 'Papers', 'Annexes'],
} as const;

function randomPlan(chance: Chance): FilingPlan {
  const folders: PlannedFolder[] = [];
  for (let more = chance.whole(0, 7); more > 0; more -= 1) {
    const parent = folders.length > 0 && chance.happens(0.4) ? chance.pick(folders) : null;
    const timing = parent?.timing ?? chance.pick(['once', 'year', 'meeting'] as const);
    const next = folder(`f${chance.whole(0, 999_999)}`, timing, chance.pick(patterns[timing]), parent?.id ?? null);
    if (checkPlan({ byYear: true, folders: [...folders, next] }).ok) folders.push(next);
  }
  return { byYear: true, folders };
}

const days = ['2025-05-12', '2025-11-03', '2026-04-14', '2026-07-14', '2026-07-14', '2027-02-28'];
function randomDossier(chance: Chance): PlannedDossier {
  const years = chance.some([2025, 2026], chance.whole(0, 2));
  return {
    name: chance.pick(['Finance', 'Lease', 'Ardent Oysters']),
    reference: chance.pick(['T-001', null]),
    years: years.map((startYear) => ({
      startYear,
      lastYear: startYear + 1,
      label: `${startYear}–${(startYear + 1) % 100}`,
    })),
    meetings: chance.some(days, chance.whole(0, 4)).map((day, at) => ({
      id: `m${at}${day}`,
      day,
      title: 'Meeting',
      startYear: day < '2026-04-01' ? 2025 : 2026,
    })),
  };
}

/** Does what a difference says, as a library would. */
function apply(real: readonly RealFolder[], difference: PlanDifference, wanted: readonly WantedFolder[]): RealFolder[] {
  let next = real.filter((each) => !difference.remove.includes(each));
  const idOf = new Map(next.flatMap((each) => (each.key === null ? [] : [[each.key, each.id] as const])));
  for (const { id, wanted: each } of difference.adopt) idOf.set(each.key, id);
  const leaving = new Set(difference.leave.map((each) => each.id));
  next = next.map((each) => (leaving.has(each.id) ? { ...each, key: null } : each));
  const parentOf = (each: WantedFolder) => (each.parentKey === null ? null : (idOf.get(each.parentKey) ?? 'nowhere'));
  const change = (id: string, make: (each: RealFolder) => RealFolder) => {
    next = next.map((each) => (each.id === id ? make(each) : each));
  };
  for (const each of wanted) {
    if (difference.add.includes(each)) {
      const id = `made ${each.key}`;
      idOf.set(each.key, id);
      next.push({
        id,
        parentId: parentOf(each),
        startYear: each.startYear,
        name: each.name,
        key: each.key,
        plannedName: each.name,
        empty: true,
        still: false,
      });
    }
    for (const { id, wanted: it } of difference.adopt)
      if (it === each) change(id, (one) => ({ ...one, key: each.key, plannedName: one.name }));
    for (const { id, wanted: it } of difference.rename)
      if (it === each) change(id, (one) => ({ ...one, name: each.name, plannedName: each.name }));
    for (const { id, wanted: it } of difference.move)
      if (it === each) change(id, (one) => ({ ...one, parentId: parentOf(each), startYear: each.startYear }));
  }
  return next;
}

/** Moves one folder, with nothing in it, into another, as a person would; what is then above a full one is not empty. */
function movedByHand(chance: Chance, real: readonly RealFolder[]): RealFolder[] {
  const leaves = real.filter((each) => !each.still && !real.some((inner) => inner.parentId === each.id));
  if (leaves.length === 0) return [...real];
  const leaf = chance.pick(leaves);
  const others = real.filter((each) => each.id !== leaf.id && !each.still);
  if (others.length === 0) return [...real];
  const into = chance.pick(others);
  const above = new Set<string>();
  for (let at: RealFolder | undefined = into; at; at = real.find((each) => each.id === at?.parentId)) above.add(at.id);
  return real.map((each) =>
    each.id === leaf.id
      ? { ...each, parentId: into.id, startYear: into.startYear }
      : above.has(each.id) && (!leaf.empty || leaf.key === null)
        ? { ...each, empty: false }
        : each,
  );
}

/** What people do in between: file papers, make, move and rename folders, lock one, close a year. */
function live(chance: Chance, before: readonly RealFolder[]): RealFolder[] {
  const real = chance.happens(0.4) ? movedByHand(chance, before) : before;
  const locked = chance.happens(0.2) && real.length > 0 ? chance.pick(real).id : null;
  const lived = real.map((each) => ({
    ...each,
    empty: each.empty && !chance.happens(0.3),
    name: chance.happens(0.15) ? `${each.name} by hand` : each.name,
    still: each.still || each.id === locked || (each.startYear === 2025 && chance.happens(0.1)),
  }));
  if (chance.happens(0.5))
    lived.push({
      id: `own ${chance.whole(0, 999_999)}`,
      parentId: null,
      startYear: chance.pick([null, 2025, 2026]),
      name: chance.pick(['Lease', 'Accounts', 'Photos']),
      key: null,
      plannedName: null,
      empty: chance.happens(0.5),
      still: false,
    });
  return lived;
}

it('comes true in one step, whatever was there; a second finds nothing to do, and no paper loses its place', () => {
  let changes = 0;
  for (let seed = 0; seed < 500; seed += 1) {
    const chance = new Chance(seed);
    let real: RealFolder[] = [];
    let dossier = randomDossier(chance);
    for (let round = 0; round < 4; round += 1) {
      if (chance.happens(0.4)) dossier = { ...randomDossier(chance), name: dossier.name };
      const wanted = expandPlan(randomPlan(chance))(dossier);
      expect(new Set(wanted.map((each) => each.key)).size).toBe(wanted.length);
      const difference = planDifference(wanted, real);
      const after = apply(real, difference, wanted);
      changes += difference.add.length + difference.rename.length + difference.move.length;
      for (const each of real.filter((one) => !one.empty || one.still))
        expect(after.some((one) => one.id === each.id)).toBe(true);
      for (const each of difference.remove) expect([each.empty, each.still]).toEqual([true, false]);
      const left = new Set(after.map((each) => each.id));
      for (const { parentId } of after) expect(parentId === null || left.has(parentId)).toBe(true);
      const moving = after.filter((each) => !each.still);
      for (const each of wanted) {
        const made = after.filter((one) => one.key === each.key);
        if (!difference.closed.includes(each)) expect(made).toHaveLength(1);
      }
      expect(new Set(moving.flatMap((each) => each.key ?? [])).size).toBe(
        moving.filter((each) => each.key !== null).length,
      );
      expect(nothingToDo(planDifference(wanted, after))).toBe(true);
      real = live(chance, after);
    }
  }
  expect(changes).toBeGreaterThan(2000);
});

it('makes every planned folder exactly once for all it is made for, under names that differ beside each other', () => {
  for (let seed = 0; seed < 400; seed += 1) {
    const chance = new Chance(seed);
    const [plan, dossier] = [randomPlan(chance), randomDossier(chance)];
    const wanted = expandPlan(plan)(dossier);
    const inYears = dossier.meetings.filter((meeting) =>
      dossier.years.some((year) => year.startYear === meeting.startYear),
    );
    const times = { once: 1, year: dossier.years.length, meeting: inYears.length };
    expect(wanted).toHaveLength(plan.folders.reduce((sum, each) => sum + times[each.timing], 0));
    const places = wanted.map((each) => `${each.parentKey ?? each.startYear} ${nameKey(each.name)}`);
    expect(new Set(places).size).toBe(places.length);
    const seen = new Set<string>();
    for (const each of wanted) {
      if (each.parentKey !== null) expect(seen.has(each.parentKey)).toBe(true);
      seen.add(each.key);
    }
  }
});
