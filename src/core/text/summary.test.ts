import { keyWordsOf } from './keyWords';
import { sentencesOf, wordsOf } from './sentences';
import { summaryOf } from './summary';

const stopWords = new Set(
  'the a an of and to in is was were that it its by for on at be with as are or from this'.split(' '),
);

describe('the sentences of a text', () => {
  it('are those that could be quoted: no headings, no rows of figures', () => {
    const text =
      'MINUTES\n\nThe board met at the harbour office on Monday morning.\n\n12.50 14.00 16.75 18.25 20.00 22.50 24.00.\n\n' +
      'The chair thanked the volun-\nteers who cleared the slipway.';
    expect(sentencesOf(text)).toEqual([
      'The board met at the harbour office on Monday morning.',
      'The chair thanked the volunteers who cleared the slipway.',
    ]);
  });

  it('go on over the end of a line, and end at an empty one', () => {
    expect(
      sentencesOf('The dredger works\nuntil the end of the month.\n\nIt then leaves for another harbour.'),
    ).toEqual(['The dredger works until the end of the month.', 'It then leaves for another harbour.']);
  });
});

it('knows the words of a text in lower case', () => {
  expect(wordsOf('Berth 12: the O’Dowd’s “Kittiwake”')).toEqual(['berth', '12', 'the', 'o’dowd’s', 'kittiwake']);
});

describe('a summary', () => {
  const text = [
    'The harbour wall was surveyed in May and the survey found the wall sound.',
    'The canteen has a new kettle and everyone seems pleased about that.',
    'The survey of the harbour wall recommends that two joints of the wall be repaired.',
    'A gull nests on the roof again this year as it did before.',
    'Repair of the joints in the harbour wall is planned for the autumn.',
  ].join(' ');

  it('takes the sentences that share most with the others, in their order, word for word', () => {
    const summary = summaryOf(text, stopWords, 3);
    expect(summary).toEqual([
      'The harbour wall was surveyed in May and the survey found the wall sound.',
      'The survey of the harbour wall recommends that two joints of the wall be repaired.',
      'Repair of the joints in the harbour wall is planned for the autumn.',
    ]);
  });

  it('of a short text is all of it, and of none is nothing', () => {
    expect(summaryOf('The ferry runs at noon and at six in the evening.', stopWords)).toHaveLength(1);
    expect(summaryOf('', stopWords)).toEqual([]);
  });

  it('says nothing twice', () => {
    expect(new Set(summaryOf(`${text} ${text}`, stopWords, 5)).size).toBe(5);
  });
});

describe('key words', () => {
  it('are phrases between stop words and punctuation, the weightiest first', () => {
    // The abstract and the outcome are those of the worked example in the paper that the method comes from (S. Rose and
    // others, 2010, section 1.2.1), from memory; the scores there are 8.0 to 9.0 for the first three.
    const abstract =
      'Compatibility of systems of linear constraints over the set of natural numbers. Criteria of compatibility of a system ' +
      'of linear Diophantine equations, strict inequations, and nonstrict inequations are considered.';
    const all = new Set([...stopWords, 'over', 'set', 'considered']);
    expect(keyWordsOf(abstract, all, 3)).toEqual([
      'linear diophantine equations',
      'linear constraints',
      'natural numbers',
    ]);
  });

  it('are none of a text without words', () => {
    expect(keyWordsOf('12, 13 … 14', stopWords)).toEqual([]);
  });

  it('prefer what is repeated where there is enough of it', () => {
    const text =
      'Harbour wall; dredging; ferry landing. '.repeat(3) + 'An entirely incidental and exceptionally long phrase.';
    expect(keyWordsOf(text, stopWords, 3)).toEqual(
      expect.arrayContaining(['harbour wall', 'dredging', 'ferry landing']),
    );
  });
});
