import { clientAddress, trustedProxies } from './address';

const nobody = trustedProxies('');
const proxies = trustedProxies('127.0.0.1, 10.0.0.0/8, ::1, fd00::/8');

it.each([
  ['believes nobody by default', '192.0.2.7', '203.0.113.9', nobody, '192.0.2.7'],
  ['takes an address that stands inside of IPv6 for what it is', '::ffff:192.0.2.7', '', nobody, '192.0.2.7'],
  ['takes what a believed proxy says', '127.0.0.1', '203.0.113.9', proxies, '203.0.113.9'],
  [
    'takes the last address that is no proxy, not the first',
    '::1',
    '198.51.100.1, 203.0.113.9, 10.1.2.3',
    proxies,
    '203.0.113.9',
  ],
  ['believes no stranger who claims to be a proxy', '203.0.113.9', '127.0.0.1', proxies, '203.0.113.9'],
  ['takes the connection where what is said is no address', '127.0.0.1', 'unknown', proxies, '127.0.0.1'],
  ['takes the furthest where all are proxies', '127.0.0.1', '10.0.0.9', proxies, '10.0.0.9'],
  ['knows networks of IPv6', 'fd12::5', '2001:db8::1', proxies, '2001:db8::1'],
] as const)('%s', (_what, connection, forwarded, trusted, address) => {
  expect(clientAddress(connection, forwarded, trusted)).toBe(address);
});

it('stops at a setting that names no address, with its words', () => {
  expect(() => trustedProxies('proxy.example')).toThrow('proxy.example');
});
