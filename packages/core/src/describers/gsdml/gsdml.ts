import type { DescribedBase } from '../shared/described.js';
import type { DescribedLabel } from '../shared/fieldTexts.js';

/**
 * What a PROFINET device description says (GSDML 2.x, IEC 61784 / PROFINET guidelines; from memory). Sizes in bytes,
 * times in µs.
 */
export interface Gsdml extends DescribedBase {
  source: 'gsdml';
  schemaVersion: string;
  device: {
    vendorId: number;
    deviceId: number;
    vendorName: string;
    text: string;
    mainFamily: string;
    productFamily: string;
  };
  accessPoints: GsdmlAccessPoint[];
  modules: GsdmlModule[];
  /** Submodules that modules and access points refer to. */
  submodules: GsdmlSubmodule[];
  languages: string[];
}

export interface ModuleFacts {
  id: string;
  identNumber: number;
  name: string;
  text: string;
  orderNumber: string;
  hardwareRelease: string;
  softwareRelease: string;
}

/** A module, and where it may be plugged. */
export interface SlotRule {
  target: string;
  allowed: number[];
  /** Where it is always, and where it is at first. */
  fixed: number[];
  used: number[];
}

export interface GsdmlAccessPoint extends ModuleFacts {
  /** Slots that the device has. */
  slots: number[];
  /** The slot of the access point itself. */
  fixedIn: number[];
  dnsName: string;
  minInterval: number | null;
  /** Bytes of process data at most, each way. */
  maxInput: number | null;
  maxOutput: number | null;
  /** Update times that it offers, in units of 31.25 µs × send clock × reduction ratio. */
  timing: { sendClock: number[]; reductionRatio: number[] };
  modules: SlotRule[];
  submodules: GsdmlSubmodule[];
  submoduleRules: SlotRule[];
}

export interface GsdmlModule extends ModuleFacts {
  submodules: GsdmlSubmodule[];
  submoduleRules: SlotRule[];
}

export interface GsdmlSubmodule {
  id: string;
  identNumber: number;
  name: string;
  text: string;
  /** Subslots where it sits by itself; empty: 1. */
  fixedIn: number[];
  input: GsdmlData | null;
  output: GsdmlData | null;
  records: GsdmlRecord[];
  /** Whether it says that it carries PROFIsafe; it is shown, and never evaluated as safety. */
  profisafe: boolean;
  /** The F-parameters as they are written, under their names; empty: none. */
  fParameters: { name: string; text: string }[];
  /** What its channels can report. */
  channelDiagnosis: { errorType: number; name: string; help: string }[];
}

export interface GsdmlData {
  consistency: string;
  bytes: number;
  items: GsdmlItem[];
}

export interface GsdmlItem {
  name: string;
  dataType: string;
  bytes: number;
  asBits: boolean;
  bits: { offset: number; name: string }[];
}

export interface GsdmlRecord {
  index: number;
  bytes: number;
  name: string;
  /** In which turn it is written at start-up; 0: in no particular one. */
  sequence: number;
  /** What its bytes are where no parameter is: hex pairs from this byte on. */
  constants: { byteOffset: number; data: string }[];
  parameters: GsdmlParameter[];
}

export interface GsdmlParameter {
  name: string;
  dataType: string;
  byteOffset: number;
  bitOffset: number;
  bitLength: number;
  initial: string;
  allowed: string;
  /** Whether a person may change it, and sees it. */
  changeable: boolean;
  visible: boolean;
  help: string;
  /** Bytes of a text or of raw bytes; null for types that have a length of their own. */
  length: number | null;
  labels: DescribedLabel[];
}
