import { Client } from 'pg';
import { and, eq, sql } from 'drizzle-orm';
import { seesAll, type Actor } from '../gate/actor';
import { config } from '../base/config';
import { db, type Tx } from '../db/client';
import { snapshot } from '../db/transaction';
import { idIn } from '../db/idIn';
import { document, filing, place, scopeEntry, tallyChange } from '../db/schema';

/** Changes within this time are reported together. */
const gatheredMs = 120;
const againMs = 1000;

/** What changed, as far as a listener may know: papers alone, or something else as well. */
export type Changed = 'papers' | 'all';

interface Listener {
  readonly actor: Actor;
  readonly tell: (changed: Changed) => void;
  /** Ends the listener's connection. */
  readonly end: () => void;
}

/**
 * Notifies people when something changed that they may see, or could see until then, and whether it was papers alone. One
 * database connection per process listens; the notifications of the database never say what changed.
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
    const seen = await this.#changesBySeer();
    for (const { actor, tell } of this.#listeners) {
      const changed = everyone ? 'all' : seen(actor);
      if (changed) tell(changed);
    }
  }

  /** What changed for each listener, as far as they may see it; everything for changes without access rules. */
  async #changesBySeer(): Promise<(actor: Actor) => Changed | null> {
    const { changed, seen } = await snapshot(async (tx) => ({
      changed: await this.#changes(tx),
      seen: (await tx.execute<{ seen: string }>(sql`select pg_current_snapshot()::text as seen`)).rows[0]?.seen,
    }));
    this.#snapshot = seen ?? this.#snapshot;
    if (changed.length === 0) return () => null;
    const [papersChanged, othersChanged] = [
      changed.filter(({ subject }) => subject === 'paper'),
      changed.filter(({ subject }) => subject !== 'paper'),
    ];
    const scopesOf = (rows: typeof changed) =>
      new Set(rows.flatMap(({ scopeId, openings }) => [...openings, ...(scopeId === null ? [] : [scopeId])]));
    const [others, papers] = [scopesOf(othersChanged), scopesOf(papersChanged)];
    if (changed.some(({ subject }) => subject === 'world') || others.size + papers.size === 0) return () => 'all';
    const people = [...new Set([...this.#listeners].map(({ actor }) => actor.personId))];
    const entries = await db()
      .select({ personId: scopeEntry.personId, scopeId: scopeEntry.scopeId })
      .from(scopeEntry)
      .where(and(idIn(scopeEntry.scopeId, [...others, ...papers]), idIn(scopeEntry.personId, people)));
    const seers = (scopes: ReadonlySet<string>) =>
      new Set(entries.filter(({ scopeId }) => scopes.has(scopeId)).map(({ personId }) => personId));
    const [ofOthers, ofPapers] = [seers(others), seers(papers)];
    return (actor) => {
      if (seesAll(actor)) return othersChanged.length > 0 ? 'all' : 'papers';
      return ofOthers.has(actor.personId) ? 'all' : ofPapers.has(actor.personId) ? 'papers' : null;
    };
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
export const listenFor = (actor: Actor, tell: (changed: Changed) => void, end: () => void): (() => void) => {
  held.embrinHub ??= new Hub();
  return held.embrinHub.listen({ actor, tell, end });
};

/** Ends all connections of listeners. They otherwise end only when a page is left, and a stopping process would wait for them. */
export const endListening = (): void => held.embrinHub?.endAll();
