import fc from 'fast-check';
import { pauseOfAccount, pauseOfAddress, pauseRule } from './pause';

const minute = 60_000;
const tries = (count: number, everyMs: number): number[] => Array.from({ length: count }, (_each, at) => at * everyMs);

describe('the pause of an account', () => {
  it('begins with the tenth wrong try in a quarter of an hour, and ends by itself', () => {
    expect(pauseOfAccount(tries(9, minute), 9 * minute)).toEqual({ paused: false });
    const ten = tries(10, minute);
    expect(pauseOfAccount(ten, 10 * minute)).toEqual({ paused: true, untilMs: 15 * minute });
    expect(pauseOfAccount(ten, 15 * minute - 1)).toMatchObject({ paused: true });
    expect(pauseOfAccount(ten, 15 * minute)).toEqual({ paused: false });
  });

  it('does not come of tries that are far apart', () => {
    expect(pauseOfAccount(tries(50, 2 * minute), 100 * minute)).toEqual({ paused: false });
  });

  it('lasts, after a hundred wrong tries in a row, until the password is renewed (NIST SP 800-63B-4, 3.2.2)', () => {
    const slowly = tries(100, 60 * minute);
    expect(pauseOfAccount(slowly.slice(1), 200 * 60 * minute)).toEqual({ paused: false });
    expect(pauseOfAccount(slowly, 10_000 * 60 * minute)).toEqual({ paused: true, untilMs: null });
  });

  it('never lets more than ten wrong tries through in any quarter of an hour, however they are timed', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 4 * minute }), { maxLength: 90 }), (waits) => {
        const through: number[] = [];
        let at = 0;
        for (const wait of waits) {
          at += wait;
          if (!pauseOfAccount(through, at).paused) through.push(at);
        }
        const most = Math.max(
          0,
          ...through.map((from) => through.filter((each) => each >= from && each < from + pauseRule.withinMs).length),
        );
        expect(most).toBeLessThanOrEqual(pauseRule.wrongTries);
      }),
    );
  });
});

it('pauses a network address at its fiftieth wrong try, whatever accounts it tried', () => {
  expect(pauseOfAddress(tries(49, 1000), minute)).toEqual({ paused: false });
  expect(pauseOfAddress(tries(50, 1000), minute)).toMatchObject({ paused: true });
});
