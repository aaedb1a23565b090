import { shortString, struct, u16, u32, u8 } from '../bytes/struct.js';

/** Instance attributes 1 to 7 of the Identity object, class 1 (CIP Vol. 1, 5-2.2), as Get_Attributes_All answers them. */
export const identityAttributes = {
  vendor: u16,
  deviceType: u16,
  productCode: u16,
  majorRevision: u8,
  minorRevision: u8,
  status: u16,
  serialNumber: u32,
  productName: shortString,
};

export const identityObject = struct(identityAttributes);

/** Status word, Vol. 1, table 5-2.4: bit 0 owned; bits 4–7: 6 at least one I/O connection in run, 3 none established. */
export const identityStatus = { owned: 0x0001, connectionRuns: 0x0060, noConnection: 0x0030 } as const;

/** Device state: operational. */
export const operational = 3;
