/** A series with a plan and meetings, at a moment in September 2026. */
import type { SlotRow } from '@/core/expected/contract';
import type { Expectation } from '@/core/plans/expectation';
import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/gate/actor';
import { atMoment } from '@/server/base/clock';
import { makeMeetings } from '@/server/meetings/meetings';
import { setPlan } from '@/server/plans/plans';
import { expectedOf } from '@/server/expected/slots';
import { createSeries } from '@/server/places/create';
import { createDossier } from '@/server/dossiers/create';
import { openYear } from '@/server/years/years';
import { freshLibrary, newcomer, open } from '../library';
import { placeOn, say } from '../sheets';

export const moment = new Date('2026-09-15T10:00:00Z');
export const now = <T>(work: () => Promise<T>): Promise<T> => atMoment(moment, work);

export let keeper: Actor;
export let reader: Actor;
export let series: string;
export let board: string;
export let hidden: string;

export const id = (at: number): string => `00000000-0000-4000-9000-0000000000${String(at).padStart(2, '0')}`;
export const folders = [
  { id: id(1), parentId: null, timing: 'meeting' as const, pattern: '{meeting:d MMM} meeting' },
  { id: id(2), parentId: null, timing: 'once' as const, pattern: 'Terms' },
];
export const paper = (at: number, name: string, more: Partial<Expectation>): Expectation => ({
  id: id(at),
  timing: 'meeting',
  name,
  folderId: null,
  conditions: [{ of: 'title', text: 'starts', words: name }],
  dueDays: 0,
  dueFrom: 'start',
  ...more,
});
export const expected = [
  paper(11, 'Agenda', { dueDays: -5, folderId: id(1) }),
  paper(12, 'Minutes', { dueDays: 14 }),
  paper(13, 'Accounts', { timing: 'year', dueFrom: 'end', dueDays: 60 }),
  paper(14, 'Terms of reference', { timing: 'once', folderId: id(2), dueDays: 0 }),
];

/** Founds the library of a test file. */
export async function beginExpecting(): Promise<void> {
  await atMoment(new Date('2026-04-02T09:00:00Z'), async () => {
    keeper = await freshLibrary();
    reader = await newcomer(keeper, 'Rea Der');
    series = (await createSeries(keeper, { name: 'Committees', referencePattern: null })).id;
    for (const startYear of [2025, 2026]) await openYear(keeper, { startYear }).catch(() => undefined);
    board = (await createDossier(keeper, { seriesId: series, name: 'Board', reference: 'BRD' })).id;
    hidden = (await createDossier(keeper, { seriesId: series, name: 'Nominations', reference: 'NOM' })).id;
    await setPlan(keeper, { seriesId: series, folders, expected, revision: 0 });
    const days = ['2026-05-12', '2026-07-14', '2026-11-03'];
    await makeMeetings(keeper, { dossierId: board, days, title: 'Meeting', venue: '' });
    await makeMeetings(keeper, { dossierId: hidden, days: ['2026-05-20'], title: 'Meeting', venue: '' });
    await open(keeper, series, reader, 'reader');
    await say(keeper, placeOn(hidden), [], false);
  });
}

export async function slots(actor: Actor, dossierId = board): Promise<readonly SlotRow[]> {
  const told = await now(() => expectedOf(actor, { dossierId }));
  expect(told.state).toBe('counted');
  return told.slots;
}
export const inWords = (all: readonly SlotRow[]): string[] =>
  all.map((slot) => `${slot.name} ${slot.meeting?.day ?? slot.startYear ?? '-'}: ${slot.state}`);
export const find = (all: readonly SlotRow[], name: string, day: string | number | null): SlotRow => {
  const found = all.find((slot) => slot.name === name && (slot.meeting?.day ?? slot.startYear) === day);
  if (!found) throw new Error(`Nothing is expected of the name ${name}`);
  return found;
};
export const named = ({ expectationId, dossierId, startYear, meetingId }: SlotRow) => ({
  expectationId,
  dossierId,
  startYear,
  meetingId,
});
export async function file(name: string, slot: SlotRow): Promise<string> {
  if (!slot.place) throw new Error('There is nowhere to file it');
  return fileBuffer(keeper, slot.place.id, `${name}.txt`, Buffer.from(`${name} ${slot.place.id}\n`));
}
