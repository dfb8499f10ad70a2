import { hash, verify } from '@node-rs/argon2';

/** argon2id with 19 MiB, 2 passes, 1 lane: the first choice of the OWASP password storage cheat sheet. */
const argon = { algorithm: 2 /* Argon2id */, memoryCost: 19_456, timeCost: 2, parallelism: 1 };

/** The hash under which a password is kept: compatibility-composed first, so that it is the same however it was typed. */
export const hashPassword = (password: string): Promise<string> => hash(password.normalize('NFKC'), argon);

/** Whether a password is the one behind a stored hash. */
export const isPassword = ({ hash: stored, password }: { hash: string; password: string }): Promise<boolean> =>
  verify(stored, password.normalize('NFKC'));
