/** Measures setting a column on 5,000 papers in one act, and its undoing, on a database that keeps what it is told: `npm run bench:values`. */
import { eq } from 'drizzle-orm';
import { plainFields } from '@/core/columns/contract';
import { defineColumn } from '@/server/columns/define';
import { createList, listOf } from '@/server/columns/lists';
import { setValues, undoValues } from '@/server/columns/setValues';
import { db } from '@/server/db/client';
import { document } from '@/server/db/schema';
import { createFolder } from '@/server/places/create';
import { dropLibrary, freshLibrary, furnished } from '../tests/library';
import { fillWithPapers } from './large';

const papers = 5000;
const rounds = 5;
const keeper = await freshLibrary();
const { year } = await furnished(keeper);
const folder = await createFolder(keeper, { parentId: year.id, name: 'Measured' });
await fillWithPapers(keeper, [folder.id], papers);
const { id: listId } = await createList(keeper, { name: 'Status', terms: ['Current', 'Archived'] });
const { terms } = await listOf(keeper, listId);
const { id: columnId } = await defineColumn(keeper, {
  ...plainFields,
  placeId: folder.id,
  name: 'Status',
  type: 'choice',
  listId,
});
const documentIds = (await db().select({ id: document.id }).from(document).where(eq(document.homeId, folder.id))).map(
  (row) => row.id,
);

const middle = (times: readonly number[]): string =>
  `${Math.round([...times].sort((a, b) => a - b)[Math.floor(times.length / 2)] ?? 0)} ms`;
const setting: number[] = [];
const undoing: number[] = [];
for (let round = 0; round < rounds; round += 1) {
  const began = performance.now();
  const { entryId } = await setValues(keeper, { documentIds, values: { [columnId]: terms[round % 2]?.id ?? null } });
  setting.push(performance.now() - began);
  const turned = performance.now();
  await undoValues(keeper, { entryId: entryId ?? 0 });
  undoing.push(performance.now() - turned);
}
console.log(
  `A column set on ${papers} papers in one act: median ${middle(setting)} of ${rounds}; undone: median ${middle(undoing)}`,
);
await dropLibrary().catch(() => undefined);
