import { Client } from 'pg';
import type { Result } from '@/core/errors/result';
import { searchKey } from '@/core/text/fold';
import { conditionsIn, isFind } from '@/core/views/conditions';
import { dayAt } from '@/core/calendar/period';
import { longTextKey, type Asker } from '@/core/views/question';
import { answerWithMeant, tallyWays, termsOf, type TallyAsk, type TallyAsks } from '@/core/tally/ask';
import { Tally } from '@/core/tally/tally';
import { KeptTextIndex } from './textIndex';
import { allPapers, longTextsOf, newsSince, openings, ownPapers, papersOf, placesOf, worldOf, type News } from './read';

/** Who asks, and when. */
export interface Questioner {
  readonly personId: string;
  readonly keeper: boolean;
  readonly nowMs: number;
  /** False while impersonating, and for tokens without `manage`. */
  readonly manages: boolean;
  /** While impersonating: the scopes shown, without anything private; otherwise null. */
  readonly shown: { readonly scopes: readonly string[]; readonly byOpening: readonly string[] } | null;
}

/** The nil UUID (RFC 9562, section 5.9). */
const nilId = '00000000-0000-0000-0000-000000000000';

/** After this long without reading changes, some may have been swept, and everything is read again. */
const freshForMs = 30 * 60_000;

/**
 * A tally that is filled from the database and catches up before each answer, so that answers include every earlier
 * commit. It has a connection of its own and answers one question at a time. If the connection breaks, pending questions
 * fail and the next one reads everything again.
 */
export class FollowedTally {
  #tally: Tally | null = null;
  #client: Client | null = null;
  #snapshot = '';
  #lookedMs = 0;
  #index = new KeptTextIndex();
  #turn: Promise<unknown> = Promise.resolve();

  constructor(private readonly connectionString: string) {}

  /** Reads the library if that has not been done. */
  load(): Promise<void> {
    return this.#inTurn(async () => void (await this.#ready()));
  }

  ask<K extends TallyAsk>(
    kind: K,
    question: TallyAsks[K]['question'],
    who: Questioner,
  ): Promise<Result<TallyAsks[K]['answer']>> {
    const way = tallyWays[kind];
    const conditions = conditionsIn(way.conditions(question));
    return this.#inTurn(async () => {
      try {
        const { client, tally } = await this.#ready();
        let news = await newsSince(client, this.#snapshot, who, question.placeId);
        const openTo =
          way.counts(question).includes('openTo') || conditions.some((condition) => condition.of === 'openTo');
        const own = way.counts(question).includes('own') || conditions.some((condition) => condition.of === 'own');
        const longTexts = conditions.filter(
          (each) =>
            'text' in each && tally.world.columns.some((column) => column.id === each.of && column.type === 'longText'),
        );
        let asker = askerFrom(news, who, tally);
        if (news.papers.length > 0 || news.places.length > 0 || news.world || openTo || own || longTexts.length > 0) {
          // Several statements need the same snapshot.
          await client.query('begin isolation level repeatable read read only');
          news = await newsSince(client, this.#snapshot, who, question.placeId);
          const again = await this.#catchUp(client, tally, news);
          asker = askerFrom(news, who, tally);
          if (openTo) asker = { ...asker, openTo: await openings(client) };
          if (own) asker = { ...asker, own: await ownPapers(client, who.shown ? null : who.personId) };
          if (longTexts.length > 0) asker = { ...asker, found: await found(client, longTexts) };
          await client.query('commit');
          if (again) this.#tally = null;
        }
        this.#snapshot = news.snapshot;
        this.#lookedMs = who.nowMs;
        const ready = this.#tally === null ? await this.#ready() : { client, tally };
        if (!conditions.some(isFind)) return way.answer(ready.tally, question, asker);
        await this.#index.catchUp(ready.client);
        await this.#index.have(ready.client, termsOf(ready.tally, conditions));
        return await this.#answerByWords(way.answer(ready.tally, question, asker), ready, kind, question, asker);
      } catch (error) {
        await this.#drop();
        throw error;
      }
    });
  }

  /** The answer to a view's question by words also says what may have been meant. */
  async #answerByWords<K extends TallyAsk>(
    answer: Result<TallyAsks[K]['answer']>,
    { client, tally }: { readonly client: Client; readonly tally: Tally },
    kind: K,
    question: TallyAsks[K]['question'],
    asker: Asker,
  ): Promise<Result<TallyAsks[K]['answer']>> {
    if (kind !== 'view') return answer;
    const [asked, told] = [question as TallyAsks['view']['question'], answer as Result<TallyAsks['view']['answer']>];
    return answerWithMeant(tally, asked, asker, told, (terms) => this.#index.have(client, terms)) as Promise<
      Result<TallyAsks[K]['answer']>
    >;
  }

  /**
   * Reads changes without a question, so that none is swept unread while nobody asks anything. Reads a lost tally again
   * before someone waits for it.
   */
  keepUp(): Promise<void> {
    return this.#inTurn(async () => {
      try {
        const { client, tally } = await this.#ready();
        await client.query('begin isolation level repeatable read read only');
        const nobody = { personId: nilId, shown: null };
        const news = await newsSince(client, this.#snapshot, nobody, nilId);
        const again = await this.#catchUp(client, tally, news);
        await client.query('commit');
        this.#snapshot = news.snapshot;
        this.#lookedMs = Date.now();
        if (again) this.#tally = null;
        if (again) await this.#ready();
      } catch (error) {
        await this.#drop();
        throw error;
      }
    });
  }

  /** Closes the connection. Safe to call more than once. */
  close(): Promise<void> {
    return this.#inTurn(() => this.#drop());
  }

  #inTurn<T>(work: () => Promise<T>): Promise<T> {
    const turn = this.#turn.then(work, work);
    this.#turn = turn.catch(() => undefined);
    return turn;
  }

  async #drop(): Promise<void> {
    const client = this.#client;
    this.#client = null;
    this.#tally = null;
    await client?.end().catch(() => undefined);
  }

  async #ready(): Promise<{ client: Client; tally: Tally }> {
    if (this.#client && this.#tally && Date.now() - this.#lookedMs < freshForMs)
      return { client: this.#client, tally: this.#tally };
    await this.#drop();
    const client = new Client({ connectionString: this.connectionString });
    // The next question notices a broken connection; without a listener the error would end the process.
    client.on('error', () => undefined);
    await client.connect();
    await client.query('begin isolation level repeatable read read only');
    const { rows } = await client.query<{ snapshot: string }>('select pg_current_snapshot()::text as snapshot');
    const tally = new Tally(await worldOf(client));
    this.#index = new KeptTextIndex();
    tally.index = this.#index;
    tally.putPlaces(await placesOf(client, null));
    for await (const piece of allPapers(client)) tally.putPapers(piece);
    await client.query('commit');
    tally.settle();
    this.#client = client;
    this.#tally = tally;
    this.#snapshot = rows[0]?.snapshot ?? '';
    this.#lookedMs = Date.now();
    return { client, tally };
  }

  /** Applies changes; true if they require reading everything again. */
  async #catchUp(client: Client, tally: Tally, news: News): Promise<boolean> {
    if (news.world && tally.setWorld(await worldOf(client))) return true;
    if (news.places.length > 0) {
      const places = await placesOf(client, news.places);
      tally.putPlaces(places);
      const there = new Set(places.map((place) => place.id));
      tally.removePlaces(news.places.filter((id) => !there.has(id)));
    }
    if (news.papers.length > 0) {
      const papers = await papersOf(client, news.papers);
      const there = new Set(papers.map((paper) => paper.id));
      tally.removePapers(news.papers.filter((id) => !there.has(id)));
      tally.putPapers(papers);
    }
    return false;
  }
}

const askerFrom = (news: News, who: Questioner, tally: Tally): Asker => ({
  personId: who.personId,
  keeper: who.keeper,
  scopes: new Set(who.shown?.scopes ?? news.scopes),
  byOpening: new Set(who.shown?.byOpening ?? news.byOpening),
  managed: new Set(who.manages ? news.managed : []),
  groupMates: new Set([who.personId, ...news.groupMates]),
  labels: new Set(news.labels),
  today: dayAt(who.nowMs, tally.world.timeZone),
  lookedAtMs: news.lookedAtMs,
  openTo: new Map(),
  own: new Map(),
  found: new Map(),
  frequented: new Set(news.frequented),
});

async function found(
  client: Client,
  conditions: ReturnType<typeof conditionsIn>,
): Promise<ReadonlyMap<string, ReadonlySet<string>>> {
  const sets = new Map<string, ReadonlySet<string>>();
  for (const condition of conditions) {
    if (!('text' in condition)) continue;
    const words = searchKey(condition.words);
    const texts = await longTextsOf(client, condition.of);
    const ids = texts.filter(([, text]) => {
      const key = searchKey(text);
      return condition.text === 'starts' ? key.startsWith(words) : key.includes(words);
    });
    sets.set(longTextKey(condition.of, condition.text, condition.words), new Set(ids.map(([id]) => id)));
  }
  return sets;
}
