import { Field, type ByteOrder } from '../layout/field.js';
import { codecOf, type Codec } from '../layout/codec.js';
import { Problem } from '../messages/problem.js';
import type { Parameter, ParameterPlace } from './parameter.js';

/**
 * The value of a parameter between its bytes on the wire and what people read and write: the chain of a field that is
 * alone in its image.
 */
export interface ParameterValue {
  /** The number or text behind the bytes: 1000, 16#0A 0B, LIFT. */
  raw: string;
  /** In engineering units, without unit and label: 100.0. */
  value: string;
  /** As it is shown: `100.0 rpm`, `2 · network`. */
  text: string;
  /** Its number in engineering units; NaN where it is none. */
  number: number;
}

/**
 * Registers, IO-Link values and those of PROFINET come high byte first, all others low byte first, where the
 * description says no order.
 */
export const usualOrder = (place: ParameterPlace | null): ByteOrder =>
  place && bigEndFirst.has(place.way) ? 'big' : 'little';
const bigEndFirst = new Set<ParameterPlace['way']>(['register', 'port', 'pnu', 'record']);

export class ParameterCodec {
  private readonly codec: Codec;
  readonly size: number;

  /** `places`: decimal places that another parameter says. */
  constructor(
    readonly parameter: Parameter,
    places = 0,
  ) {
    const { id, name, type, bits, scale, unit, labels, order, place } = parameter;
    const decimals = places > 0 ? { way: 'fixed' as const, places } : null;
    const field = Field.parse({ id, name, type, at: 0, bits, scale, unit, labels, order, decimals });
    this.size = Math.ceil(bits / 8);
    this.codec = codecOf({ fields: [field], groups: [], order: usualOrder(place), size: this.size });
  }

  /** What the bytes say. Throws `parameter.size` where there are fewer or more of them. */
  read(bytes: Uint8Array): ParameterValue {
    this.take(bytes);
    const raw = this.codec.valueAt(0);
    const { text: value } = this.codec.readingAt(0);
    const shown = typeof raw === 'boolean' ? String(Number(raw)) : String(raw);
    return { raw: shown, value, text: this.codec.textAt(0), number: this.codec.numbers[0]! };
  }

  /** The bytes of what a person wrote. Throws `value.notANumber`, `value.doesNotFit`. */
  written(typed: string): Uint8Array {
    return this.encoded(() => this.codec.setTyped(0, typed));
  }

  /** The bytes of an engineering value. Throws `value.doesNotFit`. */
  engineering(value: number): Uint8Array {
    return this.encoded(() => this.codec.setEngineering(0, value));
  }

  /** The engineering value of such bytes; NaN where it is no number. */
  number(bytes: Uint8Array): number {
    this.take(bytes);
    return this.codec.numbers[0]!;
  }
  /** The number as it stands on the wire. */
  rawNumber(bytes: Uint8Array): number {
    this.take(bytes);
    return this.codec.numberAt(0);
  }

  private take(given: Uint8Array): void {
    const { name, type } = this.parameter;
    let bytes = given;
    // Devices send as many letters as there are.
    if (type === 'STRING' && given.length < this.size) {
      bytes = new Uint8Array(this.size);
      bytes.set(given);
    }
    if (bytes.length !== this.size)
      throw new Problem('parameter.size', { parameter: name, bytes: bytes.length, size: this.size });
    this.codec.decode(view(bytes));
  }

  private encoded(set: () => void): Uint8Array {
    const bytes = new Uint8Array(this.size);
    set();
    this.codec.encode(view(bytes));
    return bytes;
  }
}

const view = (bytes: Uint8Array): DataView => new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
