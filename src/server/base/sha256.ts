import { createHash } from 'node:crypto';

/** The SHA-256 of a text (FIPS 180-4), in lower-case hexadecimal. Tokens and links are stored only as this. */
export const sha256Hex = (text: string | Uint8Array): string => createHash('sha256').update(text).digest('hex');
