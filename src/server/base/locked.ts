import { createCipheriv, createDecipheriv, hkdfSync, randomBytes } from 'node:crypto';
import { config } from './config';

/** For what a secret is locked away: each has a key of its own. */
type Purpose = 'seal key' | 'mailbox password';

const keyFor = (purpose: Purpose) => Buffer.from(hkdfSync('sha256', config().EMBRIN_SECRET, '', purpose, 32));

/** A secret, encrypted with that of the library: AES-256-GCM, with its nonce and tag before it, in Base64. */
export function locked(secret: Buffer, purpose: Purpose): string {
  const nonce = randomBytes(12);
  const cipher = createCipheriv('aes-256-gcm', keyFor(purpose), nonce);
  const text = Buffer.concat([cipher.update(secret), cipher.final()]);
  return Buffer.concat([nonce, cipher.getAuthTag(), text]).toString('base64');
}

/** The secret again; null where the library’s own is another by now. */
export function unlocked(text: string, purpose: Purpose): Buffer | null {
  const bytes = Buffer.from(text, 'base64');
  const decipher = createDecipheriv('aes-256-gcm', keyFor(purpose), bytes.subarray(0, 12));
  decipher.setAuthTag(bytes.subarray(12, 28));
  try {
    return Buffer.concat([decipher.update(bytes.subarray(28)), decipher.final()]);
  } catch {
    return null;
  }
}
