import { deviceStates, identityStatus, type IdentityFacts } from '@fadenkreuz/core/ethernet-ip';
import type { Connections } from './connections.js';
import type { TargetDevice } from './targetDevice.js';

/** What the network knows of a target, beside its connections. */
export interface TargetStanding {
  connections: Pick<Connections, 'open' | 'owner'>;
  /** A cyclic connection has timed out since the last one was opened. */
  timedOut: () => boolean;
  /** Another controller owns the outputs. */
  foreignOwner: () => boolean;
}

const faultBits = { none: 0, minor: identityStatus.minorRecoverable, major: identityStatus.majorRecoverable };

/**
 * What the Identity object of a target says (CIP Vol. 1, 5-2). Each attribute is worked out when it is asked for:
 * requests for one of them are the most frequent that there are (bench/requests).
 */
export const targetIdentity = (
  device: Pick<TargetDevice, 'identity' | 'serialNumber' | 'fault'>,
  { connections, timedOut, foreignOwner }: TargetStanding,
): IdentityFacts => ({
  serialNumber: device.serialNumber,
  get vendor() {
    return device.identity().vendor;
  },
  get deviceType() {
    return device.identity().deviceType;
  },
  get productCode() {
    return device.identity().productCode;
  },
  get majorRevision() {
    return device.identity().majorRevision;
  },
  get minorRevision() {
    return device.identity().minorRevision;
  },
  get productName() {
    return device.identity().productName;
  },
  get status() {
    const { open, owner } = connections;
    const standing = [...open].some((c) => c.kind !== 'explicit');
    const link = !standing
      ? timedOut()
        ? identityStatus.timedOut
        : identityStatus.noConnection
      : owner && !owner.run
        ? identityStatus.connectionIdle
        : identityStatus.connectionRuns;
    return (owner || foreignOwner() ? identityStatus.owned : 0) | link | faultBits[device.fault()];
  },
  get state() {
    return device.fault() === 'none' ? deviceStates.operational : deviceStates.recoverableFault;
  },
});
