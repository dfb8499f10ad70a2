import { journalEvents, type JournalAct } from './events';

/** Kinds of act by which the journal is filtered. */
export const actGroups = ['filing', 'disposal', 'values', 'places', 'access', 'people', 'library'] as const;
export type ActGroup = (typeof actGroups)[number];

/** By the first part of an act's name, and where that says too little by the whole of it. */
const groupOfPrefix: Readonly<Record<string, ActGroup>> = {
  paper: 'filing',
  papers: 'filing',
  note: 'filing',
  places: 'filing',
  'papers.disposed': 'disposal',
  'papers.putBack': 'disposal',
  'papers.putBackElsewhere': 'disposal',
  'papers.destroyed': 'disposal',
  'papers.expired': 'disposal',
  values: 'values',
  given: 'values',
  label: 'values',
  column: 'values',
  list: 'values',
  term: 'values',
  access: 'access',
  link: 'access',
  seeAs: 'access',
  token: 'access',
  person: 'people',
  group: 'people',
  library: 'library',
  view: 'library',
};

/** The kind of an act: of places where nothing else is said. */
export const groupOf = (act: JournalAct): ActGroup =>
  groupOfPrefix[act] ?? groupOfPrefix[act.slice(0, act.indexOf('.'))] ?? 'places';

/** All acts of a kind. */
export const actsOf = (group: ActGroup): JournalAct[] =>
  (Object.keys(journalEvents) as JournalAct[]).filter((act) => groupOf(act) === group);
