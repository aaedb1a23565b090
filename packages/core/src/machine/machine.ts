import type { MachineRow } from '../cell/machineRow.js';
import type { Device } from '../cell/model.js';
import { identifierOf } from '../entries/identifiers.js';
import { parseExpression, type Expression } from '../layout/expression.js';
import { Problem } from '../messages/problem.js';

/** Reads a role or a field of a device by its identifier; undefined for what it does not have now. */
export type ReadDevice = (deviceId: string, name: string) => number | undefined;

/** What a line gives: a quantity of the machine, or something that acts on a device. */
export type Target = { quantity: string } | { device: string; name: string };

/** Seconds since the last step: a keyword of IEC 61131-3, and so no identifier that a line could have. */
export const timeName = 'dt';

/** The two parts of `device.what`, each as an identifier; one part is a quantity. */
export function partsOf(name: string): [owner: string | undefined, what: string] {
  const [owner, ...what] = name.split('.').map((part) => part.trim());
  if (what.length > 0) return [identifierOf(owner!), identifierOf(what.join('.'))];
  return [undefined, owner === timeName ? owner : identifierOf(owner!)];
}

interface Line {
  id: string;
  target: Target | undefined;
  expression: Expression | undefined;
}

/** The device that an expression names, by the identifier of its name. */
const byIdentifier = (devices: readonly Pick<Device, 'id' | 'name'>[]): ReadonlyMap<string, string> =>
  new Map(devices.map(({ id, name }) => [identifierOf(name), id]));

const readable = (text: string): Expression | undefined => {
  try {
    return text === '' ? undefined : parseExpression(text, true);
  } catch (error) {
    if (error instanceof Problem) return undefined;
    throw error;
  }
};

/**
 * The machine around the devices, step by step: each line is worked out in its turn, of what the devices show and what
 * the lines before it gave; a quantity that its own expression names is what it was in the step before. What cannot be
 * worked out stays as it was, and acts on nothing where it never was anything (the checks say why).
 */
export class Machine {
  private readonly lines: readonly Line[];
  /** What the names in the expressions stand for; those that stand for nothing are not in it. */
  private readonly sources: ReadonlyMap<string, Target | 'time'>;
  private readonly quantities = new Map<string, number>();
  private readonly acting = new Map<string, Map<string, number>>();
  private readonly given = new Map<string, number>();
  /** The devices that it reads. */
  readonly reads: ReadonlySet<string>;

  /** Quantities that `before` has keep their values. */
  constructor(
    rows: readonly MachineRow[],
    devices: readonly Pick<Device, 'id' | 'name'>[],
    before?: Machine,
  ) {
    const owners = byIdentifier(devices);
    const targetOf = (name: string): Target | undefined => {
      const [owner, what] = partsOf(name);
      if (owner === undefined) return { quantity: what };
      const device = owners.get(owner);
      return device === undefined ? undefined : { device, name: what };
    };
    this.lines = rows.map(({ id, name, expression }) => ({
      ...{ id, target: targetOf(name), expression: readable(expression) },
    }));
    const names = new Set(this.lines.flatMap(({ expression }) => expression?.names ?? []));
    this.sources = new Map(
      [...names].flatMap((name) => {
        const source = name.trim() === timeName ? 'time' : targetOf(name);
        return source ? [[name, source] as const] : [];
      }),
    );
    rows.forEach(({ begins }, i) => {
      const { target, id } = this.lines[i]!;
      if (!target || !('quantity' in target)) return;
      const value = before?.quantities.get(target.quantity) ?? begins;
      this.quantities.set(target.quantity, value);
      this.given.set(id, value);
    });
    this.reads = new Set(
      [...this.sources.values()].flatMap((source) =>
        source !== 'time' && 'device' in source ? source.device : [],
      ),
    );
  }

  /** Works all lines out once more. */
  step(seconds: number, read: ReadDevice): void {
    const valueOf = (name: string): number | undefined => {
      const source = this.sources.get(name);
      if (source === undefined) return undefined;
      if (source === 'time') return seconds;
      return 'quantity' in source ? this.quantities.get(source.quantity) : read(source.device, source.name);
    };
    for (const { id, target, expression } of this.lines) {
      if (!target || !expression) continue;
      const value = expression.evaluate(valueOf);
      if (!Number.isFinite(value)) continue;
      this.given.set(id, value);
      if ('quantity' in target) this.quantities.set(target.quantity, value);
      else {
        const own = this.acting.get(target.device) ?? new Map<string, number>();
        this.acting.set(target.device, own.set(target.name, value));
      }
    }
  }

  /** All that acts on a device now, by identifier. */
  actsOn(deviceId: string): ReadonlyMap<string, number> {
    return this.acting.get(deviceId) ?? nothing;
  }

  /** What the lines gave last, by their ids; those that gave nothing are not in it. */
  get values(): ReadonlyMap<string, number> {
    return this.given;
  }
}
const nothing: ReadonlyMap<string, number> = new Map();
