import { and, eq, inArray, sql } from 'drizzle-orm';
import { inWords } from '@/core/columns/format';
import type { PlacedPaper } from '@/core/documents/contract';
import type { FoundInside, FoundWhy, Marks } from '@/core/search/contract';
import { hitsIn, marksOf } from '@/core/search/hits';
import type { WordLanguages } from '@/core/search/languages';
import { readQuestion, type Wanted } from '@/core/search/question';
import { asks } from '../acts/operation';
import { allColumns, asNames, lexiconsOf, allLists } from '../columns/read';
import { db } from '../db/client';
import { document, label, place, version } from '../db/schema';
import { papersInOrder } from '../documents/ledger';
import type { Actor } from '../gate/actor';
import { homeIsTold, labelIsKnown, paperAllows } from '../gate/visible';
import { namesOn, pathsOf } from '../known/names';
import { standName } from '../known/standing';
import { indexLanguages } from '../postings/keep';
import { passagesIn } from './passages';

/** So many values and names of one paper are told. */
const mostBeside = 3;

/** Why papers were found by some words; of papers that the caller may not see nothing is told. */
export const whyFound = asks('search.why', async (actor, { documentIds, words, among }) => {
  const { rows, names } = await papersInOrder(actor, documentIds);
  return whyOf(actor, rows, names, words, among !== 'titles' && among !== 'values');
});

/** Why each of some papers, which passed the gate, was found. @param inside whether texts were looked at */
export async function whyOf(
  actor: Actor,
  rows: readonly PlacedPaper[],
  names: Readonly<Record<string, string>>,
  words: string,
  inside: boolean,
): Promise<FoundWhy[]> {
  const { all } = readQuestion(words);
  if (rows.length === 0 || all.length === 0) return [];
  const ids = rows.map(({ id }) => id);
  const languages = await indexLanguages();
  const [passages, facts, written] = await Promise.all([
    inside ? passagesIn(ids, all, languages) : new Map<string, never>(),
    factsOf(actor, ids),
    writtenOn(actor, rows, names),
  ]);
  const paths = await pathsOf(
    db(),
    actor,
    ids.map((id) => (facts.get(id)?.told ? (facts.get(id)?.lineage ?? []) : [])),
  );
  const marks = (text: string): Marks => marksOf(hitsIn(text, all, languages));
  return rows.map((row, at): FoundWhy => {
    const fact = facts.get(row.id);
    const path = fact?.told ? namesOn(paths[at]) : [fact?.stand ?? row.homeName];
    return {
      documentId: row.id,
      titleMarks: marks(row.title),
      path,
      pathMarks: path.map(marks),
      inside: toldInside(passages.get(row.id), fact?.mayTake === true),
      beside: besideOf(row, fact, written, all, languages),
    };
  });
}

/** Who may have no copies of a paper is told where the words stand, and of its text no more than the word itself. */
function toldInside(inside: FoundInside | undefined, mayTake: boolean): FoundInside | null {
  if (!inside) return null;
  if (mayTake) return inside;
  const word = inside.passage.slice(...(inside.marks[0] ?? [0, 0]));
  return { ...inside, passage: word, marks: [[0, word.length]] };
}

interface Facts {
  readonly remark: string;
  readonly fileName: string;
  readonly mayTake: boolean;
  readonly told: boolean;
  readonly stand: string;
  readonly lineage: readonly string[];
}

async function factsOf(actor: Actor, ids: readonly string[]): Promise<ReadonlyMap<string, Facts>> {
  const rows = await db()
    .select({
      id: document.id,
      remark: document.remark,
      fileName: version.fileName,
      mayTake: sql<boolean>`${paperAllows(actor, 'take')}`,
      told: sql<boolean>`${homeIsTold(actor)}`,
      stand: standName(actor),
      lineage: place.lineage,
    })
    .from(document)
    .innerJoin(version, eq(version.id, document.versionId))
    .innerJoin(place, eq(place.id, document.homeId))
    .where(inArray(document.id, [...ids]));
  return new Map(rows.map(({ id, ...row }) => [id, row]));
}

/** What is written on each paper by whom it may be told: values with their column's name, and labels. */
type Written = (row: PlacedPaper) => { readonly what: string; readonly text: string }[];

async function writtenOn(
  actor: Actor,
  rows: readonly PlacedPaper[],
  named: Readonly<Record<string, string>>,
): Promise<Written> {
  const labelIds = [...new Set(rows.flatMap((row) => row.labels))];
  const [columns, lists, labels] = await Promise.all([
    allColumns(db()),
    allLists(db()),
    labelIds.length === 0
      ? []
      : db()
          .select({ id: label.id, name: label.name })
          .from(label)
          .where(and(inArray(label.id, labelIds), labelIsKnown(actor))),
  ]);
  const lexicons = lexiconsOf(lists);
  const names = asNames(lexicons, named);
  const otherNames = new Map(lists.flatMap(({ terms }) => terms.map((term) => [term.id, term.otherNames] as const)));
  const labelNames = new Map(labels.map(({ id, name }) => [id, name]));
  return (row) => [
    ...columns.flatMap((column) => {
      const value = row.values[column.id];
      if (value === undefined || value === null || column.retired) return [];
      const also = [value].flat().flatMap((each) => otherNames.get(String(each)) ?? []);
      const text = inWords(column, value, names);
      return [{ what: column.name, text: also.length === 0 ? text : `${text} (also ${also.join(', ')})` }];
    }),
    ...row.labels.flatMap((id) => {
      const name = labelNames.get(id);
      return name === undefined ? [] : [{ what: 'Label', text: name }];
    }),
  ];
}

function besideOf(
  row: PlacedPaper,
  facts: Facts | undefined,
  written: Written,
  all: readonly Wanted[],
  languages: WordLanguages,
): FoundWhy['beside'] {
  const told = [
    ...written(row),
    ...(facts?.remark ? [{ what: 'Remark', text: facts.remark }] : []),
    ...(facts ? [{ what: 'File', text: facts.fileName }] : []),
  ];
  // A file's name that says no more than the title is no reason of its own.
  const inTitle = new Set(hitsIn(row.title, all, languages).map(({ which }) => which));
  return told
    .map((each) => ({ ...each, hits: hitsIn(each.text, all, languages) }))
    .filter(({ what, hits }) => hits.some(({ which }) => what !== 'File' || !inTitle.has(which)))
    .slice(0, mostBeside)
    .map(({ what, text, hits }) => shortened(what, text, marksOf(hits)));
}

/** So much of a remark is told, around its first mark. In characters. */
const mostText = 160;

function shortened(what: string, text: string, marks: Marks): FoundWhy['beside'][number] {
  if (text.length <= mostText) return { what, text, marks };
  const from = Math.max(0, (marks[0]?.[0] ?? 0) - mostText / 4);
  const to = from + mostText;
  return {
    what,
    text: text.slice(from, to),
    marks: marks
      .filter(([start, end]) => start >= from && end <= to)
      .map(([start, end]) => [start - from, end - from] as const),
  };
}
