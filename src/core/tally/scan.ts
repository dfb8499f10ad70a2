import type { Column } from '../columns/model';
import { isBuiltIn, type BuiltIn } from '../views/builtIns';
import type { Looking } from '../calendar/period';
import type { OwnWay } from '../views/own';
import type { Asker, Question, ViewPlace } from '../views/question';
import type { CodedLane, Lane } from './lane';
import { marked } from './marked';
import { noDay, type CodedStore, type ColumnStore, type Dictionary, type SetStore } from './stores';
import type { Tally } from './tally';
import { owedIn } from './owed';
import { scopesInto } from './scopes';
import { nameRanks } from './ranks';
import { seenBy, lazily } from './scopes';

/**
 * The papers a question is about: those within its reach, in places the caller may see. Lanes are their properties by
 * row, sharing the tally's own arrays where possible. A column has no values for papers in places where it is not in
 * force.
 */
export class Scan {
  /** Rows of the tally. */
  readonly rows: Int32Array;
  /** 1 for each place that the caller may see, by place code. */
  readonly seen: Uint8Array;
  readonly looking: Looking;
  /**
   * The places, as codes, of papers with access or cross-filings of their own, by row: the home first, if the caller may
   * know it, then cross-filings. Only papers that the caller may see.
   */
  readonly standing = new Map<number, readonly number[]>();
  /** Bare steps above papers that the caller sees by the papers' own sheets. */
  readonly #steps = new Set<string>();
  readonly #lanes = new Map<string, Lane>();
  #known: ReadonlySet<string> | null = null;

  constructor(
    readonly tally: Tally,
    readonly question: Question,
    readonly asker: Asker,
  ) {
    this.looking = { today: asker.today, yearStartMonth: tally.world.yearStartMonth };
    this.seen = seenBy(asker, tally);
    this.#placeApart();
    const { placeId, below } = question;
    const inside = below ? tally.within(placeId) : marked(tally.places, ({ id }) => id === placeId);
    this.rows = this.#rowsIn(inside);
  }

  /** 1 for each row that is the asker's own in any of some ways. */
  isOwn(ways: readonly OwnWay[]): Uint8Array {
    const own = new Uint8Array(this.tally.rows);
    for (const way of ways)
      for (const id of this.asker.own.get(way) ?? []) {
        const row = this.tally.ids.rowOf(id);
        if (row >= 0) own[row] = 1;
      }
    return own;
  }

  /** Rows of papers in the places inside: first those that lie in one place, then the few others. */
  #rowsIn(inside: Uint8Array): Int32Array {
    const { homes, isApart, rows: length } = this.tally;
    // One place further on, so that rows without a paper, whose home is -1, find a 0.
    const wanted = new Uint8Array(inside.length + 1);
    inside.forEach((within, code) => (wanted[code + 1] = within & (this.seen[code] as number)));
    const rows = new Int32Array(length);
    let count = 0;
    // A plain loop without branches, since it runs over the whole library.
    for (let row = 0; row < length; row += 1) {
      rows[count] = row;
      count += (wanted[(homes[row] as number) + 1] as number) & ((isApart[row] as number) ^ 1);
    }
    for (const [row, places] of this.standing) if (places.some((code) => inside[code] === 1)) rows[count++] = row;
    return rows.subarray(0, count);
  }

  /**
   * Finds the places of papers with access or cross-filings of their own: the home counts if the caller sees the
   * paper by it or by the paper's own sheet.
   */
  #placeApart(): void {
    const { tally, asker } = this;
    const seen = [...tally.apart].filter(([row]) => this.#seesApart(row));
    if (!asker.keeper)
      for (const [row, { scopeId }] of seen)
        if (scopeId !== null && !asker.byOpening.has(scopeId))
          for (const id of this.placeOf(row)?.lineage ?? []) this.#steps.add(id);
    for (const [row, { filings, scopeId }] of seen) {
      const home = tally.homes[row] as number;
      const also = filings.flatMap(({ placeId }) => {
        const code = tally.placeCodes.get(placeId);
        return code !== undefined && this.seen[code] === 1 ? [code] : [];
      });
      const told = scopeId === null ? this.seen[home] === 1 : asker.keeper || !asker.byOpening.has(scopeId);
      this.standing.set(row, told ? [home, ...also] : also);
    }
  }
  #seesApart(row: number): boolean {
    if (this.asker.keeper) return true;
    return scopesInto(this.tally, row).some((id) => this.asker.scopes.has(id));
  }

  /** Whether the caller may see a row's paper. */
  seesRow = (row: number): boolean =>
    this.tally.isApart[row] === 1 ? this.standing.has(row) : this.seen[this.tally.homes[row] ?? -1] === 1;

  /** The place where a paper lies first for the caller: its home, or the place through which they see it. */
  standsAt = (row: number): number => this.standing.get(row)?.[0] ?? (this.tally.homes[row] as number);

  /** Whether the caller may know of a place: they may see it, or it is a bare step for them. */
  knows(placeId: string): boolean {
    if (this.asker.keeper) return this.tally.placeCodes.has(placeId);
    this.#known ??= new Set([
      ...this.#steps,
      ...this.tally.places.flatMap((place, code) => (this.seen[code] === 1 ? place.lineage : [])),
    ]);
    return this.#known.has(placeId);
  }

  placeOf = (row: number): ViewPlace | undefined => this.tally.places[this.tally.homes[row] ?? -1];

  /** A property's values by row; places as themselves, or as their dossier or series. */
  lane(of: string, by: 'value' | 'dossier' | 'series' = 'value'): Lane {
    const key = `${of} ${by}`;
    const there = this.#lanes.get(key);
    if (there) return there;
    const lane = isBuiltIn(of) ? this.#builtIn(of, by) : this.#column(of);
    this.#lanes.set(key, lane);
    return lane;
  }

  #builtIn(of: BuiltIn, by: 'value' | 'dossier' | 'series'): Lane {
    const { tally } = this;
    switch (of) {
      case 'title':
        return { kind: 'title', keys: tally.titleKeys, ranks: tally.titleRanks.settled() };
      case 'kind':
        return this.#coded(tally.kinds, this.#natural(tally.kinds.dictionary));
      case 'signature':
        return this.#coded(tally.signatures, this.#natural(tally.signatures.dictionary));
      case 'size':
        return { kind: 'number', numbers: tally.sizes.numbers };
      case 'pages':
        return { kind: 'number', numbers: tally.pages.numbers };
      case 'words':
        return { kind: 'number', numbers: tally.words.numbers };
      case 'filedBy':
        return this.#coded(tally.filedBy, this.#byName(tally.filedBy.dictionary));
      case 'changedBy':
        return this.#coded(tally.changedBy, this.#byName(tally.changedBy.dictionary));
      case 'filedAt':
        return { kind: 'day', days: tally.filedDays, instants: tally.filedAtMs };
      case 'changedAt':
        return { kind: 'day', days: tally.changedDays, instants: tally.changedAtMs };
      case 'reviewOn':
        return { kind: 'day', days: owedIn(tally).reviewOn.days, instants: null };
      case 'reviewer': {
        const { reviewers } = owedIn(tally);
        return this.#coded(reviewers, this.#byName(reviewers.dictionary));
      }
      case 'keptUntil':
        return { kind: 'day', days: owedIn(tally).keptUntil.days, instants: null };
      case 'keptClass': {
        const { classes } = owedIn(tally);
        return this.#coded(classes, this.#byName(classes.dictionary));
      }
      case 'keptEnd': {
        const { ends } = owedIn(tally);
        return this.#coded(ends, this.#natural(ends.dictionary));
      }
      case 'label':
        return this.#labels();
      case 'place':
        return this.#places(by);
      case 'year':
        return this.#years();
      case 'openTo':
      case 'own':
      case 'find':
        throw new Error(`“${of}” is no value of papers, and has no lane`);
    }
  }

  #column(id: string): Lane {
    const column = this.tally.world.columns.find((each) => each.id === id);
    const store = this.tally.columns.get(id);
    if (!column || !store) throw new Error(`No column ${id} is known`);
    const mask = this.#maskFor(column);
    switch (store.kind) {
      case 'coded':
        return this.#coded(store, this.#rankFor(column, store), mask, this.#hiddenFor(column, store.dictionary));
      case 'set':
        return this.#coded(store, this.#rankFor(column, store), mask);
      case 'number':
        return { kind: 'number', numbers: this.#masked(store.numbers, mask, NaN) };
      case 'day':
        return { kind: 'day', days: this.#masked(store.days, mask, noDay), instants: null };
      case 'presence':
        return { kind: 'presence', present: this.#masked(store.present, mask, 0) };
    }
  }

  /** 1 for each place where a column is in force; null if it is everywhere within the question's reach. */
  #maskFor(column: Column): Uint8Array | null {
    const asked = this.tally.places[this.tally.placeCodes.get(this.question.placeId) ?? -1];
    const { places, homes } = this.tally;
    const inForce = (code: number): boolean => places[code]?.lineage.includes(column.placeId) === true;
    const fromElsewhere = () => [...this.standing.keys()].some((row) => !inForce(homes[row] as number));
    if (asked?.lineage.includes(column.placeId) && !fromElsewhere()) return null;
    return Uint8Array.from(places, (_place, code) => Number(inForce(code)));
  }

  #masked<T extends Int32Array | Uint8Array | Float64Array>(from: T, mask: Uint8Array | null, empty: number): T {
    if (mask === null) return from;
    const { rows } = this;
    const { homes } = this.tally;
    const masked = new (from.constructor as new (length: number) => T)(this.tally.rows);
    for (let at = 0; at < rows.length; at += 1) {
      const row = rows[at] as number;
      masked[row] = mask[homes[row] as number] === 1 ? (from[row] as number) : empty;
    }
    return masked;
  }

  /** A property of the place in which each row lies first. */
  #ofHomes(codeOf: Int32Array): Int32Array {
    const { rows } = this;
    const { homes, isApart } = this.tally;
    const codes = new Int32Array(this.tally.rows);
    for (let at = 0; at < rows.length; at += 1) {
      const row = rows[at] as number;
      codes[row] = codeOf[isApart[row] === 1 ? this.standsAt(row) : (homes[row] as number)] as number;
    }
    return codes;
  }

  /** Sets of codes for papers in several places; null if there are none. Codes from `size` on then stand for sets. */
  #setsOfStanding(codeOf: Int32Array, codes: Int32Array, size: number): (readonly number[])[] | null {
    const several = [...this.standing].filter(([, places]) => places.length > 1);
    if (several.length === 0) return null;
    const sets: (readonly number[])[] = Array.from({ length: size }, (_, code) => (code === 0 ? [] : [code]));
    const known = new Map<string, number>();
    for (const [row, places] of several) {
      const set = [...new Set(places.map((place) => codeOf[place] as number))].filter((code) => code !== 0);
      const key = set.join();
      const code = known.get(key) ?? sets.push(set) - 1;
      known.set(key, code);
      codes[row] = code;
    }
    return sets;
  }

  #coded(
    store: CodedStore | SetStore,
    rankOf: (code: number) => number,
    mask: Uint8Array | null = null,
    isHidden: (code: number) => boolean = never,
  ): CodedLane {
    const { dictionary } = store;
    return {
      kind: 'coded',
      codes: this.#masked(store.codes, mask, 0),
      sets: store.kind === 'set' ? store.sets : null,
      size: dictionary.values.length,
      valueOf: (code) => dictionary.values[code] ?? null,
      find: dictionary.find,
      rankOf,
      isHidden,
      keyOf: (code) => dictionary.keyOf(code),
    };
  }

  /** Removes labels that the caller may not know of. */
  #labels(): CodedLane {
    const { labels } = this.tally;
    const { dictionary } = labels;
    const known = Uint8Array.from(dictionary.values, (id) =>
      Number(typeof id === 'string' && this.asker.labels.has(id)),
    );
    const lane = this.#coded(labels, this.#byName(dictionary));
    return { ...lane, sets: labels.sets.map((set) => set.filter((code) => known[code] === 1)) };
  }

  #places(by: 'value' | 'dossier' | 'series'): CodedLane {
    const { places, placeCodes } = this.tally;
    const ancestor = (place: ViewPlace): string | null =>
      by === 'value' ? place.id : (place.lineage.find((id) => places[placeCodes.get(id) ?? -1]?.kind === by) ?? null);
    const codeOf = Int32Array.from(places, (place) => {
      const id = place.lineage.length === 0 ? null : ancestor(place);
      return id === null ? 0 : (placeCodes.get(id) ?? -1) + 1;
    });
    const order = lazily(() => this.tally.treeOrder());
    const size = places.length + 1;
    const codes = this.#ofHomes(codeOf);
    return {
      kind: 'coded',
      codes,
      sets: this.#setsOfStanding(codeOf, codes, size),
      size,
      valueOf: (code) => (code === 0 ? null : (places[code - 1]?.id ?? null)),
      find: (value) => (typeof value === 'string' ? (placeCodes.get(value) ?? -2) + 1 : value === null ? 0 : -1),
      rankOf: (code) => order().get(places[code - 1]?.id ?? '') ?? 0,
      isHidden: never,
      keyOf: () => '',
    };
  }

  #years(): CodedLane {
    const { places } = this.tally;
    const years = [...new Set(places.flatMap((place) => place.filingYear ?? []))].sort((a, b) => a - b);
    const codeOf = Int32Array.from(places, (place) =>
      place.filingYear === null ? 0 : years.indexOf(place.filingYear) + 1,
    );
    return {
      kind: 'coded',
      codes: this.#ofHomes(codeOf),
      sets: null,
      size: years.length + 1,
      valueOf: (code) => years[code - 1] ?? null,
      find: (value) => (value === null ? 0 : years.indexOf(Number(value)) + 1 || -1),
      rankOf: (code) => code,
      isHidden: never,
      keyOf: () => '',
    };
  }

  #hiddenFor(column: Column, dictionary: Dictionary): (code: number) => boolean {
    const { tally } = this;
    const id = (code: number) => String(dictionary.values[code]);
    if (column.type === 'dossier') return (code) => code !== 0 && !this.knows(id(code));
    if (column.type !== 'document') return never;
    return (code) => {
      if (code === 0) return false;
      const row = tally.ids.rowOf(id(code));
      return row === -1 || !this.seesRow(row);
    };
  }

  #rankFor(column: Column, store: ColumnStore & { readonly dictionary: Dictionary }): (code: number) => number {
    const { dictionary } = store;
    const { termOrder } = this.tally.world;
    switch (column.type) {
      case 'choice':
      case 'choices':
        return (code) => termOrder.get(String(dictionary.values[code])) ?? 0;
      case 'yesNo':
        return (code) => Number(dictionary.values[code]);
      case 'person':
        return this.#byName(dictionary);
      case 'dossier': {
        const order = lazily(() => this.tally.treeOrder());
        return (code) => order().get(String(dictionary.values[code])) ?? 0;
      }
      case 'document':
        return this.#ranks(
          () => this.tally.titleRanks.settled(),
          (code) => this.tally.ids.rowOf(String(dictionary.values[code])),
        );
      default:
        return this.#natural(dictionary);
    }
  }

  #natural = (dictionary: Dictionary): ((code: number) => number) => this.#ranks(() => dictionary.naturalRanks());

  #ranks(ranks: () => Float64Array, indexOf: (code: number) => number = (code) => code): (code: number) => number {
    const settled = lazily(ranks);
    return (code) => settled()[indexOf(code)] ?? 0;
  }

  /** People and labels are few, so their names are sorted on demand. */
  #byName(dictionary: Dictionary): (code: number) => number {
    const ranks = lazily(() => nameRanks(dictionary.values, this.tally.world.names));
    return (code) => ranks()[code] ?? 0;
  }
}

const never = (): boolean => false;
