import { limits, readPlan } from '@fadenkreuz/core/modbus-tcp';
import { holdsBits, type RegisterTable } from '@fadenkreuz/core/devices';
import type { ModbusClient } from './client.js';

/** A run of registers or bits in one of the four tables of a unit. */
export interface Places {
  unit: number;
  table: RegisterTable;
  start: number;
  count: number;
}

/** Bytes that so many registers, high byte first, or bits, the first in bit 0, take. */
const bytesOf = ({ table, count }: Places): number => (holdsBits(table) ? Math.ceil(count / 8) : count * 2);

/**
 * Reads them in as many requests as the limits of the protocol ask for; all are asked at once, each answer finds its
 * own.
 */
export async function readPlaces(client: ModbusClient, places: Places): Promise<Uint8Array> {
  const { unit, table, start: first } = places;
  const bytes = new Uint8Array(bytesOf(places));
  const read =
    table === 'holding' || table === 'input'
      ? async (run: { start: number; count: number }) => {
          const name = table === 'holding' ? 'readHoldingRegisters' : 'readInputRegisters';
          const { registers } = await client.ask(unit, name, run);
          registers.slice(0, run.count).forEach((value, i) => {
            bytes[2 * (run.start - first + i)] = value >> 8;
            bytes[2 * (run.start - first + i) + 1] = value & 0xff;
          });
        }
      : async (run: { start: number; count: number }) => {
          const { bits } = await client.ask(
            unit,
            table === 'coils' ? 'readCoils' : 'readDiscreteInputs',
            run,
          );
          bits.slice(0, run.count).forEach((on, i) => {
            const at = run.start - first + i;
            if (on) bytes[at >> 3]! |= 1 << (at & 7);
          });
        };
  const maximum = holdsBits(table) ? limits.readBits : limits.readRegisters;
  await Promise.all(readPlan([places], maximum).map(read));
  return bytes;
}

/** Writes registers or coils from bytes as `readPlaces` gives them, one request after the other. */
export async function writePlaces(client: ModbusClient, places: Places, bytes: Uint8Array): Promise<void> {
  const { unit, table, start: first } = places;
  if (table === 'coils')
    for (const { start, count } of readPlan([places], limits.writeBits)) {
      const bits = Array.from({ length: count }, (_, i) => {
        const at = start - first + i;
        return ((bytes[at >> 3]! >> (at & 7)) & 1) === 1;
      });
      await client.ask(unit, 'writeCoils', { start, count, bits });
    }
  else
    for (const { start, count } of readPlan([places], limits.writeRegisters)) {
      const registers = Array.from({ length: count }, (_, i) => registerAt(bytes, start - first + i));
      await client.ask(unit, 'writeRegisters', { start, count, registers });
    }
}

/** The n-th register of such bytes; what an odd last byte lacks is 0. */
export const registerAt = (bytes: Uint8Array, n: number): number =>
  (bytes[2 * n]! << 8) | (bytes[2 * n + 1] ?? 0);
