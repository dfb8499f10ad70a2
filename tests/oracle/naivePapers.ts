/**
 * Which papers a view shows, by the plainest way there is: every paper looked at by itself, nothing encoded, nothing
 * prepared. It shares the types and the calendar with the tally, and no step of the work.
 */
import type { Column, Value } from '@/core/columns/model';
import { searchKey } from '@/core/text/fold';
import { isBlock, type AskedFor, type Condition, type Part } from '@/core/views/conditions';
import { dayAt, dayNumber, periodDays, spanDays } from '@/core/calendar/period';
import { plainlyOwed, type PlainlyOwed } from './plainOwed';
import { type Asker, type Question, type ViewPaper, type ViewPlace, type ViewWorld } from '@/core/views/question';
export interface PlainLibrary {
  readonly world: ViewWorld;
  readonly places: readonly ViewPlace[];
  readonly papers: readonly ViewPaper[];
  /** Long texts by paper and column, which the tally itself does not hold. */
  readonly longTexts?: ReadonlyMap<string, string>;
}

export type Held = readonly AskedFor[];

const listed = (value: AskedFor): Held => (value === null ? [] : [value]);

/** Reckoning with time zones is slow, and the same instants come again and again. */
const knownDays = new Map<string, number>();
export function dayIn(atMs: number, timeZone: string): number {
  const key = `${atMs} ${timeZone}`;
  const day = knownDays.get(key) ?? dayAt(atMs, timeZone);
  knownDays.set(key, day);
  return day;
}

/** The papers of a view, and what they hold as far as the asker may know of it. */
export class NaivePapers {
  protected readonly places: ReadonlyMap<string, ViewPlace>;
  protected readonly papers: ReadonlyMap<string, ViewPaper>;
  protected readonly columns: ReadonlyMap<string, Column>;

  constructor(
    protected readonly library: PlainLibrary,
    protected readonly question: Question,
    protected readonly asker: Asker,
  ) {
    this.places = new Map(library.places.map((place) => [place.id, place]));
    this.papers = new Map(library.papers.map((paper) => [paper.id, paper]));
    this.columns = new Map(library.world.columns.map((column) => [column.id, column]));
  }

  /** The papers shown, each with the places within the question's reach in which it stands for the asker. */
  standing(): { paper: ViewPaper; places: ViewPlace[] }[] {
    const { placeId, conditions } = this.question;
    return this.library.papers
      .filter((paper) => this.seesPaper(paper) && this.within(paper))
      .filter((paper) => conditions.every((part) => this.meets(paper, part)))
      .map((paper) => ({ paper, places: this.standsAt(paper).filter((place) => place.lineage.includes(placeId)) }));
  }

  protected home = (paper: ViewPaper): ViewPlace => this.places.get(paper.homeId) as ViewPlace;

  protected scopesInto(paper: ViewPaper): (string | null)[] {
    if (paper.scopeId !== null) return [paper.scopeId];
    const openings = paper.filings.filter((each) => each.opening).map((each) => each.placeId);
    return [paper.homeId, ...openings].map((id) => this.places.get(id)?.scopeId ?? null);
  }

  protected seesPaper = (paper: ViewPaper): boolean =>
    this.asker.keeper || this.scopesInto(paper).some((id) => id !== null && this.asker.scopes.has(id));

  /** The places in which a paper stands for the asker: the home first, where they are told of it. */
  protected readonly stands = new Map<ViewPaper, ViewPlace[]>();
  protected standsAt(paper: ViewPaper): ViewPlace[] {
    const known = this.stands.get(paper);
    if (known) return known;
    const also = paper.filings.filter((each) => this.sees(each.placeId)).map((each) => each.placeId);
    const ids = this.tellsHome(paper) ? [paper.homeId, ...also] : also;
    const stands = ids.map((id) => this.places.get(id) as ViewPlace);
    this.stands.set(paper, stands);
    return stands;
  }

  /** Whether the asker sees the paper otherwise than by a place that lists it and lets its readers in. */
  protected tellsHome({ scopeId, homeId }: ViewPaper): boolean {
    if (scopeId === null) return this.sees(homeId);
    return this.asker.keeper || (this.asker.scopes.has(scopeId) && !this.asker.byOpening.has(scopeId));
  }

  protected sees(placeId: string): boolean {
    const place = this.places.get(placeId);
    return (
      place !== undefined && (this.asker.keeper || (place.scopeId !== null && this.asker.scopes.has(place.scopeId)))
    );
  }

  protected knownIds: ReadonlySet<string> | null = null;
  protected knows(placeId: string): boolean {
    this.knownIds ??= new Set([
      ...this.library.places.filter((place) => this.sees(place.id)).flatMap((place) => place.lineage),
      ...this.library.papers
        .filter((paper) => paper.scopeId !== null && this.seesPaper(paper) && this.tellsHome(paper))
        .flatMap((paper) => this.home(paper).lineage),
    ]);
    return this.knownIds.has(placeId);
  }

  protected within(paper: ViewPaper): boolean {
    const { below, placeId } = this.question;
    return this.standsAt(paper).some((place) => (below ? place.lineage.includes(placeId) : place.id === placeId));
  }

  /** The values a paper holds of a property; none for an empty one. Days and instants as ISO 8601 days. */
  protected held(paper: ViewPaper, of: string): Held {
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
        return this.standsAt(paper).map((place) => place.id);
      case 'year':
        return this.standsAt(paper)
          .slice(0, 1)
          .flatMap((place) => place.filingYear ?? []);
      case 'signature':
        return listed(paper.signature);
      case 'reviewOn':
        return listed(this.owed(paper).reviewOn);
      case 'reviewer':
        return listed(this.owed(paper).reviewer);
      case 'keptUntil':
        return listed(this.owed(paper).keptUntil);
      case 'keptClass':
        return listed(this.owed(paper).keptClass);
      case 'keptEnd':
        return listed(this.owed(paper).keptEnd);
    }
    const column = this.columns.get(of);
    const value: Value | undefined = paper.values[of];
    if (!column || value === undefined || !this.home(paper).lineage.includes(column.placeId)) return [];
    return Array.isArray(value) ? (value as readonly string[]) : [value as AskedFor];
  }

  protected readonly owes = new Map<ViewPaper, PlainlyOwed>();
  protected owed(paper: ViewPaper): PlainlyOwed {
    const known = this.owes.get(paper) ?? plainlyOwed(this.library, this.places, paper);
    this.owes.set(paper, known);
    return known;
  }

  protected day(paper: ViewPaper, of: string): number | null {
    const { timeZone } = this.library.world;
    if (of === 'filedAt') return dayIn(paper.filedAtMs, timeZone);
    if (of === 'changedAt') return dayIn(paper.changedAtMs, timeZone);
    const [value] = this.held(paper, of);
    return typeof value === 'string' ? dayNumber(value) : null;
  }

  protected isDay = (of: string): boolean =>
    ['filedAt', 'changedAt', 'reviewOn', 'keptUntil'].includes(of) || this.columns.get(of)?.type === 'date';

  protected hidden(of: string, value: AskedFor): boolean {
    const type = this.columns.get(of)?.type;
    if (type === 'dossier') return !this.knows(String(value));
    if (type !== 'document') return false;
    const named = this.papers.get(String(value));
    return named === undefined || !this.seesPaper(named);
  }

  protected get looking() {
    return { today: this.asker.today, yearStartMonth: this.library.world.yearStartMonth };
  }

  protected meets(paper: ViewPaper, part: Part): boolean {
    if (!isBlock(part)) return nothing(part) || this.meetsOne(paper, part);
    const asking = part.parts.filter((each) => !nothing(each));
    if (asking.length === 0) return true;
    const met = asking.map((each) => this.meets(paper, each));
    return part.how === 'all' ? met.every(Boolean) : part.how === 'any' ? met.some(Boolean) : !met.some(Boolean);
  }

  protected meetsOne(paper: ViewPaper, condition: Condition): boolean {
    const { of } = condition;
    const home = this.home(paper);
    if (of === 'openTo') {
      const people = 'who' in condition ? this.meant(condition.who) : 'anyOf' in condition ? condition.anyOf : [];
      return people.some((id) => this.isOpenTo(paper, String(id)));
    }
    if (of === 'own') return 'anyOf' in condition && this.ownWays(paper).some((way) => condition.anyOf.includes(way));
    if (of === 'place')
      return (
        'anyOf' in condition &&
        this.standsAt(paper).some((place) => condition.anyOf.some((id) => place.lineage.includes(String(id))))
      );
    if (this.isDay(of)) return this.meetsDay(paper, condition);
    const column = this.columns.get(of);
    if (column?.type === 'longText') {
      const text = home.lineage.includes(column.placeId) ? this.library.longTexts?.get(`${paper.id} ${of}`) : undefined;
      if ('filled' in condition) return (text !== undefined) === condition.filled;
      return text !== undefined && 'text' in condition && textMeets(text, condition);
    }
    const held = this.held(paper, of);
    if ('filled' in condition) return held.length > 0 === condition.filled;
    if ('text' in condition) return held.some((each) => textMeets(String(each), condition));
    if ('from' in condition)
      return held.some(
        (each) => Number(each) >= (condition.from ?? -Infinity) && Number(each) <= (condition.to ?? Infinity),
      );
    if ('who' in condition) return held.some((each) => this.meant(condition.who).includes(String(each)));
    if (!('anyOf' in condition)) throw new Error('Days were seen to before');
    if (held.length === 0) return condition.anyOf.includes(null);
    return held.some((each) => condition.anyOf.includes(each) && !this.hidden(of, each));
  }

  protected isOpenTo(paper: ViewPaper, personId: string): boolean {
    const scopes = this.scopesInto(paper).filter((id) => id !== null);
    const { managed, keeper } = this.asker;
    const over = paper.scopeId ?? this.home(paper).scopeId;
    if (personId !== this.asker.personId && !keeper && (over === null || !managed.has(over))) return false;
    const theirs = this.asker.openTo.get(personId);
    return (scopes.length === 0 ? [''] : scopes).some((id) => theirs?.has(id) === true);
  }

  protected ownWays = (paper: ViewPaper): string[] =>
    [...this.asker.own].filter(([, ids]) => ids.has(paper.id)).map(([way]) => way);

  protected meant = (who: readonly string[]): string[] => [
    ...(who.includes('me') ? [this.asker.personId] : []),
    ...(who.includes('my-groups') ? this.asker.groupMates : []),
  ];

  protected meetsDay(paper: ViewPaper, condition: Condition): boolean {
    const day = this.day(paper, condition.of);
    const within = (days: { from: number | null; to: number | null } | null): boolean =>
      days !== null && day !== null && (days.from === null || day >= days.from) && (days.to === null || day <= days.to);
    if ('filled' in condition) return (day !== null) === condition.filled;
    if ('anyOf' in condition)
      return condition.anyOf.some((key) =>
        key === null ? day === null : within(periodDays(String(key), this.looking)),
      );
    if (!('span' in condition)) throw new Error('No such question about days');
    if ('is' in condition.span && condition.span.is === 'since-look')
      return (
        this.asker.lookedAtMs === null ||
        (condition.of === 'filedAt' ? paper.filedAtMs : paper.changedAtMs) > this.asker.lookedAtMs
      );
    return within(spanDays(condition.span, this.looking));
  }
}

function textMeets(
  value: string,
  condition: { readonly text: 'contains' | 'starts'; readonly words: string },
): boolean {
  const [text, words] = [searchKey(value), searchKey(condition.words)];
  return condition.text === 'starts' ? text.startsWith(words) : text.includes(words);
}

export function nothing(part: Part): boolean {
  if (isBlock(part)) return part.parts.every(nothing);
  if ('anyOf' in part) return part.anyOf.length === 0;
  if ('from' in part) return part.from === null && part.to === null;
  return 'span' in part && 'from' in part.span && part.span.from === null && part.span.to === null;
}

export function speaksOnlyOf(part: Part, of: string): boolean {
  if (!isBlock(part)) return part.of === of;
  const asking = part.parts.filter((each) => !nothing(each));
  return asking.length > 0 && asking.every((each) => speaksOnlyOf(each, of));
}
