import { z } from 'zod';

/**
 * Passwords by length alone, at least 15 characters where they stand by themselves (NIST SP 800-63B-4,
 * section 3.1.1.2), no rules of composition, and room for a long sentence. Characters are code points.
 */
export const passwordMinLength = 15;
export const passwordMaxLength = 128;

export const passwordSchema = z
  .string()
  .transform((raw) => raw.normalize('NFKC'))
  .refine((password) => [...password].length >= passwordMinLength, {
    message: `At least ${passwordMinLength} characters: a few words in a row do well.`,
  })
  .refine((password) => [...password].length <= passwordMaxLength, {
    message: `At most ${passwordMaxLength} characters fit.`,
  });
