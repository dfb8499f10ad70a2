import { emailSchema } from './contract';
import { passwordMaxLength, passwordMinLength, passwordSchema } from './password';

describe('passwords', () => {
  it('go by length alone, counted in characters (NIST SP 800-63B-4, section 3.1.1.2)', () => {
    expect(passwordSchema.safeParse('a'.repeat(passwordMinLength)).success).toBe(true);
    expect(passwordSchema.safeParse('🦀'.repeat(passwordMinLength)).success).toBe(true);
    expect(passwordSchema.safeParse('a'.repeat(passwordMinLength - 1)).success).toBe(false);
    expect(passwordSchema.safeParse('a'.repeat(passwordMaxLength + 1)).success).toBe(false);
  });

  it('are the same however their accents were typed', () => {
    expect(passwordSchema.parse('cafe\u0301 by the harbour')).toBe(passwordSchema.parse('café by the harbour'));
  });
});

describe('addresses', () => {
  it('are trimmed and lower-cased, and refused where they are none', () => {
    expect(emailSchema.parse('  Maren@Saltmarrow.Example ')).toBe('maren@saltmarrow.example');
    for (const raw of ['', 'maren', 'maren@', '@x.example', 'a b@x.example'])
      expect(emailSchema.safeParse(raw).success).toBe(false);
  });
});
