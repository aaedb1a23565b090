import type { Identity } from '@fadenkreuz/core';
import type { DescribedParameter, PortRequests, Refusal, RegisterTable } from '@fadenkreuz/core/devices';
import type { ModbusMemory } from '@fadenkreuz/core/modbus-tcp';
import type { SimulatedPoint } from '../driver.js';
import { ParameterRegisters } from './parameterRegisters.js';
import { PortMailboxes } from './portMailbox.js';

export interface RegisterMemoryOptions {
  points: () => readonly SimulatedPoint[];
  /** Parameters that stand in registers or bits of their own. */
  described: readonly DescribedParameter[];
  identity: () => Identity;
  /** Who makes it, in words; empty where that is not known. */
  maker: () => string;
  /** How requests reach the devices at its ports, where it is a master. */
  portRequests: PortRequests | null;
  /** Called after registers of a point were written. */
  onWrite: (point: SimulatedPoint) => void;
}

/**
 * The bytes of a stand-in as a Modbus server shows them: each point is a run of registers, or of bits, each described
 * parameter stands at its place, and nothing else exists.
 */
export class RegisterMemory implements ModbusMemory {
  private readonly parameters: ParameterRegisters;
  private readonly ports: PortMailboxes | undefined;

  constructor(private readonly options: RegisterMemoryOptions) {
    const { described, portRequests } = options;
    this.parameters = new ParameterRegisters(described);
    this.ports = portRequests?.by === 'registers' ? new PortMailboxes(portRequests, described) : undefined;
  }

  readRegisters(kind: 'holding' | 'inputs', start: number, count: number): number[] | undefined {
    const table = kind === 'holding' ? 'holding' : 'input';
    const place = this.find(table, start, count);
    if (!place)
      return (
        this.parameters.read(table, start, count) ??
        (table === 'holding' ? this.ports?.read(start, count) : undefined)
      );
    const {
      point: { bytes },
      from,
    } = place;
    const registers: number[] = [];
    for (let at = from; at < from + 2 * count; at += 2) registers.push((bytes[at]! << 8) | bytes[at + 1]!);
    return registers;
  }

  readBits(kind: 'coils' | 'inputs', start: number, count: number): boolean[] | undefined {
    const place = this.find(kind === 'coils' ? 'coils' : 'discrete', start, count);
    if (!place) return undefined;
    const {
      point: { bytes },
      from,
    } = place;
    return Array.from({ length: count }, (_, i) => ((bytes[(from + i) >> 3]! >> ((from + i) & 7)) & 1) === 1);
  }

  writeRegisters(start: number, registers: readonly number[]): Refusal | undefined {
    const place = this.find('holding', start, registers.length);
    if (!place)
      return this.ports && !this.parameters.holds(start)
        ? this.ports.write(start, registers)
        : this.parameters.write(start, registers);
    // What the device reports is read only.
    if (place.point.use === 'feedback') return 'read-only';
    registers.forEach((value, i) => {
      place.point.bytes[place.from + 2 * i] = value >> 8;
      place.point.bytes[place.from + 2 * i + 1] = value & 0xff;
    });
    this.options.onWrite(place.point);
    return undefined;
  }

  writeBits(start: number, on: readonly boolean[]): Refusal | undefined {
    const place = this.find('coils', start, on.length);
    if (!place) return 'absent';
    if (place.point.use === 'feedback') return 'read-only';
    on.forEach((set, i) => {
      const at = place.from + i;
      const mask = 1 << (at & 7);
      place.point.bytes[at >> 3] = set
        ? place.point.bytes[at >> 3]! | mask
        : place.point.bytes[at >> 3]! & ~mask;
    });
    this.options.onWrite(place.point);
    return undefined;
  }

  /** Basic objects: vendor, product code, revision; then the product name (Application Protocol V1.1b3, 6.21). */
  get identification() {
    const { vendor, productCode, majorRevision, minorRevision, productName } = this.options.identity();
    return [
      { id: 0, text: this.options.maker() || `vendor ${vendor}` },
      { id: 1, text: String(productCode) },
      { id: 2, text: `${majorRevision}.${minorRevision}` },
      { id: 4, text: productName },
    ];
  }

  /** The point that holds all of these places; `from` in bytes for registers, in bits for coils and inputs. */
  private find(table: RegisterTable, start: number, count: number) {
    const bits = table === 'coils' || table === 'discrete';
    for (const point of this.options.points()) {
      if (point.registers?.table !== table) continue;
      const first = start - point.registers.start;
      const places = bits ? point.size * 8 : Math.floor(point.size / 2);
      if (first < 0 || first + count > places) continue;
      return { point, from: bits ? first : first * 2 };
    }
    return undefined;
  }
}
