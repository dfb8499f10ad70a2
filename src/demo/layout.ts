import type { DetailField } from '@/core/dossiers/details';
import type { Expectation } from '@/core/plans/expectation';
import type { ReadyFolder } from '@/core/plans/readyPlans';
import type { Part } from '@/core/views/conditions';
import type { Chance } from '../core/chance/chance';

/** The series and dossiers of the demo library, as data. */
export interface DossierPlan {
  readonly name: string;
  readonly reference: string | null;
}

/** The committees, with the months in which they meet. */
export const committees: readonly (DossierPlan & { readonly meetingMonths: readonly number[] })[] = [
  { name: 'Full board', reference: 'BRD', meetingMonths: [4, 6, 7, 9, 11, 1] },
  { name: 'Finance & audit', reference: 'FAC', meetingMonths: [5, 7, 9, 11] },
  { name: 'Navigation & safety', reference: 'NAV', meetingMonths: [4, 6, 9, 11, 2] },
  { name: 'Works & dredging', reference: 'WKS', meetingMonths: [5, 10, 2] },
  { name: 'Nominations', reference: 'NOM', meetingMonths: [6, 12] },
];

const tenantFirst = [
  'Ardent',
  'Cockle',
  'Lantern',
  'Marl',
  'Skerrow',
  'Greyling',
  'Samphire',
  'Tern',
  'Ebb & Flow',
  'Halyard',
  'O’Rourke',
  'Løvø',
  'Pennant',
  'Wrack',
  'Little Egret',
  'St Brannoc’s',
  'Café Marée',
  'Muddle',
];
const tenantTrade = [
  'Oysters',
  'Ferries',
  'Sail Loft',
  'Slipway',
  'Boatyard',
  'Chandlery',
  'Sailing Club',
  'Divers',
  'Kayaks',
  'Moorings',
];
const supplierTrade = [
  'Marine Engineers',
  'Electrical',
  'Timber',
  'Surveyors',
  'Insurance Brokers',
  'Dredging',
  'Printers',
  'Fuel',
  'Rope & Chain',
  'Solicitors',
];

/** Names put together so that none comes twice. */
function names(chance: Chance, first: readonly string[], second: readonly string[], count: number): string[] {
  const made = new Set<string>();
  while (made.size < count) made.add(`${chance.pick(first)} ${chance.pick(second)}`);
  return [...made];
}

/** The names of forty tenants. */
export const tenants = (chance: Chance): string[] => names(chance, tenantFirst, tenantTrade, 40);
/** The names of thirty suppliers. */
export const suppliers = (chance: Chance): string[] => names(chance, tenantFirst, supplierTrade, 30);

/** The jobs under way on the quays. */
export const works: readonly DossierPlan[] = [
  { name: 'Pontoon repair', reference: 'W-23-04' },
  { name: 'North Bar dredging', reference: 'W-23-07' },
  { name: 'Lantern Wharf fendering', reference: 'W-24-01' },
  { name: 'Ferry Stage bridge', reference: 'W-24-03' },
  { name: 'Visitor Pontoon services', reference: 'W-25-02' },
  { name: 'Marsh Quay wall survey', reference: 'W-25-05' },
  { name: 'Slipway crane', reference: 'W-26-01' },
  { name: 'Cockle Hard dredging', reference: 'W-26-02' },
];

/** The governing papers. */
export const governing: readonly (DossierPlan & { readonly papers: readonly string[] })[] = [
  {
    name: 'Policies',
    reference: 'POL',
    papers: [
      'Health and safety policy',
      'Retention of records policy',
      'Expenses policy',
      'Whistleblowing policy',
      'Data protection policy',
      'Procurement policy',
    ],
  },
  {
    name: 'Standing orders',
    reference: 'STO',
    papers: [
      'Standing orders of the board',
      'Terms of reference, Finance & audit',
      'Terms of reference, Nominations',
      'Scheme of delegation',
    ],
  },
  {
    name: 'Licences and consents',
    reference: 'LIC',
    papers: [
      'Dredging licence 2024 to 2029',
      'Seabed lease',
      'Consent for the breakwater light',
      'Water abstraction licence',
    ],
  },
  {
    name: 'Templates',
    reference: 'TPL',
    papers: ['Agenda template', 'Minutes template', 'Letter template', 'Risk register template'],
  },
];

/** The filing years that the demo fills, by their first calendar year. */
export const filingYears = [2023, 2024, 2025, 2026] as const;

/** An expected paper as data: the folder by its pattern, conditions by the names of columns and terms. */
export interface ExpectedPlan extends Pick<Expectation, 'timing' | 'name' | 'dueDays' | 'dueFrom'> {
  readonly folder: string | null;
  readonly conditions: (of: DemoNames) => readonly Part[];
}
/** Ids of what the demo made, by name. */
export interface DemoNames {
  readonly column: (name: string) => string;
  readonly term: (name: string) => string;
}

/** What the demo lays out in one series. */
export interface SeriesPlan {
  readonly series: string;
  readonly folders: readonly ReadyFolder[];
  readonly expected: readonly ExpectedPlan[];
  readonly fields: readonly Omit<DetailField, 'id'>[];
}

/** A paper of a type, be it described or only titled so: a ninth of the papers were never described. */
const ofType =
  (type: string, titled: string) =>
  ({ column, term }: DemoNames): Part => ({
    how: 'any',
    parts: [
      { of: column('Paper type'), anyOf: [term(type)] },
      { of: 'title', text: 'starts', words: titled },
    ],
  });
const titled = (words: string): Part => ({ of: 'title', text: 'starts', words });
const field = (name: string, kind: DetailField['kind'], choices: readonly string[] = []) => ({ name, kind, choices });

/** The plans of the series whose dossiers are all laid out alike, with what is expected and known of each. */
export const seriesPlans: readonly SeriesPlan[] = [
  {
    series: 'Board & committees',
    folders: [{ timing: 'meeting', pattern: '{meeting:d MMM} meeting' }],
    expected: [
      {
        timing: 'meeting',
        name: 'Agenda',
        folder: null,
        conditions: (of) => [ofType('Agenda', 'Agenda')(of)],
        dueDays: -5,
        dueFrom: 'start',
      },
      {
        timing: 'meeting',
        name: 'Minutes',
        folder: null,
        conditions: (of) => [
          ofType('Minutes', 'Minutes')(of),
          { how: 'none', parts: [{ of: 'title', text: 'contains', words: '(draft' }] },
        ],
        dueDays: 14,
        dueFrom: 'start',
      },
      {
        timing: 'meeting',
        name: 'Signed minutes',
        folder: null,
        conditions: () => [titled('Minutes'), { of: 'title', text: 'contains', words: ', signed' }],
        dueDays: 60,
        dueFrom: 'start',
      },
      {
        timing: 'year',
        name: 'Annual report',
        folder: null,
        conditions: () => [titled('Annual report')],
        dueDays: 61,
        dueFrom: 'end',
      },
    ],
    fields: [field('Chair', 'person'), field('Secretary', 'officer'), field('Quorum', 'text')],
  },
  {
    series: 'Berth tenants',
    folders: [
      { timing: 'once', pattern: 'Lease' },
      { timing: 'once', pattern: 'Insurance' },
    ],
    expected: [
      {
        timing: 'once',
        name: 'Lease',
        folder: 'Lease',
        conditions: () => [titled('Berth lease')],
        dueDays: 30,
        dueFrom: 'start',
      },
      {
        timing: 'once',
        name: 'Insurance certificate of the last 400 days',
        folder: 'Insurance',
        conditions: ({ column }) => [{ of: column('Document date'), span: { last: 400, unit: 'day' } }],
        dueDays: 60,
        dueFrom: 'start',
      },
    ],
    fields: [
      field('Contact', 'text'),
      field('E-mail', 'email'),
      field('Telephone', 'telephone'),
      field('Officer', 'officer'),
      field('Berthed since', 'started'),
      field('Left on', 'ended'),
      field('Standing', 'choice', ['Paid up', 'In arrears', 'Leaving']),
    ],
  },
  {
    series: 'Works',
    folders: [
      { timing: 'once', pattern: 'Contract' },
      { timing: 'once', pattern: 'Cost' },
      { timing: 'once', pattern: 'Progress' },
      { timing: 'once', pattern: 'Photographs' },
    ],
    expected: [
      {
        timing: 'once',
        name: 'Contract',
        folder: 'Contract',
        conditions: () => [titled('Contract,')],
        dueDays: 180,
        dueFrom: 'start',
      },
      {
        timing: 'once',
        name: 'Completion certificate',
        folder: 'Contract',
        conditions: () => [titled('Completion certificate')],
        dueDays: 900,
        dueFrom: 'start',
      },
    ],
    fields: [field('Engineer', 'officer'), field('Began', 'started'), field('Finished', 'ended')],
  },
];

const contacts = ['Aled Penrose', 'Bronagh Sime', 'Cosmin Hale', 'Dervla Quint', 'Esk Marlow', 'Fenella Voss'];

/** What is known of the dossiers of a series, by the names of its fields; as it would be typed. */
export function detailsFor(series: string, dossier: DossierPlan, index: number): Readonly<Record<string, string>> {
  const year = 2000 + Number(dossier.reference?.slice(2, 4));
  switch (series) {
    case 'Board & committees':
      return {
        Chair: index === 4 ? '' : 'Idris Quaye',
        Secretary: index === 2 ? 'Petra Lindqvist-Hale' : 'Maren Tolliver',
        Quorum: `${3 + (index % 2)} members`,
      };
    case 'Berth tenants':
      return {
        Contact: contacts[index % contacts.length] ?? '',
        'E-mail': `berth${String(index + 1).padStart(3, '0')}@tenants.example`,
        Telephone: `01632 960${String(100 + index)}`,
        Officer: index % 7 === 3 ? 'Petra Lindqvist-Hale' : 'Oona Marsh',
        'Berthed since': `${2023 + (index % 3)}-0${4 + (index % 5)}-01`,
        Standing: index % 9 === 5 ? 'In arrears' : index % 13 === 7 ? 'Leaving' : 'Paid up',
      };
    case 'Works':
      return {
        Engineer: 'Anaïs O’Dowd',
        Began: `${year}-05-01`,
        ...(year < 2025 ? { Finished: `${year + 1}-10-31` } : {}),
      };
    default:
      return {};
  }
}
