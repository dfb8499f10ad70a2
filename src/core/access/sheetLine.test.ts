import { capabilities, closed, listOf, setOf, type Capability } from './capability';
import { pressed, sayingOf, type Said } from './sheetLine';

const nothing: Said = { gives: 0, withholds: 0 };
const press = (start: Said, ...some: Capability[]): Said => some.reduce(pressed, start);
const sayings = (said: Said) => capabilities.map((each) => sayingOf(said, each));

describe('pressing a capability on a line of a sheet', () => {
  it.each(capabilities)('goes with %s from unsaid to given to withheld, and then says nothing of it again', (each) => {
    expect(sayingOf(press(nothing, each), each)).toBe('given');
    expect(sayingOf(press(nothing, each, each), each)).toBe('withheld');
    expect(sayingOf(press(nothing, each, each, each), each)).toBe('unsaid');
  });

  it('brings what belongs to a capability, and all with managing', () => {
    expect(listOf(press(nothing, 'add').gives)).toEqual(['see', 'add']);
    expect(sayings(press(nothing, 'manage'))).toEqual(capabilities.map(() => 'given'));
  });

  it('leaves no managing without one of its parts, and nothing at all without seeing', () => {
    expect(sayings(press(nothing, 'manage', 'take'))).toEqual(['given', 'withheld', 'given', 'given', 'unsaid']);
    expect(sayings(press(nothing, 'manage', 'see'))).toEqual(capabilities.map(() => 'withheld'));
  });

  it('takes back that something was withheld when it is given after all', () => {
    expect(press({ gives: 0, withholds: setOf(['see']) }, 'see')).toEqual(nothing);
    expect(press(nothing, 'take', 'take', 'manage')).toEqual({ gives: setOf(['manage']), withholds: 0 });
  });

  it('never says that something is both given and withheld, whatever is pressed', () => {
    const seen = new Set<string>();
    const visit = (said: Said): void => {
      const key = `${said.gives} ${said.withholds}`;
      if (seen.has(key)) return;
      seen.add(key);
      expect(said.gives & said.withholds).toBe(0);
      expect(closed(said.gives)).toBe(said.gives);
      for (const each of capabilities) visit(pressed(said, each));
    };
    visit(nothing);
    expect(seen.size).toBeGreaterThan(20);
  });
});
