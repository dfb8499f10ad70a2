/** @jest-environment jsdom */
import { renderHook } from '@testing-library/react';
import type { KeyboardEvent } from 'react';
import { useWaitingEnter } from './useWaitingEnter';

const key = (name: string) => ({ key: name, preventDefault: jest.fn() }) as unknown as KeyboardEvent;
const begun = (isAnswered: boolean) => {
  const choose = jest.fn();
  const hook = renderHook(({ answered }) => useWaitingEnter(answered, choose), {
    initialProps: { answered: isAnswered },
  });
  return {
    choose,
    press: (name: string) => hook.result.current(key(name)),
    answer: () => hook.rerender({ answered: true }),
  };
};

it('waits with Enter until the results for what was typed are there, and chooses once', () => {
  const { choose, press, answer } = begun(false);
  press('Enter');
  expect(choose).not.toHaveBeenCalled();
  answer();
  answer();
  expect(choose).toHaveBeenCalledTimes(1);
});

it('forgets a waiting Enter when one types on', () => {
  const { choose, press, answer } = begun(false);
  press('Enter');
  press('x');
  answer();
  expect(choose).not.toHaveBeenCalled();
});

it('leaves Enter to the list where the results are there already', () => {
  const { choose, press } = begun(true);
  const enter = key('Enter');
  press('Enter');
  expect([choose.mock.calls.length, (enter.preventDefault as jest.Mock).mock.calls.length]).toEqual([0, 0]);
});
