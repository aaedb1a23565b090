import type { Image } from '../../layout/image.js';
import type { DriveTrain } from '../../motion/driveTrain.js';
import type { SafetyLogic } from '../../safety/safetyLogic.js';
import { factsOfRole, type Acting, type Role } from '../../layout/role.js';
import type { RoleImage, RoleValues } from './roleImage.js';

/** A value that a device is set to, with its unit. */
export interface Setting {
  value: number;
  unit: string;
  /** What its labels say of it. */
  label?: string;
}

/** What reaches a device beside its images. */
export interface Around {
  /** What the machine around it does to it: a quantity of its kind (surroundings.ts); undefined where none does. */
  met(quantity: string): number | undefined;
  /** What a parameter with this role is set to; undefined where none has it. */
  set(role: Role, number?: number): Setting | undefined;
  /** The numbers of a numbered role that the device shows; [1] of another one, none of one that it has not. */
  shown(role: Role): readonly number[];
  /** Its outputs stay when the connection is lost or the controller idles, as its description and settings say. */
  holds(): boolean;
  /** What is planned of its mechanics and of its safety logic. */
  design?(): Design;
}

/** What a person has said of a device beside its images. */
export interface Design {
  train: DriveTrain | null;
  safety: SafetyLogic | null;
  links: readonly { feedback: Image }[];
}
export const noDesign: Design = { train: null, safety: null, links: [] };

/** What a device is told, step by step: the values of its commands, and which of them have just been given. */
export interface Told {
  elapsedMs: number;
  /** A controller owns its outputs, and runs its program. */
  commanded: boolean;
  /** A controller owns its outputs, whether its program runs or not. */
  owned: boolean;
  /** Of the command image, and of the configuration data where the command image has nothing of a role. */
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
  /** Whether a number is higher now than one that was seen, also past the end of its field. */
  rose(role: Role, seen: number): boolean;
  /** What makes the command act, as its role says, else as devices of the kind usually do. */
  acting(role: Role, usual: Acting): Acting;
  /** What the machine around it does to it: a quantity of its kind (surroundings.ts); undefined where none does. */
  met(quantity: string): number | undefined;
  /** The numbers of a numbered role that the device shows; [1] of another one, none of one that it has not. */
  shown(role: Role): readonly number[];
  /**
   * Whether its outputs are what their bytes say: a controller runs, or it holds them; lost ones are 0 where it drops
   * them.
   */
  outputsStand: boolean;
  /** What it is set to: by its command where that has more than 0, else by its parameter, else by its configuration. */
  setting(role: Role, number?: number): Setting | undefined;
  /** What a parameter with this role is set to. */
  parameter(role: Role, number?: number): Setting | undefined;
  /** What is planned of its mechanics and of its safety logic. */
  design: Design;
}

/** Commands of an image from step to step. */
export class Commands implements Told {
  elapsedMs = 0;
  commanded = false;
  owned = false;
  readonly values: RoleValues;
  private before = new Map<Role, number | boolean | undefined>();
  private now = new Map<Role, number | boolean | undefined>();

  /** `settings`: images of configuration data. */
  constructor(
    private readonly image: RoleImage,
    private readonly around: Around,
    private readonly settings: readonly RoleImage[] = [],
  ) {
    this.values = settings.length > 0 ? firstOf([image, ...settings]) : image;
  }

  /** Takes over what the bytes of the images say now. */
  next(elapsedMs: number, commanded: boolean, owned = commanded): this {
    this.elapsedMs = elapsedMs;
    this.commanded = commanded;
    this.owned = owned;
    [this.before, this.now] = [this.now, this.before];
    this.image.read();
    for (const image of this.settings) image.read();
    for (const role of this.image.roles)
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
    return acting !== 'rise' || this.rose(role, before);
  }

  rose(role: Role, seen: number): boolean {
    const now = this.number(role);
    const span = this.image.span(role);
    return now !== undefined && now !== seen && (((now - seen) % span) + span) % span < span / 2;
  }

  acting(role: Role, usual: Acting): Acting {
    return this.image.acting(role) ?? usual;
  }

  met(quantity: string): number | undefined {
    return this.around.met(quantity);
  }

  shown(role: Role): readonly number[] {
    return this.around.shown(role);
  }

  get outputsStand(): boolean {
    return this.commanded || !this.owned || this.around.holds();
  }

  get design(): Design {
    return this.around.design?.() ?? noDesign;
  }

  parameter(role: Role, number?: number): Setting | undefined {
    return this.around.set(role, number);
  }

  setting(role: Role, number?: number): Setting | undefined {
    const told = this.image.number(role, number);
    if (told) return { value: told, unit: this.image.unit(role, number) };
    const set = this.around.set(role, number);
    const value = this.values.number(role, number);
    return set ?? (value === undefined ? undefined : { value, unit: this.values.unit(role, number) });
  }
}

/** Values of the first image that has a role. */
function firstOf(images: readonly [RoleValues, ...RoleValues[]]): RoleValues {
  const of = (role: Role): RoleValues => images.find((image) => image.has(role)) ?? images[0];
  return {
    bit: (role, n) => of(role).bit(role, n),
    number: (role, n) => of(role).number(role, n),
    text: (role) => of(role).text(role),
    label: (role, n) => of(role).label(role, n),
    labelled: (role) => of(role).labelled(role),
    unit: (role, n) => of(role).unit(role, n),
    range: (role, n) => of(role).range(role, n),
    numbers: (role) => of(role).numbers(role),
    has: (role) => of(role).has(role),
  };
}
