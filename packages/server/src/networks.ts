import { BlockList, isIP } from 'node:net';

const familyOf = (address: string): 'ipv4' | 'ipv6' => (isIP(address) === 6 ? 'ipv6' : 'ipv4');

/** Whether a text is an address, or a network in CIDR notation (RFC 4632). */
export function isNetwork(text: string): boolean {
  const [address = '', bits, ...more] = text.split('/');
  const family = isIP(address);
  if (family === 0 || more.length > 0) return false;
  if (bits === undefined) return true;
  return /^\d{1,3}$/.test(bits) && Number(bits) <= (family === 6 ? 128 : 32);
}

/** Whether an address of an instrument lies on this machine or in one of the networks. Names are never looked up. */
export function addressAllowed(host: string, networks: readonly string[]): boolean {
  if (host === 'localhost') return true;
  if (isIP(host) === 0) return false;
  const list = new BlockList();
  list.addSubnet('127.0.0.0', 8, 'ipv4');
  list.addAddress('::1', 'ipv6');
  for (const network of networks) {
    const [address = '', bits] = network.split('/');
    if (bits === undefined) list.addAddress(address, familyOf(address));
    else list.addSubnet(address, Number(bits), familyOf(address));
  }
  return list.check(host, familyOf(host));
}
