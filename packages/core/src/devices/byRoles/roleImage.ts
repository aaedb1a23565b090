import { codecOf } from '../../layout/codec.js';
import type { Image } from '../../layout/image.js';
import { factsOfRole, roleNames, type Role } from '../../layout/role.js';
import { Problem } from '../../messages/problem.js';

/** What a behaviour reads of its commands: values by what they are for, wherever they stand. */
export interface RoleValues {
  /** Whether a bit acts; undefined where nothing has the role. */
  bit(role: Role): boolean | undefined;
  /** An engineering value; undefined where nothing has the role, or its number is no measurement. */
  number(role: Role): number | undefined;
  /** The unit of a role; empty where it has none. */
  unit(role: Role): string;
  has(role: Role): boolean;
}

/** Where a role stands: a signal, and a bit of it where it is one of many. */
interface RolePlace {
  index: number;
  bit: number | null;
}

/**
 * An image as values by role, over bytes of its own. A hot path: each step of each stand-in; the places are worked out
 * once.
 */
export class RoleImage implements RoleValues {
  private readonly codec: ReturnType<typeof codecOf>;
  private readonly places = new Map<Role, RolePlace>();
  private readonly view: DataView;
  readonly bytes: Uint8Array;

  constructor(image: Image) {
    this.codec = codecOf(image);
    this.bytes = new Uint8Array(this.codec.bytes);
    this.view = new DataView(this.bytes.buffer);
    this.codec.signals.forEach(({ role, bitRoles, index: repetition }, index) => {
      // Of a repeated field the first element is what a single device has.
      if (repetition.some((n) => n > 0)) return;
      if (role && !this.places.has(role.is)) this.places.set(role.is, { index, bit: null });
      for (const { bit, role: own } of bitRoles)
        if (!this.places.has(own.is)) this.places.set(own.is, { index, bit });
    });
  }

  /** Nothing has a role. */
  get empty(): boolean {
    return this.places.size === 0;
  }

  get roles(): Role[] {
    return roleNames.filter((role) => this.places.has(role));
  }

  has(role: Role): boolean {
    return this.places.has(role);
  }

  unit(role: Role): string {
    const place = this.places.get(role);
    return place ? this.codec.signals[place.index]!.unit : '';
  }

  /** Takes the values from the bytes. */
  read(): void {
    this.codec.decode(this.view);
  }

  bit(role: Role): boolean | undefined {
    const place = this.places.get(role);
    if (!place || factsOfRole(role).reads !== 'bit') return undefined;
    const { index, bit } = place;
    if (bit !== null) return ((this.codec.numberAt(index) / 2 ** bit) & 1) === 1;
    const on = this.codec.numberAt(index) === 1;
    return this.codec.signals[index]!.normallyClosed ? !on : on;
  }

  number(role: Role): number | undefined {
    const place = this.places.get(role);
    if (!place || place.bit !== null) return undefined;
    const value = this.codec.numbers[place.index]!;
    return Number.isNaN(value) ? undefined : value;
  }

  /** Shows these values; what has no role, or does not fit its field, stays as it is. */
  show(values: Partial<Record<Role, number | boolean>>): void {
    this.codec.decode(this.view);
    for (const role in values) this.set(role as Role, values[role as Role]!);
    this.codec.encode(this.view);
  }

  private set(role: Role, value: number | boolean): void {
    const place = this.places.get(role);
    if (!place) return;
    const { index, bit } = place;
    const signal = this.codec.signals[index]!;
    if (typeof value === 'number' && bit === null) {
      try {
        this.codec.setEngineering(index, value);
      } catch (error) {
        if (!(error instanceof Problem)) throw error;
      }
      return;
    }
    const on = value === true || value === 1;
    if (bit === null) {
      const raw = signal.normallyClosed ? !on : on;
      this.codec.setValue(index, signal.type === 'BOOL' ? raw : raw ? 1 : 0);
      return;
    }
    const word = this.codec.numberAt(index);
    const was = ((word / 2 ** bit) & 1) === 1;
    if (was !== on) this.codec.setValue(index, word + (on ? 2 ** bit : -(2 ** bit)));
  }
}
