import { stepsOf } from './path';

it.each([
  ['', []],
  ['Agendas/2026', ['Agendas', '2026']],
  ['Agendas\\2026\\', ['Agendas', '2026']],
  ['../../etc/./passwd', ['etc', 'passwd']],
  [' / ... /a b', ['a b']],
  ['a\u202Eb/\u200E', ['ab']],
])('the folders of %p are %p', (path, steps) => {
  expect(stepsOf(path)).toEqual(steps);
});
