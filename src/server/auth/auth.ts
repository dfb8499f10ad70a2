import { betterAuth } from 'better-auth';
import { drizzleAdapter } from 'better-auth/adapters/drizzle';
import { APIError } from 'better-auth/api';
import { twoFactor } from 'better-auth/plugins/two-factor';
import { eq } from 'drizzle-orm';
import { passwordMaxLength, passwordMinLength } from '@/core/people/password';
import { now } from '../base/clock';
import { config } from '../base/config';
import { writableOutside, db } from '../db/client';
import { addressHeader } from '../http/address';
import { account, person, rateLimit, session, twoFactor as secondStep, verification } from '../db/schema';
import { sendMail } from '../mail/outbox';
import { callerOf, noteAtDoor } from './door';
import { hashPassword, isPassword } from '../passwords/password';
import { takeCode } from './usedCodes';

/** A session that is not used for so long has ended. */
const sessionSeconds = 60 * 60 * 24 * 14;
/** One that is used is renewed once a day. */
const renewedAfterSeconds = 60 * 60 * 24;

function makeAuth() {
  const { EMBRIN_URL, EMBRIN_SECRET } = config();
  return betterAuth({
    baseURL: EMBRIN_URL,
    secret: EMBRIN_SECRET,
    telemetry: { enabled: false },
    // The library's warnings contain e-mail addresses; what matters is in the sign-in journal.
    logger: { level: 'error' },
    database: drizzleAdapter(writableOutside(), {
      provider: 'pg',
      schema: { user: person, session, account, verification, rateLimit, twoFactor: secondStep },
    }),
    emailAndPassword: {
      enabled: true,
      disableSignUp: true,
      minPasswordLength: passwordMinLength,
      maxPasswordLength: passwordMaxLength,
      password: { hash: hashPassword, verify: isPassword },
      resetPasswordTokenExpiresIn: renewalSeconds,
      revokeSessionsOnPasswordReset: true,
      sendResetPassword: sendRenewal,
      onPasswordReset: ({ user }, request) =>
        noteAtDoor('passwordRenewed', user.id, callerOf(request?.headers ?? new Headers())),
    },
    appName: 'Embrin',
    // Codes change every thirty seconds; after ten wrong ones in a row the second step is blocked for fifteen minutes.
    plugins: [twoFactor()],
    session: { expiresIn: sessionSeconds, updateAge: renewedAfterSeconds },
    // Ten sign-in attempts a minute from one address; our own screens stay far below the other limit.
    rateLimit: {
      enabled: true,
      storage: 'database',
      window: 60,
      max: 120,
      customRules: {
        '/sign-in/email': { window: 60, max: 10 },
        '/change-password': { window: 60, max: 10 },
        '/request-password-reset': { window: 600, max: 5 },
      },
    },
    advanced: {
      cookiePrefix: 'embrin',
      database: { generateId: () => crypto.randomUUID() },
      ipAddress: { ipAddressHeaders: [addressHeader] },
    },
    databaseHooks: {
      session: {
        create: {
          // An account that is switched off cannot sign in.
          before: async (made, context) => {
            const [who] = await db().select({ active: person.active }).from(person).where(eq(person.id, made.userId));
            if (!who?.active) throw new APIError('UNAUTHORIZED', { message: 'Invalid email or password' });
            if (context?.path === '/two-factor/verify-totp') await takeCode(made.userId, codeIn(context.body));
          },
        },
      },
    },
  });
}

const renewalSeconds = 3600;

/** Sends the link to the account's own address only. The person who asked is not told whether the account exists. */
async function sendRenewal({ user, token }: { user: { name: string; email: string }; token: string }): Promise<void> {
  await sendMail({
    to: { name: user.name, address: user.email },
    subject: 'A new password for the library',
    text: `Someone, most likely you, asked for a new password for the library. The way to it, for one use within the hour:\n${config().EMBRIN_URL}/new-password/${token}\n\nIf it was not you, nothing needs to be done: the password stays as it is.\n`,
  });
}

const codeIn = (body: unknown): string =>
  body !== null && typeof body === 'object' && 'code' in body && typeof body.code === 'string' ? body.code : '';

type Auth = ReturnType<typeof makeAuth>;
const held = globalThis as typeof globalThis & { embrinAuth?: Auth };

/** The sign-in library, set up once per process. */
export function auth(): Auth {
  held.embrinAuth ??= makeAuth();
  return held.embrinAuth;
}

/** Whether a session that ends then was last renewed longer than a day ago. */
export const isToBeRenewed = (expiresAt: Date): boolean =>
  expiresAt.getTime() - (sessionSeconds - renewedAfterSeconds) * 1000 <= now().getTime();

/** Has the sign-in library renew the session of a request: it does so when the session is asked for. */
export async function renewSession(headers: Headers): Promise<void> {
  await auth()
    .api.getSession({ headers })
    .catch((error: unknown) => {
      // The library turns database errors into a 500: the session is renewed by a later request.
      if (!(error instanceof APIError && error.statusCode === 500)) throw error;
    });
}
