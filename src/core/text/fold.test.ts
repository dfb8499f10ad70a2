import { nameKey, searchKey } from './fold';

describe('the key by which names are the same', () => {
  it.each([
    ['Full Board', 'full board'],
    ['ÉCOLE', 'e\u0301cole'],
    ['Straße', 'STRASSE'],
    ['ΣΊΣΥΦΟΣ', 'σίσυφος'],
  ])('%s and %s are one name', (a, b) => {
    expect(nameKey(a)).toBe(nameKey(b));
  });

  it.each([
    ['cafe', 'café'],
    ['W-23', 'W 23'],
  ])('%s and %s are two names', (a, b) => {
    expect(nameKey(a)).not.toBe(nameKey(b));
  });
});

describe('the key by which names are searched', () => {
  it.each([
    ['Café Marée', 'cafe maree'],
    ['Anaïs O’Dowd', 'anais odowd'],
    ['W-23-04', 'w 23 04'],
    ['  Minutes_of  12 May ', 'minutes of 12 may'],
    ['ﬁnance', 'finance'],
  ])('%s is looked up as %s', (text, key) => {
    expect(searchKey(text)).toBe(key);
  });
});
