import { labelState, tickAfter } from './model';

it('ticks a label that none, some or all of the papers bear', () => {
  expect([labelState(0, 3), labelState(2, 3), labelState(3, 3), labelState(0, 0)]).toEqual([
    'none',
    'some',
    'all',
    'none',
  ]);
});

it('puts it on all where only some bear it, and takes it off where all do', () => {
  expect([tickAfter('none'), tickAfter('some'), tickAfter('all')]).toEqual([true, true, false]);
});
