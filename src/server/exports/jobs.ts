import { rm } from 'node:fs/promises';
import path from 'node:path';
import { and, count, desc, eq, inArray, isNull, lt, sql } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import { counted } from '@/core/text/measure';
import { acts, actsInSteps, asks } from '../acts/operation';
import { now } from '../base/clock';
import { config } from '../base/config';
import { db, writableDb } from '../db/client';
import { idIn } from '../db/idIn';
import { document, exportJob } from '../db/schema';
import { severalPlaces } from '../documents/crossFile';
import type { Actor } from '../gate/actor';
import { papersFor, placeFor } from '../gate/held';
import { ownOf, paperAllows } from '../gate/visible';

/** So many exports of one person wait or are made at a time. */
const mostAtOnce = 5;

/** The file of an export; with `part`, while it is being made. */
export const exportFile = (id: string, part = false): string =>
  path.join(/* turbopackIgnore: true */ config().EMBRIN_EXPORTS, `${id}.zip${part ? '.part' : ''}`);

/** Asks for an archive, which the worker makes. What may not be copied is left out of it, and counted. */
export const askForExport = acts('export.ask', [], async (tx, actor, { what, folders }) => {
  const [waiting] = await tx
    .select({ exports: count() })
    .from(exportJob)
    .where(and(eq(exportJob.personId, actor.personId), inArray(exportJob.state, ['waiting', 'making'])));
  if ((waiting?.exports ?? 0) >= mostAtOnce)
    refuse('invalid', 'Five of your exports are being made already. Wait for one of them, or cancel it.');
  const exportId = crypto.randomUUID();
  const day = now().toISOString().slice(0, 10);
  const keep = (name: string) =>
    tx.insert(exportJob).values({ id: exportId, personId: actor.personId, name, what, folders, askedAt: now() });
  if ('papers' in what) {
    const papers = await papersFor(tx, actor, what.papers, 'see');
    await keep(`Papers ${day}`);
    const subjects = papers.map(({ id }) => id);
    return { entry: { act: 'papers.exported', subjects, detail: { count: papers } }, result: { exportId } };
  }
  if ('across' in what) {
    await keep(`Across dossiers ${day}`);
    const subjects = what.across.marks.flatMap(({ id, on }) => (on ? [id] : []));
    const from = { id: null, name: counted(subjects.length, 'place') };
    return { entry: { act: 'places.exported', subjects, detail: { from } }, result: { exportId } };
  }
  const places = [];
  for (const id of new Set(what.places)) places.push(await placeFor(tx, actor, id, 'see'));
  const from = severalPlaces(places);
  await keep(places.length === 1 ? `${from.name} ${day}` : `Papers of ${from.name} ${day}`);
  return {
    entry: { act: 'places.exported', subjects: places.map(({ id }) => id), detail: { from } },
    result: { exportId },
  };
});

/** The exports that the caller asked for, newest first. */
export const exportsOf = asks('exports.mine', async (actor) => {
  const personId = ownOf(actor);
  if (personId === null) return [];
  const rows = await db()
    .select()
    .from(exportJob)
    .where(eq(exportJob.personId, personId))
    .orderBy(desc(exportJob.askedAt))
    .limit(50);
  return rows.map(({ askedAt, begunAt, expiresAt, documentIds, id, name, state, fault, leftOut, bytes, ofBytes }) => ({
    id,
    name,
    state,
    fault,
    leftOut,
    bytes,
    ofBytes,
    papers: documentIds?.length ?? null,
    askedAt: askedAt.toISOString(),
    secondsLeft: secondsLeft(bytes, ofBytes, begunAt),
    expiresAt: expiresAt?.toISOString() ?? null,
  }));
});

/** By the pace so far; null in the first two seconds, which are none to go by. */
function secondsLeft(bytes: number, ofBytes: number | null, begunAt: Date | null): number | null {
  const took = begunAt === null ? 0 : (now().getTime() - begunAt.getTime()) / 1000;
  if (took < 2 || bytes === 0 || ofBytes === null) return null;
  return Math.max(0, (ofBytes - bytes) * (took / bytes));
}

/** Cancels an export that is not done, or removes it with its file. Has no journal entry: what was asked for has one. */
export const removeExport = actsInSteps('export.remove', async ({ personId }, { exportId }) => {
  const gone = await writableDb()
    .delete(exportJob)
    .where(and(eq(exportJob.id, exportId), eq(exportJob.personId, personId)))
    .returning({ id: exportJob.id });
  if (gone.length === 0) refuse('not-found');
  await removeFiles(exportId);
  return null;
});

const removeFiles = (id: string): Promise<unknown> =>
  Promise.all([rm(exportFile(id), { force: true }), rm(exportFile(id, true), { force: true })]);

/** The file of an export for whoever asked, as long as all that is in it is still open to them. */
export async function fetchExport(
  actor: Actor,
  exportId: string,
): Promise<{ file: string; name: string; bytes: number }> {
  const [found] = await db()
    .select()
    .from(exportJob)
    .where(
      and(eq(exportJob.id, exportId), eq(exportJob.personId, ownOf(actor) ?? '00000000-0000-0000-0000-000000000000')),
    );
  if (found?.state !== 'done') refuse('not-found');
  if ((await takeable(actor, found.documentIds ?? [])) < (found.documentIds?.length ?? 0))
    refuse('gone', 'Some papers of this archive are no longer open to you. Export those that are.');
  return { file: exportFile(exportId), name: found.name, bytes: found.bytes };
}

/** How many of some papers the caller may still take copies of. */
export async function takeable(actor: Actor, ids: readonly string[]): Promise<number> {
  const [found] = await db()
    .select({ papers: count() })
    .from(document)
    .where(and(idIn(document.id, ids), isNull(document.disposedAt), paperAllows(actor, 'take')));
  return found?.papers ?? 0;
}

/** Removes the exports whose days are over. */
export async function sweepExports(): Promise<void> {
  const old = await writableDb()
    .delete(exportJob)
    .where(
      sql`${lt(exportJob.expiresAt, now())} or (${exportJob.state} = 'failed' and ${exportJob.askedAt} < ${now()}::timestamptz - interval '30 days')`,
    )
    .returning({ id: exportJob.id });
  for (const { id } of old) await removeFiles(id);
}
