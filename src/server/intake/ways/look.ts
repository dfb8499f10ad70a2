import { and, eq, isNull, sql } from 'drizzle-orm';
import { signsIn, type WayInKind } from '@/core/intake/wayIn';
import { now } from '../../base/clock';
import { db, writableDb } from '../../db/client';
import { wayIn } from '../../db/schema';
import { logFault } from '../../log/fault';
import { lookAtMaildir, lookAtMbox, lookAtScans } from './folder';
import { lookAtMailbox } from './mailbox';
import { NotFetched, type Look } from './model';
import { lookAtStore } from './store';

/** How often each kind is looked at. */
const everyMs: Readonly<Record<WayInKind, number>> = {
  ...{ scans: 5000, maildir: 5000, mbox: 5000 },
  ...{ mailbox: 60_000, store: 300_000 },
};

const nothing = { taken: 0, hasMore: false };

/**
 * Looks at the ways in whose time it is, side by side: one that does not answer holds up none. Returns how many arrivals are new.
 * @param where only at folders beside the library, or only at other servers, which may take long; by default at all
 */
export async function lookAtWaysIn(where?: 'here' | 'elsewhere'): Promise<number> {
  const at = now().getTime();
  const on = await db()
    .select()
    .from(wayIn)
    .where(and(eq(wayIn.on, true), isNull(wayIn.removedAt)));
  const due = on.filter(
    ({ settings, looksWanted, looksMet, lookedAt }) =>
      (where === undefined || signsIn(settings) === (where === 'elsewhere')) &&
      (looksWanted > looksMet || lookedAt === null || lookedAt.getTime() < at - everyMs[settings.kind]),
  );
  const taken = await Promise.all(due.map(look));
  return taken.reduce((sum, each) => sum + each, 0);
}

async function look(way: typeof wayIn.$inferSelect): Promise<number> {
  const { taken, hasMore, ...found } = await looked(way);
  await writableDb()
    .update(wayIn)
    .set({
      ...found,
      // Two may look at once, and a wish may have come since this look began.
      looksMet: sql`greatest(${wayIn.looksMet}, ${way.looksWanted})`,
      ...(hasMore ? { looksWanted: sql`greatest(${wayIn.looksWanted}, ${way.looksWanted + 1})` } : {}),
      lookedAt: now(),
      ...(taken > 0 ? { tookAt: now() } : {}),
    })
    // Changed meanwhile, it is looked at again as it is now.
    .where(and(eq(wayIn.id, way.id), eq(wayIn.revision, way.revision)));
  return taken;
}

async function looked(way: typeof wayIn.$inferSelect) {
  try {
    const { left, reached, ...rest } = await lookAt(way);
    return { ...rest, fault: left, ...(reached ? { reached } : {}) };
  } catch (error) {
    if (error instanceof NotFetched) return { ...nothing, fault: error.message };
    const number = logFault(error, { where: 'way in' });
    return { ...nothing, fault: `Nothing could be fetched. The number of the fault is ${number}.` };
  }
}

function lookAt(way: typeof wayIn.$inferSelect): Promise<Look> {
  const { settings } = way;
  switch (settings.kind) {
    case 'mailbox':
      return lookAtMailbox({ ...way, settings });
    case 'maildir':
      return lookAtMaildir({ ...way, settings });
    case 'mbox':
      return lookAtMbox({ ...way, settings });
    case 'scans':
      return lookAtScans({ ...way, settings });
    case 'store':
      return lookAtStore({ ...way, settings });
  }
}
