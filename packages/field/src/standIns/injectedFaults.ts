import { codecOf, faultKey, type Fault, type Identity } from '@fadenkreuz/core';
import type { ConnectionPoint } from '@fadenkreuz/core/devices';
import type { Trouble } from '../protocols/driver.js';
import { soundCable, type CableTrouble } from '../wire/cable.js';

type Kind = Fault['fault'];
type FaultOf<K extends Kind> = Extract<Fault, { fault: K }>;

/** The faults that are injected at a stand-in, and what they make of its cable, its identity and its points. */
export class InjectedFaults {
  private readonly byKey = new Map<string, Fault>();

  get all(): Fault[] {
    return [...this.byKey.values()];
  }

  inject(fault: Fault): void {
    this.byKey.set(faultKey(fault), fault);
  }

  /** Takes a fault away; the fault that it was, or undefined when it was not injected. */
  clear(key: string): Fault | undefined {
    const fault = this.byKey.get(key);
    this.byKey.delete(key);
    return fault;
  }

  has(kind: Kind): boolean {
    return this.of(kind) !== undefined;
  }

  private of<K extends Kind>(kind: K): FaultOf<K> | undefined {
    // Asked with every step of every stand-in.
    if (this.byKey.size === 0) return undefined;
    for (const fault of this.byKey.values()) if (fault.fault === kind) return fault as FaultOf<K>;
    return undefined;
  }

  /** ms by which every answer comes late. */
  get slowMs(): number {
    return this.of('slow')?.ms ?? 0;
  }

  get cable(): CableTrouble {
    const delayed = this.of('packets-delayed');
    return {
      ...soundCable,
      pulled: this.has('cable-pulled'),
      lost: this.of('packets-lost')?.share ?? 0,
      doubled: this.of('packets-doubled')?.share ?? 0,
      reordered: this.of('packets-reordered')?.share ?? 0,
      delayed: delayed?.share ?? 0,
      delayMs: delayed?.ms ?? 0,
    };
  }

  get trouble(): Trouble {
    return {
      slowMs: this.slowMs,
      busy: this.has('busy'),
      frozen: this.has('frozen'),
      foreignOwner: this.has('stolen'),
      twin: this.has('duplicate-address'),
    };
  }

  /** What a device says it is, whose own identity this is: another one, where a wrong device stands in its place. */
  identity(own: Identity): Identity {
    const wrong = this.of('wrong-device');
    if (!wrong) return own;
    return wrong.differs === 'revision'
      ? { ...own, majorRevision: own.majorRevision === 1 ? 2 : own.majorRevision - 1, minorRevision: 1 }
      : { ...own, productCode: own.productCode + 1, productName: 'Tannhorn something else' };
  }

  /** What it offers instead of these: the first point of a direction has another size where it was resized. */
  offered(specs: readonly ConnectionPoint[]): readonly ConnectionPoint[] {
    const resized = this.of('assembly-resized');
    const first = resized && specs.find((s) => s.use === resized.direction);
    if (!first) return specs;
    return specs.map((s) => (s === first ? { ...s, size: Math.max(0, s.size + resized.by) } : s));
  }

  /** Writes a value beyond its range over the feedback of a point, where that fault is injected. */
  overrange(point: ConnectionPoint, into: Uint8Array): void {
    const fault = this.of('out-of-range');
    if (!fault) return;
    const codec = codecOf(plainLayout(point));
    const named = codec.signals.findIndex((f) => f.name === fault.field);
    const index = named >= 0 ? named : codec.signals.findIndex((f) => f.bits >= 16 && f.type !== 'STRING');
    if (index < 0) return;
    const { bits, type } = codec.signals[index]!;
    const view = new DataView(into.buffer, into.byteOffset, into.byteLength);
    const signed = type === 'INT' || type === 'DINT';
    codec.decode(view);
    if (type !== 'REAL') codec.setValue(index, signed ? 2 ** (bits - 1) - 1 : 2 ** bits - 1);
    codec.encode(view);
  }
}

/** The layout of a point with plain numbers: a scale would make another value of the greatest raw number. */
function plainLayout(point: ConnectionPoint): PlainLayout {
  const known = plainLayouts.get(point);
  if (known) return known;
  const bare = { scale: null, decimals: null, sign: null, limits: null };
  const { groups, order, size } = point;
  const plain = { fields: (point.fields ?? []).map((f) => ({ ...f, ...bare })), groups, order, size };
  plainLayouts.set(point, plain);
  return plain;
}
type PlainLayout = Parameters<typeof codecOf>[0];
const plainLayouts = new WeakMap<ConnectionPoint, PlainLayout>();
