/** Names, words and ids that are awkward to sort, fold and find, from which random libraries are made. */

export const id = (kind: number, number: number): string =>
  `${(number * 2654435761 + kind).toString(16).slice(-8).padStart(8, '0')}-${kind.toString(16).padStart(4, '0')}-4000-8000-${number.toString(16).padStart(12, '0')}`;
export const kinds = {
  place: 1,
  paper: 2,
  column: 3,
  term: 4,
  person: 5,
  label: 6,
  scope: 7,
  planned: 8,
  meeting: 9,
  rule: 10,
  retention: 11,
};
export const people = Array.from({ length: 5 }, (_, at) => id(kinds.person, at));
export const personNames = ['Maren', 'idris 10', 'Idris 9', 'Åsa', 'Asa'];
export const terms = Array.from({ length: 6 }, (_, at) => id(kinds.term, at));
export const labels = Array.from({ length: 4 }, (_, at) => id(kinds.label, at));
export const titles = [
  'Minutes 2',
  'Minutes 10',
  'minutes 2',
  'Lease',
  'Léase',
  'Ärzte',
  'Zoë’s note',
  'Survey_report 100%',
  '',
  '日本',
];
export const texts = ['north', 'North', 'pontoon 7', 'pontoon 70', 'O’Hara', '100%', '_', '(.*)'];
export const words = ['minutes', 'lease', 'o', '100%', '_', '(.*)', 'Ä', '2', 'zoes', 'ponto'];

export const timeZones = ['Europe/London', 'Pacific/Kiritimati', 'America/St_Johns', 'UTC', 'Asia/Kathmandu'];
