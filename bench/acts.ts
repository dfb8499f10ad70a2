/**
 * How many acts a second one, four and sixteen people get through side by side: folders made, papers filed, notes written,
 * papers moved, and now and then a sheet changed. In a library of its own, dropped at the end.
 */
import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/gate/actor';
import { setAccess } from '@/server/access/change';
import { movePapers, setRemark } from '@/server/documents/amend';
import { createFolder } from '@/server/places/create';
import { dropLibrary, freshLibrary, furnished, newcomer } from '../tests/library';

const perPerson = Number(process.argv[2] ?? 60);

process.env['EMBRIN_TEST_CLUSTER'] ??= process.env['DATABASE_URL'] ?? '';
const keeper = await freshLibrary();
const ann = await newcomer(keeper, 'Ann Reader');
const { dossier } = await furnished(keeper);

/** What one person does: sixteen acts in turn, of which one changes a sheet. */
async function works(actor: Actor, who: string): Promise<number> {
  const own = await createFolder(actor, { parentId: dossier.id, name: who });
  const other = await createFolder(actor, { parentId: dossier.id, name: `${who} too` });
  const papers: string[] = [];
  let done = 2;
  let revision = 0;
  for (; done < perPerson; done += 1) {
    const paper = papers.at(-1);
    const kind = done % 16;
    if (kind === 15) {
      const grants = [
        {
          subject: { kind: 'person' as const, id: ann.personId },
          gives: [revision % 2 === 0 ? ('see' as const) : ('take' as const)],
          withholds: [],
        },
      ];
      revision = (
        await setAccess(actor, { on: { kind: 'place', id: own.id }, follows: true, revision, message: null, grants })
      ).revision;
    } else if (kind % 3 === 0) await createFolder(actor, { parentId: own.id, name: `${done}` });
    else if (kind % 3 === 1 || paper === undefined)
      papers.push(
        await fileBuffer(actor, own.id, `${who} ${done}.txt`, Buffer.from(`${who} ${done} ${Math.random()}`)),
      );
    else if (kind % 2 === 0)
      await setRemark(actor, { documentId: paper, remark: `${done}`, revision: 0 }).catch(() => undefined);
    else await movePapers(actor, { documentIds: [paper], toId: done % 4 < 2 ? own.id : other.id });
  }
  return done;
}

await works(keeper, 'warming up');
for (const people of [1, 4, 16]) {
  const from = performance.now();
  const done = await Promise.all(Array.from({ length: people }, (_, at) => works(keeper, `${people} ${at}`)));
  const seconds = (performance.now() - from) / 1000;
  const acts = done.reduce((sum, each) => sum + each, 0);
  console.log(`${people} at once: ${acts} acts, ${(acts / seconds).toFixed(1)} a second`);
}
await dropLibrary();
