import type { NamedGroup } from './contract';
import { displayOf, pathsFrom } from './display';

const totals = { papers: 0, pages: 0, bytes: 0, measures: [] };
const group = (name: string, lines: number, groups: readonly NamedGroup[] = []): NamedGroup => ({
  kind: 'value',
  key: name,
  name,
  totals,
  groups,
  lines,
  values: 1,
});
const inner = [group('2026', 2), group('2025', 3)];
const groups = [group('Agenda', 5, inner), group('Minutes', 1, [group('2026', 1)])];
const nothing = new Set<string>();
const lines = (display: ReturnType<typeof displayOf>): string[] =>
  Array.from({ length: display.count }, (_each, index) => {
    const line = display.lineAt(index);
    if (line === null) return 'nothing';
    return line.kind === 'group' ? `${'-'.repeat(line.depth)}${line.group.name}` : String(line.line);
  });

it('is the lines alone where there are no groups', () => {
  expect(lines(displayOf([], 3, nothing))).toEqual(['0', '1', '2']);
  expect(displayOf([], 0, nothing).count).toBe(0);
  expect(displayOf([], 3, nothing).lineAt(3)).toBeNull();
  expect(displayOf([], 3, nothing).lineAt(-1)).toBeNull();
});

it('stands headings before their lines, groups within groups', () => {
  const display = displayOf(groups, 6, nothing);
  expect(lines(display)).toEqual(['Agenda', '-2026', '0', '1', '-2025', '2', '3', '4', 'Minutes', '-2026', '5']);
  expect(display.indexOf(0)).toBe(2);
  expect(display.indexOf(4)).toBe(7);
  expect(display.headings.map((heading) => heading.start)).toEqual([0, 0, 2, 5, 5]);
  expect(display.headings[2]?.trail.map((each) => each.name)).toEqual(['Agenda', '2025']);
});

it('keeps the numbers of lines that are folded away', () => {
  const [agenda = '', first = ''] = pathsFrom(groups);
  expect(lines(displayOf(groups, 6, new Set([agenda])))).toEqual(['Agenda', 'Minutes', '-2026', '5']);
  const display = displayOf(groups, 6, new Set([first]));
  expect(lines(display)).toEqual(['Agenda', '-2026', '-2025', '2', '3', '4', 'Minutes', '-2026', '5']);
  expect(display.indexOf(0)).toBe(-1);
});

it('names every group by its own path, those with one name in two groups too', () => {
  const paths = pathsFrom(groups);
  expect(new Set(paths).size).toBe(paths.length);
  expect(lines(displayOf(groups, 6, new Set(paths)))).toEqual(['Agenda', 'Minutes']);
});

it('finds every line of a large display where it says that it stands', () => {
  const many = Array.from({ length: 500 }, (_each, at) => group(`G${at}`, at % 7));
  const count = many.reduce((sum, each) => sum + each.lines, 0);
  const display = displayOf(many, count, nothing);
  expect(display.count).toBe(count + many.length);
  for (let line = 0; line < count; line += 13)
    expect(display.lineAt(display.indexOf(line))).toMatchObject({ kind: 'paper', line });
});
