import { factsOfRole, type Acting, type Role } from '../../layout/role.js';
import type { RoleImage, RoleValues } from './roleImage.js';

/** What a device is told, step by step: the values of its commands, and which of them have just been given. */
export interface Told {
  elapsedMs: number;
  /** A controller owns its outputs, and runs its program. */
  commanded: boolean;
  values: RoleValues;
  /** Whether a bit acts, by a controller that is there. */
  on(role: Role): boolean;
  /** A number of a controller that is there; undefined where nothing has the role. */
  number(role: Role): number | undefined;
  /**
   * Whether the command is given in this step: by its level, or by the change that its role says, else as devices of
   * the kind usually do.
   */
  given(role: Role, usual: Acting): boolean;
  /** What makes the command act, as its role says, else as devices of the kind usually do. */
  acting(role: Role, usual: Acting): Acting;
  /** What the machine around it does to it: a quantity of its kind (surroundings.ts); undefined where none does. */
  met(quantity: string): number | undefined;
}

/** Commands of an image from step to step. */
export class Commands implements Told {
  elapsedMs = 0;
  commanded = false;
  private before = new Map<Role, number | boolean | undefined>();
  private now = new Map<Role, number | boolean | undefined>();

  constructor(
    readonly values: RoleImage,
    private readonly surroundings: (quantity: string) => number | undefined,
  ) {}

  /** Takes over what the bytes of the image say now. */
  next(elapsedMs: number, commanded: boolean): this {
    this.elapsedMs = elapsedMs;
    this.commanded = commanded;
    [this.before, this.now] = [this.now, this.before];
    this.values.read();
    for (const role of this.values.roles)
      this.now.set(role, factsOfRole(role).reads === 'bit' ? this.on(role) : this.number(role));
    return this;
  }

  on(role: Role): boolean {
    return this.commanded && this.values.bit(role) === true;
  }

  number(role: Role): number | undefined {
    return this.commanded ? this.values.number(role) : undefined;
  }

  given(role: Role, usual: Acting): boolean {
    const [before, now] = [this.before.get(role), this.now.get(role)];
    const acting = this.acting(role, usual);
    if (typeof now === 'boolean')
      switch (acting) {
        case 'rising edge':
          return now && before !== true;
        case 'falling edge':
          // A controller that went away has told nothing.
          return this.commanded && !now && before === true;
        case 'change':
          return this.commanded && before !== undefined && now !== before;
        default:
          return now;
      }
    // The number that stands there when the controller comes says nothing.
    if (now === undefined || typeof before !== 'number' || now === before) return false;
    if (acting === 'leaving zero') return before === 0;
    if (acting !== 'rise') return true;
    const span = this.values.span(role);
    return (((now - before) % span) + span) % span < span / 2;
  }

  acting(role: Role, usual: Acting): Acting {
    return this.values.acting(role) ?? usual;
  }

  met(quantity: string): number | undefined {
    return this.surroundings(quantity);
  }
}
