import { owesNothing } from '../owed/owing';
import { plainIndex, type PlainText } from '../../../tests/oracle/plainFinding';
import type { Asker, Question, ViewPaper, ViewText } from '../views/question';
import { answerFrom } from './answer';
import { Tally } from './tally';

const day = 86_400_000;
const today = 20_000;
const none = new Set<string>();
const [rootId, worksId, boardId] = [1, 2, 3].map((at) => `10000000-0000-4000-8000-00000000000${at}`) as [
  string,
  string,
  string,
];

const filler = 'The members were thanked, and the rest of the business was put off to the next meeting. '.repeat(6);

interface Judged {
  readonly title: string;
  readonly text?: string;
  readonly older?: string;
  readonly fileName?: string;
  readonly remark?: string;
  readonly homeId?: string;
  /** How many days ago it was changed. */
  readonly ago?: number;
}

/** The titles of what words find, in order. */
function order(words: string, papers: readonly Judged[]): string[] {
  const texts = new Map<number, PlainText>();
  const tally = new Tally({
    columns: [],
    names: new Map(),
    otherNames: new Map(),
    termOrder: new Map(),
    timeZone: 'UTC',
    yearStartMonth: 1,
    owing: owesNothing,
  });
  const place = (id: string, name: string, lineage: string[]) => ({
    id,
    lineage,
    kind: lineage.length === 1 ? ('library' as const) : ('series' as const),
    name,
    reference: null,
    position: 0,
    scopeId: null,
    filingYear: null,
    plannedKey: null,
    closedAtMs: null,
  });
  tally.putPlaces([
    place(rootId, 'Library', [rootId]),
    place(worksId, 'Works', [rootId, worksId]),
    place(boardId, 'Dredging board', [rootId, boardId]),
  ]);
  tally.putPapers(
    papers.map(({ title, text, older, fileName = '', remark = '', homeId = worksId, ago = 400 }, at): ViewPaper => {
      const indexed = (content: string | undefined, as: ViewText['as']): ViewText[] => {
        if (content === undefined) return [];
        const number = texts.size + 1;
        texts.set(number, { text: content, language: 'en' });
        return [{ number, length: content.split(' ').length, language: 'en', as }];
      };
      return {
        id: `20000000-0000-4000-8000-${String(at).padStart(12, '0')}`,
        homeId,
        scopeId: null,
        filings: [],
        title,
        kind: 'TEXT',
        sizeBytes: 1,
        pageCount: null,
        wordCount: null,
        signature: null,
        filedBy: rootId,
        filedAtMs: (today - ago) * day,
        changedBy: rootId,
        changedAtMs: (today - ago) * day,
        order: null,
        values: {},
        labels: [],
        fileName,
        remark,
        texts: [...indexed(text, 'own'), ...indexed(older, 'older')],
      };
    }),
  );
  tally.index = plainIndex(texts);
  const asker: Asker = {
    personId: rootId,
    keeper: true,
    scopes: none,
    byOpening: none,
    managed: none,
    groupMates: none,
    labels: none,
    today,
    lookedAtMs: null,
    openTo: new Map(),
    own: new Map(),
    found: new Map(),
    frequented: new Set([worksId]),
  };
  const question: Question = {
    placeId: rootId,
    below: true,
    conditions: [{ of: 'find', find: words, among: 'everything' }],
    groupings: [],
    sorts: [],
    counts: [],
    measures: [],
    start: 0,
    limit: 50,
  };
  const answer = answerFrom(tally, question, asker);
  if (!answer.ok) throw new Error(answer.issue.says);
  return answer.value.ids.map((id) => papers[Number(id.slice(-12))]?.title ?? '');
}

/** Judged by us, as an office would: common practice, no source. */
describe('the better answer comes first', () => {
  it.each<readonly [string, string, readonly Judged[]]>([
    [
      'a title that says it, before a text that mentions it',
      'dredging',
      [{ title: 'Dredging licence' }, { title: 'Minutes', text: `${filler} Dredging was mentioned. ${filler}` }],
    ],
    [
      'a title that is no more than the words, before one that has others',
      'berth lease',
      [{ title: 'Berth lease' }, { title: 'Berth lease, notes on how the old one came to an end' }],
    ],
    [
      'words side by side, before words far apart',
      'ferry stage',
      [
        { title: 'One', text: `The ferry stage is closed. ${filler}` },
        { title: 'Two', text: `The ferry is late. ${filler} Another stage was begun.` },
      ],
    ],
    [
      'what is current, before what was replaced',
      'tender',
      [
        { title: 'Now', text: 'The tender is open.' },
        { title: 'Then', text: 'Nothing more.', older: 'The tender is open.' },
      ],
    ],
    [
      'a remark that someone wrote, before one mention in a long text',
      'urgent',
      [
        { title: 'Marked', remark: 'urgent', text: filler },
        { title: 'Minutes', text: `${filler} ${filler} Nothing urgent. ${filler}` },
      ],
    ],
    [
      'the number itself, before a longer one of which it is a part',
      '00471',
      [
        { title: 'Exact', text: 'Paid: INV-2023-00471.' },
        { title: 'Part', text: 'Paid: 7004713.' },
      ],
    ],
    [
      'a paper about it, before one that only lies in a place of that name',
      'dredging',
      [
        { title: 'Report', text: 'Dredging was begun, and dredging will go on.' },
        { title: 'Agenda', text: filler, homeId: boardId },
      ],
    ],
    [
      'of equals the newer',
      'survey',
      [
        { title: 'Survey new', ago: 3 },
        { title: 'Survey old', ago: 2500 },
      ],
    ],
    [
      'of equals what lies where one works',
      'lease',
      [
        { title: 'Lease here', homeId: worksId },
        { title: 'Lease away', homeId: boardId },
      ],
    ],
    [
      'a rare word twice, before a common one twice',
      'crane* berth',
      [
        { title: 'A', text: 'crane crane berth and so on' },
        { title: 'B', text: 'crane berth berth and so on' },
        { title: 'C', text: 'berth' },
        { title: 'D', text: 'berth' },
        { title: 'E', text: 'berth' },
      ],
    ],
  ])('%s', (_says, words, papers) => {
    const [best, next] = papers;
    // In whichever order they were filed.
    for (const some of [papers, [...papers].reverse()])
      expect(order(words, some).slice(0, 2)).toEqual([best?.title, next?.title]);
  });
});

it('one paper is told once, whatever of it is found', () => {
  expect(
    order('pile', [{ title: 'Pile', text: 'A pile.', older: 'One pile.', fileName: 'pile.pdf', remark: 'pile' }]),
  ).toEqual(['Pile']);
});
