import { expandPlan, type PlannedDossier } from '@/core/plans/expand';
import { filingYearLabel, lastCalendarYear, type YearNaming } from '@/core/calendar/filingYear';
import type { FilingPlan } from '@/core/plans/plan';
import { filingYearSpanDays, isoDay } from '@/core/calendar/period';
import { useSurroundings } from '../surroundings/Surroundings';

/** A dossier as this library would have it. */
function exampleFor(naming: YearNaming): PlannedDossier {
  const startYear = 2026;
  const { from } = filingYearSpanDays(startYear, naming.yearStartMonth);
  return {
    name: 'Example',
    reference: 'E-001',
    years: [
      {
        startYear,
        lastYear: lastCalendarYear(startYear, naming.yearStartMonth),
        label: filingYearLabel(startYear, naming),
      },
    ],
    meetings: [{ id: 'example', day: isoDay(from + 104), title: 'Ordinary meeting', startYear }],
  };
}

interface Line {
  readonly key: string;
  readonly name: string;
  readonly depth: number;
  readonly ofPlan: boolean;
}

/** What one dossier will look like under a plan. */
export function PlanExample({ plan }: { readonly plan: FilingPlan }) {
  const { library } = useSurroundings();
  const example = exampleFor(library);
  const wanted = expandPlan(plan)(example);
  const below = (parentKey: string | null, startYear: number | null, depth: number): Line[] =>
    wanted
      .filter((each) => each.parentKey === parentKey && (parentKey !== null || each.startYear === startYear))
      .flatMap((each) => [
        { key: each.key, name: each.name, depth, ofPlan: true },
        ...below(each.key, each.startYear, depth + 1),
      ]);
  const lines: Line[] = [
    { key: 'dossier', name: 'E-001 Example', depth: 0, ofPlan: false },
    ...below(null, null, 1),
    ...(plan.byYear
      ? [{ key: 'year', name: example.years[0]?.label ?? '', depth: 1, ofPlan: false }, ...below(null, 2026, 2)]
      : []),
  ];
  return (
    <section aria-label="An example" className="rounded-sm border border-line bg-sheet px-4 py-3">
      <h2 className="mb-1 font-condensed">A dossier, as an example</h2>
      <ul>
        {lines.map((line) => (
          <li
            key={line.key}
            className={`border-l border-line py-0.5 pl-2 ${line.ofPlan ? '' : 'font-semibold'}`}
            style={{ marginLeft: line.depth * 16 }}
          >
            {line.name}
          </li>
        ))}
      </ul>
    </section>
  );
}
