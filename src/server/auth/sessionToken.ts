import { createHmac, timingSafeEqual } from 'node:crypto';
import { parseCookies } from 'better-auth/cookies';
import { auth } from './auth';

/**
 * The session's token in a request's cookie; null if there is none, or its signature is not ours. The sign-in library
 * signs it: the value, a dot, and its HMAC-SHA256 in base64.
 */
export async function sessionToken(headers: Headers): Promise<string | null> {
  const cookies = headers.get('cookie');
  if (cookies === null) return null;
  const { authCookies, secret } = await auth().$context;
  const signed = parseCookies(cookies).get(authCookies.sessionToken.name);
  const dot = signed?.lastIndexOf('.') ?? -1;
  if (signed === undefined || dot < 1) return null;
  const token = signed.slice(0, dot);
  const given = Buffer.from(signed.slice(dot + 1));
  const right = Buffer.from(createHmac('sha256', secret).update(token).digest('base64'));
  return given.length === right.length && timingSafeEqual(given, right) ? token : null;
}
