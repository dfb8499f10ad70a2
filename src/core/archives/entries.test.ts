import fc from 'fast-check';
import { commonFolders, isClutter, mostEntries, mostUnpackedBytes, whyNotOpened, whyNotUnpacked } from './entries';

const entry = (path: string, more: Partial<Parameters<typeof whyNotUnpacked>[0]> = {}) => ({
  path,
  sizeBytes: 1000,
  packedBytes: 500,
  isLocked: false,
  isLink: false,
  ...more,
});

it.each([
  ['a way up', entry('../../etc/passwd'), 'leads out'],
  ['a way up in the midst, with backslashes', entry('Agendas\\..\\..\\x.pdf'), 'leads out'],
  ['an absolute path', entry('/etc/passwd'), 'leads out'],
  ['a drive', entry('C:\\Windows\\x.pdf'), 'leads out'],
  ['a link', entry('minutes.pdf', { isLink: true }), 'link'],
  ['a locked file', entry('minutes.pdf', { isLocked: true }), 'password'],
  ['a name that is not seen', entry('Agendas/\u202e'), 'no name'],
  ['a file that swells', entry('x.txt', { sizeBytes: 2_000_000_000, packedBytes: 1_900_000 }), '1,000 times'],
])('%s is not unpacked, and why is said', (_what, it, words) => expect(whyNotUnpacked(it)).toContain(words));

it.each([
  entry('Agendas/2026/May..June.pdf'),
  entry('...pdf'),
  entry('zeros.bin', { sizeBytes: 999_999, packedBytes: 10 }),
  entry('dense.txt', { sizeBytes: 2_000_000, packedBytes: 2000 }),
])('$path is unpacked', (it) => expect(whyNotUnpacked(it)).toBeNull());

it('opens an archive up to its limits, and says which it passes', () => {
  expect(whyNotOpened([])).toContain('no file');
  const many = Array.from({ length: mostEntries }, () => entry('x'));
  expect(whyNotOpened(many)).toBeNull();
  expect(whyNotOpened([...many, entry('y')])).toContain('100,000');
  expect(whyNotOpened([entry('x', { sizeBytes: mostUnpackedBytes }), entry('y')])).toContain('too large');
});

it('knows what systems leave', () => {
  expect(['__MACOSX/a/._b', 'a/.DS_Store', 'Thumbs.db'].every(isClutter)).toBe(true);
  expect(['a/__MACOSX.pdf', 'desktop.ini.pdf'].some(isClutter)).toBe(false);
});

it.each([
  [[], ''],
  [['a.pdf', 'X/b.pdf'], ''],
  [['X/Y/a.pdf', 'X/Y/b.pdf'], 'X/Y'],
  [['X/Y/a.pdf', 'X/Yy/b.pdf'], 'X'],
  [['X/Y/Z/a.pdf', 'X/Y/b.pdf'], 'X/Y'],
])('of %j the common folders are %j', (paths, folders) => expect(commonFolders(paths)).toBe(folders));

it('finds folders that begin every path', () =>
  fc.assert(
    fc.property(fc.array(fc.array(fc.constantFrom('a', 'b'), { maxLength: 4 }), { minLength: 1 }), (ways) => {
      const found = commonFolders(ways.map((way) => [...way, 'x.pdf'].join('/')));
      expect(ways.every((way) => found === '' || `${way.join('/')}/`.startsWith(`${found}/`))).toBe(true);
    }),
  ));
