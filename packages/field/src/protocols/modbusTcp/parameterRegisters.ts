import type { DescribedParameter, Refusal, RegisterTable } from '@fadenkreuz/core/devices';

/** A register of a parameter: which of its registers it is. */
interface Cell {
  described: DescribedParameter;
  n: number;
}

/** Described parameters in the registers that they stand in, one after the other where they follow each other. */
export class ParameterRegisters {
  private readonly cells = new Map<string, Cell>();

  constructor(parameters: readonly DescribedParameter[]) {
    for (const described of parameters) {
      const { place } = described.parameter;
      if (place?.way !== 'register' || place.table === 'coils' || place.table === 'discrete') continue;
      for (let n = 0; n < registersOf(described); n += 1)
        this.cells.set(`${place.table} ${place.start + n}`, { described, n });
    }
  }

  /** Undefined where one of them is no parameter's. */
  read(table: RegisterTable, start: number, count: number): number[] | undefined {
    const registers: number[] = [];
    for (let at = start; at < start + count; at += 1) {
      const cell = this.cells.get(`${table} ${at}`);
      if (!cell) return undefined;
      registers.push(registerAt(cell.described.bytes, cell.n));
    }
    return registers;
  }

  /** Whether a holding register is a parameter's. */
  holds(start: number): boolean {
    return this.cells.has(`holding ${start}`);
  }

  /** Takes whole parameters, or single registers of them: all, or none, and why not. */
  write(start: number, registers: readonly number[]): Refusal | undefined {
    const drafts = new Map<DescribedParameter, Uint8Array>();
    for (const [i, register] of registers.entries()) {
      const cell = this.cells.get(`holding ${start + i}`);
      if (!cell) return 'absent';
      const draft = drafts.get(cell.described) ?? cell.described.bytes.slice();
      drafts.set(cell.described, draft);
      // A single byte stands in the low half of its register.
      if (draft.length === 1) draft[0] = register & 0xff;
      else {
        draft[2 * cell.n] = register >> 8;
        if (2 * cell.n + 1 < draft.length) draft[2 * cell.n + 1] = register & 0xff;
      }
    }
    // Nothing is changed unless all can be.
    const before = [...drafts.keys()].map((described) => [described, described.bytes.slice()] as const);
    let refused: Refusal | undefined;
    for (const [described, bytes] of drafts) refused ??= described.write(bytes);
    if (refused) for (const [described, bytes] of before) described.bytes.set(bytes);
    return refused;
  }
}

const registersOf = ({ bytes }: DescribedParameter): number => Math.ceil(bytes.length / 2);

const registerAt = (bytes: Uint8Array, n: number): number =>
  bytes.length === 1 ? bytes[0]! : (bytes[2 * n]! << 8) | (bytes[2 * n + 1] ?? 0);
