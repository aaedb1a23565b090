import { encode, shortString, struct, u16, u32, u8 } from '../../../bytes/struct.js';
import { classes, services } from '../messageRouter.js';
import { attribute, single, type CipClass, type Outcome } from '../objectModel.js';
import { generalStatus } from '../status.js';

/**
 * Instance attributes 1 to 7 of the Identity object, class 1 (CIP Vol. 1, 5-2.2), as Get_Attributes_All answers them.
 */
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

export const identityStruct = struct(identityAttributes);

export interface IdentityFacts {
  vendor: number;
  deviceType: number;
  productCode: number;
  majorRevision: number;
  minorRevision: number;
  status: number;
  serialNumber: number;
  productName: string;
  /** Attribute 8. */
  state: number;
}

/**
 * Status word, Vol. 1, table 5-2.4: bit 0 owned; bit 2 configured; bits 4–7: 2 a connection timed out, 3 none
 * established, 5 major fault, 6 at least one I/O connection in run, 7 all idle; bit 8 minor recoverable, bit 10 major
 * recoverable fault.
 */
export const identityStatus = {
  owned: 0x0001,
  timedOut: 0x0020,
  noConnection: 0x0030,
  connectionRuns: 0x0060,
  connectionIdle: 0x0070,
  minorRecoverable: 0x0100,
  majorRecoverable: 0x0400,
} as const;

/** Device state, attribute 8: operational, or with a recoverable fault. */
export const deviceStates = { standby: 2, operational: 3, recoverableFault: 4 } as const;

/**
 * The Identity object with the Reset service; `reset` is called with its type: 0 power cycle, 1 back to factory
 * settings.
 */
export function identityObject(facts: () => IdentityFacts, reset: (type: number) => void): CipClass {
  return single(classes.identity, {
    attributes: {
      1: attribute(u16, () => facts().vendor),
      2: attribute(u16, () => facts().deviceType),
      3: attribute(u16, () => facts().productCode),
      4: { read: () => Uint8Array.of(facts().majorRevision, facts().minorRevision) },
      5: attribute(u16, () => facts().status),
      6: attribute(u32, () => facts().serialNumber),
      7: attribute(shortString, () => facts().productName),
      8: { ...attribute(u8, () => facts().state), apart: true },
    },
    services: {
      [services.getAttributesAll]: () => ({ data: encode(identityStruct, facts()) }),
      [services.reset]: ({ data }): Outcome => {
        if (data.length > 1) return { status: generalStatus.tooMuchData };
        const type = data[0] ?? 0;
        if (type > 1) return { status: generalStatus.invalidParameter };
        reset(type);
        return {};
      },
    },
  });
}
