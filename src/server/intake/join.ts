import { randomUUID } from 'node:crypto';
import { readFile, rm } from 'node:fs/promises';
import { and, asc, eq, isNotNull, like, not, notExists } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import { refuse } from '@/core/errors/refusal';
import type { Joining } from '@/core/intake/join';
import { isMail } from '@/core/intake/model';
import { readingPriority } from '@/core/reading/stages';
import { acts } from '../acts/operation';
import { now } from '../base/clock';
import { sha256Hex } from '../base/sha256';
import { storeBytes } from '../blobs/keep';
import { removeUnneeded } from '../blobs/remove';
import { inFolder } from '../cage/file';
import { CagedFault } from '../cage/limits';
import { runProgram } from '../cage/program';
import { db, type Tx } from '../db/client';
import { idIn } from '../db/idIn';
import { arrival } from '../db/schema';
import { transaction } from '../db/transaction';
import { enqueue } from '../jobs/queue';
import { logFault } from '../log/fault';
import { arrivalFor } from './access';
import { requireWaiting, settle, type Arrival } from './settle';
import { isRead } from './isRead';
import { pagesIn } from './pagesIn';
import { calmly, cutting } from './stack';

/** Has arrivals made into one, in their order. The worker does it; they are kept as they came. */
export const joinArrivals = acts('arrivals.join', [], async (tx, actor, { arrivals }) => {
  if (new Set(arrivals.map(({ id }) => id)).size < arrivals.length) refuse('invalid', 'An arrival is joined once.');
  const found = new Map<string, Arrival>();
  // In one order, so that two who join the same do not wait for each other.
  for (const { id, revision } of arrivals.toSorted((one, other) => (one.id < other.id ? -1 : 1))) {
    const row = await arrivalFor(tx, actor, id);
    requireWaiting(row, revision);
    if (isMail(row.mediaType)) refuse('invalid', 'A mail is not joined: its attachments are filed as they are.');
    found.set(id, row);
  }
  const order = arrivals.map(({ id, turn }) => ({ arrivalId: id, turn }));
  const [head, ...others] = arrivals.flatMap(({ id }) => found.get(id) ?? []);
  if (head) await begin(tx, head, others, { into: randomUUID(), order });
  const detail = { name: head?.fileName ?? '', count: arrivals.length };
  return { entry: { act: 'arrivals.joined', subjects: [], detail }, result: null };
});

/** The first waits for the worker; the others are seen to. */
async function begin(tx: Tx, head: Arrival, others: readonly Arrival[], joining: Joining): Promise<void> {
  const plain = { joinedTo: joining.into, leftBecause: null, fileBy: null, putOffUntil: null, askedOf: null };
  await settle(tx, head, { ...plain, state: 'unread', joins: joining });
  for (const other of others) await settle(tx, other, { ...plain, state: 'joined', doneAt: now() });
}

const other = alias(arrival, 'other');

/** Joins the next arrivals for which that is wanted, once those of them that are no pictures are read. Returns whether there were some. */
export async function joinNext(): Promise<boolean> {
  const [next] = await db()
    .select()
    .from(arrival)
    .where(
      and(
        eq(arrival.state, 'unread'),
        isNotNull(arrival.joins),
        notExists(
          db()
            .select({ id: other.id })
            .from(other)
            .where(
              and(
                eq(other.joinedTo, arrival.joinedTo),
                not(like(other.mediaType, 'image/%')),
                isRead(other.sha256, false),
              ),
            ),
        ),
      ),
    )
    .orderBy(asc(arrival.arrivedAt), asc(arrival.id))
    .limit(1);
  if (!next?.joins) return false;
  const { joins } = next;
  await join(next, joins).catch(async (error: unknown) => {
    const number = logFault(error, { where: 'joining scans' });
    const leftBecause = `It could not be joined with others. The number of the fault is ${number}.`;
    await transaction([], async (tx) => {
      const rows = await membersOf(tx, joins.into);
      const still = rows.find(({ id }) => id === next.id);
      // Another worker has joined them meanwhile, or somebody has had them back.
      if (still?.state !== 'unread' || still.revision !== next.revision) return;
      await partMembers(tx, rows, { leftBecause });
    });
  });
  return true;
}

const membersOf = (tx: Tx, into: string) =>
  tx.select().from(arrival).where(eq(arrival.joinedTo, into)).orderBy(asc(arrival.id)).for('update');

/** Has arrivals wait that are joined no more; pictures that were put in together have not been read yet. */
async function partMembers(tx: Tx, members: readonly Arrival[], also: Partial<Arrival>): Promise<void> {
  for (const row of members)
    await settle(tx, row, {
      ...{ state: row.proposal === null ? 'unread' : 'waiting', joins: null, joinedTo: null, doneAt: null },
      ...also,
    });
  await enqueue(
    tx,
    'read',
    members.map(({ sha256 }) => ({ sha256 })),
    () => readingPriority(0),
  );
}

async function join(head: Arrival, { into, order }: Joining): Promise<void> {
  const rows = await db()
    .select()
    .from(arrival)
    .where(
      idIn(
        arrival.id,
        order.map(({ arrivalId }) => arrivalId),
      ),
    );
  const bytes = await inFolder(async (folder) => {
    const words: string[] = [];
    const turned: string[] = [];
    let pages = 0;
    for (const [at, { arrivalId, turn }] of order.entries()) {
      const row = rows.find(({ id }) => id === arrivalId);
      if (!row) throw new CagedFault('brokeOff');
      const open = await pagesIn(row, `${folder}/${at}`);
      words.push(open.file, '1-z');
      if (turn !== 0) turned.push(`--rotate=+${turn}:${pages + 1}-${pages + open.pages}`);
      pages += open.pages;
    }
    const made = `${folder}/joined.pdf`;
    const end = await runProgram(
      'qpdf',
      [...calmly, '--empty', '--pages', ...words, '--', ...turned, made],
      folder,
      cutting,
    );
    if (!end.ok) throw new CagedFault('brokeOff');
    const all = await readFile(made);
    await rm(made);
    return all;
  });
  await transaction([], async (tx) => {
    const members = await membersOf(tx, into);
    const still = members.find(({ id }) => id === head.id);
    // Another worker was quicker, or somebody has taken it back.
    if (still?.state !== 'unread' || still.revision !== head.revision) return;
    const sha256 = sha256Hex(bytes);
    await storeBytes(tx, sha256, bytes);
    // Whoever put in only some of them does not see the others by it.
    const broughtBy = members.every((each) => each.broughtBy === head.broughtBy) ? head.broughtBy : null;
    await tx.insert(arrival).values({
      ...{ id: into, way: head.way, wayInId: head.wayInId, broughtBy, sha256, sentTo: [] },
      ...{ sheetReference: head.sheetReference, arrivedAt: head.arrivedAt, mediaType: 'application/pdf' },
      fileName: `${head.fileName.replace(/\.[^.]*$/u, '')}.pdf`,
      // Separators were seen to before, or are wanted no more.
      ...{ cutOnce: true, isPersons: true },
    });
    await enqueue(tx, 'read', [{ sha256 }], () => readingPriority(bytes.length));
    await settle(tx, still, { state: 'joined', joins: null, doneAt: now() });
  });
}

/** Takes an arrival that was made of others away, so that these wait again as they came. */
export async function partAgain(tx: Tx, { joinedTo }: Arrival): Promise<void> {
  if (joinedTo === null) return;
  const members = await membersOf(tx, joinedTo);
  const [made] = await tx.select().from(arrival).where(eq(arrival.id, joinedTo)).for('update');
  if (made && ['filed', 'cut', 'joined'].includes(made.state))
    refuse('conflict', 'What they were joined to is seen to already. Have that checked again first.');
  if (made) await tx.delete(arrival).where(eq(arrival.id, made.id));
  await partMembers(tx, members, {});
  if (made) await removeUnneeded(tx, [made.sha256]);
}
