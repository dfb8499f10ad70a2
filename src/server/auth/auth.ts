import { betterAuth } from 'better-auth';
import { drizzleAdapter } from 'better-auth/adapters/drizzle';
import { APIError } from 'better-auth/api';
import { eq } from 'drizzle-orm';
import { passwordMaxLength, passwordMinLength } from '@/core/people/password';
import { config } from '../config';
import { db } from '../db/client';
import { account, person, rateLimit, session, verification } from '../db/schema';
import { hashPassword, isPassword } from './password';

function makeAuth() {
  const { EMBRIN_URL, EMBRIN_SECRET } = config();
  return betterAuth({
    baseURL: EMBRIN_URL,
    secret: EMBRIN_SECRET,
    telemetry: { enabled: false },
    database: drizzleAdapter(db(), {
      provider: 'pg',
      schema: { user: person, session, account, verification, rateLimit },
    }),
    emailAndPassword: {
      enabled: true,
      disableSignUp: true,
      minPasswordLength: passwordMinLength,
      maxPasswordLength: passwordMaxLength,
      password: { hash: hashPassword, verify: isPassword },
    },
    session: { expiresIn: 60 * 60 * 24 * 14, updateAge: 60 * 60 * 24 },
    // Ten tries a minute at signing in, from one address; the library's own screens stay far below the other.
    rateLimit: {
      enabled: true,
      storage: 'database',
      window: 60,
      max: 120,
      customRules: { '/sign-in/email': { window: 60, max: 10 }, '/change-password': { window: 60, max: 10 } },
    },
    advanced: {
      cookiePrefix: 'embrin',
      database: { generateId: () => crypto.randomUUID() },
      ipAddress: { ipAddressHeaders: ['x-forwarded-for'] },
    },
    databaseHooks: {
      session: {
        create: {
          // An account that is switched off cannot sign in, whatever its password.
          before: async (made) => {
            const [who] = await db().select({ active: person.active }).from(person).where(eq(person.id, made.userId));
            if (!who?.active) throw new APIError('UNAUTHORIZED', { message: 'Invalid email or password' });
          },
        },
      },
    },
  });
}

type Auth = ReturnType<typeof makeAuth>;
const held = globalThis as typeof globalThis & { embrinAuth?: Auth };

/** The sign-in library, set up once a process. */
export function auth(): Auth {
  held.embrinAuth ??= makeAuth();
  return held.embrinAuth;
}
