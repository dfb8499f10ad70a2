import { z } from 'zod';

/**
 * Passwords are judged by length: at least 15 characters if used without a second step (NIST SP 800-63B-4, section
 * 3.1.1.2), without composition rules, and with room for a long sentence. Characters are code points.
 */
export const passwordMinLength = 15;
/** The most characters of a password. */
export const passwordMaxLength = 128;

/** A password by its length; whether it can be guessed is checked on the server. */
export const passwordSchema = z
  .string()
  .transform((raw) => raw.normalize('NFKC'))
  .refine((password) => [...password].length >= passwordMinLength, {
    message: `At least ${passwordMinLength} characters: a few words in a row are good.`,
  })
  .refine((password) => [...password].length <= passwordMaxLength, {
    message: `At most ${passwordMaxLength} characters fit.`,
  });
