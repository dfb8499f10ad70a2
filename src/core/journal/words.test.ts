import { entryInWords } from './words';

it('writes days for people, and leaves a name that looks like a day as it is', () => {
  const moved = { before: '2026-02-28', day: '2026-03-03', name: '2026-01-01', title: 'Ordinary meeting' };
  expect(entryInWords('meeting.changed', moved)).toBe(
    'changed the meeting of 28 Feb 2026 of “2026-01-01”: Ordinary meeting, 3 Mar 2026',
  );
});

it('says what is not told to the reader, what is empty, and what it does not know', () => {
  expect(entryInWords('dossier.referenceSet', { from: null, to: 'C-7' })).toBe(
    'changed the reference of “a place not open to you” from none to C-7',
  );
  expect(entryInWords('something.else', {})).toBe('did something this version does not know');
});
