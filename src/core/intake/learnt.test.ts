import { complementScores, firstByWords, tellingWords, type LearntWord } from './learnt';

/** Papers as rows of words that they have or not, each with its dossier. */
function learnt(
  rows: readonly (readonly number[])[],
  dossiers: readonly string[],
  names: readonly string[],
): LearntWord[] {
  return names.map((word, at) => {
    const papers = new Map<string, number>();
    for (const [row, words] of rows.entries())
      if (words[at]) papers.set(dossiers[row] ?? '', (papers.get(dossiers[row] ?? '') ?? 0) + 1);
    return { word, papers, texts: [...papers.values()].reduce((sum, count) => sum + count, 0) };
  });
}

const names = ['dredging', 'buoy', 'rope', 'invoice'];
const rows = [
  ...[
    [1, 1, 0, 1],
    [1, 0, 0, 1],
    [1, 1, 0, 0],
    [0, 0, 1, 1],
    [0, 1, 1, 1],
    [0, 0, 1, 0],
    [0, 0, 1, 1],
  ],
  ...[
    [0, 0, 0, 1],
    [1, 0, 0, 1],
  ],
];
const words = learnt(rows, [...'aaabbbbcc'], names);

/** The generator of pseudo-random numbers of ANSI C’s example (ISO/IEC 9899:1990, 7.10.2.2), as the reference was given its papers. */
function drawn(count: number) {
  let state = 20_261_128n;
  const next = () => {
    state = (state * 1_103_515_245n + 12_345n) % 2_147_483_648n;
    return Number(state) / 2_147_483_648;
  };
  return Array.from({ length: count }, (_none, at) =>
    Array.from({ length: 12 }, (_word, word) => (next() < (word % 3 === at % 3 ? 0.55 : 0.25) ? 1 : 0)),
  );
}

describe('complement naive Bayes', () => {
  // Computed once by scikit-learn 1.2.1 (Debian’s python3-sklearn): ComplementNB(alpha=1, norm=False, fit_prior=False), with
  // `feature_log_prob_` times the row; that is the score of its own before a class prior.
  it('scores as an independent library does', () => {
    const scores = complementScores(words);
    for (const [dossier, score] of [
      ['a', 6.044709061627],
      ['b', 6.238741204925],
      ['c', 5.603969812764],
    ] as const)
      expect(scores.get(dossier)).toBeCloseTo(score, 10);
  });

  it('says the same dossiers as that library for papers that neither has seen', () => {
    const all = drawn(60);
    const vocabulary = Array.from({ length: 12 }, (_none, at) => `w${at}`);
    const seen = learnt(
      all.slice(0, 40),
      all.slice(0, 40).map((_row, at) => String(at % 3)),
      vocabulary,
    );
    const scoresOf = (row: readonly number[]) => complementScores(seen, (word) => row[vocabulary.indexOf(word)] === 1);
    const said = all
      .slice(40)
      .map((row) => Number([...scoresOf(row)].toSorted((one, other) => other[1] - one[1])[0]?.[0]));
    expect(said).toEqual([1, 1, 0, 2, 2, 0, 1, 2, 1, 0, 1, 0, 1, 0, 2, 1, 2, 1, 1, 2]);
    expect(scoresOf(all[40] ?? []).get('1')).toBeCloseTo(13.561302445, 8);
  });
});

describe('the dossier whose papers an arrival is like', () => {
  const known = (word: string, ...counts: readonly [string, number][]): LearntWord => ({
    word,
    papers: new Map(counts),
    texts: counts.reduce((sum, [, count]) => sum + count, 0),
  });

  it('is told with the words that say so, the most telling first', () => {
    const words = [
      known('dredger', ['a', 14]),
      known('spoil', ['a', 9], ['b', 1]),
      known('invoice', ['a', 12], ['b', 40], ['c', 33]),
    ];
    expect(firstByWords(words)).toBe('a');
    expect(tellingWords(words, 'a', 0.2)).toEqual(['dredger', 'spoil']);
  });

  it('is none where one word alone, or one paper alone, would say so, or two are as likely', () => {
    expect(firstByWords([])).toBeNull();
    expect(tellingWords([known('dredger', ['a', 14]), known('invoice', ['a', 2], ['b', 40])], 'a', 0.1)).toEqual([]);
    expect(tellingWords([known('dredger', ['a', 1]), known('spoil', ['a', 1])], 'a', 0.1)).toEqual([]);
    const both = [known('rope', ['a', 5], ['b', 5]), known('chain', ['a', 5], ['b', 5])];
    expect(firstByWords(both)).toBeNull();
  });

  it('is none in a library that has little else: there every word is that dossier’s', () => {
    const words = [known('hello', ['a', 3]), known('sent', ['a', 3])];
    expect(tellingWords(words, 'a', 0.6)).toEqual([]);
    expect(tellingWords(words, 'a', 1)).toEqual([]);
    // Of what waits in the intake all have it too.
    const everywhere = words.map((each) => ({ ...each, texts: 40 }));
    expect(tellingWords(everywhere, 'a', 0.05)).toEqual([]);
    expect(tellingWords(words, 'a', 0.05)).toEqual(['hello', 'sent']);
  });
});
