import { isoDay } from '@/core/calendar/period';
import { conditionsIn, needsTally } from '@/core/views/conditions';
import type { Answer, Question } from '@/core/views/question';
import type { NamedGroup, ViewPage } from '@/core/views/contract';
import { Refusal } from '@/core/errors/refusal';
import type { Actor } from '@/server/gate/actor';
import { atMoment } from '@/server/base/clock';
import { ledgerPage } from '@/server/documents/ledger';
import { openView } from '@/server/views/open';
import { dropPlanted, freshLibrary } from '../library';
import { Naive } from '../oracle/naive';
import { Planted } from '../oracle/planted';
import { RandomLibrary } from '../oracle/randomLibrary';

/** Seven libraries one after another: each in a database of its own, with people to whom different parts are open. */
const seeds = [11, 12, 13, 14, 15, 17, 18];
const rounds = 45;

const withoutNames = (groups: readonly NamedGroup[]): Answer['groups'] =>
  groups.map(({ name: _name, groups: inner, ...group }) => ({ ...group, groups: withoutNames(inner) }));

function asAnswer(view: ViewPage): unknown {
  const unnamed = (each: { value: unknown; papers: number }) => ({ value: each.value, papers: each.papers });
  return rounded({
    totals: view.totals,
    groups: withoutNames(view.groups),
    lines: view.lines,
    ids: view.rows.map((row) => row.id),
    // These questions look for no words.
    meant: view.found === null ? [] : [view.found],
    counts: Object.fromEntries(
      Object.entries(view.counts).map(([of, counts]) => [
        of,
        counts.kind === 'values'
          ? { ...counts, values: counts.values.map(unnamed) }
          : counts.kind === 'months'
            ? { ...counts, months: counts.months.map(unnamed) }
            : counts,
      ]),
    ),
  });
}

const rounded = (answer: unknown): unknown =>
  JSON.parse(
    JSON.stringify(answer, (key, value: unknown) => (key === 'sum' ? Number(Number(value).toFixed(6)) : value)),
  );

/** Whether all that a question speaks of is in use where it is asked, at places that the person may know of. */
function maySpeak(planted: Planted, question: Question, known: (placeId: string) => boolean): boolean {
  const { world, places } = planted.library;
  const at = places.find((place) => place.id === question.placeId);
  const spoken = [
    ...conditionsIn(question.conditions).map((each) => each.of),
    ...question.groupings.flatMap((each) => [each.of, each.order]),
    ...question.sorts.map((each) => each.of),
    ...question.counts,
    ...question.measures,
  ];
  return world.columns
    .filter((column) => spoken.includes(column.id))
    .every((column) => {
      const on = places.find((place) => place.id === column.placeId);
      const above = at?.lineage.includes(column.placeId) === true;
      return above || (question.below && on?.lineage.includes(question.placeId) === true && known(column.placeId));
    });
}

it.each(seeds)(
  'answers through the gate as the plainest evaluator does, while papers, places and access change (library %i)',
  async (seed) => {
    const keeper: Actor = await freshLibrary();
    try {
      const library = new RandomLibrary(seed, 40);
      const planted = await Planted.into(library, keeper);
      for (const id of library.people) await planted.open(id, library.someScopes());
      let [compared, refused, shown] = [0, 0, 0];
      for (let round = 0; round < rounds; round += 1) {
        await change(planted, round);
        const question = library.question();
        const who = (round % (library.people.length + 1)) - 1;
        const asker = planted.asker(who, library.asker(question));
        const sees = (placeId: string) =>
          asker.keeper || asker.scopes.has(library.places.find((place) => place.id === placeId)?.scopeId ?? '');
        const open = [
          ...library.places.filter((place) => sees(place.id)),
          // A paper that opens itself leads to its home.
          ...[...library.papers.values()]
            .filter(({ scopeId }) => scopeId !== null && asker.scopes.has(scopeId) && !asker.byOpening.has(scopeId))
            .map(({ homeId }) => library.places.find((place) => place.id === homeId)),
        ];
        const known = (placeId: string) => open.some((place) => place?.lineage.includes(placeId));
        const at = new Date(`${isoDay(asker.today)}T12:00:00Z`);
        const looking = { ...asker, today: library.dayAt(at.getTime()) };
        const asked = { ...question, filter: '', groupings: [...question.groupings] };
        const ask = () => atMoment(at, () => openView(planted.actor(who), asked));
        if (!known(question.placeId) || !maySpeak(planted, question, known)) {
          const issue = await ask().then(
            () => 'answered',
            (error: unknown) => (error instanceof Refusal ? error.issue.kind : String(error)),
          );
          expect(known(question.placeId) ? 'gone' : 'not-found').toBe(issue);
          refused += 1;
          continue;
        }
        const expected = new Naive(library.plain, question, looking).answer();
        const view = await ask();
        try {
          expect(asAnswer(view)).toEqual(rounded(expected));
          await agreesWithSql(planted, question, who, at, expected.totals.papers);
        } catch (error) {
          throw new Error(`Round ${round} with ${JSON.stringify({ who, question })}\n${String(error)}`);
        }
        compared += 1;
        shown += Number(view.rows.length > 0);
      }
      expect(compared).toBeGreaterThan(rounds / 5);
      expect(shown).toBeGreaterThan(5);
      expect(refused).toBeLessThan(rounds);
    } finally {
      await dropPlanted();
    }
  },
);

async function change(planted: Planted, round: number): Promise<void> {
  const { library } = planted;
  switch (round % 5) {
    case 0:
      return planted.putPaper(library.put());
    case 1:
      return planted.putPaper(library.changeOne());
    case 2:
      for (const place of library.changePlace()) await planted.movePlace(place);
      return;
    case 3:
      return planted.open(library.people[round % library.people.length] ?? '', library.someScopes());
    default:
      return planted.dispose(library.remove());
  }
}

/** SQL alone, by which rows are shown while the tally is being filled, counts as many. */
async function agreesWithSql(
  planted: Planted,
  question: Question,
  who: number,
  at: Date,
  papers: number,
): Promise<void> {
  // What follows from rules only the tally works out.
  if (needsTally(question.conditions)) return;
  const page = await atMoment(at, () =>
    ledgerPage(planted.actor(who), {
      placeId: question.placeId,
      below: question.below,
      sort: 'title',
      direction: 'up',
      filter: '',
      conditions: question.conditions,
      after: null,
      limit: 1,
    }),
  );
  expect(page.totals?.papers).toBe(papers);
}
