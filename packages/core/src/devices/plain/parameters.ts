import { codecOf, type Codec } from '../../layout/codec.js';
import { Field, type ByteOrder } from '../../layout/field.js';
import { ratioNumber } from '../../layout/ratio.js';
import { factsOfRole, type Role } from '../../layout/role.js';
import { Problem } from '../../messages/problem.js';
import type { Setting } from '../byRoles/commands.js';
import type { ShownRoles } from '../byRoles/roleBehaviour.js';
import type { Parameter } from '../parameter.js';
import type { Refusal } from '../refusal.js';

/**
 * A parameter of a stand-in as it is described: with the value of the factory, taking what its type, its limits, its
 * key and its access allow.
 */
export class DescribedParameter {
  private readonly codec: Codec;
  /** Its value as it stands on the wire. */
  readonly bytes: Uint8Array;

  /** `order`: the byte order of its protocol, where the description says none; `opened`: its key is there. */
  constructor(
    readonly parameter: Parameter,
    order: ByteOrder,
    private readonly opened: () => boolean = () => true,
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
    if (initial !== null) this.show(ratioNumber(initial));
  }

  /** Its engineering value; NaN where it is no number. */
  get value(): number {
    this.codec.decode(this.view(this.bytes));
    return this.codec.numbers[0]!;
  }

  /** Its number as it stands on the wire. */
  get raw(): number {
    this.codec.decode(this.view(this.bytes));
    return this.codec.numberAt(0);
  }

  /** Shows an engineering value, whoever may write it; one that does not fit is not shown. */
  show(value: number): void {
    this.bytes.set(this.encoded(value) ?? this.bytes);
  }

  /** An engineering value as it would stand on the wire; undefined for one that does not fit. */
  encoded(value: number): Uint8Array | undefined {
    return this.bytesOf(() => this.codec.setEngineering(0, value));
  }

  private bytesOf(set: () => void): Uint8Array | undefined {
    const bytes = new Uint8Array(this.bytes.length);
    try {
      set();
      this.codec.encode(this.view(bytes));
      return bytes;
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      return undefined;
    }
  }

  /** Takes another value over, or says why not; nothing is changed then. */
  write(bytes: Uint8Array): Refusal | undefined {
    const { access, limits } = this.parameter;
    if (access === 'read') return 'read-only';
    if (bytes.length !== this.bytes.length) return 'size';
    this.codec.decode(this.view(bytes));
    const value = this.codec.numbers[0]!;
    const under = limits?.minimum != null && value < ratioNumber(limits.minimum);
    const over = limits?.maximum != null && value > ratioNumber(limits.maximum);
    if (under || over) return 'range';
    if (!this.opened()) return 'locked';
    this.bytes.set(bytes);
    return undefined;
  }

  private view(bytes: Uint8Array): DataView {
    return new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  }
}

/** The parameters of a stand-in, and what they are for. */
export class DescribedParameters {
  readonly all: readonly DescribedParameter[];
  private readonly settings: ReadonlyMap<Role, DescribedParameter>;
  private readonly shown: readonly [Role, DescribedParameter][];

  /** Registers come high byte first, attributes low byte first, where the description says no order. */
  constructor(parameters: readonly Parameter[]) {
    const byCode = new Map<string, DescribedParameter>();
    this.all = parameters.map((one) => {
      const order = one.place?.way === 'register' ? 'big' : 'little';
      const { key } = one;
      const opened = key ? () => byCode.get(key.code)?.raw === ratioNumber(key.raw) : undefined;
      const described = new DescribedParameter(one, order, opened);
      if (one.code && !byCode.has(one.code)) byCode.set(one.code, described);
      return described;
    });
    const withRole = this.all.flatMap((one): [Role, DescribedParameter][] =>
      one.parameter.role ? [[one.parameter.role.is, one]] : [],
    );
    const isShown = ([role]: [Role, unknown]) => factsOfRole(role).direction === 'feedback';
    this.settings = new Map(withRole.filter((one) => !isShown(one)));
    this.shown = withRole.filter(isShown);
  }

  /** What a parameter with this role is set to. */
  set(role: Role): Setting | undefined {
    const one = this.settings.get(role);
    return one && { value: one.value, unit: one.parameter.unit };
  }

  /** Takes over what a parameter with this role is set to in another way, such as by configuration data. */
  take(role: Role, value: number): boolean {
    const one = this.settings.get(role);
    one?.show(value);
    return one !== undefined;
  }

  /** Takes what a device shows into the parameters that are for it. */
  show(values: ShownRoles): void {
    for (const [role, one] of this.shown) {
      const value = values[role];
      if (typeof value === 'number' || typeof value === 'boolean') one.show(Number(value));
    }
  }

  /** Whether one that needs a key can be written now. */
  get unlocked(): boolean {
    return this.all.some(({ parameter: { key } }) => {
      const lock = key && this.all.find((one) => one.parameter.code === key.code);
      return lock ? lock.raw === ratioNumber(key.raw) : false;
    });
  }

  restore(): void {
    for (const one of this.all) one.restore();
  }
}
