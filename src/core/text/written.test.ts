import { writtenIn } from './written';

const keysOf = (text: string) => writtenIn(text).map(({ keys }) => keys[0]);

describe('days and months as they are written', () => {
  it.each([
    '2026-07-10',
    '10/7/26',
    '10.07.2026',
    '10-7-2026',
    '10 July 2026',
    '10th July, 2026',
    'July 10, 2026',
    '10 Jul 2026',
    '10. Juli 2026',
    '10 juillet 2026',
    '10 de julio de 2026',
  ])('%s is one day', (text) => {
    expect(keysOf(text)).toEqual(['#2026-07-10']);
    expect(writtenIn(`On ${text}, at noon.`)[0]?.keys).toEqual(['#2026-07-10', '#2026-07']);
  });

  it.each(['July 2026', 'jul 2026', 'Juli 2026'])('%s is a month', (text) =>
    expect(keysOf(text)).toEqual(['#2026-07']),
  );

  it.each(['31/2/2026', '2026-13-01', 'room 2026', 'Smarch 2026', '1.2.3.2026', 'INV-2026-07-101', '12/2024'])(
    '%s is none',
    (text) => expect(keysOf(text)).toEqual([]),
  );
});

describe('amounts as they are written', () => {
  it.each([
    '£91,700',
    '91,700.00',
    '91.700,00',
    '€ 91.700',
    '91 700,00',
    'GBP 91700',
    '91,700',
    '91’700.00',
    '91700 EUR',
  ])('%s is one amount', (text) => expect(keysOf(`paid ${text} for it`)).toEqual(['=91700.00']));

  it.each(['91700', 'v1.20.3', 'page 3', '10:30'])('%s is none', (text) => expect(keysOf(text)).toEqual([]));

  it('does not get lost in a long text of digits and signs', () => {
    const text = '1,2.3-4 '.repeat(50_000);
    expect(writtenIn(text).length).toBeGreaterThanOrEqual(0);
  });
});
