import { batches } from './batches';

const sized = (...sizes: number[]) => sizes.map((sizeBytes) => ({ sizeBytes }));
const sizes = (...given: number[]) =>
  [...batches(sized(...given))].map((some) => some.map(({ sizeBytes }) => sizeBytes));
const mebibyte = 1_048_576;

it('has each content once, in order, and no batch that is empty', () => {
  expect(sizes()).toEqual([]);
  expect(sizes(1, 2, 3)).toEqual([[1, 2, 3]]);
  expect([...batches(sized(...Array<number>(450).fill(1)))].map(({ length }) => length)).toEqual([200, 200, 50]);
});

it('puts together what fits, and what is too large by itself', () => {
  const large = 40 * mebibyte;
  expect(sizes(large, 1, 2, large, 3)).toEqual([[large], [1, 2], [large], [3]]);
  expect(sizes(10 * mebibyte, 6 * mebibyte, 1)).toEqual([[10 * mebibyte, 6 * mebibyte], [1]]);
});
