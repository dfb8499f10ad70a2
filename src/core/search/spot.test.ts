import { paperAddress, spotOf } from './spot';

const inside = { page: 3, attachment: null, version: null, passage: 'the fender piles', marks: [[4, 10]] as const };

it('opens a paper at the page, with the word as it stands there, and in what is attached', () => {
  expect(paperAddress('x', spotOf(inside), { at: 'find' })).toBe('/paper/x?at=find&page=3&find=fender');
  expect(paperAddress('x', spotOf({ ...inside, attachment: { number: 2, name: 'a.txt' } }))).toBe(
    '/paper/x?page=3&find=fender&attachment=2',
  );
});

it('opens an earlier version beside the current one, and what is not inside at its beginning', () => {
  expect(paperAddress('x', spotOf({ ...inside, version: 1 }), { at: 'find' })).toBe('/paper/x/versions?one=1');
  expect(paperAddress('x', spotOf(null))).toBe('/paper/x');
});
