import { shiftOf, type Shift } from '@/core/outline/move';
import type { Standing } from '@/core/outline/outline';
import type { MenuAct } from '../kit/menu';

const keys: Readonly<Record<Shift, string>> = { up: 'Alt ↑', down: 'Alt ↓', in: 'Alt →', out: 'Alt ←' };

/** The moves of a line that are possible, for its menu. @param words what each is called */
export const shiftActs = (
  lines: readonly Standing[],
  id: string,
  words: Readonly<Record<Shift, string>>,
  mayLieIn: (parentId: string | null) => boolean,
  onShift: (shift: Shift) => void,
): MenuAct[] =>
  (['up', 'down', 'in', 'out'] as const)
    .filter((shift) => {
      const to = shiftOf(lines, id, shift);
      return to !== null && mayLieIn(to.parentId);
    })
    .map((shift) => ({ label: words[shift], keys: keys[shift], act: () => onShift(shift) }));
