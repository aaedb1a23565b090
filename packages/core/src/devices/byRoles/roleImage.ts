import { identifierOf } from '../../entries/identifiers.js';
import { codecOf } from '../../layout/codec.js';
import type { Image } from '../../layout/image.js';
import { ratioNumber } from '../../layout/ratio.js';
import { factsOfRole, roleNames, type Acting, type Role } from '../../layout/role.js';
import { rolePlaces, type RolePlace as Laid } from '../../layout/rolePlaces.js';
import type { Signal } from '../../layout/signals.js';
import { rangeOf } from '../../layout/valueChain.js';
import { Problem } from '../../messages/problem.js';

/** What a behaviour reads of an image: values by what they are for, wherever they stand; of a numbered role the nth. */
export interface RoleValues {
  /** Whether a bit acts; undefined where nothing has the role. */
  bit(role: Role, n?: number): boolean | undefined;
  /** An engineering value; undefined where nothing has the role, or its number is no measurement. */
  number(role: Role, n?: number): number | undefined;
  /** Undefined where nothing has the role. */
  text(role: Role): string | undefined;
  /** The value in words, as the field's labels say. */
  label(role: Role, n?: number): string;
  /** The numbers that the labels of its field name, and what they say; none where it has no labels. */
  labelled(role: Role): readonly { value: number; text: string }[];
  /** The unit of a role; empty where it has none. */
  unit(role: Role, n?: number): string;
  /** The least and the greatest engineering value that its field can show. */
  range(role: Role, n?: number): { low: number; high: number } | undefined;
  /** The numbers of a numbered role that are there; [1] for another one. */
  numbers(role: Role): readonly number[];
  has(role: Role): boolean;
}

/** What a device shows in a role; of a numbered role one after the other, from number 1 on. */
export type Shown = number | boolean | string | readonly (number | boolean)[];

/** A place with what is remembered of it. */
interface RolePlace extends Laid {
  /** What was put there last: most values of most steps are those of the step before. */
  last?: number | boolean | string;
  range?: { low: number; high: number } | undefined;
}

/**
 * An image as values by role, over bytes of its own. A hot path: each step of each stand-in; the places are worked out
 * once.
 */
export class RoleImage implements RoleValues {
  private readonly codec: ReturnType<typeof codecOf>;
  /** By role and number. */
  private readonly places = new Map<Role, Map<number, RolePlace>>();
  private readonly byName: ReadonlyMap<string, RolePlace>;
  private readonly numbered = new Map<Role, readonly number[]>();
  private readonly view: DataView;
  readonly bytes: Uint8Array;

  constructor(image: Pick<Image, 'size' | 'order' | 'groups' | 'fields'> & Partial<Pick<Image, 'swapped'>>) {
    this.codec = codecOf(image);
    this.bytes = new Uint8Array(this.codec.bytes);
    this.view = new DataView(this.bytes.buffer);
    for (const [role, places] of rolePlaces(image))
      this.places.set(role, new Map([...places].map(([n, place]) => [n, { ...place }])));
    for (const [role, places] of this.places)
      this.numbered.set(
        role,
        [...places.keys()].sort((a, b) => a - b),
      );
    this.byName = this.named();
    this.roles = roleNames.filter((role) => this.places.has(role));
  }

  /** By the identifiers of roles, with the number of numbered ones, and of fields: a role goes before a field. */
  private named(): ReadonlyMap<string, RolePlace> {
    const names = new Map<string, RolePlace>();
    const add = (name: string, place: RolePlace) => void (names.has(name) || names.set(name, place));
    for (const [role, places] of this.places)
      for (const [n, place] of places) {
        if (n === 1) add(identifierOf(role), place);
        if (factsOfRole(role).numbered) add(`${identifierOf(role)}_${n}`, place);
      }
    this.codec.signals.forEach(({ name }, index) =>
      add(identifierOf(name), { index, bit: null, acts: undefined }),
    );
    return names;
  }

  /** The names that `valueOf` and `showNamed` know. */
  get names(): readonly string[] {
    return [...this.byName.keys()];
  }

  /** The value of a role or field by its identifier: 1 for a bit that acts, else 0; undefined for what has none. */
  valueOf(name: string): number | undefined {
    const place = this.byName.get(name);
    if (!place) return undefined;
    const value = this.isBit(place) ? Number(this.actsAt(place)) : this.codec.numbers[place.index]!;
    return Number.isNaN(value) ? undefined : value;
  }

  /** Shows values by identifier; what is not here, or does not fit, stays as it is. */
  showNamed(values: ReadonlyMap<string, number>): void {
    this.codec.decode(this.view);
    for (const [name, value] of values) {
      const place = this.byName.get(name);
      if (place) this.set(place, this.isBit(place) ? value !== 0 : value);
    }
    this.codec.encode(this.view);
  }

  private isBit({ index, bit }: RolePlace): boolean {
    return bit !== null || this.codec.signals[index]!.bits === 1;
  }

  private actsAt({ index, bit }: RolePlace): boolean {
    const on = bit === null ? this.codec.numberAt(index) === 1 : this.bitOf(index, bit);
    return on !== this.codec.signals[index]!.normallyClosed;
  }

  private at(role: Role, n: number): RolePlace | undefined {
    return this.places.get(role)?.get(n);
  }

  readonly roles: readonly Role[];

  has(role: Role): boolean {
    return this.places.has(role);
  }

  numbers(role: Role): readonly number[] {
    return this.numbered.get(role) ?? [];
  }

  /** What makes a command act, where its role says so. */
  acting(role: Role): Acting | undefined {
    return this.at(role, 1)?.acts;
  }

  unit(role: Role, n = 1): string {
    const place = this.at(role, n);
    return place ? this.codec.signals[place.index]!.unit : '';
  }

  label(role: Role, n = 1): string {
    const place = this.at(role, n);
    return place && place.bit === null ? this.codec.textAt(place.index) : '';
  }

  labelled(role: Role): readonly { value: number; text: string }[] {
    const place = this.at(role, 1);
    return place
      ? this.codec.signals[place.index]!.labels.map(({ value, text }) => ({ value: Number(value), text }))
      : [];
  }

  text(role: Role): string | undefined {
    const place = this.at(role, 1);
    return place && factsOfRole(role).reads === 'text' ? String(this.codec.valueAt(place.index)) : undefined;
  }

  range(role: Role, n = 1): { low: number; high: number } | undefined {
    const place = this.at(role, n);
    if (!place || place.bit !== null) return undefined;
    return (place.range ??= this.rangeAt(place));
  }

  private rangeAt({ index }: RolePlace): { low: number; high: number } | undefined {
    const signal = this.codec.signals[index]!;
    const { minimum, maximum } = rangeOf(signal, this.codec.aroundAt(index));
    const limit = (text: string | null | undefined, otherwise: string) =>
      text ? ratioNumber(text) : Number(otherwise);
    const low = limit(signal.limits?.minimum, minimum);
    const high = limit(signal.limits?.maximum, maximum);
    return Number.isFinite(low) && Number.isFinite(high) ? { low, high } : undefined;
  }

  /** The signal, and the bit of it, that has a role. */
  placeOf(role: Role, n = 1): { signal: Signal; bit: number | null } | undefined {
    const place = this.at(role, n);
    return place && { signal: this.codec.signals[place.index]!, bit: place.bit };
  }

  /** Takes the values from other bytes, as far as they go. */
  take(bytes: Uint8Array): void {
    this.bytes.set(bytes.subarray(0, this.bytes.length));
    this.read();
  }

  /** Takes the values from the bytes. */
  read(): void {
    this.codec.decode(this.view);
  }

  bit(role: Role, n = 1): boolean | undefined {
    const place = this.at(role, n);
    if (!place || factsOfRole(role).reads !== 'bit') return undefined;
    return this.actsAt(place);
  }

  number(role: Role, n = 1): number | undefined {
    const place = this.at(role, n);
    if (!place || place.bit !== null) return undefined;
    const value = this.codec.numbers[place.index]!;
    return Number.isNaN(value) ? undefined : value;
  }

  /** So many different numbers the field of a role can show, 2 to the power of its bits. */
  span(role: Role): number {
    const place = this.at(role, 1);
    return place ? 2 ** this.codec.signals[place.index]!.bits : 2;
  }

  /**
   * Shows these values; what has no role, or does not fit its field, stays as it is. Nobody else may write the bytes of
   * an image that is shown in this way: what is there already is not put there again.
   */
  show(values: Partial<Record<Role, Shown>>): void {
    let decoded = false;
    for (const role in values) {
      const places = this.places.get(role as Role);
      const value = values[role as Role]!;
      if (!places) continue;
      for (const [n, place] of places) {
        const one = typeof value === 'object' ? value[n - 1] : value;
        if (one === undefined || one === place.last) continue;
        if (!decoded) this.codec.decode(this.view);
        decoded = true;
        this.set(place, one);
      }
    }
    if (decoded) this.codec.encode(this.view);
  }

  private set(place: RolePlace, value: number | boolean | string): void {
    const { index, bit } = place;
    const signal = this.codec.signals[index]!;
    try {
      if (bit !== null) this.setBit(index, bit, (value === true || value === 1) !== signal.normallyClosed);
      else if (typeof value === 'string')
        this.codec.setTyped(index, value.slice(0, (signal.bits - (signal.text?.prefix ?? 0)) / 8));
      else if (typeof value === 'number') this.codec.setEngineering(index, value);
      else {
        const raw = value !== signal.normallyClosed;
        this.codec.setValue(index, signal.type === 'BOOL' ? raw : raw ? 1 : 0);
      }
      place.last = value;
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
    }
  }

  private bitOf(index: number, bit: number): boolean {
    const word = this.codec.valueAt(index);
    return typeof word === 'bigint'
      ? ((word >> BigInt(bit)) & 1n) === 1n
      : ((Number(word) / 2 ** bit) & 1) === 1;
  }

  private setBit(index: number, bit: number, on: boolean): void {
    if (this.bitOf(index, bit) === on) return;
    const word = this.codec.valueAt(index);
    const more = on ? 2 ** bit : -(2 ** bit);
    this.codec.setValue(index, typeof word === 'bigint' ? word + BigInt(more) : Number(word) + more);
  }
}
