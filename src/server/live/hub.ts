import { Client } from 'pg';
import { and, eq, inArray, sql } from 'drizzle-orm';
import { seesAll, type Actor } from '../gate/actor';
import { config } from '../base/config';
import { db, type Tx } from '../db/client';
import { snapshot } from '../db/transaction';
import { document, filing, place, scopeEntry, tallyChange } from '../db/schema';

/** Changes that come this close together are told as one. */
const gatheredMs = 120;
const againMs = 1000;

interface Listener {
  readonly actor: Actor;
  readonly tell: () => void;
  /** Ends the connection over which it is told. */
  readonly end: () => void;
}

/**
 * Tells people when something has changed that they may see, or that they may have seen until then. One connection of the
 * process listens; what a change was about never goes over it, only that there was one.
 */
class Hub {
  readonly #listeners = new Set<Listener>();
  #client: Client | null = null;
  #timer: ReturnType<typeof setTimeout> | null = null;
  #everyone = false;
  #ending = false;
  /** What has been told of so far: everything that this snapshot of the database could see. */
  #snapshot: string | null = null;

  /** Adds a listener; the answer takes it away again. */
  listen(listener: Listener): () => void {
    this.#listeners.add(listener);
    if (this.#ending) queueMicrotask(listener.end);
    else if (!this.#client) void this.#connect();
    return () => {
      this.#listeners.delete(listener);
      if (this.#listeners.size === 0) this.#close();
    };
  }

  /** Ends all, and whoever comes after: a page that was let go comes back at once. */
  endAll(): void {
    this.#ending = true;
    for (const { end } of [...this.#listeners]) end();
  }

  async #connect(): Promise<void> {
    const client = new Client({ connectionString: config().DATABASE_URL });
    this.#client = client;
    const lost = () => {
      if (this.#client !== client) return;
      this.#client = null;
      // What happened meanwhile is not known: once there is a connection again, everyone looks for themselves.
      this.#everyone = true;
      setTimeout(() => {
        if (!this.#client && this.#listeners.size > 0) void this.#connect();
      }, againMs).unref();
    };
    client.on('error', lost);
    client.on('end', lost);
    client.on('notification', ({ payload }) => this.#note(payload === 'access'));
    try {
      await client.connect();
      await client.query('listen embrin_changed');
      const { rows } = await client.query<{ seen: string }>('select pg_current_snapshot()::text as seen');
      this.#snapshot = rows[0]?.seen ?? null;
      if (this.#everyone) this.#note(true);
    } catch {
      lost();
    }
  }

  #close(): void {
    const client = this.#client;
    this.#client = null;
    void client?.end().catch(() => undefined);
  }

  #note(everyone: boolean): void {
    this.#everyone ||= everyone;
    this.#timer ??= setTimeout(() => {
      this.#timer = null;
      void this.#spread().catch(() => undefined);
    }, gatheredMs);
  }

  async #spread(): Promise<void> {
    const everyone = this.#everyone;
    this.#everyone = false;
    const seers = await this.#seersOfChanges();
    for (const { actor, tell } of this.#listeners)
      if (everyone || seers === 'all' || seesAll(actor) || seers.has(actor.personId)) tell();
  }

  /** Who of the listeners may see what has changed; all where it belongs to nobody in particular. */
  async #seersOfChanges(): Promise<ReadonlySet<string> | 'all'> {
    const { changed, seen } = await snapshot(async (tx) => ({
      changed: await this.#changes(tx),
      seen: (await tx.execute<{ seen: string }>(sql`select pg_current_snapshot()::text as seen`)).rows[0]?.seen,
    }));
    this.#snapshot = seen ?? this.#snapshot;
    if (changed.some(({ subject }) => subject === 'world')) return 'all';
    const scopes = [
      ...new Set(changed.flatMap(({ scopeId, openings }) => [...openings, ...(scopeId === null ? [] : [scopeId])])),
    ];
    if (scopes.length === 0) return changed.length === 0 ? new Set() : 'all';
    const people = [...new Set([...this.#listeners].map(({ actor }) => actor.personId))];
    const entries = await db()
      .select({ personId: scopeEntry.personId })
      .from(scopeEntry)
      .where(and(inArray(scopeEntry.scopeId, scopes), inArray(scopeEntry.personId, people)));
    return new Set(entries.map(({ personId }) => personId));
  }

  /**
   * What has changed since the last look: what that look's snapshot could not see. By number, what committed late would be passed
   * over: numbers are given out before their acts commit.
   */
  #changes(tx: Tx) {
    return tx
      .select({
        subject: tallyChange.subject,
        scopeId: sql<string | null>`coalesce(${document.scopeId}, ${place.scopeId})`,
        openings: sql<string[]>`array(select opening_place.scope_id::text from ${filing}
          join ${place} as opening_place on opening_place.id = ${filing.placeId}
          where ${filing.documentId} = ${document.id} and ${filing.kind} = 'opening' and opening_place.scope_id is not null)`,
      })
      .from(tallyChange)
      .leftJoin(document, and(eq(tallyChange.subject, 'paper'), eq(document.id, tallyChange.subjectId)))
      .leftJoin(place, sql`${place.id} = coalesce(${document.homeId}, ${tallyChange.subjectId})`)
      .where(
        sql`${tallyChange.xid} >= pg_snapshot_xmin(${this.#snapshot}::pg_snapshot)
          and not pg_visible_in_snapshot(${tallyChange.xid}, ${this.#snapshot}::pg_snapshot)`,
      );
  }
}

// One hub a process, also where a bundler has loaded this module more than once.
const held = globalThis as typeof globalThis & { embrinHub?: Hub };

/** Calls `tell` whenever something has changed that the person may see, and `end` when the process is to stop; answers what ends it. */
export const listenFor = (actor: Actor, tell: () => void, end: () => void): (() => void) => {
  held.embrinHub ??= new Hub();
  return held.embrinHub.listen({ actor, tell, end });
};

/** Ends all connections over which people are told. They end only by themselves when a page is left, and a process that is told to stop waits for them. */
export const endListening = (): void => held.embrinHub?.endAll();
