import { BlockList, isIP } from 'node:net';

/** The header in which the web process passes on the client's address. It replaces whatever the client sent under this name. */
export const addressHeader = 'x-embrin-address';

/** Reads `EMBRIN_TRUSTED_PROXIES`: addresses and networks (`10.0.0.0/8`), separated by commas. */
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

/** An IPv4 address in its usual form, even if the system reports it as IPv6 (`::ffff:127.0.0.1`). */
const plain = (address: string): string => address.replace(/^::ffff:(?=\d+\.)/u, '').trim();

/**
 * The client's address: the connection's; or, if that is a trusted proxy, the last address in `X-Forwarded-For` that is
 * not one. Entries further left can be forged.
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
