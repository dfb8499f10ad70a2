import { builtIns } from '@/core/views/builtIns';
import { type AskedFor, type Condition, type Part } from '@/core/views/conditions';
import { namedSpans, spanUnits, type Span } from '@/core/calendar/period';
import { groupWays, senseOf } from '@/core/views/property';
import { type Question } from '@/core/views/question';
import { groupOrders, type Grouping, type Sort } from '@/core/views/spec';
import { paperSignatures } from '@/core/documents/signature';
import { keepingEnds } from '@/core/retention/model';
import { id, kinds, labels, people, titles, words } from './awkward';
import { RandomPapers } from './randomPapers';
import { ownWays } from '@/core/views/own';

const dayMs = 86_400_000;

/** A random library that also asks random questions of itself. */
export class RandomLibrary extends RandomPapers {
  protected span(moment: boolean): Span {
    const random = this.random;
    const iso = () =>
      this.chance(0.8) ? new Date((20_000 + this.below(900)) * dayMs).toISOString().slice(0, 10) : null;
    const unit = random.pick(spanUnits);
    return random.pick<() => Span>([
      () => ({ from: iso(), to: iso() }),
      () => ({ next: 1 + this.below(200), unit }),
      () => ({ last: 1 + this.below(200), unit }),
      () => ({ is: random.pick(namedSpans.filter((each) => moment || each !== 'since-look')) }),
    ])();
  }

  protected period(): string {
    const random = this.random;
    const year = 2024 + this.below(3);
    const two = (number: number) => String(number).padStart(2, '0');
    return random.pick([
      `${year}`,
      `${year}-Q${1 + this.below(4)}`,
      `${year}-${two(1 + this.below(12))}`,
      `${year}-W${two(1 + this.below(52))}`,
      `${year}-${two(1 + this.below(12))}-${two(1 + this.below(28))}`,
      `filing-${year}`,
    ]);
  }

  protected valuesOf(of: string): AskedFor[] {
    const type = this.world.columns.find((column) => column.id === of)?.type;
    const value = (): AskedFor => {
      if (of === 'kind') return this.random.pick(['PDF', 'DOC', 'FAX']);
      if (of === 'label') return this.random.pick(labels);
      if (of === 'place') return this.random.pick(this.places).id;
      if (of === 'year') return 2024 + this.below(4);
      if (of === 'title') return this.random.pick(titles);
      if (['size', 'pages', 'words'].includes(of)) return this.below(60);
      if (['filedBy', 'changedBy', 'openTo', 'reviewer'].includes(of)) return this.random.pick(people);
      if (of === 'keptClass') return id(kinds.retention, this.below(6));
      if (of === 'signature') return this.random.pick(paperSignatures);
      if (of === 'keptEnd') return this.random.pick(keepingEnds);
      if (of === 'own') return this.random.pick(ownWays);
      const one = type ? this.value(type) : null;
      return Array.isArray(one) ? (one[0] as AskedFor) : (one as AskedFor);
    };
    const some = Array.from({ length: this.below(4) }, value);
    return this.chance(0.2) && of !== 'openTo' && of !== 'own' && of !== 'place' ? [...some, null] : some;
  }

  protected condition(): Condition {
    const of = this.random.pick([
      ...builtIns.filter((each) => each !== 'find'),
      ...this.world.columns.filter((column) => !column.retired).map((column) => column.id),
    ]);
    const sense = senseOf(of, this.world.columns);
    const random = this.random;
    const pick = (): Condition => ({ of, anyOf: this.valuesOf(of) });
    const periods = (): Condition => ({
      of,
      anyOf: [...Array.from({ length: this.below(3) }, () => this.period()), ...(this.chance(0.2) ? [null] : [])],
    });
    const filled = (): Condition => ({ of, filled: this.chance(0.5) });
    const text = (): Condition => ({
      of,
      text: random.pick(['contains', 'starts'] as const),
      words: random.pick(words),
    });
    const bound = () => (this.chance(0.7) ? this.below(200) - 20 : null);
    const range = (): Condition => ({ of, from: bound(), to: bound() });
    const who = (): Condition => ({ of, who: this.chance(0.5) ? ['me'] : ['me', 'my-groups'] });
    const span = (moment: boolean) => (): Condition => ({ of, span: this.span(moment) });
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
      own: [pick],
    };
    return random.pick(ways[sense ?? 'picked'] ?? [pick])();
  }

  question(): Question {
    const random = this.random;
    const inUse = this.world.columns.filter((column) => !column.retired);
    const block = (parts: Part[]): Part => ({ how: random.pick(['all', 'any', 'none'] as const), parts });
    const some = (most: number, make: () => Part): Part[] => Array.from({ length: this.below(most + 1) }, make);
    const one = (): Part => this.condition();
    const conditions = some(2, () =>
      this.chance(0.3) ? block(some(3, () => (this.chance(0.3) ? block(some(2, one)) : one()))) : one(),
    );
    const measured = inUse
      .filter((column) => ['number', 'amount', 'date'].includes(column.type))
      .map((column) => column.id);
    const measures = this.some(measured, 3);
    const groupable = [...builtIns.filter((of) => of !== 'title'), ...inUse.map((column) => column.id)].filter(
      (of) => groupWays[senseOf(of, this.world.columns) ?? 'openTo'].length > 0,
    );
    const groupings = Array.from({ length: this.below(4) }, (): Grouping => {
      const of = random.pick(groupable) as Grouping['of'];
      return {
        of,
        by: random.pick(groupWays[senseOf(of, this.world.columns) ?? 'picked']),
        order: random.pick([...groupOrders, 'own', 'own', ...measures]) as Grouping['order'],
        direction: random.pick(['up', 'down'] as const),
      };
    });
    const sortable = [
      ...builtIns.filter((of) => of !== 'openTo' && of !== 'own' && of !== 'find'),
      ...inUse.filter((column) => column.type !== 'longText').map((column) => column.id),
      'order',
    ];
    const sorts = Array.from({ length: this.below(4) }, (): Sort => ({
      of: random.pick(sortable) as Sort['of'],
      direction: random.pick(['up', 'down'] as const),
    }));
    const below = this.chance(0.8);
    return {
      placeId: this.chance(0.75) ? (this.places[0]?.id ?? '') : random.pick(this.places).id,
      below,
      conditions,
      groupings,
      sorts,
      counts: this.some(
        [...builtIns.filter((of) => of !== 'title' && of !== 'find'), ...inUse.map((column) => column.id)],
        4,
      ),
      measures,
      start: random.pick([0, 0, 0, 5, 20]),
      limit: random.pick([1, 10, 1000]),
    };
  }
}
