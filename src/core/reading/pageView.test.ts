import { firstView, nextView, pageWidth, percentOf } from './pageView';

const a4 = Math.SQRT2;
const room = { width: 1000, height: 700 };

describe('how wide a page stands', () => {
  it.each([
    ['as wide as there is room', { ...firstView }, 968],
    ['no wider than can be read', { ...firstView }, 1100, { width: 3000, height: 700 }],
    ['half of it where two stand side by side', { ...firstView, spread: true }, 476],
    ['whole', { ...firstView, fit: 'page' as const }, 472],
    ['whole and turned', { ...firstView, fit: 'page' as const, turned: 90 as const }, 944],
    ['at its printed size', { ...firstView, fit: null }, 794],
    ['at half of it', { ...firstView, fit: null, percent: 50 }, 397],
    ['never so narrow that it vanishes', { ...firstView }, 80, { width: 20, height: 20 }],
  ])('%s', (_how, view, width, within = room) => {
    expect(pageWidth(view, within, a4)).toBe(width);
  });
});

describe('a step', () => {
  it('larger goes on from the size at which pages are shown, and ends at the largest', () => {
    expect(nextView(firstView, { to: 'larger', nowPercent: 122 })).toMatchObject({ fit: null, percent: 125 });
    expect(nextView(firstView, { to: 'larger', nowPercent: 400 }).percent).toBe(400);
  });

  it('smaller takes the next below, and ends at the smallest', () => {
    expect(nextView(firstView, { to: 'smaller', nowPercent: 125 }).percent).toBe(100);
    expect(nextView(firstView, { to: 'smaller', nowPercent: 10 }).percent).toBe(25);
  });

  it('turns by a quarter, and round', () => {
    let view = firstView;
    for (const turned of [90, 180, 270, 0]) {
      view = nextView(view, { to: 'turn' });
      expect(view.turned).toBe(turned);
    }
  });

  it('sets two pages side by side, and one again', () => {
    expect(nextView(nextView(firstView, { to: 'spread' }), { to: 'spread' }).spread).toBe(false);
  });
});

it('tells the percentage of a width', () => {
  expect(percentOf(794)).toBe(100);
});
