/** Random libraries, changes of them, and random questions: small, and full of what is awkward. */
import { Chance } from '@/core/chance/chance';
import { columnTypes, type Column, type ColumnType, type Value } from '@/core/columns/model';
import { builtIns } from '@/core/views/builtIns';
import { conditionsIn, type AskedFor, type Condition, type Part } from '@/core/views/conditions';
import { dayAt, namedSpans, spanUnits, type Span } from '@/core/calendar/period';
import { groupWays, senseOf } from '@/core/views/property';
import {
  longTextKey,
  type Asker,
  type Question,
  type ViewPaper,
  type ViewPlace,
  type ViewWorld,
} from '@/core/views/question';
import { groupOrders, type Grouping, type Sort } from '@/core/views/spec';
import { searchKey } from '@/core/text/fold';
import { id, kinds, labels, people, personNames, terms, texts, timeZones, titles, words } from './awkward';
import type { PlainLibrary } from './naive';

const dayMs = 86_400_000;

export class RandomLibrary {
  world: ViewWorld;
  places: ViewPlace[] = [];
  papers = new Map<string, ViewPaper>();
  longTexts = new Map<string, string>();
  readonly people = people;
  readonly terms = terms;
  readonly labels = labels;
  readonly plannedFolders = Array.from({ length: 3 }, (_, at) => id(kinds.planned, at));
  readonly scopeIds = Array.from({ length: 4 }, (_, at) => id(kinds.scope, at));
  readonly #random: Chance;
  #made = 0;

  constructor(
    seed: number,
    readonly size = 40,
  ) {
    this.#random = new Chance(seed);
    this.#plant();
    const types: ColumnType[] = [...columnTypes, 'choice', 'choices', 'amount', 'date'];
    const columns = types.map((type, at) => this.#column(type, at));
    this.world = {
      columns,
      names: new Map([
        ...people.map((person, at) => [person, personNames[at] ?? ''] as const),
        ...terms.map((term, at) => [term, `Term ${at}`] as const),
        ...labels.map((label, at) => [label, ['For approval', 'Audit 2', 'Audit 10', 'Mine'][at] ?? ''] as const),
      ]),
      termOrder: new Map(terms.map((term, at) => [term, terms.length - at])),
      timeZone: this.#random.pick(timeZones),
      yearStartMonth: this.#random.pick([1, 4, 9]),
    };
    for (let at = 0; at < size; at += 1) this.put();
  }

  dayAt = (ms: number): number => dayAt(ms, this.world.timeZone);

  get plain(): PlainLibrary {
    return { world: this.world, places: this.places, papers: [...this.papers.values()], longTexts: this.longTexts };
  }

  /** Whether something happens that happens in this share of cases. */
  happens = (share: number): boolean => this.#random.happens(share);
  someScopes = (): string[] => this.#some(this.scopeIds, 5);
  #chance = (of: number): boolean => this.#random.happens(of);
  #below = (most: number): number => this.#random.whole(0, most - 1);
  #some<T>(all: readonly T[], most: number): T[] {
    return [...new Set(Array.from({ length: this.#below(most + 1) }, () => this.#random.pick(all)))];
  }

  #plant(): void {
    const add = (
      parent: ViewPlace | null,
      kind: ViewPlace['kind'],
      filingYear: number | null,
      scopeId: string | null,
    ) => {
      const own = id(kinds.place, this.places.length);
      const place: ViewPlace = {
        id: own,
        lineage: [...(parent?.lineage ?? []), own],
        kind,
        name: this.#random.pick(['Board', 'board 2', 'Board 10', 'Tenants']),
        position: this.#below(3),
        scopeId: scopeId ?? parent?.scopeId ?? null,
        filingYear: filingYear ?? parent?.filingYear ?? null,
        plannedKey: kind === 'folder' ? this.#plannedKey(filingYear ?? parent?.filingYear ?? null) : null,
      };
      this.places.push(place);
      return place;
    };
    const library = add(null, 'library', null, this.scopeIds[0] ?? null);
    for (let at = 0; at < 3; at += 1) {
      const series = add(library, 'series', null, this.#chance(0.3) ? this.#random.pick(this.scopeIds) : null);
      for (let dossierAt = 0; dossierAt < 2; dossierAt += 1) {
        const dossier = add(series, 'dossier', null, this.#chance(0.3) ? this.#random.pick(this.scopeIds) : null);
        const year = add(dossier, 'year', 2024 + this.#below(3), null);
        const folder = add(year, 'folder', null, this.#chance(0.2) ? this.#random.pick(this.scopeIds) : null);
        if (this.#chance(0.6)) add(folder, 'folder', null, null);
      }
    }
  }

  /** A folder's: by a person, once, for its year, or for one of three meetings. */
  #plannedKey(year: number | null): string | null {
    const of = this.#random.pick([null, '', ` ${year ?? ''}`, ` ${id(kinds.meeting, this.#below(3))}`]);
    return of === null ? null : `${this.#random.pick(this.plannedFolders)}${of}`.trim();
  }

  #column(type: ColumnType, at: number): Column {
    return {
      id: id(kinds.column, at),
      placeId: this.#chance(0.7) ? (this.places[0]?.id ?? '') : this.#random.pick(this.places).id,
      name: `Column ${at}`,
      help: '',
      type,
      listId: null,
      open: false,
      unit: '',
      decimals: this.#random.pick([0, 2]),
      currency: 'GBP',
      required: false,
      defaultValue: null,
      position: at,
      retired: at > 12,
      revision: 0,
    };
  }

  #value(type: ColumnType): Value | null {
    const random = this.#random;
    switch (type) {
      case 'choice':
        return random.pick(terms);
      case 'choices': {
        const some = this.#some(terms, 3);
        return some.length === 0 ? null : some;
      }
      case 'text':
      case 'longText':
        return random.pick(texts);
      case 'number':
      case 'amount':
        return random.pick([-1, 0, 0.25, 12.5, 100, this.#below(10_000) / 100]);
      case 'date':
        return new Date((20_000 + this.#below(900)) * dayMs).toISOString().slice(0, 10);
      case 'yesNo':
        return this.#chance(0.5);
      case 'person':
        return random.pick(people);
      case 'dossier':
        return random.pick(this.places.filter((place) => place.kind === 'dossier')).id;
      case 'document':
        return this.papers.size === 0 ? null : random.pick([...this.papers.keys(), id(kinds.paper, 999_999)]);
    }
  }

  /** A new paper, or another state of one that is there. */
  put(existing?: string): ViewPaper {
    const random = this.#random;
    const own = existing ?? id(kinds.paper, (this.#made += 1));
    const values: Record<string, Value> = {};
    for (const column of this.world.columns) {
      const value = this.#chance(0.7) ? this.#value(column.type) : null;
      this.longTexts.delete(`${own} ${column.id}`);
      if (value === null) continue;
      values[column.id] = value;
      if (column.type === 'longText') this.longTexts.set(`${own} ${column.id}`, String(value));
    }
    const filedAtMs = 20_000 * dayMs + this.#below(900 * 24 * 60) * 60_000;
    const places = this.places.filter((place) => place.kind !== 'library');
    const homeId = random.pick(places).id;
    const elsewhere = places.filter((place) => place.id !== homeId).map((place) => place.id);
    const paper: ViewPaper = {
      id: own,
      homeId,
      scopeId: this.#chance(0.15) ? id(kinds.scope, this.#below(4)) : null,
      filings: this.#chance(0.25)
        ? this.#some(elsewhere, 3).map((placeId) => ({ placeId, opening: this.#chance(0.5) }))
        : [],
      title: random.pick(titles),
      kind: random.pick(['PDF', 'DOC', 'SCAN']),
      sizeBytes: this.#below(5_000_000),
      pageCount: this.#chance(0.8) ? this.#below(60) : null,
      wordCount: this.#chance(0.8) ? this.#below(9000) : null,
      filedBy: random.pick(people),
      filedAtMs,
      changedBy: random.pick(people),
      changedAtMs: filedAtMs + this.#below(10) * dayMs,
      order: this.#chance(0.5) ? this.#below(8) : null,
      values,
      labels: this.#some(labels, 3),
    };
    this.papers.set(own, paper);
    return paper;
  }

  remove(): string {
    const gone = this.#random.pick([...this.papers.keys()]);
    this.papers.delete(gone);
    return gone;
  }

  changeOne = (): ViewPaper => this.put(this.#random.pick([...this.papers.keys()]));

  /** A place with another scope, or in another part of the tree: what access changes and moves come to. */
  changePlace(): ViewPlace[] {
    const random = this.#random;
    const at = 1 + this.#below(this.places.length - 1);
    const place = this.places[at] as ViewPlace;
    if (place.kind === 'folder' && !this.places.some((each) => each.lineage.at(-2) === place.id)) {
      const parent = random.pick(this.places.filter((each) => each.kind === 'year' || each.kind === 'series'));
      this.places[at] = { ...place, lineage: [...parent.lineage, place.id], filingYear: parent.filingYear };
    } else this.places[at] = { ...place, scopeId: id(kinds.scope, this.#below(4)), position: this.#below(3) };
    return [this.places[at] as ViewPlace];
  }

  asker(question: Question): Asker {
    const random = this.#random;
    const openTo = new Map(people.map((person) => [person, new Set(this.#some(this.scopeIds, 3))]));
    const found = new Map<string, ReadonlySet<string>>();
    for (const condition of conditionsIn(question.conditions)) {
      if (!('text' in condition)) continue;
      const wanted = searchKey(condition.words);
      const ids = [...this.longTexts].filter(([key, text]) => {
        const [, of] = key.split(' ');
        const folded = searchKey(text);
        return (
          of === condition.of && (condition.text === 'starts' ? folded.startsWith(wanted) : folded.includes(wanted))
        );
      });
      found.set(
        longTextKey(condition.of, condition.text, condition.words),
        new Set(ids.map(([key]) => key.split(' ')[0] ?? '')),
      );
    }
    return {
      personId: random.pick(people),
      keeper: this.#chance(0.3),
      scopes: new Set(this.#some(this.scopeIds, 5)),
      managed: new Set(this.#some(this.scopeIds, 3)),
      byOpening: new Set(this.#some(this.scopeIds, 2)),
      groupMates: new Set(this.#some(people, 3)),
      labels: new Set(this.#some(labels, 4)),
      today: 20_000 + this.#below(900),
      lookedAtMs: this.#chance(0.5) ? (20_000 + this.#below(900)) * dayMs : null,
      openTo,
      found,
    };
  }

  #span(moment: boolean): Span {
    const random = this.#random;
    const iso = () =>
      this.#chance(0.8) ? new Date((20_000 + this.#below(900)) * dayMs).toISOString().slice(0, 10) : null;
    const unit = random.pick(spanUnits);
    return random.pick<() => Span>([
      () => ({ from: iso(), to: iso() }),
      () => ({ next: 1 + this.#below(200), unit }),
      () => ({ last: 1 + this.#below(200), unit }),
      () => ({ is: random.pick(namedSpans.filter((each) => moment || each !== 'since-look')) }),
    ])();
  }

  #period(): string {
    const random = this.#random;
    const year = 2024 + this.#below(3);
    const two = (number: number) => String(number).padStart(2, '0');
    return random.pick([
      `${year}`,
      `${year}-Q${1 + this.#below(4)}`,
      `${year}-${two(1 + this.#below(12))}`,
      `${year}-W${two(1 + this.#below(52))}`,
      `${year}-${two(1 + this.#below(12))}-${two(1 + this.#below(28))}`,
      `filing-${year}`,
    ]);
  }

  #valuesOf(of: string): AskedFor[] {
    const type = this.world.columns.find((column) => column.id === of)?.type;
    const value = (): AskedFor => {
      if (of === 'kind') return this.#random.pick(['PDF', 'DOC', 'FAX']);
      if (of === 'label') return this.#random.pick(labels);
      if (of === 'place') return this.#random.pick(this.places).id;
      if (of === 'year') return 2024 + this.#below(4);
      if (of === 'title') return this.#random.pick(titles);
      if (['size', 'pages', 'words'].includes(of)) return this.#below(60);
      if (['filedBy', 'changedBy', 'openTo'].includes(of)) return this.#random.pick(people);
      const one = type ? this.#value(type) : null;
      return Array.isArray(one) ? (one[0] as AskedFor) : (one as AskedFor);
    };
    const some = Array.from({ length: this.#below(4) }, value);
    return this.#chance(0.2) && of !== 'openTo' && of !== 'place' ? [...some, null] : some;
  }

  #condition(): Condition {
    const of = this.#random.pick([
      ...builtIns,
      ...this.world.columns.filter((column) => !column.retired).map((column) => column.id),
    ]);
    const sense = senseOf(of, this.world.columns);
    const random = this.#random;
    const pick = (): Condition => ({ of, anyOf: this.#valuesOf(of) });
    const periods = (): Condition => ({
      of,
      anyOf: [...Array.from({ length: this.#below(3) }, () => this.#period()), ...(this.#chance(0.2) ? [null] : [])],
    });
    const filled = (): Condition => ({ of, filled: this.#chance(0.5) });
    const text = (): Condition => ({
      of,
      text: random.pick(['contains', 'starts'] as const),
      words: random.pick(words),
    });
    const bound = () => (this.#chance(0.7) ? this.#below(200) - 20 : null);
    const range = (): Condition => ({ of, from: bound(), to: bound() });
    const who = (): Condition => ({ of, who: this.#chance(0.5) ? ['me'] : ['me', 'my-groups'] });
    const span = (moment: boolean) => (): Condition => ({ of, span: this.#span(moment) });
    const ways: Record<string, (() => Condition)[]> = {
      text: of === 'title' ? [text] : [pick, text, filled],
      longText: [text, filled],
      picked: [pick, pick, filled],
      person: [pick, who, filled],
      number: [pick, range, range, filled],
      day: [periods, span(false), span(false), filled],
      moment: [periods, span(true)],
      place: [pick],
      openTo: [pick, who],
    };
    return random.pick(ways[sense ?? 'picked'] ?? [pick])();
  }

  question(): Question {
    const random = this.#random;
    const inUse = this.world.columns.filter((column) => !column.retired);
    const block = (parts: Part[]): Part => ({ how: random.pick(['all', 'any', 'none'] as const), parts });
    const some = (most: number, make: () => Part): Part[] => Array.from({ length: this.#below(most + 1) }, make);
    const one = (): Part => this.#condition();
    const conditions = some(2, () =>
      this.#chance(0.3) ? block(some(3, () => (this.#chance(0.3) ? block(some(2, one)) : one()))) : one(),
    );
    const measured = inUse
      .filter((column) => ['number', 'amount', 'date'].includes(column.type))
      .map((column) => column.id);
    const measures = this.#some(measured, 3);
    const groupable = [...builtIns.filter((of) => of !== 'title'), ...inUse.map((column) => column.id)].filter(
      (of) => groupWays[senseOf(of, this.world.columns) ?? 'openTo'].length > 0,
    );
    const groupings = Array.from({ length: this.#below(4) }, (): Grouping => {
      const of = random.pick(groupable) as Grouping['of'];
      return {
        of,
        by: random.pick(groupWays[senseOf(of, this.world.columns) ?? 'picked']),
        order: random.pick([...groupOrders, 'own', 'own', ...measures]) as Grouping['order'],
        direction: random.pick(['up', 'down'] as const),
      };
    });
    const sortable = [
      ...builtIns.filter((of) => of !== 'openTo'),
      ...inUse.filter((column) => column.type !== 'longText').map((column) => column.id),
      'order',
    ];
    const sorts = Array.from({ length: this.#below(4) }, (): Sort => ({
      of: random.pick(sortable) as Sort['of'],
      direction: random.pick(['up', 'down'] as const),
    }));
    const below = this.#chance(0.8);
    return {
      placeId: this.#chance(0.75) ? (this.places[0]?.id ?? '') : random.pick(this.places).id,
      below,
      conditions,
      groupings,
      sorts,
      counts: this.#some([...builtIns.filter((of) => of !== 'title'), ...inUse.map((column) => column.id)], 4),
      measures,
      start: random.pick([0, 0, 0, 5, 20]),
      limit: random.pick([1, 10, 1000]),
    };
  }
}
