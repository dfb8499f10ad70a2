import { dueStages, readingOf, stagePrograms, stages, type Stage, type StageResult } from './stages';

const result = (stage: Stage, over: Partial<StageResult> = {}): StageResult => ({
  stage,
  program: stagePrograms[stage].program,
  outcome: 'done',
  why: null,
  ...over,
});
const all = stages.map((stage) => result(stage));
const but = (...changed: StageResult[]): StageResult[] =>
  all.map((each) => changed.find(({ stage }) => stage === each.stage) ?? each);

describe('the stages that are due', () => {
  it('are all of them, in order, before anything has run', () => {
    expect(dueStages([])).toEqual(['form', 'picture', 'text', 'facts', 'terms']);
  });

  it('are none once each has run with its present program', () => {
    expect(dueStages(all)).toEqual([]);
  });

  it.each<[Stage, Stage[]]>([
    ['form', ['form', 'picture', 'text', 'facts', 'terms']],
    ['picture', ['picture']],
    ['text', ['text', 'facts', 'terms']],
    ['facts', ['facts', 'terms']],
    ['terms', ['terms']],
  ])('after a new program of %s are that stage and those that use it', (stage, due) => {
    expect(dueStages(but(result(stage, { program: 0 })))).toEqual(due);
  });
});

it('names every stage that a stage uses before it', () => {
  for (const [index, stage] of stages.entries())
    for (const used of stagePrograms[stage].uses) expect(stages.indexOf(used)).toBeLessThan(index);
});

describe('the state of a content', () => {
  it.each<[string, readonly StageResult[], boolean, ReturnType<typeof readingOf>]>([
    ['nothing has run', [], false, { state: 'waiting', why: null }],
    ['the first attempt is under way', [], true, { state: 'beingRead', why: null }],
    ['some stages have run', all.slice(0, 2), false, { state: 'beingRead', why: null }],
    ['all have run', all, false, { state: 'read', why: null }],
    ['a new program is awaited', but(result('text', { program: -1 })), true, { state: 'read', why: null }],
    ['someone asked for it again', but(result('text', { program: 0 })), false, { state: 'beingRead', why: null }],
    ['it has no picture', but(result('picture', { outcome: 'nothing' })), false, { state: 'read', why: null }],
    [
      'only its beginning was read',
      but(result('text', { outcome: 'part', why: 'cut' })),
      false,
      { state: 'readInPart', why: 'cut' },
    ],
    ['it has no words', but(result('text', { outcome: 'nothing' })), false, { state: 'nothing', why: null }],
    [
      'its words were read and its form could not be made',
      but(result('form', { outcome: 'failed', why: 'brokeOff' })),
      false,
      { state: 'readInPart', why: 'brokeOff' },
    ],
    [
      'it is protected',
      but(
        result('form', { outcome: 'failed', why: 'protected' }),
        result('picture', { outcome: 'nothing' }),
        result('text', { outcome: 'nothing' }),
      ),
      false,
      { state: 'unreadable', why: 'protected' },
    ],
    [
      'its picture was made and its text was not',
      but(result('text', { outcome: 'failed', why: 'tooSlow' })),
      false,
      { state: 'readInPart', why: 'tooSlow' },
    ],
    [
      'neither its picture nor its text could be made',
      but(
        result('picture', { outcome: 'failed', why: 'tooLarge' }),
        result('text', { outcome: 'failed', why: 'tooLarge' }),
      ),
      false,
      { state: 'unreadable', why: 'tooLarge' },
    ],
  ])('where %s', (_case, results, begun, state) => {
    expect(readingOf(results, begun)).toEqual(state);
  });
});
