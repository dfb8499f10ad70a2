import type { ColumnType } from '../columns/model';

/** The kind of a property, which decides its conditions and groupings. `moment` is a time, shown as a day. */
export type Sense =
  'text' | 'longText' | 'picked' | 'person' | 'number' | 'day' | 'moment' | 'place' | 'openTo' | 'own' | 'find';

/** The sense of a column's values. */
export const columnSenses: Record<ColumnType, Sense> = {
  choice: 'picked',
  choices: 'picked',
  text: 'text',
  longText: 'longText',
  number: 'number',
  amount: 'number',
  date: 'day',
  yesNo: 'picked',
  person: 'person',
  dossier: 'picked',
  document: 'picked',
};
