import { BlockList, isIP } from 'node:net';

/** An address as it is compared: IPv4 written as IPv6 is IPv4. */
export const plain = (address: string): string => address.replace(/^::ffff:(?=\d+\.\d+\.\d+\.\d+$)/i, '');

/** The networks of a setting: addresses and networks (`10.0.0.0/8`), with commas between. Throws at one that is neither. */
export function networkList(setting: string): BlockList {
  const list = new BlockList();
  for (const text of setting.split(',').map((t) => t.trim())) {
    if (text === '') continue;
    const [address = '', bits, more] = text.split('/');
    const family = isIP(address);
    const most = family === 4 ? 32 : 128;
    if (
      family === 0 ||
      more !== undefined ||
      (bits !== undefined && !(/^\d{1,3}$/.test(bits) && +bits <= most))
    )
      throw new Error(`“${text.slice(0, 60)}” is no address and no network like 10.0.0.0/8`);
    list.addSubnet(address, bits === undefined ? most : Number(bits), family === 4 ? 'ipv4' : 'ipv6');
  }
  return list;
}

/** Whether an address lies in one of some networks. */
export function isWithin(networks: BlockList, address: string): boolean {
  const family = isIP(address);
  return family !== 0 && networks.check(address, family === 4 ? 'ipv4' : 'ipv6');
}
