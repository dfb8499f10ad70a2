/** Puts a random library into the database as it is, past the use-cases, and follows its changes there. */
import type { Owing } from '@/core/owed/owing';
import { sql, type SQL } from 'drizzle-orm';
import { nameKey, searchKey } from '@/core/text/fold';
import { ownWays } from '@/core/views/own';
import type { Asker, ViewPaper, ViewPlace } from '@/core/views/question';
import type { Actor } from '@/server/gate/actor';
import { writableDb, type Tx } from '@/server/db/client';
import type { RandomLibrary } from './randomLibrary';

const none: ReadonlySet<string> = new Set();
const uuids = (ids: readonly string[]): SQL => sql`${sql.param([...ids])}::uuid[]`;

export class Planted {
  /** The scopes in which each person may see. */
  readonly scopes = new Map<string, Set<string>>();

  /** What each person has in hand. */
  readonly #inHand = new Map<string, ReadonlySet<string>>();

  private constructor(
    readonly library: RandomLibrary,
    private readonly keeper: Actor,
  ) {}

  /** Into a founded library, whose own place gives way to the random one. */
  static async into(library: RandomLibrary, keeper: Actor): Promise<Planted> {
    const planted = new Planted(library, keeper);
    // Reviews and closings have versions and journal entries, which no random library has.
    const { cycles, ...owing } = library.world.owing;
    library.world = { ...library.world, owing: { ...owing, cycles: { ...cycles, own: new Map(), last: new Map() } } };
    library.places = library.places.map((place) => ({ ...place, closedAtMs: null }));
    const { world, people, terms, labels } = library;
    await writableDb().execute(sql`delete from scope_entry`);
    await writableDb().execute(sql`update place set scope_id = null`);
    await writableDb().execute(sql`delete from scope`);
    await writableDb().execute(sql`delete from place`);
    await writableDb().execute(
      sql`update library set time_zone = ${world.timeZone}, year_start_month = ${world.yearStartMonth}`,
    );
    for (const id of people)
      await writableDb().execute(sql`
        insert into person (id, name, email, email_verified) values (${id}, ${world.names.get(id)}, ${`${id}@test.example`}, true)`);
    for (const place of library.places) await planted.putPlace(place);
    const listId = crypto.randomUUID();
    await writableDb().execute(
      sql`insert into controlled_list (id, name, name_key) values (${listId}, 'List', 'list')`,
    );
    for (const id of terms)
      await writableDb().execute(sql`
        insert into term (id, list_id, parent_id, name, name_key, other_names, position)
        values (${id}, ${listId}, ${world.owing.broader.get(id) ?? null}, ${world.names.get(id)}, ${id}, '{}', ${world.termOrder.get(id)})`);
    for (const [at, id] of labels.entries())
      await writableDb().execute(sql`
        insert into label (id, name, name_key, hue, owner_id)
        values (${id}, ${world.names.get(id)}, ${id}, 'plum', ${at % 2 === 0 ? null : people[at % people.length]})`);
    for (const column of world.columns)
      await writableDb().execute(sql`
        insert into column_def (id, place_id, name, name_key, type, list_id, currency, decimals, position, retired)
        values (${column.id}, ${column.placeId}, ${column.name}, ${column.id}, ${column.type},
          ${column.type === 'choice' || column.type === 'choices' ? listId : null}, ${column.type === 'amount' ? 'GBP' : ''},
          ${column.decimals}, ${column.position}, ${column.retired})`);
    await plantOwing(world.owing);
    const [groupId, otherId] = [crypto.randomUUID(), crypto.randomUUID()];
    await writableDb().execute(
      sql`insert into person_group (id, name, name_key) values (${groupId}, 'A', 'a'), (${otherId}, 'B', 'b')`,
    );
    for (const [at, id] of people.entries())
      if (at < 4)
        await writableDb().execute(
          sql`insert into membership (group_id, person_id) values (${at < 2 ? groupId : otherId}, ${id})`,
        );
    await planted.#setScopes();
    for (const paper of library.papers.values()) await planted.putPaper(paper);
    await planted.#pickUp();
    return planted;
  }

  /** Each person has a quarter of the papers in hand, each another. */
  async #pickUp(): Promise<void> {
    const papers = [...this.library.papers.keys()];
    for (const [at, personId] of [this.keeper.personId, ...this.library.people].entries()) {
      const held = papers.filter((_id, index) => (index + at) % 4 === 0);
      this.#inHand.set(personId, new Set(held));
      await writableDb().execute(sql`
        insert into in_hand (person_id, document_id, at) select ${personId}::uuid, id, now() from unnest(${uuids(held)}) as held (id)`);
    }
  }

  async putPlace(place: ViewPlace): Promise<void> {
    await writableDb().execute(sql`
      insert into place (id, parent_id, kind, name, name_key, search_key, position, filing_year, lineage)
      values (${place.id}, ${place.lineage.at(-2) ?? null}, ${place.kind}, ${place.name}, ${place.id}, ${searchKey(place.name)},
        ${place.position}, ${place.filingYear}, ${uuids(place.lineage)})
      on conflict (id) do update set parent_id = excluded.parent_id, position = excluded.position,
        filing_year = excluded.filing_year, lineage = excluded.lineage`);
  }

  async movePlace(place: ViewPlace): Promise<void> {
    await this.putPlace(place);
    await this.#setScopes();
  }

  /**
   * Stored scopes lie in one piece: each belongs to the place where it begins and goes down until another begins. The
   * random library's scopes are only names for sets of people, so each place where the set changes gets one of its own.
   */
  async #setScopes(): Promise<void> {
    const { places } = this.library;
    const byId = new Map(places.map((place) => [place.id, place]));
    const ownerOf = (place: ViewPlace): ViewPlace => {
      const parent = byId.get(place.lineage.at(-2) ?? '');
      return parent && parent.scopeId === place.scopeId ? ownerOf(parent) : place;
    };
    await writableDb().transaction(async (tx) => {
      await tx.execute(sql`delete from scope_entry`);
      for (const place of places) {
        const owner = ownerOf(place);
        await tx.execute(
          sql`insert into scope (id, place_id) values (${owner.id}, ${owner.id}) on conflict do nothing`,
        );
        await tx.execute(sql`update place set scope_id = ${owner.id} where id = ${place.id}`);
        if (owner === place)
          for (const [personId, scopes] of this.scopes)
            if (scopes.has(place.scopeId ?? ''))
              await tx.execute(
                sql`insert into scope_entry (scope_id, person_id, capabilities) values (${place.id}, ${personId}, ${this.#set(personId, place.scopeId ?? '')})`,
              );
      }
      for (const paper of this.library.papers.values()) await this.#setOwnScope(tx, paper);
    });
  }

  /** A paper with a scope of its own has it to itself, for the same people. */
  async #setOwnScope(tx: Tx, { id, scopeId }: ViewPaper): Promise<void> {
    const [there] = (await tx.execute(sql`select from document where id = ${id}`)).rows;
    if (!there) return;
    await tx.execute(sql`delete from scope_entry where scope_id = ${id}`);
    if (scopeId === null)
      await tx.execute(sql`update document set scope_id = null where id = ${id} and scope_id is not null`);
    else {
      await tx.execute(sql`insert into scope (id, document_id) values (${id}, ${id}) on conflict do nothing`);
      await tx.execute(sql`update document set scope_id = ${id} where id = ${id} and scope_id is null`);
      for (const [personId, scopes] of this.scopes)
        if (scopes.has(scopeId))
          await tx.execute(
            sql`insert into scope_entry (scope_id, person_id, capabilities, by_opening)
              values (${id}, ${personId}, ${this.#set(personId, scopeId)}, ${this.byOpening(personId).has(scopeId)})`,
          );
    }
  }

  async putPaper(paper: ViewPaper): Promise<void> {
    const [filed, changed] = [paper.filedAtMs, paper.changedAtMs].map((ms) => new Date(ms).toISOString());
    await writableDb().transaction(async (tx) => {
      await tx.execute(sql`
        insert into document (id, home_id, title, title_key, search_key, stamp, size_bytes, page_count, word_count, filed_by,
          filed_at, changed_by, changed_at, own_values, shown_values, position, signature)
        values (${paper.id}, ${paper.homeId}, ${paper.title}, ${nameKey(paper.title)}, ${searchKey(paper.title)}, ${paper.kind},
          ${paper.sizeBytes}, ${paper.pageCount}, ${paper.wordCount}, ${paper.filedBy}, ${filed}::timestamptz,
          ${paper.changedBy}, ${changed}::timestamptz, ${JSON.stringify(paper.values)}::jsonb,
          ${JSON.stringify(paper.values)}::jsonb, ${paper.order}, ${paper.signature})
        on conflict (id) do update set home_id = excluded.home_id, title = excluded.title, search_key = excluded.search_key,
          stamp = excluded.stamp, size_bytes = excluded.size_bytes, page_count = excluded.page_count,
          word_count = excluded.word_count, filed_by = excluded.filed_by, filed_at = excluded.filed_at,
          changed_by = excluded.changed_by, changed_at = excluded.changed_at, shown_values = excluded.shown_values,
          position = excluded.position, signature = excluded.signature`);
      await this.#setOwnScope(tx, paper);
      await tx.execute(sql`delete from filing where document_id = ${paper.id}`);
      for (const [at, { placeId, opening }] of paper.filings.entries())
        await tx.execute(sql`
          insert into filing (document_id, place_id, kind, made_by, made_at)
          values (${paper.id}, ${placeId}, ${opening ? 'opening' : 'pointer'}, ${paper.filedBy},
            now() + ${at} * interval '1 millisecond')`);
      await tx.execute(sql`delete from document_label where document_id = ${paper.id}`);
      for (const label of paper.labels)
        await tx.execute(sql`insert into document_label (document_id, label_id) values (${paper.id}, ${label})`);
    });
  }

  async dispose(id: string): Promise<void> {
    await writableDb().execute(sql`update document set disposed_at = now() where id = ${id}`);
  }

  /** Lets a person see in some scopes, and in no others. */
  async open(personId: string, scopes: readonly string[]): Promise<void> {
    this.scopes.set(personId, new Set(scopes));
    await this.#setScopes();
  }

  /** The scopes of papers, of those that are open to a person, which are so only by the place of a cross-filing. */
  byOpening(personId: string): ReadonlySet<string> {
    const { people, scopeIds } = this.library;
    return new Set(scopeIds.filter((_id, at) => (people.indexOf(personId) + at) % 3 === 0));
  }

  /** The scopes, of those that are open to a person, which they manage. */
  managed(personId: string): ReadonlySet<string> {
    const { people, scopeIds } = this.library;
    return new Set(scopeIds.filter((_id, at) => (people.indexOf(personId) + at) % 2 === 0));
  }

  /** What a person may do in a scope that is open to them, as it is stored. */
  #set(personId: string, scopeId: string): number {
    return this.managed(personId).has(scopeId) ? 31 : 1;
  }

  actor = (at: number): Actor =>
    at === -1 ? this.keeper : { personId: this.library.people[at] ?? '', name: '', email: '', keeper: false };

  /** The same person as the naive evaluator takes them. */
  asker(at: number, asker: Asker): Asker {
    const { people, labels, scopeIds } = this.library;
    const actor = this.actor(at);
    const mates = at === -1 ? [] : at < 2 ? people.slice(0, 2) : at < 4 ? people.slice(2, 4) : [];
    const own = labels.filter((_id, index) => index % 2 === 0 || people[index % people.length] === actor.personId);
    const openTo = new Map<string, ReadonlySet<string>>([[this.keeper.personId, new Set(['', ...scopeIds])]]);
    for (const [id, scopes] of this.scopes) if (scopes.size > 0) openTo.set(id, scopes);
    return {
      ...asker,
      personId: actor.personId,
      keeper: actor.keeper,
      scopes: this.scopes.get(actor.personId) ?? new Set(),
      byOpening: this.byOpening(actor.personId),
      managed: new Set([...this.managed(actor.personId)].filter((id) => this.scopes.get(actor.personId)?.has(id))),
      groupMates: new Set([actor.personId, ...mates]),
      labels: new Set(own),
      lookedAtMs: null,
      openTo,
      own: new Map(ownWays.map((way) => [way, way === 'in-hand' ? (this.#inHand.get(actor.personId) ?? none) : none])),
    };
  }
}

async function plantOwing({ cycles, schedule }: Owing): Promise<void> {
  for (const { id, placeId, ofType, says } of [...cycles.rules.values()].flat()) {
    const { rhythm, firstOn, warnDays, responsibleId } = says;
    await writableDb().execute(sql`
      insert into review_rule (id, place_id, column_id, term_id, every_months, rhythm, first_on, warn_days, responsible_id)
      values (${id}, ${placeId}, ${ofType?.columnId ?? null}, ${ofType?.termId ?? null},
        ${'everyMonths' in rhythm ? rhythm.everyMonths : null}, ${'rule' in rhythm ? rhythm.rule : null}, ${firstOn}, ${warnDays},
        ${responsibleId})`);
  }
  for (const { id, placeId, ofType, says } of [...schedule.values()].flat()) {
    await writableDb().execute(sql`
      insert into retention_class (id, name, name_key, authority, starts_from, column_id, months, ends)
      values (${says.id}, ${says.name}, ${says.name}, '', ${says.start}, ${says.columnId}, ${says.months}, ${says.end})
      on conflict (id) do nothing`);
    await writableDb().execute(sql`
      insert into retention_rule (id, place_id, column_id, term_id, class_id)
      values (${id}, ${placeId}, ${ofType?.columnId ?? null}, ${ofType?.termId ?? null}, ${says.id})`);
  }
}
