/** Which targets lie in this network or on this machine: they are asked only when somebody has allowed them. */
import { BlockList, isIP } from 'node:net';

/** Ranges that are not of the public internet (IANA special-purpose registries, RFC 6890 and later). */
const PRIVATE = new BlockList();
for (const [network, prefix] of [
  ['0.0.0.0', 8],
  ['10.0.0.0', 8],
  ['100.64.0.0', 10],
  ['127.0.0.0', 8],
  ['169.254.0.0', 16],
  ['172.16.0.0', 12],
  ['192.0.0.0', 24],
  ['192.0.2.0', 24],
  ['192.168.0.0', 16],
  ['198.18.0.0', 15],
  ['198.51.100.0', 24],
  ['203.0.113.0', 24],
  ['224.0.0.0', 4],
  ['240.0.0.0', 4],
] as const)
  PRIVATE.addSubnet(network, prefix, 'ipv4');
for (const [network, prefix] of [
  ['::', 128],
  ['::1', 128],
  ['64:ff9b::', 96],
  ['100::', 64],
  ['2001:db8::', 32],
  ['2002::', 16],
  ['fc00::', 7],
  ['fe80::', 10],
  ['ff00::', 8],
] as const)
  PRIVATE.addSubnet(network, prefix, 'ipv6');

/** The IPv4 address inside of a mapped IPv6 one, `::ffff:127.0.0.1` or `::ffff:7f00:1`. */
function mapped(address: string): string | null {
  const dotted = /^::ffff:(\d+\.\d+\.\d+\.\d+)$/iu.exec(address)?.[1];
  if (dotted !== undefined) return dotted;
  const hex = /^::ffff:([0-9a-f]{1,4}):([0-9a-f]{1,4})$/iu.exec(address);
  if (!hex) return null;
  const [high, low] = [parseInt(hex[1] ?? '', 16), parseInt(hex[2] ?? '', 16)];
  return [high >> 8, high & 255, low >> 8, low & 255].join('.');
}

/** True for an IP address of this machine, this network, or of no network at all. */
export function isPrivateAddress(address: string): boolean {
  const plain = mapped(address) ?? address;
  const family = isIP(plain);
  return family === 0 || PRIVATE.check(plain, family === 6 ? 'ipv6' : 'ipv4');
}
