/**
 * What a view answers, by the plainest way there is: every paper looked at by itself, nothing encoded, nothing
 * prepared. Tests hold the tally to it. It shares the types and the calendar with the tally, and no step of the work.
 * Over 400 lines: it is read beside the definition of views, from top to bottom, and nothing in it is of use alone.
 */
import type { Column, Value } from '@/core/columns/model';
import { searchKey } from '@/core/text/fold';
import { naturalCompare } from '@/core/text/natural';
import { isBlock, type AskedFor, type Condition, type Part } from '@/core/views/conditions';
import { agos, dayAt, dayNumber, periodDays, periodOf, spanDays, type PeriodUnit } from '@/core/calendar/period';
import {
  mostGroups,
  mostListed,
  type Answer,
  type Asker,
  type Group,
  type GroupKind,
  type PropertyCounts,
  type Question,
  type Totals,
  type ViewPaper,
  type ViewPlace,
  type ViewWorld,
} from '@/core/views/question';
import type { Grouping, Sort } from '@/core/views/spec';

export interface PlainLibrary {
  readonly world: ViewWorld;
  readonly places: readonly ViewPlace[];
  readonly papers: readonly ViewPaper[];
  /** Long texts by paper and column, which the tally itself does not hold. */
  readonly longTexts?: ReadonlyMap<string, string>;
}

type Held = readonly AskedFor[];

/** Reckoning with time zones is slow, and the same instants come again and again. */
const knownDays = new Map<string, number>();
function dayIn(atMs: number, timeZone: string): number {
  const key = `${atMs} ${timeZone}`;
  const day = knownDays.get(key) ?? dayAt(atMs, timeZone);
  knownDays.set(key, day);
  return day;
}

export class Naive {
  readonly #places: ReadonlyMap<string, ViewPlace>;
  readonly #papers: ReadonlyMap<string, ViewPaper>;
  readonly #columns: ReadonlyMap<string, Column>;

  constructor(
    private readonly library: PlainLibrary,
    private readonly question: Question,
    private readonly asker: Asker,
  ) {
    this.#places = new Map(library.places.map((place) => [place.id, place]));
    this.#papers = new Map(library.papers.map((paper) => [paper.id, paper]));
    this.#columns = new Map(library.world.columns.map((column) => [column.id, column]));
  }

  answer(): Answer {
    const { question } = this;
    const reached = this.library.papers.filter((paper) => this.#seesPaper(paper) && this.#within(paper));
    const shown = reached.filter((paper) => question.conditions.every((part) => this.#meets(paper, part)));
    const { groups, lines } = this.#groups(shown, 0, shown);
    return {
      totals: this.#totals(shown),
      groups,
      lines: lines.length,
      ids: lines.slice(question.start, question.start + question.limit).map((paper) => paper.id),
      counts: Object.fromEntries(
        question.counts.map((of) => {
          const others = question.conditions.filter((part) => !speaksOnlyOf(part, of));
          return [
            of,
            this.#counts(
              reached.filter((paper) => others.every((part) => this.#meets(paper, part))),
              of,
            ),
          ];
        }),
      ),
    };
  }

  /** The papers shown, each with the places within the question's reach in which it stands for the asker. */
  standing(): { paper: ViewPaper; places: ViewPlace[] }[] {
    const { placeId, conditions } = this.question;
    return this.library.papers
      .filter((paper) => this.#seesPaper(paper) && this.#within(paper))
      .filter((paper) => conditions.every((part) => this.#meets(paper, part)))
      .map((paper) => ({ paper, places: this.#standing(paper).filter((place) => place.lineage.includes(placeId)) }));
  }

  #home = (paper: ViewPaper): ViewPlace => this.#places.get(paper.homeId) as ViewPlace;

  #scopesInto(paper: ViewPaper): (string | null)[] {
    if (paper.scopeId !== null) return [paper.scopeId];
    const openings = paper.filings.filter((each) => each.opening).map((each) => each.placeId);
    return [paper.homeId, ...openings].map((id) => this.#places.get(id)?.scopeId ?? null);
  }

  #seesPaper = (paper: ViewPaper): boolean =>
    this.asker.keeper || this.#scopesInto(paper).some((id) => id !== null && this.asker.scopes.has(id));

  /** The places in which a paper stands for the asker: the home first, where they are told of it. */
  readonly #stands = new Map<ViewPaper, ViewPlace[]>();
  #standing(paper: ViewPaper): ViewPlace[] {
    const known = this.#stands.get(paper);
    if (known) return known;
    const also = paper.filings.filter((each) => this.#sees(each.placeId)).map((each) => each.placeId);
    const ids = this.#tellsHome(paper) ? [paper.homeId, ...also] : also;
    const stands = ids.map((id) => this.#places.get(id) as ViewPlace);
    this.#stands.set(paper, stands);
    return stands;
  }

  /** Whether the asker sees the paper otherwise than by a place that lists it and lets its readers in. */
  #tellsHome({ scopeId, homeId }: ViewPaper): boolean {
    if (scopeId === null) return this.#sees(homeId);
    return this.asker.keeper || (this.asker.scopes.has(scopeId) && !this.asker.byOpening.has(scopeId));
  }

  #sees(placeId: string): boolean {
    const place = this.#places.get(placeId);
    return (
      place !== undefined && (this.asker.keeper || (place.scopeId !== null && this.asker.scopes.has(place.scopeId)))
    );
  }

  #knownIds: ReadonlySet<string> | null = null;
  #knows(placeId: string): boolean {
    this.#knownIds ??= new Set([
      ...this.library.places.filter((place) => this.#sees(place.id)).flatMap((place) => place.lineage),
      ...this.library.papers
        .filter((paper) => paper.scopeId !== null && this.#seesPaper(paper) && this.#tellsHome(paper))
        .flatMap((paper) => this.#home(paper).lineage),
    ]);
    return this.#knownIds.has(placeId);
  }

  #within(paper: ViewPaper): boolean {
    const { below, placeId } = this.question;
    return this.#standing(paper).some((place) => (below ? place.lineage.includes(placeId) : place.id === placeId));
  }

  /** The values a paper holds of a property; none for an empty one. Days and instants as ISO 8601 days. */
  #held(paper: ViewPaper, of: string): Held {
    switch (of) {
      case 'title':
        return [paper.title];
      case 'kind':
        return [paper.kind];
      case 'size':
        return [paper.sizeBytes];
      case 'pages':
        return paper.pageCount === null ? [] : [paper.pageCount];
      case 'words':
        return paper.wordCount === null ? [] : [paper.wordCount];
      case 'filedBy':
        return [paper.filedBy];
      case 'changedBy':
        return [paper.changedBy];
      case 'label':
        return paper.labels.filter((id) => this.asker.labels.has(id));
      case 'place':
        return this.#standing(paper).map((place) => place.id);
      case 'year':
        return this.#standing(paper)
          .slice(0, 1)
          .flatMap((place) => place.filingYear ?? []);
    }
    const column = this.#columns.get(of);
    const value: Value | undefined = paper.values[of];
    if (!column || value === undefined || !this.#home(paper).lineage.includes(column.placeId)) return [];
    return Array.isArray(value) ? (value as readonly string[]) : [value as AskedFor];
  }

  #day(paper: ViewPaper, of: string): number | null {
    const { timeZone } = this.library.world;
    if (of === 'filedAt') return dayIn(paper.filedAtMs, timeZone);
    if (of === 'changedAt') return dayIn(paper.changedAtMs, timeZone);
    const [value] = this.#held(paper, of);
    return typeof value === 'string' ? dayNumber(value) : null;
  }

  #isDay = (of: string): boolean => of === 'filedAt' || of === 'changedAt' || this.#columns.get(of)?.type === 'date';

  #hidden(of: string, value: AskedFor): boolean {
    const type = this.#columns.get(of)?.type;
    if (type === 'dossier') return !this.#knows(String(value));
    if (type !== 'document') return false;
    const named = this.#papers.get(String(value));
    return named === undefined || !this.#seesPaper(named);
  }

  get #looking() {
    return { today: this.asker.today, yearStartMonth: this.library.world.yearStartMonth };
  }

  #meets(paper: ViewPaper, part: Part): boolean {
    if (!isBlock(part)) return nothing(part) || this.#meetsOne(paper, part);
    const asking = part.parts.filter((each) => !nothing(each));
    if (asking.length === 0) return true;
    const met = asking.map((each) => this.#meets(paper, each));
    return part.how === 'all' ? met.every(Boolean) : part.how === 'any' ? met.some(Boolean) : !met.some(Boolean);
  }

  #meetsOne(paper: ViewPaper, condition: Condition): boolean {
    const { of } = condition;
    const home = this.#home(paper);
    if (of === 'openTo') {
      const people = 'who' in condition ? this.#meant(condition.who) : 'anyOf' in condition ? condition.anyOf : [];
      return people.some((id) => this.#isOpenTo(paper, String(id)));
    }
    if (of === 'place')
      return (
        'anyOf' in condition &&
        this.#standing(paper).some((place) => condition.anyOf.some((id) => place.lineage.includes(String(id))))
      );
    if (this.#isDay(of)) return this.#meetsDay(paper, condition);
    const column = this.#columns.get(of);
    if (column?.type === 'longText') {
      const text = home.lineage.includes(column.placeId) ? this.library.longTexts?.get(`${paper.id} ${of}`) : undefined;
      if ('filled' in condition) return (text !== undefined) === condition.filled;
      return text !== undefined && 'text' in condition && textMeets(text, condition);
    }
    const held = this.#held(paper, of);
    if ('filled' in condition) return held.length > 0 === condition.filled;
    if ('text' in condition) return held.some((each) => textMeets(String(each), condition));
    if ('from' in condition)
      return held.some(
        (each) => Number(each) >= (condition.from ?? -Infinity) && Number(each) <= (condition.to ?? Infinity),
      );
    if ('who' in condition) return held.some((each) => this.#meant(condition.who).includes(String(each)));
    if (!('anyOf' in condition)) throw new Error('Days were seen to before');
    if (held.length === 0) return condition.anyOf.includes(null);
    return held.some((each) => condition.anyOf.includes(each) && !this.#hidden(of, each));
  }

  #isOpenTo(paper: ViewPaper, personId: string): boolean {
    const scopes = this.#scopesInto(paper).filter((id) => id !== null);
    const { managed, keeper } = this.asker;
    const over = paper.scopeId ?? this.#home(paper).scopeId;
    if (personId !== this.asker.personId && !keeper && (over === null || !managed.has(over))) return false;
    const theirs = this.asker.openTo.get(personId);
    return (scopes.length === 0 ? [''] : scopes).some((id) => theirs?.has(id) === true);
  }

  #meant = (who: readonly string[]): string[] => [
    ...(who.includes('me') ? [this.asker.personId] : []),
    ...(who.includes('my-groups') ? this.asker.groupMates : []),
  ];

  #meetsDay(paper: ViewPaper, condition: Condition): boolean {
    const day = this.#day(paper, condition.of);
    const within = (days: { from: number | null; to: number | null } | null): boolean =>
      days !== null && day !== null && (days.from === null || day >= days.from) && (days.to === null || day <= days.to);
    if ('filled' in condition) return (day !== null) === condition.filled;
    if ('anyOf' in condition)
      return condition.anyOf.some((key) =>
        key === null ? day === null : within(periodDays(String(key), this.#looking)),
      );
    if (!('span' in condition)) throw new Error('No such question about days');
    if ('is' in condition.span && condition.span.is === 'since-look')
      return (
        this.asker.lookedAtMs === null ||
        (condition.of === 'filedAt' ? paper.filedAtMs : paper.changedAtMs) > this.asker.lookedAtMs
      );
    return within(spanDays(condition.span, this.#looking));
  }

  #totals(papers: readonly ViewPaper[]): Totals {
    return {
      papers: papers.length,
      pages: papers.reduce((sum, paper) => sum + (paper.pageCount ?? 0), 0),
      bytes: papers.reduce((sum, paper) => sum + paper.sizeBytes, 0),
      measures: this.question.measures.map((of) => {
        const isDay = this.#isDay(of);
        const held = papers.flatMap((paper) =>
          isDay ? (this.#day(paper, of) ?? []) : (this.#held(paper, of) as number[]),
        );
        return {
          filled: held.length,
          sum: isDay ? 0 : held.reduce((sum, each) => sum + each, 0),
          least: held.length > 0 ? held.reduce((a, b) => Math.min(a, b)) : null,
          most: held.length > 0 ? held.reduce((a, b) => Math.max(a, b)) : null,
        };
      }),
    };
  }

  /** The keys of the groups in which a paper stands, as JSON of kind and key. */
  #keys(paper: ViewPaper, { of, by }: Grouping): string[] {
    const key = (kind: GroupKind, value: AskedFor = null): string => JSON.stringify([kind, value]);
    if (this.#isDay(of)) {
      const day = this.#day(paper, of);
      return [day === null ? key('none') : key('value', periodOf(day, by as PeriodUnit, this.#looking))];
    }
    if (by === 'dossier' || by === 'series') {
      const steps = this.#standing(paper).flatMap(
        (place) => place.lineage.find((id) => this.#places.get(id)?.kind === by) ?? [],
      );
      return steps.length === 0 ? [key('none')] : [...new Set(steps)].map((step) => key('value', step));
    }
    const held = this.#held(paper, of);
    if (held.length === 0) return [key('none')];
    return [...new Set(held.map((each) => (this.#hidden(of, each) ? key('hidden') : key('value', each))))];
  }

  /** The values of a level that are listed: the most frequent over all that is shown. */
  #listed(shown: readonly ViewPaper[], grouping: Grouping, most: number): { kept: Set<string>; more: number } {
    const counts = new Map<string, number>();
    for (const paper of shown)
      for (const key of this.#keys(paper, grouping)) counts.set(key, (counts.get(key) ?? 0) + 1);
    const values = [...counts.keys()].filter((key) => kindOf(key) === 'value');
    values.sort(
      (a, b) =>
        (counts.get(b) ?? 0) - (counts.get(a) ?? 0) ||
        this.#ownOrder(grouping.of, keyOf(a), keyOf(b)) ||
        (String(keyOf(a)) < String(keyOf(b)) ? -1 : 1),
    );
    return { kept: new Set(values.slice(0, most)), more: Math.max(0, values.length - most) };
  }

  #groups(
    shown: readonly ViewPaper[],
    depth: number,
    all: readonly ViewPaper[],
  ): { groups: Group[]; lines: ViewPaper[] } {
    const grouping = this.question.groupings[depth];
    if (!grouping) return { groups: [], lines: this.#sorted(shown) };
    const { kept, more } = this.#listed(all, grouping, mostGroups[this.question.groupings.length]?.[depth] ?? 0);
    const gathered = new Map<string, ViewPaper[]>();
    for (const paper of shown) {
      const keys = this.#keys(paper, grouping).map((key) =>
        kindOf(key) === 'value' && !kept.has(key) ? JSON.stringify(['rest', null]) : key,
      );
      for (const key of new Set(keys)) gathered.set(key, [...(gathered.get(key) ?? []), paper]);
    }
    const groups = [...gathered].map(([key, papers]) => {
      const inner = this.#groups(papers, depth + 1, all);
      const kind = kindOf(key);
      const group: Group = {
        kind,
        key: keyOf(key),
        totals: this.#totals(papers),
        groups: inner.groups,
        lines: inner.lines.length,
        values: kind === 'rest' ? more : 1,
      };
      return { group, lines: inner.lines };
    });
    const places: GroupKind[] = ['value', 'rest', 'hidden', 'none'];
    const sign = grouping.direction === 'up' ? 1 : -1;
    const size = ({ totals }: Group): number =>
      grouping.order === 'own'
        ? 0
        : grouping.order === 'papers' || grouping.order === 'pages' || grouping.order === 'bytes'
          ? totals[grouping.order]
          : (totals.measures[this.question.measures.indexOf(grouping.order)]?.sum ?? 0);
    groups.sort(
      ({ group: a }, { group: b }) =>
        places.indexOf(a.kind) - places.indexOf(b.kind) ||
        sign * (size(a) - size(b)) ||
        (a.kind === 'value' ? (grouping.order === 'own' ? sign : 1) * this.#ownOrder(grouping.of, a.key, b.key) : 0) ||
        (String(a.key) < String(b.key) ? -1 : String(a.key) > String(b.key) ? 1 : 0),
    );
    return { groups: groups.map((each) => each.group), lines: groups.flatMap((each) => each.lines) };
  }

  #ownOrder(of: string, a: AskedFor, b: AskedFor): number {
    const { names, termOrder } = this.library.world;
    const type = this.#columns.get(of)?.type;
    const byName = (nameOf: (id: string) => string) => naturalCompare(nameOf(String(a)), nameOf(String(b)));
    if (a === null || b === null) return Number(a === null) - Number(b === null);
    if (typeof a === 'number' && typeof b === 'number') return a - b;
    if (typeof a === 'boolean') return Number(a) - Number(b);
    if (a === b) return 0;
    if (this.#isDay(of)) {
      const ago = (key: AskedFor) => agos.indexOf(String(key) as (typeof agos)[number]);
      return ago(a) !== -1 ? ago(a) - ago(b) : a < b ? -1 : 1;
    }
    if (type === 'choice' || type === 'choices')
      return (termOrder.get(String(a)) ?? 0) - (termOrder.get(String(b)) ?? 0);
    if (type === 'document') return byName((id) => this.#papers.get(id)?.title ?? '');
    if (type === 'dossier' || of === 'place') return this.#inTree(String(a), String(b));
    if (type === 'person' || ['filedBy', 'changedBy', 'label'].includes(of)) return byName((id) => names.get(id) ?? '');
    return naturalCompare(String(a), String(b));
  }

  /** Two places as the tree is read: compared where their ways from the top part. */
  #inTree(a: string, b: string): number {
    const [one, other] = [this.#places.get(a)?.lineage ?? [], this.#places.get(b)?.lineage ?? []];
    for (let step = 0; step < Math.max(one.length, other.length); step += 1) {
      const [x, y] = [this.#places.get(one[step] ?? ''), this.#places.get(other[step] ?? '')];
      if (!x || !y) return Number(x !== undefined) - Number(y !== undefined);
      if (x.id !== y.id) return x.position - y.position || naturalCompare(x.name, y.name) || (x.id < y.id ? -1 : 1);
    }
    return 0;
  }

  #sorted(papers: readonly ViewPaper[]): ViewPaper[] {
    return [...papers].sort((a, b) => {
      for (const sort of this.question.sorts) {
        const difference = this.#compare(a, b, sort);
        if (difference !== 0) return difference;
      }
      return naturalCompare(a.title, b.title) || (a.id < b.id ? -1 : 1);
    });
  }

  #compare(a: ViewPaper, b: ViewPaper, { of, direction }: Sort): number {
    const sign = direction === 'up' ? 1 : -1;
    if (of === 'title') return sign * naturalCompare(a.title, b.title);
    if (of === 'filedAt') return sign * (a.filedAtMs - b.filedAtMs);
    if (of === 'changedAt') return sign * (a.changedAtMs - b.changedAtMs);
    const first = (paper: ViewPaper): { last: number; value: AskedFor } => {
      if (of === 'order') return paper.order === null ? { last: 2, value: null } : { last: 0, value: paper.order };
      const held = [...this.#held(paper, of)].sort((x, y) => this.#ownOrder(of, x, y));
      const [value] = held;
      if (value === undefined) return { last: 2, value: null };
      return { last: this.#hidden(of, value) ? 1 : 0, value };
    };
    const [one, other] = [first(a), first(b)];
    if (one.last !== other.last || one.last > 0) return one.last - other.last;
    return sign * Math.sign(this.#ownOrder(of, one.value, other.value));
  }

  #counts(papers: readonly ViewPaper[], of: string): PropertyCounts {
    if (this.#isDay(of)) {
      const days = papers.map((paper) => this.#day(paper, of));
      const found = days.filter((day) => day !== null);
      const months = tallied(found.map((day) => periodOf(day, 'month', this.#looking)));
      return {
        kind: 'months',
        months: [...months]
          .map(([value, count]) => ({ value, papers: count }))
          .sort((a, b) => (a.value < b.value ? 1 : -1))
          .slice(0, mostListed),
        none: days.length - found.length,
      };
    }
    const type = this.#columns.get(of)?.type;
    if (type === 'longText') {
      const filled = papers.filter((paper) => this.#meetsOne(paper, { of, filled: true })).length;
      return { kind: 'range', least: null, most: null, none: papers.length - filled, filled };
    }
    if (['size', 'pages', 'words'].includes(of) || type === 'number' || type === 'amount') {
      const held = papers.flatMap((paper) => this.#held(paper, of) as number[]);
      return {
        kind: 'range',
        least: held.length > 0 ? Math.min(...held) : null,
        most: held.length > 0 ? Math.max(...held) : null,
        none: papers.length - held.length,
        filled: held.length,
      };
    }
    const stands = (paper: ViewPaper): Held => {
      if (of === 'place')
        return this.#standing(paper)
          .filter((place) => place.lineage.includes(this.question.placeId))
          .flatMap(({ lineage }) => lineage.slice(lineage.indexOf(this.question.placeId) + 1));
      if (of === 'openTo') return [...this.asker.openTo.keys()].filter((id) => this.#isOpenTo(paper, id));
      const held = this.#held(paper, of);
      return held.length === 0 ? [null] : held.filter((value) => !this.#hidden(of, value));
    };
    const counts = tallied(papers.flatMap((paper) => [...new Set(stands(paper))]));
    const all = [...counts].map(([value, count]) => ({ value, papers: count }));
    all.sort(
      (a, b) =>
        b.papers - a.papers ||
        (of === 'openTo' ? 0 : this.#ownOrder(of, a.value, b.value)) ||
        (String(a.value) < String(b.value) ? -1 : 1),
    );
    return { kind: 'values', values: all.slice(0, mostListed), more: Math.max(0, all.length - mostListed) };
  }
}

const kindOf = (key: string): GroupKind => (JSON.parse(key) as [GroupKind])[0];
const keyOf = (key: string): AskedFor => (JSON.parse(key) as [GroupKind, AskedFor])[1];

function tallied<T>(all: readonly T[]): Map<T, number> {
  const counts = new Map<T, number>();
  for (const each of all) counts.set(each, (counts.get(each) ?? 0) + 1);
  return counts;
}

function textMeets(
  value: string,
  condition: { readonly text: 'contains' | 'starts'; readonly words: string },
): boolean {
  const [text, words] = [searchKey(value), searchKey(condition.words)];
  return condition.text === 'starts' ? text.startsWith(words) : text.includes(words);
}

function nothing(part: Part): boolean {
  if (isBlock(part)) return part.parts.every(nothing);
  if ('anyOf' in part) return part.anyOf.length === 0;
  if ('from' in part) return part.from === null && part.to === null;
  return 'span' in part && 'from' in part.span && part.span.from === null && part.span.to === null;
}

function speaksOnlyOf(part: Part, of: string): boolean {
  if (!isBlock(part)) return part.of === of;
  const asking = part.parts.filter((each) => !nothing(each));
  return asking.length > 0 && asking.every((each) => speaksOnlyOf(each, of));
}
