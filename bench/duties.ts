/**
 * How long it takes to say what is due of a million papers with 40 retention classes, 18 of which may speak in one place:
 * after a class was changed, after one paper was, and where nothing was. Without a database: the tally alone.
 */
import { owesNothing, type Owing } from '@/core/owed/owing';
import { keepingStarts, type RetentionClass } from '@/core/retention/model';
import type { Rule } from '@/core/rules/rules';
import { grouped } from '@/core/collections/grouped';
import { plainFields } from '@/core/columns/contract';
import type { Column } from '@/core/columns/model';
import { answerFrom } from '@/core/tally/answer';
import { owedIn } from '@/core/tally/owed';
import { Tally } from '@/core/tally/tally';
import type { Asker, Question, ViewPaper, ViewPlace } from '@/core/views/question';

const [papers, types, classes, series, dossiers, years] = [1_000_000, 13, 40, 5, 400, 4];
const [rootId, typeId, endsId, personId] = ['root', 'type', 'ends', 'person'];

const column = (id: string, type: Column['type']): Column => ({
  ...plainFields,
  id,
  placeId: rootId,
  name: id,
  type,
  position: 0,
  retired: false,
  revision: 0,
});

const place = (lineage: readonly string[], kind: ViewPlace['kind'], more: Partial<ViewPlace> = {}): ViewPlace => ({
  id: lineage.at(-1) ?? '',
  lineage,
  kind,
  name: lineage.at(-1) ?? '',
  reference: null,
  position: 0,
  scopeId: null,
  filingYear: null,
  plannedKey: null,
  closedAtMs: null,
  ...more,
});

const places: ViewPlace[] = [place([rootId], 'library')];
const homes: string[] = [];
for (let at = 0; at < series; at += 1) {
  places.push(place([rootId, `s${at}`], 'series'));
  for (let of = 0; of < dossiers; of += 1) {
    const lineage = [rootId, `s${at}`, `d${at}-${of}`];
    places.push(place(lineage, 'dossier', { closedAtMs: of % 3 === 0 ? 1.7e12 : null }));
    for (let year = 0; year < years; year += 1) {
      homes.push(`y${at}-${of}-${year}`);
      places.push(place([...lineage, `y${at}-${of}-${year}`], 'year', { filingYear: 2020 + year }));
    }
  }
}

const rules = Array.from({ length: classes }, (_, at): Rule<RetentionClass> => {
  const start = keepingStarts[at % keepingStarts.length] ?? 'filed';
  return {
    id: `r${at}`,
    placeId: at < 10 ? rootId : `s${at % series}`,
    ofType: { columnId: typeId, termId: `t${at % types}` },
    says: {
      id: `k${at}`,
      name: `Class ${at}`,
      authority: '',
      start,
      columnId: start === 'column' ? endsId : null,
      months: 12 + at * 3,
      end: at % 10 === 9 ? 'keep' : at % 7 === 3 ? 'look' : 'destroy',
    },
  };
});
const owing: Owing = { ...owesNothing, schedule: grouped(rules, ({ placeId }) => placeId) };

const paper = (at: number): ViewPaper => {
  const filedAtMs = 1.5e12 + ((at * 7919) % 250_000_000) * 1000;
  return {
    id: `${at.toString(16).padStart(8, '0')}-0000-4000-8000-000000000000`,
    homeId: homes[at % homes.length] ?? '',
    scopeId: null,
    filings: [],
    title: `Paper ${at % 5000}`,
    kind: 'PDF',
    sizeBytes: 1000,
    pageCount: 1,
    wordCount: 1,
    signature: null,
    filedBy: personId,
    filedAtMs,
    changedBy: personId,
    changedAtMs: filedAtMs,
    order: null,
    values: { [typeId]: `t${at % types}`, ...(at % 3 === 0 ? {} : { [endsId]: `2021-0${1 + (at % 9)}-15` }) },
    labels: [],
    fileName: 'a',
    remark: '',
    texts: [],
  };
};
function* all(): Generator<ViewPaper> {
  for (let at = 0; at < papers; at += 1) yield paper(at);
}

const tally = new Tally({
  columns: [column(typeId, 'choice'), column(endsId, 'date')],
  names: new Map(rules.map(({ says }) => [says.id, says.name])),
  otherNames: new Map(),
  termOrder: new Map(),
  timeZone: 'Europe/London',
  yearStartMonth: 4,
  owing,
});
tally.putPlaces(places);
tally.putPapers(all());
tally.settle();

const asker: Asker = {
  personId,
  keeper: true,
  scopes: new Set(),
  byOpening: new Set(),
  groupMates: new Set(),
  labels: new Set(),
  today: 20_700,
  lookedAtMs: null,
  managed: new Set(),
  openTo: new Map(),
  own: new Map(),
  found: new Map(),
  frequented: new Set(),
};
const question: Question = {
  placeId: rootId,
  below: true,
  conditions: [
    { of: 'keptUntil', span: { is: 'before-today' } },
    { of: 'keptEnd', anyOf: ['destroy'] },
  ],
  groupings: [{ of: 'keptClass', by: 'value', order: 'own', direction: 'up' }],
  sorts: [{ of: 'keptUntil', direction: 'up' }],
  counts: ['keptClass', 'keptEnd'],
  measures: [],
  start: 0,
  limit: 200,
};

/** How long some work takes, in milliseconds: the median of a few times, after `before` each time. */
function median(before: () => void, work: () => void): string {
  const times = Array.from({ length: 9 }, () => {
    before();
    const began = performance.now();
    work();
    return performance.now() - began;
  }).sort((a, b) => a - b);
  return `${(times[4] ?? 0).toFixed(0)} ms (${(times[0] ?? 0).toFixed(0)} to ${(times[8] ?? 0).toFixed(0)})`;
}
const ask = (): void => {
  const answer = answerFrom(tally, question, asker);
  if (!answer.ok || answer.value.totals.papers === 0) throw new Error('Nothing is due');
};
const nothing = (): void => undefined;

ask();
console.log(
  `after a class was changed, worked out     ${median(
    () => tally.setWorld({ ...tally.world }),
    () => owedIn(tally),
  )}`,
);
console.log(`after a class was changed, with its answer ${median(() => tally.setWorld({ ...tally.world }), ask)}`);
console.log(`after one paper was changed               ${median(() => tally.putPapers([paper(7)]), ask)}`);
console.log(`where nothing was                         ${median(nothing, ask)}`);
