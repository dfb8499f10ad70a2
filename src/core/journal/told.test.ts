import fc from 'fast-check';
import { journalEvents, partsOf, storedDetail } from './events';
import type { JournalDetail } from './model';
import { toldTo, type Sight } from './told';
import { entryInWords } from './words';

const sight = (papers: Readonly<Record<string, boolean>>, places: Readonly<Record<string, boolean>>): Sight => ({
  papers: new Map(Object.entries(papers)),
  places: new Map(Object.entries(places)),
});
const said = (act: string, subjects: readonly string[], detail: JournalDetail, seen: Sight): string | null => {
  const told = toldTo({ act, subjects, detail }, seen);
  return told && entryInWords(act, told);
};
const papers = [{ title: 'Lease' }, { title: 'Deed' }, { title: 'Plan' }];

describe('an event as it is stored', () => {
  it('has places as names with their ids, and papers as a number, with the title of a single one', () => {
    expect(
      storedDetail({ act: 'papers.moved', detail: { count: papers.slice(0, 1), to: { id: 'b', name: 'Berths' } } }),
    ).toEqual({ count: 1, countTitle: 'Lease', to: 'Berths', toId: 'b' });
    expect(storedDetail({ act: 'papers.moved', detail: { count: papers, to: { id: null, name: 'there' } } })).toEqual({
      count: 3,
      to: 'there',
      toId: null,
    });
  });

  it('is flat, whatever its act, so that it can be sealed', () => {
    const values = { text: 'x', number: 4, day: '2026-02-28', place: { id: 'p', name: 'Place' }, papers };
    for (const [act, words] of Object.entries(journalEvents)) {
      const kinds = ['text', 'number', 'day', 'place', 'papers'] as const;
      const detail = Object.fromEntries(
        kinds.flatMap((kind) => partsOf(words, kind).map((part) => [part, values[kind]])),
      );
      const stored = storedDetail({ act, detail } as Parameters<typeof storedDetail>[0]);
      for (const value of Object.values(stored)) expect(['string', 'number']).toContain(typeof value);
      expect(entryInWords(act, stored)).not.toMatch(/[{}]|not open|undefined|object/u);
    }
  });
});

describe('what a reader is told', () => {
  const moved = storedDetail({ act: 'papers.moved', detail: { count: papers, to: { id: 'to', name: 'Berths' } } });
  const subjects = ['1', '2', '3', 'to', 'from'];

  it('counts, of several papers, those that they may know of', () => {
    const seen = sight({ 1: true, 2: false, 3: true }, { to: true, from: true });
    expect(said('papers.moved', subjects, moved, seen)).toBe('moved 2 papers to “Berths”');
  });

  it('leaves out the name of a place that they may not know of', () => {
    const seen = sight({ 1: true, 2: true, 3: true }, { to: false, from: true });
    expect(said('papers.moved', subjects, moved, seen)).toBe('moved 3 papers to “a place not open to you”');
  });

  it('is nothing where they may know of none of several papers', () => {
    const seen = sight({ 1: false, 2: false, 3: false }, { to: true, from: true });
    expect(said('papers.moved', subjects, moved, seen)).toBeNull();
  });

  it('is nothing where an event is about a place that they may not know of, and no part of it names it', () => {
    const made = storedDetail({ act: 'folder.created', detail: { name: 'May' } });
    expect(said('folder.created', ['p', 'below'], made, sight({}, { p: false, below: true }))).toBeNull();
    expect(said('folder.created', ['p', 'below'], made, sight({}, { p: true, below: true }))).toBe(
      'made the folder “May”',
    );
  });

  it('is nothing of a single paper that they may not know of, of a removed place, and of an unknown act', () => {
    const one = storedDetail({ act: 'papers.disposed', detail: { count: papers.slice(0, 1) } });
    expect(said('papers.disposed', ['1'], one, sight({ 1: false }, {}))).toBeNull();
    expect(said('place.removed', ['p'], { name: 'Gone' }, sight({}, {}))).toBeNull();
    expect(said('from.later', [], {}, sight({}, {}))).toBeNull();
  });

  it('is the same of entries from before papers were stored as a number', () => {
    const older = { count: '3 papers', to: 'Berths', toId: 'to' };
    const seen = sight({ 1: true, 2: false, 3: true }, { to: true, from: true });
    expect(said('papers.moved', subjects, older, seen)).toBe('moved 2 papers to “Berths”');
    expect(said('papers.moved', ['1', 'to'], { ...older, count: '“Lease”' }, seen)).toBe('moved “Lease” to “Berths”');
    expect(said('papers.moved', ['2', 'to'], { ...older, count: '“Deed”' }, seen)).toBeNull();
  });

  it('leaves out the name of a place that an older entry named without its id, where any is hidden from them', () => {
    const older = { count: '3 papers', name: 'Secret' };
    const hidden = sight({ 1: true, 2: true, 3: true }, { home: false });
    expect(said('papers.reordered', ['1', '2', '3', 'home'], older, hidden)).toBe(
      'changed the order of 3 papers in “a place not open to you”',
    );
    const open = sight({ 1: true, 2: true, 3: true }, { home: true });
    expect(said('papers.reordered', ['1', '2', '3', 'home'], older, open)).toContain('in “Secret”');
  });

  it('says that papers went back to several places, which it does not name', () => {
    const back = storedDetail({
      act: 'papers.moved',
      detail: { count: papers, to: { id: null, name: 'their former places' } },
    });
    const seen = sight({ 1: true, 2: true, 3: true }, { a: false, b: true });
    expect(said('papers.moved', ['1', '2', '3', 'a', 'b'], back, seen)).toBe('moved 3 papers to “their former places”');
  });

  it('never has the name of a place or the title of a paper that they may not know of', () => {
    fc.assert(
      fc.property(
        fc.array(fc.boolean(), { minLength: 1, maxLength: 4 }),
        fc.record({ to: fc.boolean(), from: fc.boolean() }),
        (open, places) => {
          const titled = open.map((_each, at) => ({ title: `Paper${at}.` }));
          const to = { id: 'to', name: 'Target' };
          const from = { id: 'from', name: 'Source' };
          const ids = open.map((_each, at) => `${at}`);
          const seen = sight(Object.fromEntries(open.map((isOpen, at) => [`${at}`, isOpen])), places);
          const words = [
            said(
              'papers.moved',
              [...ids, 'to'],
              storedDetail({ act: 'papers.moved', detail: { count: titled, to } }),
              seen,
            ),
            said(
              'place.moved',
              ['to', 'from'],
              storedDetail({ act: 'place.moved', detail: { name: 'It', from, to } }),
              seen,
            ),
          ].join();
          if (!places.to) expect(words).not.toContain('Target');
          if (!places.from) expect(words).not.toContain('Source');
          open.forEach((isOpen, at) => {
            if (!isOpen) expect(words).not.toContain(`Paper${at}.`);
          });
        },
      ),
      { seed: 31, numRuns: 400 },
    );
  });
});
