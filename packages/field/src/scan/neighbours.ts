import { readFile } from 'node:fs/promises';

/**
 * MAC addresses that this computer has seen, by IPv4 address: Linux keeps them in a table; elsewhere there are none.
 */
export async function neighbours(): Promise<Map<string, string>> {
  const table = await readFile('/proc/net/arp', 'utf8').catch(() => '');
  const rows = table.split('\n').slice(1);
  return new Map(
    rows.flatMap((row) => {
      const [address, , flags, mac] = row.split(/\s+/);
      // 0x2: complete.
      const known = address && mac && Number(flags) & 2 && !/^(00:)+00$/.test(mac);
      return known ? [[address, mac.toUpperCase().replaceAll(':', '-')]] : [];
    }),
  );
}
