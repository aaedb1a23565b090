import { codecOf, type Codec } from '../../layout/codec.js';
import { Field, type ByteOrder } from '../../layout/field.js';
import { ratioNumber } from '../../layout/ratio.js';
import { Problem } from '../../messages/problem.js';
import type { Parameter } from '../parameter.js';
import type { Refusal } from '../parameterAccess.js';

/**
 * A parameter of a device of which only the description is known: it is there, with the value of the factory, and takes
 * what its type, its limits and its access allow.
 */
export class DescribedParameter {
  private readonly codec: Codec;
  /** Its value as it stands on the wire. */
  readonly bytes: Uint8Array;

  /** `order`: the byte order of its protocol, where the description says none. */
  constructor(
    readonly parameter: Parameter,
    order: ByteOrder,
  ) {
    const { id, name, type, bits, scale, labels } = parameter;
    const field = Field.parse({ id, name, type, at: 0, bits, scale, labels, order: parameter.order });
    this.codec = codecOf({ fields: [field], groups: [], order, size: Math.ceil(bits / 8) });
    this.bytes = new Uint8Array(this.codec.bytes);
    this.restore();
  }

  /** The value of the factory; 0 where none is described, or where it does not fit. */
  restore(): void {
    this.bytes.fill(0);
    const { initial } = this.parameter;
    if (initial === null) return;
    try {
      this.codec.setEngineering(0, ratioNumber(initial));
      this.codec.encode(new DataView(this.bytes.buffer));
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
    }
  }

  /** Takes another value over, or says why not; nothing is changed then. */
  write(bytes: Uint8Array): Refusal | undefined {
    const { access, limits } = this.parameter;
    if (access === 'read') return 'read-only';
    if (bytes.length !== this.bytes.length) return 'size';
    this.codec.decode(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength));
    const value = this.codec.numbers[0]!;
    const under = limits?.minimum != null && value < ratioNumber(limits.minimum);
    const over = limits?.maximum != null && value > ratioNumber(limits.maximum);
    if (under || over) return 'range';
    this.bytes.set(bytes);
    return undefined;
  }
}

/** Those of a description: registers come high byte first, attributes low byte first, where it says no order. */
export const describedParameters = (parameters: readonly Parameter[]): DescribedParameter[] =>
  parameters.map((one) => new DescribedParameter(one, one.place?.way === 'register' ? 'big' : 'little'));
