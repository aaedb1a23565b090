/** 192.168.40.21 → the number whose bytes in network order are 192, 168, 40, 21. */
export const addressNumber = (dotted: string): number =>
  dotted.split('.').reduce((sum, part) => sum * 256 + Number(part), 0);

/** The other way round. */
export const dottedAddress = (address: number): string =>
  [24, 16, 8, 0].map((shift) => (address >>> shift) & 0xff).join('.');

/** An address as many places further on; wraps around at the end of all addresses. */
export const addressPlus = (dotted: string, by: number): string =>
  dottedAddress((addressNumber(dotted) + by) >>> 0);
