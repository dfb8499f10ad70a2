import { createHmac } from 'node:crypto';
import { sessionToken } from './sessionToken';

const secret = 'a secret that is long enough for a test';
jest.mock('./auth', () => ({
  auth: () => ({
    $context: Promise.resolve({ secret, authCookies: { sessionToken: { name: 'embrin.session_token' } } }),
  }),
}));

const signed = (token: string, by = secret) => `${token}.${createHmac('sha256', by).update(token).digest('base64')}`;
const of = (value: string) =>
  sessionToken(new Headers({ cookie: `other=1; embrin.session_token=${encodeURIComponent(value)}` }));

it('is the token of a cookie that we have signed, and of no other', async () => {
  expect(await of(signed('token'))).toBe('token');
  expect(await of(signed('to.ken'))).toBe('to.ken');
  expect(await of(signed('token', 'another secret'))).toBeNull();
  const [, signature] = signed('token').split('.');
  for (const value of [
    '',
    'token',
    '.',
    'token.',
    `.${signature}`,
    `other.${signature}`,
    `${signed('token')}x=`,
    'token.AAAA',
  ])
    expect(await of(value)).toBeNull();
  expect(await sessionToken(new Headers())).toBeNull();
  expect(await sessionToken(new Headers({ cookie: 'embrin.session_token' }))).toBeNull();
});
