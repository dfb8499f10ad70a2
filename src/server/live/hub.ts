import { Client } from 'pg';
import { and, eq, inArray, sql } from 'drizzle-orm';
import { seesAll, type Actor } from '../gate/actor';
import { config } from '../base/config';
import { db, type Tx } from '../db/client';
import { snapshot } from '../db/transaction';
import { document, filing, place, scopeEntry, tallyChange } from '../db/schema';

/** Changes within this time are reported together. */
const gatheredMs = 120;
const againMs = 1000;

interface Listener {
  readonly actor: Actor;
  readonly tell: () => void;
  /** Ends the listener's connection. */
  readonly end: () => void;
}

/**
 * Notifies people when something changed that they may see, or could see until then. One database connection per process
 * listens; notifications never say what changed.
 */
class Hub {
  readonly #listeners = new Set<Listener>();
  #client: Client | null = null;
  #timer: ReturnType<typeof setTimeout> | null = null;
  #everyone = false;
  #ending = false;
  /** The last snapshot: changes visible to it have been reported. */
  #snapshot: string | null = null;

  /** Adds a listener; returns a function that removes it. */
  listen(listener: Listener): () => void {
    this.#listeners.add(listener);
    if (this.#ending) queueMicrotask(listener.end);
    else if (!this.#client) void this.#connect();
    return () => {
      this.#listeners.delete(listener);
      if (this.#listeners.size === 0) this.#close();
    };
  }

  /** Ends all connections, including later ones: a page that is disconnected reconnects at once. */
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
      // Changes may have been missed: after reconnecting, everyone is notified.
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

  /** The listeners who may see what changed; all of them for changes without access rules. */
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
   * Changes that the last snapshot could not see. Reading on from the highest number instead would miss transactions that
   * commit late, since numbers are assigned before the commit.
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

// One hub per process, even if a bundler has loaded this module more than once.
const held = globalThis as typeof globalThis & { embrinHub?: Hub };

/**
 * Calls `tell` whenever something changed that the person may see, and `end` when the process is stopping. Returns a
 * function that stops listening.
 */
export const listenFor = (actor: Actor, tell: () => void, end: () => void): (() => void) => {
  held.embrinHub ??= new Hub();
  return held.embrinHub.listen({ actor, tell, end });
};

/** Ends all connections of listeners. They otherwise end only when a page is left, and a stopping process would wait for them. */
export const endListening = (): void => held.embrinHub?.endAll();
