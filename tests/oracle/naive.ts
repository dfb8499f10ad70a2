/**
 * What a view answers, by the plainest way there is: its papers (`naivePapers.ts`), counted, grouped and sorted one by one.
 * Tests hold the tally to it.
 */
import { naturalCompare } from '@/core/text/natural';
import { type AskedFor } from '@/core/views/conditions';
import { agos, periodOf, type PeriodUnit } from '@/core/calendar/period';
import {
  mostGroups,
  mostListed,
  type Answer,
  type Group,
  type GroupKind,
  type PropertyCounts,
  type Totals,
  type ViewPaper,
} from '@/core/views/question';
import type { Grouping, Sort } from '@/core/views/spec';
import { NaivePapers, speaksOnlyOf, type Held } from './naivePapers';
import { ownWays, type OwnWay } from '@/core/views/own';
export type { PlainLibrary } from './naivePapers';

/** The answer to one question for one person. */
export class Naive extends NaivePapers {
  answer(): Answer {
    const { question } = this;
    const reached = this.library.papers.filter((paper) => this.seesPaper(paper) && this.within(paper));
    const shown = reached.filter((paper) => question.conditions.every((part) => this.meets(paper, part)));
    const { groups, lines } = this.groups(shown, 0, shown);
    return {
      totals: this.totals(shown),
      groups,
      lines: lines.length,
      ids: lines.slice(question.start, question.start + question.limit).map((paper) => paper.id),
      meant: [],
      counts: Object.fromEntries(
        question.counts.map((of) => {
          const others = question.conditions.filter((part) => !speaksOnlyOf(part, of));
          return [
            of,
            this.counts(
              reached.filter((paper) => others.every((part) => this.meets(paper, part))),
              of,
            ),
          ];
        }),
      ),
    };
  }

  protected totals(papers: readonly ViewPaper[]): Totals {
    return {
      papers: papers.length,
      pages: papers.reduce((sum, paper) => sum + (paper.pageCount ?? 0), 0),
      bytes: papers.reduce((sum, paper) => sum + paper.sizeBytes, 0),
      measures: this.question.measures.map((of) => {
        const isDay = this.isDay(of);
        const held = papers.flatMap((paper) =>
          isDay ? (this.day(paper, of) ?? []) : (this.held(paper, of) as number[]),
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
  protected keys(paper: ViewPaper, { of, by }: Grouping): string[] {
    const key = (kind: GroupKind, value: AskedFor = null): string => JSON.stringify([kind, value]);
    if (this.isDay(of)) {
      const day = this.day(paper, of);
      return [day === null ? key('none') : key('value', periodOf(day, by as PeriodUnit, this.looking))];
    }
    if (by === 'dossier' || by === 'series') {
      const steps = this.standsAt(paper).flatMap(
        (place) => place.lineage.find((id) => this.places.get(id)?.kind === by) ?? [],
      );
      return steps.length === 0 ? [key('none')] : [...new Set(steps)].map((step) => key('value', step));
    }
    const held = this.held(paper, of);
    if (held.length === 0) return [key('none')];
    return [...new Set(held.map((each) => (this.hidden(of, each) ? key('hidden') : key('value', each))))];
  }

  /** The values of a level that are listed: the most frequent over all that is shown. */
  protected listed(shown: readonly ViewPaper[], grouping: Grouping, most: number): { kept: Set<string>; more: number } {
    const counts = new Map<string, number>();
    for (const paper of shown)
      for (const key of this.keys(paper, grouping)) counts.set(key, (counts.get(key) ?? 0) + 1);
    const values = [...counts.keys()].filter((key) => kindOf(key) === 'value');
    values.sort(
      (a, b) =>
        (counts.get(b) ?? 0) - (counts.get(a) ?? 0) ||
        this.ownOrder(grouping.of, keyOf(a), keyOf(b)) ||
        (String(keyOf(a)) < String(keyOf(b)) ? -1 : 1),
    );
    return { kept: new Set(values.slice(0, most)), more: Math.max(0, values.length - most) };
  }

  protected groups(
    shown: readonly ViewPaper[],
    depth: number,
    all: readonly ViewPaper[],
  ): { groups: Group[]; lines: ViewPaper[] } {
    const grouping = this.question.groupings[depth];
    if (!grouping) return { groups: [], lines: this.sorted(shown) };
    const { kept, more } = this.listed(all, grouping, mostGroups[this.question.groupings.length]?.[depth] ?? 0);
    const gathered = new Map<string, ViewPaper[]>();
    for (const paper of shown) {
      const keys = this.keys(paper, grouping).map((key) =>
        kindOf(key) === 'value' && !kept.has(key) ? JSON.stringify(['rest', null]) : key,
      );
      for (const key of new Set(keys)) gathered.set(key, [...(gathered.get(key) ?? []), paper]);
    }
    const groups = [...gathered].map(([key, papers]) => {
      const inner = this.groups(papers, depth + 1, all);
      const kind = kindOf(key);
      const group: Group = {
        kind,
        key: keyOf(key),
        totals: this.totals(papers),
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
          : // To so many digits as decimals added in any order agree in.
            Number((totals.measures[this.question.measures.indexOf(grouping.order)]?.sum ?? 0).toFixed(6));
    groups.sort(
      ({ group: a }, { group: b }) =>
        places.indexOf(a.kind) - places.indexOf(b.kind) ||
        sign * (size(a) - size(b)) ||
        (a.kind === 'value' ? (grouping.order === 'own' ? sign : 1) * this.ownOrder(grouping.of, a.key, b.key) : 0) ||
        (String(a.key) < String(b.key) ? -1 : String(a.key) > String(b.key) ? 1 : 0),
    );
    return { groups: groups.map((each) => each.group), lines: groups.flatMap((each) => each.lines) };
  }

  protected ownOrder(of: string, a: AskedFor, b: AskedFor): number {
    const { names, termOrder } = this.library.world;
    const type = this.columns.get(of)?.type;
    const byName = (nameOf: (id: string) => string) => naturalCompare(nameOf(String(a)), nameOf(String(b)));
    if (a === null || b === null) return Number(a === null) - Number(b === null);
    if (typeof a === 'number' && typeof b === 'number') return a - b;
    if (typeof a === 'boolean') return Number(a) - Number(b);
    if (a === b) return 0;
    if (this.isDay(of)) {
      const ago = (key: AskedFor) => agos.indexOf(String(key) as (typeof agos)[number]);
      return ago(a) !== -1 ? ago(a) - ago(b) : a < b ? -1 : 1;
    }
    if (type === 'choice' || type === 'choices')
      return (termOrder.get(String(a)) ?? 0) - (termOrder.get(String(b)) ?? 0);
    if (type === 'document') return byName((id) => this.papers.get(id)?.title ?? '');
    if (type === 'dossier' || of === 'place') return this.inTree(String(a), String(b));
    if (type === 'person' || ['filedBy', 'changedBy', 'label', 'reviewer', 'keptClass'].includes(of))
      return byName((id) => names.get(id) ?? '');
    return naturalCompare(String(a), String(b));
  }

  /** Two places as the tree is read: compared where their ways from the top part. */
  protected inTree(a: string, b: string): number {
    const [one, other] = [this.places.get(a)?.lineage ?? [], this.places.get(b)?.lineage ?? []];
    for (let step = 0; step < Math.max(one.length, other.length); step += 1) {
      const [x, y] = [this.places.get(one[step] ?? ''), this.places.get(other[step] ?? '')];
      if (!x || !y) return Number(x !== undefined) - Number(y !== undefined);
      if (x.id !== y.id) return x.position - y.position || naturalCompare(x.name, y.name) || (x.id < y.id ? -1 : 1);
    }
    return 0;
  }

  protected sorted(papers: readonly ViewPaper[]): ViewPaper[] {
    return [...papers].sort((a, b) => {
      for (const sort of this.question.sorts) {
        const difference = this.compare(a, b, sort);
        if (difference !== 0) return difference;
      }
      return naturalCompare(a.title, b.title) || (a.id < b.id ? -1 : 1);
    });
  }

  protected compare(a: ViewPaper, b: ViewPaper, { of, direction }: Sort): number {
    const sign = direction === 'up' ? 1 : -1;
    if (of === 'title') return sign * naturalCompare(a.title, b.title);
    if (of === 'filedAt') return sign * (a.filedAtMs - b.filedAtMs);
    if (of === 'changedAt') return sign * (a.changedAtMs - b.changedAtMs);
    const first = (paper: ViewPaper): { last: number; value: AskedFor } => {
      if (of === 'order') return paper.order === null ? { last: 2, value: null } : { last: 0, value: paper.order };
      const held = [...this.held(paper, of)].sort((x, y) => this.ownOrder(of, x, y));
      const [value] = held;
      if (value === undefined) return { last: 2, value: null };
      return { last: this.hidden(of, value) ? 1 : 0, value };
    };
    const [one, other] = [first(a), first(b)];
    if (one.last !== other.last || one.last > 0) return one.last - other.last;
    return sign * Math.sign(this.ownOrder(of, one.value, other.value));
  }

  protected counts(papers: readonly ViewPaper[], of: string): PropertyCounts {
    if (this.isDay(of)) {
      const days = papers.map((paper) => this.day(paper, of));
      const found = days.filter((day) => day !== null);
      const months = tallied(found.map((day) => periodOf(day, 'month', this.looking)));
      return {
        kind: 'months',
        months: [...months]
          .map(([value, count]) => ({ value, papers: count }))
          .sort((a, b) => (a.value < b.value ? 1 : -1))
          .slice(0, mostListed),
        none: days.length - found.length,
      };
    }
    const type = this.columns.get(of)?.type;
    if (type === 'longText') {
      const filled = papers.filter((paper) => this.meetsOne(paper, { of, filled: true })).length;
      return { kind: 'range', least: null, most: null, none: papers.length - filled, filled };
    }
    if (['size', 'pages', 'words'].includes(of) || type === 'number' || type === 'amount') {
      const held = papers.flatMap((paper) => this.held(paper, of) as number[]);
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
        return this.standsAt(paper)
          .filter((place) => place.lineage.includes(this.question.placeId))
          .flatMap(({ lineage }) => lineage.slice(lineage.indexOf(this.question.placeId) + 1));
      if (of === 'openTo') return [...this.asker.openTo.keys()].filter((id) => this.isOpenTo(paper, id));
      if (of === 'own') return this.ownWays(paper);
      const held = this.held(paper, of);
      return held.length === 0 ? [null] : held.filter((value) => !this.hidden(of, value));
    };
    const counts = tallied(papers.flatMap((paper) => [...new Set(stands(paper))]));
    const all = [...counts].map(([value, count]) => ({ value, papers: count }));
    all.sort(
      (a, b) =>
        b.papers - a.papers ||
        (of === 'openTo'
          ? 0
          : of === 'own'
            ? ownWays.indexOf(a.value as OwnWay) - ownWays.indexOf(b.value as OwnWay)
            : this.ownOrder(of, a.value, b.value)) ||
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
