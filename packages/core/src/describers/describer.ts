import type { Description } from '../cell/description.js';
import type { Cell, Device } from '../cell/model.js';
import type { Fact } from './fact.js';
import type { Described, DescribedBase } from './shared/described.js';
import type { Defects } from './shared/defects.js';
import type { XmlElement } from './shared/xml.js';

/** A description file on its way to its reader. */
export interface DescriberFile {
  text: string;
  /** The root element, where it is XML. */
  root: XmlElement | undefined;
  /** What is wrong with it so far. */
  defects: Defects;
  /** The language that is wanted; undefined: its first. */
  language: string | undefined;
  /** Texts of the language files beside it. */
  languageFiles: readonly string[];
}

/** What a library lists of a describer. */
export interface DescriberSummary {
  source: string;
  /** Title of the protocol. */
  protocol: string;
  maker: string;
  vendor: number;
  /** The number by which the maker tells products apart: product code, or device id. */
  product: number;
  title: string;
  kind: string;
  orderNumbers: string[];
  /** Of the device, or of the file where the device has none. */
  revision: string;
}

/** One way to make a device of a describer. */
export interface Choice {
  id: number;
  title: string;
  command: { size: number; fields: number };
  feedback: { size: number; fields: number };
}

/** What the cell adds to a describer to make a device of it. */
export interface DevicePlace {
  name: string;
  address: string;
}

/**
 * One kind of description: how it is told from others, read, summed up, compared, and made a device of. The list of
 * them is list.ts; no code elsewhere asks for the name of one.
 */
export interface DescriberKind<D extends DescribedBase & { source: string }> {
  source: D['source'];
  /** How people call it. */
  title: string;
  /** Whether a file is of this kind, by what it holds: names of files lie. */
  sniff: (file: DescriberFile) => boolean;
  /** Throws what cannot be read at all; all else is a defect. */
  read: (file: DescriberFile) => Described<D>;
  summary: (describer: D) => Omit<DescriberSummary, 'source'>;
  /** What it says, thing by thing, so that two can be compared. */
  facts: (describer: D) => Fact[];
  /** How much is in it: `4 assemblies`. */
  counts: (describer: D) => [number, string][];
  /** The ways to make a device of it at once; none for one that is plugged together, or has no address of its own. */
  choices: (describer: D) => Choice[];
  /**
   * What a device of this choice offers, its parameters with ids of `newId`; undefined when the describer does not have
   * it.
   */
  describe: (describer: D, choice: number, newId: () => string) => Description | undefined;
  /** A device of the cell of this choice; ids come from `newId`. */
  device: (
    describer: D,
    choice: number,
    cell: Cell,
    place: DevicePlace,
    newId: () => string,
  ) => Device | undefined;
  /** How a device of the cell is written as a file of this kind, where that can be. */
  writes?: {
    /** What the file is called on a button. */
    title: string;
    /** What is in it, and for whom. */
    says: string;
    extension: string;
    mime: string;
    can: (device: Device) => boolean;
    text: (device: Device) => string;
  };
}
