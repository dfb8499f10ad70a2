import type { ReadyFolder } from '@/core/filing/readyPlans';
import type { Chance } from './random';

/** The series and dossiers of the demo library, as data. */
export interface DossierPlan {
  readonly name: string;
  readonly reference: string | null;
}

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

export const tenants = (chance: Chance): string[] => names(chance, tenantFirst, tenantTrade, 40);
export const suppliers = (chance: Chance): string[] => names(chance, tenantFirst, supplierTrade, 30);

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

export const filingYears = [2023, 2024, 2025, 2026] as const;

/** The plans of the series whose dossiers are all laid out alike. */
export const filingPlans: readonly { readonly series: string; readonly folders: readonly ReadyFolder[] }[] = [
  { series: 'Board & committees', folders: [{ timing: 'meeting', pattern: '{meeting:d MMM} meeting' }] },
  {
    series: 'Berth tenants',
    folders: [
      { timing: 'once', pattern: 'Lease' },
      { timing: 'once', pattern: 'Insurance' },
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
  },
];
