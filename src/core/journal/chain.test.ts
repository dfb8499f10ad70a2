import { createHash } from 'node:crypto';
import { chainStart, firstBreak, sealedText, type SealedEntry } from './chain';
import { journalEvents, partsOf } from './events';
import { entryInWords } from './words';

const sha256 = (text: string) => createHash('sha256').update(text).digest('hex');

function chained(entries: readonly SealedEntry[]) {
  let previousHash = chainStart;
  return entries.map((entry, index) => {
    const hash = sha256(sealedText(previousHash, entry));
    const link = { ...entry, id: index + 1, previousHash, hash };
    previousHash = hash;
    return link;
  });
}

const entries: SealedEntry[] = ['one', 'two', 'three'].map((title, index) => ({
  at: `2026-07-14T09:0${index}:00.000Z`,
  personId: 'p',
  act: 'paper.filed',
  subjects: ['d', 'h'],
  detail: { title, number: index, draft: false, note: null },
}));

describe('the chain of the journal', () => {
  it('is whole as it was made', () => {
    expect(firstBreak(chained(entries), sha256)).toBeNull();
  });

  it('is spelled by RFC 8785, whatever the order of keys', () => {
    const [first] = entries;
    if (!first) throw new Error('No entry');
    const turned = {
      detail: { note: null, draft: false, number: 0, title: 'one' },
      subjects: ['d', 'h'],
      act: first.act,
      personId: 'p',
      at: first.at,
    };
    expect(sealedText(chainStart, turned)).toBe(sealedText(chainStart, first));
    // The sorting of property names is RFC 8785's own: section 3.2.3.
    expect(sealedText(chainStart, first)).toMatch(
      /^\{"act":.*"at":.*"detail":\{"draft":false,"note":null,"number":0,"title":"one"\}/u,
    );
  });

  it.each([
    [
      'a word is changed',
      2,
      (links: ReturnType<typeof chained>) =>
        links.map((link) => (link.id === 2 ? { ...link, detail: { ...link.detail, title: 'zwei' } } : link)),
    ],
    ['an entry is taken out', 3, (links: ReturnType<typeof chained>) => links.filter((link) => link.id !== 2)],
    [
      'two change places',
      3,
      (links: ReturnType<typeof chained>) => [links[0], links[2], links[1]].flatMap((link) => link ?? []),
    ],
    [
      'the moment is moved',
      1,
      (links: ReturnType<typeof chained>) =>
        links.map((link) => (link.id === 1 ? { ...link, at: '2026-07-14T09:00:00.001Z' } : link)),
    ],
  ])('breaks where %s', (_what, at, change) => {
    expect(firstBreak(change(chained(entries)), sha256)).toBe(at);
  });
});

describe('entries in words', () => {
  it('fill in their detail', () => {
    expect(entryInWords('place.renamed', { from: 'May', to: 'June' })).toBe('renamed “May” to “June”');
  });

  it('do not name what has been left out for the reader', () => {
    expect(entryInWords('place.moved', { name: 'May', to: 'Open' })).toBe(
      'moved “May” from “a place not open to you” to “Open”',
    );
  });

  it('have no gaps for an act with all its parts', () => {
    for (const [act, words] of Object.entries(journalEvents)) {
      const said = entryInWords(act, Object.fromEntries(partsOf(words).map((part) => [part, '2026-02-28'])));
      expect(said).not.toMatch(/[{}]|not open/u);
    }
  });
});
