import { good, type Result } from '../errors/result';
import { checkConditions } from '../views/property';
import type { Answer, Asker, Question } from '../views/question';
import { checkQuestion, groupsOf } from './group';
import { linesOf } from './lines';
import { selectionFor } from './selection';
import type { Tally } from './tally';

/** Answers a view's question for one person, from papers they may see only. Refuses what it does not understand. */
export function answerFrom(tally: Tally, question: Question, asker: Asker): Result<Answer> {
  const { columns } = tally.world;
  const checked = checkConditions(question.conditions, columns);
  if (!checked.ok) return checked;
  const sound = checkQuestion(question, columns);
  if (!sound.ok) return sound;
  const selection = selectionFor(tally, question, asker);
  const { scan, pass } = selection;
  const grouped = groupsOf(scan, pass.all, question, selection.totals(question.measures));
  return good({
    totals: grouped.totals,
    groups: grouped.groups,
    lines: grouped.lines,
    ids: linesOf(scan, grouped, question),
    meant: [],
    counts: Object.fromEntries(question.counts.map((of) => [of, selection.counts(of)])),
  });
}
