import { drawnSchema, outsideAnswerSchema, type SealFound } from './contract';
import { mostDrawnPoints } from './model';
import { sealInWords, signerInWords } from './words';

const seal: SealFound = { state: 'whole', isOurs: true, by: 'Test Trust, library' };

it.each([
  [[], 'It has no seal.'],
  [[seal], 'It is whole: not a byte was changed since it was sealed. The seal is this library’s own.'],
  [[{ ...seal, state: 'altered' }], /^It was altered after it was sealed/u],
  [[{ ...seal, state: 'continued' }], /something was added to the file after it/u],
  [[{ ...seal, state: 'unreadable' }], 'Its seal cannot be read: it may have been altered.'],
  [
    [{ ...seal, isOurs: false }],
    /not this library’s; its certificate says “Test Trust, library”, which proves nothing here/u,
  ],
  [[seal, seal], /It has 2 seals; this is the first\.$/u],
] as const)('tells what was found out about seals: %#', (seals, words) => {
  expect(sealInWords(seals)).toMatch(words);
});

const waiting = { answer: null, isTurn: true, cannotAnswer: false } as const;
it.each([
  [waiting, 'sign', true, 'asked'],
  [{ ...waiting, isTurn: false }, 'sign', true, 'comes later'],
  [{ ...waiting, cannotAnswer: true }, 'sign', true, 'cannot see the paper any more'],
  [{ ...waiting, cannotAnswer: true }, 'sign', false, 'not needed any more'],
  [{ ...waiting, answer: 'agreed' }, 'approve', false, 'approved'],
  [{ ...waiting, answer: 'agreed' }, 'sign', true, 'signed'],
  [{ ...waiting, answer: 'declined' }, 'sign', true, 'declined'],
  [{ ...waiting, answer: 'released' }, 'sign', true, 'let off'],
] as const)('tells how one who was asked stands: %#', (signer, way, isOpen, words) => {
  expect(signerInWords(signer, way, isOpen)).toBe(words);
});

describe('a drawn name', () => {
  it.each([
    ['nothing', [], true],
    ['a dot', [[1, 2, 1, 2]], true],
    ['half a point', [[1, 2, 3]], false],
    ['a single point', [[1, 2]], false],
    ['points between steps', [[1.5, 2, 3, 4]], false],
    ['points outside the box', [[1, 2, 30_000, 4]], false],
    ['as many points as fit', [Array.from({ length: mostDrawnPoints * 2 }, () => 1)], true],
    ['one point more', [Array.from({ length: mostDrawnPoints * 2 }, () => 1), [1, 1, 2, 2]], false],
  ])('of %s is taken: %s', (_what, drawn, isTaken) => {
    expect(drawnSchema.safeParse(drawn).success).toBe(isTaken);
  });
});

it('an answer from outside has nothing beside what it needs', () => {
  expect(outsideAnswerSchema.safeParse({ answer: 'declined', reason: ' ' }).success).toBe(false);
  expect(
    outsideAnswerSchema.safeParse({ answer: 'agreed', typedName: 'A', drawn: [], signerId: 'someone' }).success,
  ).toBe(false);
});
