import type { ReadInputOf } from '@/core/contract';
import { isPaperSignature, paperSignatureWords } from '@/core/documents/signature';
import { hiddenWords, inWords, type Names } from '@/core/columns/format';
import { type Column } from '@/core/columns/model';
import { orRefuse, refuse } from '@/core/errors/refusal';
import { filingYearLabel, type YearNaming } from '@/core/calendar/filingYear';
import type { FoundFacts, NamedCounts, NamedGroup, Slice, ViewPage } from '@/core/views/contract';
import { withWord } from '@/core/search/compose';
import { readQuestion } from '@/core/search/question';
import { findsIn, needsTally, type AskedFor, type Part } from '@/core/views/conditions';
import { isOwnWay, ownWayWords } from '@/core/views/own';
import { isKeepingEnd, keepingEndWords } from '@/core/retention/model';
import { periodInWords } from '@/core/calendar/period';
import { checkConditions, propertyName, senseOf } from '@/core/views/property';
import type { Answer, Group, PropertyCounts, Question } from '@/core/views/question';
import type { Grouping } from '@/core/views/spec';
import { counted } from '@/core/text/measure';
import { namesOf, type Wanted } from '../known/names';
import { asks } from '../acts/operation';
import type { Actor } from '../gate/actor';
import { referredTo } from '../columns/read';
import { db } from '../db/client';
import { libraryCalendar } from '../calendar/libraryCalendar';
import { ledgerPage, papersInOrder } from '../documents/ledger';
import { columnsIn } from '../columns/inForce';
import { indexLanguages } from '../postings/keep';
import { wholeWord } from '../search/wholeWord';
import { questioner } from '../tally/questioner';
import { askTally } from '../tally/host';

/**
 * Answers a view: the tally says which papers and how many, and the database then returns the rows shown, through the
 * gate again. While the tally is being filled there are only rows.
 */
export const openView = asks('view.open', async (actor, input) => {
  return (await openWithIds(actor, input)).page;
});

/**
 * The same with the ids of the lines in order. There may be fewer rows than ids, since the gate drops papers that were
 * closed to the caller meanwhile.
 */
export async function openWithIds(
  actor: Actor,
  input: ReadInputOf<'view.open'>,
): Promise<{ page: ViewPage; ids: readonly string[] }> {
  const columns = await columnsIn(actor, input.placeId, input.below);
  const { filter: _filter, ...rest } = input;
  const question: Question = { ...rest, conditions: conditionsOf(input) };
  const answer = await answerFor(actor, question, columns);
  if (answer === null) return { page: await meanwhile(actor, input), ids: [] };
  const [{ rows, names }, namer] = await Promise.all([
    papersInOrder(actor, answer.ids),
    namerFor(actor, columns, [
      ...input.groupings.map((grouping) => ({
        of: grouping.of,
        keys: keysOf(answer.groups, input.groupings, grouping),
      })),
      ...Object.entries(answer.counts).map(([of, counts]) => ({ of, keys: valuesOf(counts) })),
    ]),
  ]);
  const page: ViewPage = {
    state: 'counted',
    rows,
    lines: answer.lines,
    totals: answer.totals,
    measures: input.measures,
    groups: namedGroups(answer.groups, input.groupings, namer),
    counts: Object.fromEntries(
      Object.entries(answer.counts).map(([of, counts]) => [of, namedCounts(counts, of, namer)]),
    ),
    names,
    found: await foundFacts(question, answer),
  };
  return { page, ids: answer.ids };
}

/** What is to be said of the words that a question looks for; null where it looks for none. */
async function foundFacts({ conditions }: Question, { meant }: Answer): Promise<FoundFacts | null> {
  const finds = findsIn(conditions);
  const [only] = finds;
  if (!only) return null;
  const leftOut = finds.reduce((sum, { find }) => sum + readQuestion(find).leftOut, 0);
  if (finds.length > 1 || meant.length === 0) return { leftOut, meant: null };
  const languages = await indexLanguages();
  let words = only.find;
  for (const { typed, word, standsIn } of meant) {
    const whole = standsIn === null ? word : await wholeWord(standsIn, word, languages);
    if (whole !== null) words = withWord(words, typed, whole);
  }
  return { leftOut, meant: words === only.find ? null : words };
}

/** The ids of a slice's papers in order, at most as many as asked for. */
export async function papersOfSlice(
  actor: Actor,
  { sorts, ...slice }: Slice & Pick<Question, 'sorts'>,
  limit: number,
): Promise<{ ids: readonly string[]; lines: number }> {
  const columns = await columnsIn(actor, slice.placeId, slice.below);
  const question = { placeId: slice.placeId, below: slice.below, conditions: conditionsOf(slice), sorts };
  const rest = { groupings: [], counts: [], measures: [], start: 0, limit };
  const answer = await answerFor(actor, { ...question, ...rest }, columns);
  if (answer === null) refuse('unavailable', 'The library is still being read. The papers are there in a moment.');
  return { ids: answer.ids, lines: answer.lines };
}

/** The number of papers for each pair of values of two properties. */
export const crossTable = asks('view.crossTable', async (actor, input) => {
  const columns = await columnsIn(actor, input.placeId, input.below);
  const { down, across, measures } = input;
  const slice = { placeId: input.placeId, below: input.below, conditions: conditionsOf(input) };
  const rest = { sorts: [], counts: [], measures, start: 0, limit: 0 };
  const table = await answerFor(actor, { ...slice, ...rest, groupings: [down, across] }, columns);
  const heads = await answerFor(actor, { ...slice, ...rest, groupings: [across] }, columns);
  if (!table || !heads) refuse('unavailable', 'The library is still being read. The table is there in a moment.');
  const namer = await namerFor(actor, columns, [
    { of: down.of, keys: table.groups.map((group) => group.key) },
    { of: across.of, keys: heads.groups.map((group) => group.key) },
  ]);
  return {
    rows: namedGroups(table.groups, [down, across], namer),
    heads: namedGroups(heads.groups, [across], namer),
    totals: heads.totals,
    measures,
  };
});

/** All conditions of a slice, including the words titles have to contain. */
function conditionsOf({ filter, conditions }: Slice): readonly Part[] {
  const words = filter.trim();
  return words === '' ? conditions : [...conditions, { of: 'title', text: 'contains', words }];
}

async function answerFor(actor: Actor, question: Question, columns: readonly Column[]): Promise<Answer | null> {
  // The tally knows all columns; conditions may name only those that the caller may know of here.
  orRefuse(checkConditions(question.conditions, columns));
  const spoken = [
    ...question.groupings.flatMap(({ of, order }) => [of, ...(isUuid(order) ? [order] : [])]),
    ...question.sorts.map((sort) => sort.of).filter((of) => of !== 'order'),
    ...question.counts,
    ...question.measures,
  ];
  if (spoken.some((of) => senseOf(of, columns) === null))
    refuse('gone', 'The view groups, sorts or sums by a column that is not in use here.');
  const told = await askTally('view', question, questioner(actor));
  return told === null ? null : orRefuse(told);
}

const isUuid = (order: string): boolean => order.length === 36;

const nothingYet: ViewPage = {
  state: 'counting',
  rows: [],
  lines: 0,
  totals: null,
  measures: [],
  groups: [],
  counts: {},
  names: {},
  found: null,
};

async function meanwhile(actor: Actor, input: ReadInputOf<'view.open'>): Promise<ViewPage> {
  // Until the tally is there nothing is shown of what only it knows, rather than more than the view is meant for.
  if (needsTally(input.conditions)) return nothingYet;
  const [first] = input.sorts;
  const page = await ledgerPage(actor, {
    ...input,
    sort: first?.of ?? 'title',
    direction: first?.direction ?? 'up',
    after: null,
    limit: Math.max(1, Math.min(input.limit, 200)),
  });
  const { rows } = await papersInOrder(
    actor,
    page.rows.map((row) => row.id),
  );
  return {
    state: 'counting',
    rows: input.start === 0 ? rows : [],
    lines: rows.length,
    totals: null,
    measures: [],
    groups: [],
    counts: {},
    names: page.names,
    found: null,
  };
}

function keysOf(groups: readonly Group[], groupings: readonly Grouping[], wanted: Grouping): AskedFor[] {
  const depth = groupings.indexOf(wanted);
  const level = (all: readonly Group[], left: number): AskedFor[] =>
    left === 0 ? all.map((group) => group.key) : all.flatMap((group) => level(group.groups, left - 1));
  return level(groups, depth);
}

const valuesOf = (counts: PropertyCounts): AskedFor[] =>
  counts.kind === 'values' ? counts.values.map((each) => each.value) : [];

/** What is named by an id is named from the ids; other values are in words as they are. */
const noNames: Names = { terms: () => undefined, named: () => undefined };

type Namer = (of: string, key: AskedFor) => string;

function namedGroups(groups: readonly Group[], groupings: readonly Grouping[], namer: Namer): NamedGroup[] {
  const [grouping, ...inner] = groupings;
  if (!grouping) return [];
  return groups.map((group) => ({
    ...group,
    name: groupName(group, grouping, namer),
    groups: namedGroups(group.groups, inner, namer),
  }));
}

function groupName(group: Group, { of, by }: Grouping, namer: Namer): string {
  switch (group.kind) {
    case 'value':
      return namer(of, group.key);
    case 'none':
      return by === 'dossier' ? 'In no dossier' : namer(of, null);
    case 'hidden':
      return 'Not open to you';
    case 'rest':
      return `${counted(group.values, 'other value')}`;
  }
}

function namedCounts(counts: PropertyCounts, of: string, namer: Namer): NamedCounts {
  if (counts.kind === 'range') return counts;
  const named = (each: { readonly value: AskedFor; readonly papers: number }) => ({
    ...each,
    name: namer(of, each.value),
  });
  return counts.kind === 'values'
    ? { ...counts, values: counts.values.map(named) }
    : { ...counts, months: counts.months.map(named) };
}

/** Names for the keys of properties, as far as the caller may know of them. */
async function namerFor(
  actor: Actor,
  columns: readonly Column[],
  wanted: readonly { readonly of: string; readonly keys: readonly AskedFor[] }[],
): Promise<Namer> {
  const ids = {
    person: new Set<string>(),
    place: new Set<string>(),
    document: new Set<string>(),
    label: new Set<string>(),
    term: new Set<string>(),
    retention: new Set<string>(),
  };
  for (const { of, keys } of wanted) {
    const kind = namedBy(of, columns);
    if (kind) for (const key of keys) if (typeof key === 'string' && isUuid(key)) ids[kind].add(key);
  }
  const [calendar, names] = await Promise.all([libraryCalendar(db()), namesOf(db(), actor, ids, { inFull: true })]);
  return (of, key) => keyInWords(of, key, columns, names, calendar);
}

function namedBy(of: string, columns: readonly Column[]): keyof Wanted | null {
  if (of === 'filedBy' || of === 'changedBy' || of === 'openTo' || of === 'reviewer') return 'person';
  if (of === 'keptClass') return 'retention';
  if (of === 'place' || of === 'label') return of;
  const type = columns.find((column) => column.id === of)?.type;
  if (type === 'choice' || type === 'choices') return 'term';
  return type === undefined ? null : referredTo(type);
}

function keyInWords(
  of: string,
  key: AskedFor,
  columns: readonly Column[],
  names: Readonly<Record<string, string>>,
  years: YearNaming,
): string {
  if (key === null) return `No ${propertyName(of, columns).toLowerCase()}`;
  const sense = senseOf(of, columns);
  if (sense === 'day' || sense === 'moment') return periodInWords(String(key), years);
  if (of === 'own') return isOwnWay(key) ? ownWayWords[key] : String(key);
  if (of === 'keptEnd') return isKeepingEnd(key) ? keepingEndWords[key] : String(key);
  if (of === 'signature') return isPaperSignature(key) ? paperSignatureWords[key] : String(key);
  if (of === 'year') return filingYearLabel(Number(key), years);
  const column = columns.find((each) => each.id === of);
  if (namedBy(of, columns) !== null) return names[String(key)] ?? hiddenWords;
  return column ? inWords(column, key, noNames) : String(key);
}
