import { tallyOf } from '../oracle/agree';
import { plainIndex, PlainFinding, type PlainText } from '../oracle/plainFinding';
import { RandomLibrary } from '../oracle/randomLibrary';
import { Chance } from '@/core/chance/chance';
import { amongs } from '@/core/search/among';
import type { Question, ViewPaper } from '@/core/views/question';
import { answerFrom } from '@/core/tally/answer';

const vocabulary = [
  'pile piles piling fender the of and',
  'minutes Minutes lease Léase board Board north pontoon 70 tenants Also Term',
  'INV-2023-00471 00471 2023 e-mail email 9 May 2026 £91,700 91,700.00 2024-05-12',
  'Brücken überschritten der die Zoë’s zoes O’Hara Idris Audit approval',
].flatMap((line) => line.split(' '));
const typedOnly = [
  'pil*',
  'mi*',
  '0047',
  '047',
  '"fender pile"',
  '"the board"',
  '9/5/26',
  'may 2026',
  '91700',
  '-lease',
  '-"north pontoon"',
  'T-1',
  'Also',
];

const sentence = (chance: Chance): string =>
  Array.from({ length: chance.whole(1, 14) }, () => chance.pick(vocabulary)).join(' ');

/** Gives papers of a library random texts: their own, attached ones, and earlier versions'. */
function withTexts(library: RandomLibrary, chance: Chance): Map<number, PlainText> {
  const texts = new Map<number, PlainText>();
  let number = 0;
  for (const paper of library.papers.values()) {
    const some: ViewPaper['texts'][number][] = [];
    const add = (as: 'own' | 'attached' | 'older') => {
      // Some papers are of the same content.
      const there = texts.size > 0 && chance.happens(0.2);
      const which = there ? chance.pick([...texts.keys()]) : (number += 1);
      const text = texts.get(which) ?? { text: sentence(chance), language: chance.pick(['en', 'en', 'de']) };
      texts.set(which, text);
      if (!some.some((each) => each.number === which))
        some.push({ number: which, length: text.text.split(' ').length, language: text.language, as });
    };
    if (chance.happens(0.8)) add('own');
    if (chance.happens(0.2)) add('attached');
    if (chance.happens(0.2)) add('older');
    library.papers.set(paper.id, {
      ...paper,
      kind: chance.happens(0.2) ? 'MAIL' : paper.kind,
      title: chance.happens(0.5) ? sentence(chance) : paper.title,
      remark: chance.happens(0.2) ? sentence(chance) : '',
      texts: some,
    });
  }
  return texts;
}

it('finds what looking through all that may be seen finds, for 2,000 random questions of 40 random libraries', () => {
  let [some, none] = [0, 0];
  for (let seed = 1; seed <= 40; seed += 1) {
    const library = new RandomLibrary(seed);
    const chance = new Chance(seed + 1000);
    const texts = withTexts(library, chance);
    const tally = tallyOf(library);
    tally.index = plainIndex(texts);
    for (let round = 0; round < 50; round += 1) {
      const find = Array.from({ length: chance.whole(1, 3) }, () =>
        chance.pick(chance.happens(0.4) ? typedOnly : vocabulary),
      ).join(' ');
      const among = chance.pick([...amongs, 'everything' as const]);
      const random = library.question();
      const conditions = chance.happens(0.3) ? random.conditions : [];
      const asked: Question = {
        ...random,
        conditions,
        groupings: [],
        counts: [],
        measures: [],
        sorts: [],
        start: 0,
        limit: 500,
      };
      const asker = library.asker(asked);
      const plain = new PlainFinding(library.plain, asked, asker);
      plain.texts = texts;
      plain.languages = [
        ...new Set([
          'en',
          ...[...library.papers.values()].flatMap((paper) => paper.texts.map(({ language }) => language ?? 'en')),
        ]),
      ];
      const question: Question = { ...asked, conditions: [...asked.conditions, { of: 'find', find, among }] };
      const answer = answerFrom(tally, question, asker);
      if (!answer.ok) throw new Error(answer.issue.says);
      const expected = plain.found(find, among);
      if (JSON.stringify([...answer.value.ids].sort()) !== JSON.stringify(expected))
        throw new Error(
          `Seen with seed ${seed}, ${JSON.stringify({ find, among, conditions: asked.conditions })}: ${JSON.stringify({ got: answer.value.ids.map((id) => library.papers.get(id)), expected: expected.map((id) => library.papers.get(id)) }, null, 1)}`,
        );
      expect(answer.value.totals.papers).toBe(expected.length);
      if (expected.length > 0) some += 1;
      else none += 1;
    }
  }
  expect(some).toBeGreaterThan(600);
  expect(none).toBeGreaterThan(200);
});
