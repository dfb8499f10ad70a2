import { quorumInWords, quorumOf } from './quorum';
import { headingOf, lineMarkup, lineOf, minutesMarkup, type MinutesText } from './text';

const member = (name: string, presence: 'present' | 'apologies' | 'absent' | null) =>
  ({ name, part: 'member', presence }) as const;

describe('the quorum', () => {
  const fields = [{ id: 'f', name: 'Quorum', kind: 'text', choices: [] }] as const;

  it('is what the detail of that name says, and nothing else', () => {
    expect(quorumOf(fields, { f: '3' })).toBe(3);
    expect(quorumOf(fields, { f: 'five members, or 5' })).toBe(5);
    expect([quorumOf(fields, { f: 'a third' }), quorumOf(fields, {}), quorumOf(fields, { f: '0' })]).toEqual([
      null,
      null,
      null,
    ]);
    expect(quorumOf([{ ...fields[0], name: 'Chair' }], { f: '3' })).toBe(null);
  });

  it('is met by members who are present, by hand', () => {
    const guest = { part: 'inAttendance', presence: 'present' } as const;
    const two = [member('A', 'present'), member('B', 'present'), member('C', 'apologies'), guest];
    expect(quorumInWords(two, 2)).toBe('2 of 3 members were present. The quorum is 2: it was met.');
    expect(quorumInWords(two, 3)).toBe('2 of 3 members were present. The quorum is 3: it was not met.');
    expect(quorumInWords([member('A', 'present'), member('B', null)], null)).toBe('1 of 2 members was present.');
    expect(quorumInWords([member('A', null), member('B', null)], 2)).toBe(null);
  });
});

describe('minutes', () => {
  const order = { kind: 'action', text: 'Order  the\nbuoys', who: 'Petra', dueOn: '2026-08-03' } as const;
  const decided = { kind: 'decision', text: 'The tender is < 40,000', who: '', dueOn: null } as const;
  const minutes: MinutesText = {
    meeting: 'Full board',
    day: '2026-07-14',
    venue: 'Harbour office',
    startsAt: 1110,
    attendees: [
      member('A', 'present'),
      member('B', 'apologies'),
      member('C', 'absent'),
      { name: 'G', part: 'inAttendance', presence: 'present' },
    ],
    quorum: 1,
    items: [
      { number: '1', title: 'Apologies', depth: 1, outcomes: [] },
      { number: '1.1', title: 'Works & tenders', depth: 2, outcomes: [decided, order] },
      { number: '2', title: null, depth: 1, outcomes: [decided] },
    ],
  };

  it('word a decision and an action in one line each', () => {
    expect(lineOf(order)).toBe('Action: Order the buoys (Petra, by 3 Aug 2026)');
    expect(lineOf(decided)).toBe('Decision: The tender is < 40,000');
    expect(lineMarkup(decided)).toBe('<p><strong>Decision:</strong> The tender is &#60; 40,000</p>');
    expect(headingOf('2', null)).toBe('2 Confidential item');
  });

  it('begin with who was there, and a heading for each item', () => {
    const markup = minutesMarkup(minutes);
    expect(markup.replace(/<[^>]+>/gu, '').split('\n')).toEqual([
      'Minutes',
      'Full board',
      '14 Jul 2026, 18:30, Harbour office',
      'Present: A',
      'In attendance: G',
      'Apologies: B',
      'Absent: C',
      '1 of 3 members was present. The quorum is 1: it was met.',
      '1 Apologies',
      '',
      '1.1 Works &#38; tenders',
      '',
      'Decision: The tender is &#60; 40,000',
      'Action: Order the buoys (Petra, by 3 Aug 2026)',
      '2 Confidential item',
      '',
    ]);
    expect(markup).toContain('<h3>1.1');
  });
});
