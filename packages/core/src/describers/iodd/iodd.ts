import type { DescribedBase } from '../shared/described.js';
import type { RawLimits } from '../shared/engineering.js';
import type { Exact } from '../shared/exact.js';
import type { DescribedLabel } from '../shared/fieldTexts.js';

/**
 * What an IO-Link device description says (IODD 1.1, IO-Link interface and system specification; from memory). Sizes in
 * bits, times in µs.
 */
export interface Iodd extends DescribedBase {
  source: 'iodd';
  document: { version: string; releaseDate: string };
  device: {
    vendorId: number;
    deviceId: number;
    vendorName: string;
    vendorUrl: string;
    name: string;
    family: string;
    /** Order numbers, and what each is called. */
    variants: { productId: string; name: string; text: string }[];
  };
  communication: {
    ioLinkRevision: string;
    /** COM1, COM2 or COM3. */
    bitrate: string;
    minCycleTime: number | null;
    /** Whether the pin can also be a plain switching output. */
    sioSupported: boolean;
  };
  /** Of which one holds at a time, by the value of a variable. */
  processData: IoddProcessData[];
  variables: IoddVariable[];
  events: IoddEvent[];
  errors: { code: number; additionalCode: number; name: string }[];
  menus: IoddMenu[];
  /** The languages that the file has texts in, the primary one first. */
  languages: string[];
}

export interface IoddProcessData {
  id: string;
  /** Null: it holds always. */
  condition: { variable: string; subindex: number; value: Exact } | null;
  input: IoddData | null;
  output: IoddData | null;
}

export interface IoddData {
  id: string;
  name: string;
  bits: number;
  type: IoddType;
  /** How it is shown where it is no record. */
  shown: IoddShown | null;
}

export interface IoddType {
  kind: 'boolean' | 'uint' | 'int' | 'float' | 'string' | 'octets' | 'time' | 'record' | 'array' | 'unknown';
  bits: number;
  /** Each end null where the file does not say it. */
  ranges: RawLimits[];
  /** Single values and what they mean. */
  labels: DescribedLabel[];
  /** Of a record, and of an array each element. */
  items: IoddItem[];
}

export interface IoddItem {
  subindex: number;
  /** From the lowest bit of the last byte, as IO-Link counts. */
  bitOffset: number;
  name: string;
  help: string;
  type: IoddType;
  /** What it is at first, as written; empty where it is not said. */
  initial: string;
  /** How the user interface shows it: value = raw × gradient + offset. */
  shown: IoddShown | null;
}

export interface IoddShown {
  gradient: string;
  offset: string;
  unit: string;
  /** Dec.1, Hex, Bin … as written. */
  format: string;
}

export interface IoddVariable {
  id: string;
  index: number;
  name: string;
  help: string;
  access: 'ro' | 'rw' | 'wo';
  type: IoddType;
  initial: string;
  /** One that every device has, by the standard. */
  standard: boolean;
  shown: IoddShown | null;
}

export interface IoddEvent {
  code: number;
  type: string;
  mode: string;
  name: string;
  help: string;
}

export interface IoddMenu {
  id: string;
  name: string;
  /** Variables, with a subindex for one item of a record, and other menus. */
  entries: { variable: string; subindex: number | null }[];
  menus: string[];
}
