import type { GapRow, RackDossier } from './contract';
import { gatherGaps } from './gapOrder';
import { emptyHolding } from './rack';
import { arrangeRack, type RackFilter } from './rackOrder';

const row = (name: string, reference: string | null, papers: number, gaps: number, details = {}): RackDossier => ({
  dossierId: name,
  name,
  reference,
  closed: false,
  bareStep: false,
  details,
  squares: '',
  cells: [],
  places: [],
  whole: { ...emptyHolding, papers },
  gaps,
});
const rows = [
  row('Tern 10', 'T-10', 5, 0, { standing: 'Paid up', officer: 'p1' }),
  row('Tern 9', 'T-9', 7, 2, { standing: 'In arrears', officer: 'p2' }),
  row('Café Marée', null, 7, 1),
];
const names = { p1: 'Oona Marsh', p2: 'Petra' };
const all: RackFilter = { words: '', details: {}, onlyGaps: false };
const shown = (filter: Partial<RackFilter>, order: Parameters<typeof arrangeRack>[3] = 'keeper') =>
  arrangeRack(rows, names, { ...all, ...filter }, order).map((each) => each.name);

describe('the rows of a rack', () => {
  it('come in the order for everyone, or by name and reference as people read numbers, or by how much', () => {
    expect(shown({})).toEqual(['Tern 10', 'Tern 9', 'Café Marée']);
    expect(shown({}, 'name')).toEqual(['Café Marée', 'Tern 9', 'Tern 10']);
    expect(shown({}, 'reference')).toEqual(['Tern 9', 'Tern 10', 'Café Marée']);
    expect(shown({}, 'papers')).toEqual(['Tern 9', 'Café Marée', 'Tern 10']);
    expect(shown({}, 'gaps')).toEqual(['Tern 9', 'Café Marée', 'Tern 10']);
  });
  it('are found by words of names, references and details, whatever their case and accents', () => {
    expect(shown({ words: 'cafe' })).toEqual(['Café Marée']);
    expect(shown({ words: 'tern OONA' })).toEqual(['Tern 10']);
    expect(shown({ words: 't-9' })).toEqual(['Tern 9']);
    expect(shown({ words: 'arrears' })).toEqual(['Tern 9']);
  });
  it('are narrowed by a detail, and to those with gaps', () => {
    expect(shown({ details: { standing: 'Paid up' } })).toEqual(['Tern 10']);
    expect(shown({ details: { standing: '' } })).toHaveLength(3);
    expect(shown({ onlyGaps: true })).toEqual(['Tern 9', 'Café Marée']);
  });
});

it('gathers gaps by dossier, by month and by who is responsible, the longest overdue first', () => {
  const gap = (dossier: string, name: string, due: string, officer: string | null): GapRow => ({
    expectationId: name,
    dossierId: dossier,
    startYear: null,
    meetingId: null,
    series: 'Tenants',
    dossier,
    reference: null,
    name,
    yearLabel: null,
    meeting: null,
    due,
    officer,
    isMine: false,
  });
  const gaps = [
    gap('Tern 10', 'Lease', '2026-07-14', null),
    gap('Tern 9', 'Lease', '2026-07-02', 'Oona'),
    gap('Tern 9', 'Certificate', '2025-12-31', 'Oona'),
  ];
  const told = (by: Parameters<typeof gatherGaps>[1]) =>
    gatherGaps(gaps, by, (day) => day.slice(0, 7)).map(
      (group) => `${group.name}: ${group.gaps.map((each) => each.name).join(', ')}`,
    );
  expect(told('dossier')).toEqual(['Tenants / Tern 9: Certificate, Lease', 'Tenants / Tern 10: Lease']);
  expect(told('due')).toEqual(['Due in 2025-12: Certificate', 'Due in 2026-07: Lease, Lease']);
  expect(told('officer')).toEqual(['Oona: Certificate, Lease', 'Nobody is responsible: Lease']);
});
