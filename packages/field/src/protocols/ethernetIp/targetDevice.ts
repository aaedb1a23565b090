import type { Identity } from '@fadenkreuz/core';
import type {
  CipClass,
  ConnectionPoint,
  RealTimeFormat,
  TcpIpChange,
  TcpIpFacts,
} from '@fadenkreuz/core/ethernet-ip';

/** One assembly of a target with the bytes that it shows or takes. */
export interface TargetAssembly extends ConnectionPoint {
  bytes: Uint8Array;
}

/** What stands behind a target; asked anew each time, so that it may change while the target runs. */
export interface TargetDevice {
  identity: () => Identity;
  serialNumber: number;
  mac: Uint8Array;
  /** Its address settings, which outlast this target: a device that moves to another address is another target. */
  network: () => Omit<TcpIpFacts, 'conflict'>;
  setNetwork: (part: TcpIpChange) => void;
  assemblies: () => readonly TargetAssembly[];
  /** Classes of its own: parameters, drive objects. */
  classes: readonly CipClass[];
  commandFormat: RealTimeFormat;
  feedbackFormat: RealTimeFormat;
  /** A device that offers explicit messages only has no cyclic connections. */
  cyclic: boolean;
  fault: () => 'none' | 'minor' | 'major';
  configure: (data: Uint8Array) => void;
  reset: (type: number) => void;
}
