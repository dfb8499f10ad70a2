import type { ColumnType } from '../columns/model';
import { searchKey } from '../text/fold';
import { naturalCompare } from '../text/natural';
import { TermList } from '../search/termList';
import type { TextIndex } from '../search/textHits';
import { dayAt, offsetAt } from '../calendar/period';
import type { ViewPaper, ViewPlace, ViewWorld } from '../views/question';
import { marked } from './marked';
import { treeOrder } from './placeOrder';
import { Ranks } from './ranks';
import { Lexicon } from './lexicon';
import { grown, RowIds } from './rowIds';
import { RowWords } from './rowWords';
import { TextLinks } from './textLinks';
import { CodedStore, DayStore, NumberStore, PresenceStore, SetStore, type ColumnStore } from './stores';

const storeFor: Record<ColumnType, () => ColumnStore> = {
  choice: () => new CodedStore(),
  choices: () => new SetStore(),
  text: () => new CodedStore(),
  longText: () => new PresenceStore(),
  number: () => new NumberStore(),
  amount: () => new NumberStore(),
  date: () => new DayStore(),
  yesNo: () => new CodedStore(),
  person: () => new CodedStore(),
  dossier: () => new CodedStore(),
  document: () => new CodedStore(),
};

/** What distinguishes papers with access or cross-filings of their own. */
type Apart = Pick<ViewPaper, 'scopeId' | 'filings'>;

const nowhere = -1;
/** For how many places the set of places below is cached. */
const mostKept = 64;
/** How many rows are noted one by one as changed. */
const mostTouched = 50_000;
const dayMs = 86_400_000;

/**
 * All papers of a library by column, one row per paper, so that a view's question is one pass over a few arrays. Does no
 * I/O and checks no access; callers fill it and say who asks. Rows of removed papers are reused.
 */
export class Tally {
  readonly ids = new RowIds();
  readonly #free: number[] = [];
  /** All rows in use are below this. */
  rows = 0;
  papers = 0;
  /** The code of each row's home; -1 for a row without a paper. */
  homes = new Int32Array(0);
  /** 1 for each row whose paper has a scope or cross-filings of its own. */
  isApart = new Uint8Array(0);
  readonly apart = new Map<number, Apart>();
  /** Titles and their search keys, by row: nearly all differ, so a dictionary would not help. */
  readonly titles: string[] = [];
  readonly titleKeys: string[] = [];
  readonly titleRanks = new Ranks((a, b) => naturalCompare(this.titles[a] ?? '', this.titles[b] ?? ''));
  readonly kinds = new CodedStore();
  readonly signatures = new CodedStore();
  readonly sizes = new NumberStore();
  readonly pages = new NumberStore();
  readonly words = new NumberStore();
  readonly orders = new NumberStore();
  readonly filedBy = new CodedStore();
  readonly changedBy = new CodedStore();
  filedAtMs = new Float64Array(0);
  changedAtMs = new Float64Array(0);
  filedDays = new Int32Array(0);
  changedDays = new Int32Array(0);
  readonly labels = new SetStore();
  readonly lexicon = new Lexicon();
  readonly rowWords = new RowWords(this.lexicon);
  readonly texts = new TextLinks();
  /** The index of texts; whoever fills the tally sees to it that it has what a question needs. */
  index: Pick<TextIndex, 'terms' | 'postings'> = { terms: new TermList(), postings: () => null };
  readonly columns = new Map<string, ColumnStore>();
  readonly places: ViewPlace[] = [];
  /** The scopes of places by code, and 1 for each place that still exists. */
  readonly placeScopes = new CodedStore();
  isThere = new Uint8Array(0);
  /** Changes whenever anything does, and whenever a place is added, removed or changed. */
  version = 0;
  placesVersion = 0;
  /** Rows whose papers were put in or removed, in order, since the log was last begun: for what is worked out row by row. */
  touched: number[] = [];
  touchedEpoch = 0;
  readonly placeCodes = new Map<string, number>();
  #treeOrder: ReadonlyMap<string, number> | null = null;

  constructor(public world: ViewWorld) {
    this.#meetColumns();
  }

  /** Sets columns, names and settings. Returns true if all papers have to be added again, because days or types have another meaning. */
  setWorld(world: ViewWorld): boolean {
    const typeOf = new Map(this.world.columns.map((column) => [column.id, column.type]));
    const again =
      world.timeZone !== this.world.timeZone ||
      world.columns.some((column) => (typeOf.get(column.id) ?? column.type) !== column.type);
    this.world = world;
    this.version += 1;
    this.#meetColumns();
    return again;
  }

  #meetColumns(): void {
    for (const column of this.world.columns)
      if (!this.columns.has(column.id)) {
        const store = storeFor[column.type]();
        for (let row = 0; row < this.rows; row += 1) store.set(row, null);
        this.columns.set(column.id, store);
      }
  }

  /** Adds or updates places. */
  putPlaces(places: Iterable<ViewPlace>): void {
    this.#treeOrder = null;
    this.placesVersion += 1;
    this.version += 1;
    this.#within.clear();
    for (const place of places) {
      const code = this.placeCodes.get(place.id) ?? this.places.length;
      this.placeCodes.set(place.id, code);
      this.places[code] = place;
      this.placeScopes.set(code, place.scopeId);
      this.isThere = grown(this.isThere, code + 1);
      this.isThere[code] = 1;
    }
  }

  /** Removes places, which must not be the home of any paper. Their codes stay in use. */
  removePlaces(ids: Iterable<string>): void {
    this.#treeOrder = null;
    this.placesVersion += 1;
    this.version += 1;
    this.#within.clear();
    for (const id of ids) {
      const code = this.placeCodes.get(id);
      const place = code === undefined ? undefined : this.places[code];
      if (code === undefined || !place) continue;
      this.places[code] = { ...place, lineage: [], scopeId: null };
      this.placeScopes.set(code, null);
      this.isThere[code] = 0;
      this.placeCodes.delete(id);
    }
  }

  readonly #within = new Map<string, Uint8Array>();
  /** 1 for a place and each place below it. Caches the most recent requests. */
  within(placeId: string): Uint8Array {
    const there = this.#within.get(placeId);
    if (there) return there;
    const inside = marked(this.places, ({ lineage }) => lineage.includes(placeId));
    if (this.#within.size >= mostKept) this.#within.clear();
    this.#within.set(placeId, inside);
    return inside;
  }

  /** The position of each place in depth-first order. */
  treeOrder(): ReadonlyMap<string, number> {
    return (this.#treeOrder ??= treeOrder(this.places));
  }

  /** Adds or updates papers, whose homes have to be known. */
  putPapers(papers: Iterable<ViewPaper>): void {
    this.version += 1;
    for (const paper of papers) this.#put(paper);
  }

  #touch(row: number): void {
    // A longer log would cost more than to work everything out anew.
    if (this.touched.length >= mostTouched) {
      this.touched = [];
      this.touchedEpoch += 1;
    }
    this.touched.push(row);
  }

  #put(paper: ViewPaper): void {
    const home = this.placeCodes.get(paper.homeId);
    if (home === undefined) throw new Error(`The paper ${paper.id} lives in a place that was never put in`);
    let row = this.ids.rowOf(paper.id);
    if (row === nowhere) {
      row = this.#free.pop() ?? this.rows;
      this.rows = Math.max(this.rows, row + 1);
      this.papers += 1;
      this.ids.set(paper.id, row);
      this.#setTitle(row, paper.title);
    } else if (this.titles[row] !== paper.title) {
      this.titleRanks.remove(row);
      this.#setTitle(row, paper.title);
    }
    this.#touch(row);
    this.#grow(row + 1);
    this.homes[row] = home;
    const isApart = paper.scopeId !== null || paper.filings.length > 0;
    this.isApart[row] = Number(isApart);
    if (isApart) this.apart.set(row, { scopeId: paper.scopeId, filings: paper.filings });
    else this.apart.delete(row);
    this.kinds.set(row, paper.kind);
    this.signatures.set(row, paper.signature);
    this.sizes.set(row, paper.sizeBytes);
    this.pages.set(row, paper.pageCount);
    this.words.set(row, paper.wordCount);
    this.orders.set(row, paper.order);
    this.filedBy.set(row, paper.filedBy);
    this.changedBy.set(row, paper.changedBy);
    this.filedAtMs[row] = paper.filedAtMs;
    this.changedAtMs[row] = paper.changedAtMs;
    this.filedDays[row] = this.#dayAt(paper.filedAtMs);
    this.changedDays[row] = this.#dayAt(paper.changedAtMs);
    this.labels.set(row, paper.labels.length > 1 ? [...paper.labels].sort() : paper.labels);
    this.rowWords.set(row, { title: [paper.title], fileName: [paper.fileName], value: this.#longTexts(paper) });
    this.texts.set(row, paper.texts);
    for (const [id, store] of this.columns) store.set(row, paper.values[id] ?? null);
  }

  /** What people wrote about a paper that no column holds as one value: its remark, and long texts. */
  #longTexts({ remark, values }: ViewPaper): string[] {
    const long = this.world.columns.filter((column) => column.type === 'longText').map(({ id }) => values[id]);
    return [remark, ...long.filter((each) => typeof each === 'string')];
  }

  #setTitle(row: number, title: string): void {
    this.titles[row] = title;
    this.titleKeys[row] = searchKey(title);
    this.titleRanks.add(row);
  }

  #grow(rows: number): void {
    this.homes = grown(this.homes, rows);
    this.isApart = grown(this.isApart, rows);
    this.filedAtMs = grown(this.filedAtMs, rows);
    this.changedAtMs = grown(this.changedAtMs, rows);
    this.filedDays = grown(this.filedDays, rows);
    this.changedDays = grown(this.changedDays, rows);
  }

  /** The offset of local time from UTC in milliseconds, by UTC day; NaN for days on which it changes. */
  readonly #ahead = new Map<number, number>();
  #dayAt(ms: number): number {
    const utcDay = Math.floor(ms / dayMs);
    let ahead = this.#ahead.get(utcDay);
    if (ahead === undefined) {
      const { timeZone } = this.world;
      const [opens, closes] = [offsetAt(utcDay * dayMs, timeZone), offsetAt((utcDay + 1) * dayMs, timeZone)];
      ahead = opens === closes ? opens : NaN;
      this.#ahead.set(utcDay, ahead);
    }
    return Number.isNaN(ahead) ? dayAt(ms, this.world.timeZone) : Math.floor((ms + ahead) / dayMs);
  }

  /** Removes papers. */
  removePapers(ids: Iterable<string>): void {
    this.version += 1;
    for (const id of ids) {
      const row = this.ids.rowOf(id);
      if (row === nowhere) continue;
      this.#touch(row);
      this.ids.delete(id);
      this.titleRanks.remove(row);
      this.homes[row] = nowhere;
      this.isApart[row] = 0;
      this.apart.delete(row);
      this.rowWords.clear(row);
      this.texts.clear(row);
      this.titles[row] = '';
      this.#free.push(row);
      this.papers -= 1;
    }
  }

  /** Prepares what the first question would otherwise have to wait for. */
  settle(): void {
    this.titleRanks.settled();
  }
}
