/** Random libraries, changes of them, and random questions: small, and full of what is awkward. */
import { Chance } from '@/core/chance/chance';
import { columnMeanings, columnTypes, type Column, type ColumnType, type Value } from '@/core/columns/model';
import { paperSignatures } from '@/core/documents/signature';
import { conditionsIn } from '@/core/views/conditions';
import { dayAt } from '@/core/calendar/period';
import {
  longTextKey,
  type Asker,
  type Question,
  type ViewPaper,
  type ViewPlace,
  type ViewWorld,
} from '@/core/views/question';
import { searchKey } from '@/core/text/fold';
import { id, kinds, labels, people, personNames, terms, texts, timeZones, titles } from './awkward';
import type { PlainLibrary } from './naive';
import { classNames, randomOwing } from './randomOwing';
import { ownWays } from '@/core/views/own';

const dayMs = 86_400_000;

export class RandomPapers {
  world: ViewWorld;
  places: ViewPlace[] = [];
  papers = new Map<string, ViewPaper>();
  longTexts = new Map<string, string>();
  readonly people = people;
  readonly terms = terms;
  readonly labels = labels;
  readonly plannedFolders = Array.from({ length: 3 }, (_, at) => id(kinds.planned, at));
  readonly scopeIds = Array.from({ length: 4 }, (_, at) => id(kinds.scope, at));
  protected readonly random: Chance;
  protected made = 0;

  constructor(
    seed: number,
    readonly size = 40,
  ) {
    this.random = new Chance(seed);
    this.plant();
    const types: ColumnType[] = [...columnTypes, 'choice', 'choices', 'amount', 'date'];
    const columns = types.map((type, at) => this.column(type, at));
    this.world = {
      columns,
      names: new Map([
        ...people.map((person, at) => [person, personNames[at] ?? ''] as const),
        ...terms.map((term, at) => [term, `Term ${at}`] as const),
        ...classNames,
        ...labels.map((label, at) => [label, ['For approval', 'Audit 2', 'Audit 10', 'Mine'][at] ?? ''] as const),
      ]),
      otherNames: new Map(terms.map((term, at) => [term, [`Also ${at}`]] as const)),
      termOrder: new Map(terms.map((term, at) => [term, terms.length - at])),
      timeZone: this.random.pick(timeZones),
      yearStartMonth: this.random.pick([1, 4, 9]),
      owing: randomOwing(this.random, { columns, terms, people, places: this.places, papers: size }),
    };
    for (let at = 0; at < size; at += 1) this.put();
  }

  dayAt = (ms: number): number => dayAt(ms, this.world.timeZone);

  get plain(): PlainLibrary {
    return { world: this.world, places: this.places, papers: [...this.papers.values()], longTexts: this.longTexts };
  }

  /** Whether something happens that happens in this share of cases. */
  happens = (share: number): boolean => this.random.happens(share);
  someScopes = (): string[] => this.some(this.scopeIds, 5);
  protected chance = (of: number): boolean => this.random.happens(of);
  protected below = (most: number): number => this.random.whole(0, most - 1);
  protected some<T>(all: readonly T[], most: number): T[] {
    return [...new Set(Array.from({ length: this.below(most + 1) }, () => this.random.pick(all)))];
  }

  protected plant(): void {
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
        name: this.random.pick(['Board', 'board 2', 'Board 10', 'Tenants']),
        reference: this.chance(0.3) ? `T-${this.below(40)}` : null,
        position: this.below(3),
        scopeId: scopeId ?? parent?.scopeId ?? null,
        filingYear: filingYear ?? parent?.filingYear ?? null,
        plannedKey: kind === 'folder' ? this.plannedKey(filingYear ?? parent?.filingYear ?? null) : null,
        closedAtMs: this.chance(0.3) ? (20_000 + this.below(900)) * dayMs : null,
      };
      this.places.push(place);
      return place;
    };
    const library = add(null, 'library', null, this.scopeIds[0] ?? null);
    for (let at = 0; at < 3; at += 1) {
      const series = add(library, 'series', null, this.chance(0.3) ? this.random.pick(this.scopeIds) : null);
      for (let dossierAt = 0; dossierAt < 2; dossierAt += 1) {
        const dossier = add(series, 'dossier', null, this.chance(0.3) ? this.random.pick(this.scopeIds) : null);
        const year = add(dossier, 'year', 2024 + this.below(3), null);
        const folder = add(year, 'folder', null, this.chance(0.2) ? this.random.pick(this.scopeIds) : null);
        if (this.chance(0.6)) add(folder, 'folder', null, null);
      }
    }
  }

  /** A folder's: by a person, once, for its year, or for one of three meetings. */
  protected plannedKey(year: number | null): string | null {
    const of = this.random.pick([null, '', ` ${year ?? ''}`, ` ${id(kinds.meeting, this.below(3))}`]);
    return of === null ? null : `${this.random.pick(this.plannedFolders)}${of}`.trim();
  }

  protected column(type: ColumnType, at: number): Column {
    return {
      id: id(kinds.column, at),
      placeId: this.chance(0.7) ? (this.places[0]?.id ?? '') : this.random.pick(this.places).id,
      name: `Column ${at}`,
      help: '',
      type,
      listId: null,
      open: false,
      unit: '',
      decimals: this.random.pick([0, 2]),
      currency: 'GBP',
      required: false,
      meaning: type === 'date' ? this.random.pick([...columnMeanings, 'validUntil', 'validUntil']) : 'none',
      defaultValue: null,
      position: at,
      retired: at > 12,
      revision: 0,
    };
  }

  protected value(type: ColumnType): Value | null {
    const random = this.random;
    switch (type) {
      case 'choice':
        return random.pick(terms);
      case 'choices': {
        const some = this.some(terms, 3);
        return some.length === 0 ? null : some;
      }
      case 'text':
      case 'longText':
        return random.pick(texts);
      case 'number':
      case 'amount':
        return random.pick([-1, 0, 0.25, 12.5, 100, this.below(10_000) / 100]);
      case 'date':
        return new Date((20_000 + this.below(900)) * dayMs).toISOString().slice(0, 10);
      case 'yesNo':
        return this.chance(0.5);
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
    const random = this.random;
    const own = existing ?? id(kinds.paper, (this.made += 1));
    const values: Record<string, Value> = {};
    for (const column of this.world.columns) {
      const value = this.chance(0.7) ? this.value(column.type) : null;
      this.longTexts.delete(`${own} ${column.id}`);
      if (value === null) continue;
      values[column.id] = value;
      if (column.type === 'longText') this.longTexts.set(`${own} ${column.id}`, String(value));
    }
    const filedAtMs = 20_000 * dayMs + this.below(900 * 24 * 60) * 60_000;
    const places = this.places.filter((place) => place.kind !== 'library');
    const homeId = random.pick(places).id;
    const elsewhere = places.filter((place) => place.id !== homeId).map((place) => place.id);
    const paper: ViewPaper = {
      id: own,
      homeId,
      scopeId: this.chance(0.15) ? id(kinds.scope, this.below(4)) : null,
      filings: this.chance(0.25)
        ? this.some(elsewhere, 3).map((placeId) => ({ placeId, opening: this.chance(0.5) }))
        : [],
      title: random.pick(titles),
      kind: random.pick(['PDF', 'DOC', 'SCAN']),
      sizeBytes: this.below(5_000_000),
      pageCount: this.chance(0.8) ? this.below(60) : null,
      wordCount: this.chance(0.8) ? this.below(9000) : null,
      filedBy: random.pick(people),
      filedAtMs,
      changedBy: random.pick(people),
      changedAtMs: filedAtMs + this.below(10) * dayMs,
      signature: random.pick([null, null, ...paperSignatures]),
      order: this.chance(0.5) ? this.below(8) : null,
      values,
      labels: this.some(labels, 3),
      fileName: `${random.pick(titles)}.pdf`,
      remark: this.chance(0.3) ? random.pick(texts) : '',
      texts: [],
    };
    this.papers.set(own, paper);
    return paper;
  }

  remove(): string {
    const gone = this.random.pick([...this.papers.keys()]);
    this.papers.delete(gone);
    return gone;
  }

  changeOne = (): ViewPaper => this.put(this.random.pick([...this.papers.keys()]));

  /** A place with another scope, or in another part of the tree: what access changes and moves come to. */
  changePlace(): ViewPlace[] {
    const random = this.random;
    const at = 1 + this.below(this.places.length - 1);
    const place = this.places[at] as ViewPlace;
    if (place.kind === 'folder' && !this.places.some((each) => each.lineage.at(-2) === place.id)) {
      const parent = random.pick(this.places.filter((each) => each.kind === 'year' || each.kind === 'series'));
      this.places[at] = { ...place, lineage: [...parent.lineage, place.id], filingYear: parent.filingYear };
    } else this.places[at] = { ...place, scopeId: id(kinds.scope, this.below(4)), position: this.below(3) };
    return [this.places[at] as ViewPlace];
  }

  asker(question: Question): Asker {
    const random = this.random;
    const openTo = new Map(people.map((person) => [person, new Set(this.some(this.scopeIds, 3))]));
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
      keeper: this.chance(0.3),
      scopes: new Set(this.some(this.scopeIds, 5)),
      managed: new Set(this.some(this.scopeIds, 3)),
      byOpening: new Set(this.some(this.scopeIds, 2)),
      groupMates: new Set(this.some(people, 3)),
      labels: new Set(this.some(labels, 4)),
      today: 20_000 + this.below(900),
      lookedAtMs: this.chance(0.5) ? (20_000 + this.below(900)) * dayMs : null,
      openTo,
      own: new Map(ownWays.map((way) => [way, new Set(this.some([...this.papers.keys()], 20))])),
      found,
      frequented: new Set(),
    };
  }
}
