import { mentionsOf } from './mentions';

describe('the days that a text names', () => {
  it.each([
    ['The meeting is on 14 July 2026 at noon.', ['2026-07-14']],
    ['Invoice date: 03/04/2025. Due 2 May 2025.', ['2025-04-03', '2025-05-02']],
    ['From 2026-01-31 to 2026-02-28', ['2026-01-31', '2026-02-28']],
    ['On 14 July 2026, and again on 14 July 2026', ['2026-07-14']],
  ])('%s', (text, dates) => expect(mentionsOf(text).dates).toEqual(dates));

  it.each([
    'Next Monday, at the latest in May.',
    'Room 12, section 3.1.4, berth 7',
    'Call 01632 960 001',
    'On 31 February 2026',
    '',
  ])('are none where no whole day is named: %s', (text) => expect(mentionsOf(text).dates).toEqual([]));
});

describe('the references that a text names', () => {
  it.each([
    ['Our ref. W-23-04, your order PO/1182.', ['W-23-04', 'PO/1182']],
    ['Invoice INV-2023-00471 (see INV-2023-00471)', ['INV-2023-00471']],
    ['Contract SHT/HR/2024/017', ['SHT/HR/2024/017']],
  ])('%s', (text, references) => expect(mentionsOf(text).references).toEqual(references));

  it.each(['A-4 paper and B-12', 'a well-known 24-hour service', 'e-mail', 'COVID-19'])('are none in: %s', (text) =>
    expect(mentionsOf(text).references).toEqual([]),
  );
});
