/** @jest-environment jsdom */
import { act, fireEvent, render, screen } from '@testing-library/react';
import { Pick, type PickItem } from './pick';

beforeAll(() => {
  global.ResizeObserver = class {
    observe() {}
    unobserve() {}
    disconnect() {}
  };
  Element.prototype.scrollIntoView = () => undefined;
});

const people: readonly PickItem[] = [
  { id: 'kea', name: 'Kea Keeper' },
  { id: 'rea', name: 'Rea Der' },
];

/** A list whose answers come when the test says so. */
function openList(onCreate?: (name: string) => void) {
  const onPick = jest.fn();
  const asked: string[] = [];
  const list = (items: readonly PickItem[], answered: boolean) => (
    <Pick
      label="Whom"
      shown="Nobody"
      items={items}
      picked={[]}
      several
      answered={answered}
      onWords={(words) => asked.push(words)}
      onPick={onPick}
      {...(onCreate ? { onCreate } : {})}
    />
  );
  const { rerender } = render(list(people, true));
  fireEvent.click(screen.getByRole('button', { name: 'Whom' }));
  return {
    onPick,
    asked,
    type: (words: string) => {
      rerender(list(people, false));
      fireEvent.change(screen.getByRole('combobox'), { target: { value: words } });
    },
    enter: () => fireEvent.keyDown(screen.getByRole('combobox'), { key: 'Enter' }),
    answer: (items: readonly PickItem[]) => act(() => rerender(list(items, true))),
    offered: () => screen.queryAllByRole('option').map((option) => option.textContent),
  };
}

it('takes nobody from the answer to words typed before', () => {
  const { onPick, type, enter, offered, answer } = openList();
  type('Rea Der');
  expect(offered()).toEqual(['Rea Der']);
  type('Zoe');
  expect(offered()).toEqual([]);
  expect(screen.getByText('Looking…')).toBeTruthy();
  enter();
  expect(onPick).not.toHaveBeenCalled();
  answer([{ id: 'zoe', name: 'Zoe Zand' }]);
  expect(onPick.mock.calls).toEqual([['zoe']]);
});

it('takes at once what is marked and has the typed words', () => {
  const { onPick, type, enter } = openList();
  type('Rea');
  enter();
  expect(onPick.mock.calls).toEqual([['rea']]);
});

it('does not offer to add a name before it is known that nobody has it', () => {
  const onCreate = jest.fn();
  const { onPick, type, enter, offered, answer } = openList(onCreate);
  type('Zoe Zand');
  expect(offered()).toEqual([]);
  enter();
  answer([{ id: 'zoe', name: 'Zoe Zand' }]);
  expect(onPick.mock.calls).toEqual([['zoe']]);
  expect(onCreate).not.toHaveBeenCalled();
});

it('asks for everything again after a pick where several may be picked', () => {
  const { asked, type, enter, answer } = openList();
  type('Rea');
  answer(people.slice(1));
  enter();
  expect(asked.at(-1)).toBe('');
});
