import type { Device } from '../cell/model.js';
import { imagesOf } from '../cell/find.js';
import { uniqueIdentifiers } from '../entries/identifiers.js';
import { readsOf } from '../layout/fieldTypes.js';
import { signalsOf } from '../layout/signals.js';
import { rolePlaces } from '../layout/rolePlaces.js';
import type { Acting, Role } from '../layout/role.js';
import type { Condition, Order, Place, Step, Value } from '../cell/exchange.js';

/** Makes steps from the roles of one device; what a device has not is left out of them. */
export class Builder {
  readonly steps: Step[] = [];

  constructor(
    readonly device: Device,
    private readonly newId: () => string,
  ) {}

  private side(role: Role, direction: 'command' | 'feedback') {
    return this.device.links
      .flatMap((link) => imagesOf(link))
      .filter((image) => image.direction === direction)
      .flatMap((image) => rolePlaces(image).get(role)?.get(1) ?? [])[0];
  }
  /** Whether the device has the role in its command, or in its feedback image. */
  commands(...names: Role[]): boolean {
    return names.every((role) => this.side(role, 'command') !== undefined);
  }
  shows(...names: Role[]): boolean {
    return names.every((role) => this.side(role, 'feedback') !== undefined);
  }
  /** The first of these that it has. */
  firstCommand(...names: Role[]): Role | undefined {
    return names.find((role) => this.commands(role));
  }
  firstShown(...names: Role[]): Role | undefined {
    return names.find((role) => this.shows(role));
  }
  acting(role: Role, usual: Acting): Acting {
    return this.side(role, 'command')?.acts ?? usual;
  }

  command = (role: Role): Place => this.place('command', role);
  feedback = (role: Role): Place => this.place('feedback', role);
  private place = (side: Place['side'], role: Role): Place => ({
    ...{ device: this.device.id, side, role, number: null, field: null, bit: null },
  });

  /** Orders for those of these roles that the device has. */
  orders(values: Partial<Record<Role, Value>>, part: Partial<Order> = {}): Order[] {
    return (Object.keys(values) as Role[])
      .filter((role) => this.commands(role))
      .map((role) => ({ place: this.command(role), how: 'set', to: values[role]!, back: false, ...part }));
  }
  /** Conditions for those of these roles that the device has. */
  waits(values: Partial<Record<Role, Value>>, part: Partial<Condition> = {}): Condition[] {
    return (Object.keys(values) as Role[])
      .filter((role) => this.shows(role))
      .map((role) => ({
        ...{ place: this.feedback(role), is: 'equals' as const, to: values[role]!, upTo: null, stable: 0 },
        ...part,
      }));
  }

  /** The texts of its command image: by role, or by field where one has none; each with a name for a variable. */
  texts(): { name: string; place: Place }[] {
    const signals = this.device.links.flatMap((link) => signalsOf(link.command));
    const found = signals.filter((signal) => readsOf(signal) === 'text');
    const names = uniqueIdentifiers(found.map(({ name }) => name));
    const first = found.find((signal) => signal.role?.is === 'variable text');
    return found.map((signal, i) => ({
      name: names[i]!,
      place:
        signal === first
          ? this.command('variable text')
          : { ...this.command('variable text'), role: null, field: signal.id },
    }));
  }

  /** A step; one that does nothing and waits for nothing is left out. Gives its id. */
  step(title: string, part: Partial<Step>): string {
    const step: Step = {
      ...{ id: this.newId(), title, orders: [], conditions: [], any: false, updates: 0, least: 0 },
      ...{ limit: null, reason: '', late: null, fails: false, results: [], branches: [], repeat: null },
      ...part,
    };
    const idle = step.orders.length + step.conditions.length + step.results.length === 0 && !step.fails;
    if (!idle) this.steps.push(step.conditions.length > 0 ? step : { ...step, limit: null });
    return step.id;
  }
}
