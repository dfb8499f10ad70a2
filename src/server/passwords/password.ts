import { hash, verify } from '@node-rs/argon2';

/** argon2id with 19 MiB, 2 passes, 1 lane: the first choice of the OWASP password storage cheat sheet. */
const argon = { algorithm: 2 /* Argon2id */, memoryCost: 19_456, timeCost: 2, parallelism: 1 };

/** Hashes a password, normalised (NFKC) so that it does not depend on how it was typed. */
export const hashPassword = (password: string): Promise<string> => hash(password.normalize('NFKC'), argon);

/** Whether a password matches a stored hash. */
export const isPassword = ({ hash: stored, password }: { hash: string; password: string }): Promise<boolean> =>
  verify(stored, password.normalize('NFKC'));
