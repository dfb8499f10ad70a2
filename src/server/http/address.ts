import { BlockList, isIP } from 'node:net';

/** The header by which the web process tells itself from where a request came. What a client sends under it is thrown away. */
export const addressHeader = 'x-embrin-address';

/** The proxies that are believed, as `EMBRIN_TRUSTED_PROXIES` lists them: addresses and networks (`10.0.0.0/8`), commas between. */
export function trustedProxies(setting: string): BlockList {
  const list = new BlockList();
  for (const each of setting.split(',').map((part) => part.trim())) {
    if (each === '') continue;
    const [address = '', bits] = each.split('/');
    const family = isIP(address) === 6 ? 'ipv6' : 'ipv4';
    if (isIP(address) === 0) throw new Error(`EMBRIN_TRUSTED_PROXIES names no address: ${each}`);
    if (bits === undefined) list.addAddress(address, family);
    else list.addSubnet(address, Number(bits), family);
  }
  return list;
}

/** An IPv4 address in its own form, also where the system gives it inside of IPv6 (`::ffff:127.0.0.1`). */
const plain = (address: string): string => address.replace(/^::ffff:(?=\d+\.)/u, '').trim();

/**
 * From where a request came: the connection's own address; or, where that is a proxy which is believed, the last address in
 * `X-Forwarded-For` that is none. What stands further left anyone could have written.
 */
export function clientAddress(connection: string, forwardedFor: string, trusted: BlockList): string {
  const way = [
    ...forwardedFor
      .split(',')
      .map(plain)
      .filter((each) => each !== ''),
    plain(connection),
  ];
  for (let at = way.length - 1; at >= 0; at -= 1) {
    const address = way[at] ?? '';
    const family = isIP(address);
    if (family === 0) return plain(connection);
    if (!trusted.check(address, family === 6 ? 'ipv6' : 'ipv4')) return address;
  }
  return way[0] ?? '';
}
