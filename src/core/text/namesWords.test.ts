import { namesWords } from './namesWords';

it('finds words as whole words only', () => {
  expect(namesWords('the lantern dredging co', 'lantern dredging')).toBe(true);
  expect(namesWords('lanterns', 'lantern')).toBe(false);
  expect(namesWords('jack o lanterns and a lantern', 'lantern')).toBe(true);
  expect(namesWords('élan', 'lan')).toBe(false);
  expect(namesWords('anything', '')).toBe(false);
});
