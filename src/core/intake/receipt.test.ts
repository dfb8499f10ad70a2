import { isAutomatic } from './automatic';
import { mayAnswer } from './receipt';

const plain = { automatic: false, envelopeFrom: 'bills@gull.example', senderAddress: 'bills@gull.example' };

describe('a mail that may be answered by itself', () => {
  it('is one that a person sent, from an address that is theirs', () => {
    expect(mayAnswer(plain)).toBe(true);
    expect(mayAnswer({ ...plain, envelopeFrom: 'bounce+7@gull.example' })).toBe(false);
    expect(mayAnswer({ ...plain, envelopeFrom: 'office@gull.example' })).toBe(true);
  });

  it.each([
    ['a report of delivery', { envelopeFrom: '' }],
    ['one whose way back is not known', { envelopeFrom: null }],
    ['one that another sent', { envelopeFrom: 'somebody@elsewhere.example' }],
    ['one of a list', { envelopeFrom: 'owner-anglers@gull.example' }],
    ['one that nobody reads', { senderAddress: 'no-reply@gull.example' }],
    ['one that a program sent', { automatic: true }],
  ])('is not %s', (_what, more) => {
    expect(mayAnswer({ ...plain, ...more })).toBe(false);
  });

  it('is never a receipt of ours, nor an answer of theirs to it', () => {
    // RFC 3834, 5: auto-generated, auto-replied, and parameters after them.
    for (const value of [
      'auto-replied',
      'auto-generated',
      'auto-replied (vacation)',
      'auto-notified; owner-email="a@b.example"',
    ])
      expect(
        mayAnswer({ ...plain, automatic: isAutomatic([{ key: 'auto-submitted', value }], plain.envelopeFrom) }),
      ).toBe(false);
    expect(isAutomatic([{ key: 'auto-submitted', value: 'no' }], plain.envelopeFrom)).toBe(false);
  });
});
