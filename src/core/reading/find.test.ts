import { countOf, spotsOf, type PlacedWord } from './find';

const word = (text: string, left: number, top = 0.1): PlacedWord => ({
  text,
  left,
  top,
  right: left + 0.05,
  bottom: top + 0.02,
});
const page = [
  word('Minutes', 0.1),
  word('of', 0.2),
  word('the', 0.3),
  word('Harbour', 0.1, 0.2),
  word('Comité', 0.2, 0.2),
];

describe('how often a phrase stands in a text', () => {
  it.each([
    ['The quay, the QUAY and the quays', 'quay', 3],
    ['a line\nthat goes on', 'line that', 1],
    ['Comité de direction', 'comite', 1],
    ['co-opted members', 'co opted', 1],
    ['nothing of it', 'ferry', 0],
    ['anything', '  ', 0],
    ['aaaa', 'aa', 2],
  ])('%j, %j: %i', (text, phrase, count) => {
    expect(countOf(text, phrase)).toBe(count);
  });
});

describe('where a phrase stands on a page', () => {
  it('is the word it stands in, whatever its accents', () => {
    expect(spotsOf(page, 'comite')).toEqual([[{ left: 0.2, top: 0.2, right: 0.25, bottom: 0.22 }]]);
  });

  it('is one spot for each line it runs over', () => {
    expect(spotsOf(page, 'the harbour')).toMatchObject([
      [
        { left: 0.3, top: 0.1 },
        { left: 0.1, top: 0.2 },
      ],
    ]);
  });

  it('is one spot for words side by side', () => {
    expect(spotsOf(page, 'minutes of')).toMatchObject([[{ left: 0.1, right: 0.25 }]]);
  });

  it('is the whole word for a part of it, each time it stands there', () => {
    expect(spotsOf([word('tide', 0.1), word('ebb', 0.2), word('tides', 0.3)], 'tid')).toHaveLength(2);
  });

  it('is nowhere for a phrase of blanks', () => {
    expect(spotsOf(page, ' ')).toEqual([]);
  });

  it('agrees with the count of the same words as a text', () => {
    const text = page.map((each) => each.text).join(' ');
    for (const phrase of ['o', 'e', 'minutes of the harbour', 'h', 'not there'])
      expect(spotsOf(page, phrase)).toHaveLength(countOf(text, phrase));
  });
});
