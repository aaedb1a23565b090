import { ratioNumber } from '../../layout/ratio.js';
import { factsOfRole, type Role } from '../../layout/role.js';
import { Problem } from '../../messages/problem.js';
import type { Setting } from '../byRoles/commands.js';
import type { ShownRoles } from '../byRoles/roleBehaviour.js';
import { decimalPlaces } from '../decimalPlaces.js';
import type { Parameter } from '../parameter.js';
import { ParameterCodec } from '../parameterCodec.js';
import type { PortDevice } from '../ports.js';
import type { Refusal } from '../refusal.js';

/** What a write of a parameter meets beside its own limits. */
interface Guard {
  /** The key that it needs is there. */
  opened: () => boolean;
  /** The device moves. */
  moves: () => boolean;
  /** It was written. */
  written: () => void;
  /** The port behind which it stands has a device that talks. */
  talks: () => boolean;
}

/**
 * A parameter of a stand-in as it is described: with the value of the factory, taking what its type, its limits, its
 * key and its access allow.
 */
export class DescribedParameter {
  /** Its value as it stands on the wire. */
  readonly bytes: Uint8Array;
  /** What it is after the next start, where that is another value. */
  private saved: Uint8Array;

  constructor(
    private readonly codec: ParameterCodec,
    private readonly guard: Guard,
  ) {
    this.bytes = new Uint8Array(codec.size);
    this.restore();
    this.saved = this.bytes.slice();
  }

  get parameter(): Parameter {
    return this.codec.parameter;
  }

  /** The value of the factory; 0 where none is described, or where it does not fit. */
  restore(): void {
    this.bytes.fill(0);
    const { initial } = this.parameter;
    if (initial !== null) this.show(ratioNumber(initial));
    this.save();
  }

  /** Its engineering value; NaN where it is no number. */
  get value(): number {
    return this.codec.number(this.bytes);
  }

  /** Its number as it stands on the wire. */
  get raw(): number {
    return this.codec.rawNumber(this.bytes);
  }

  /** The text of its labels for its value; undefined where none has it. */
  get label(): string | undefined {
    const { raw } = this;
    return this.parameter.labels.find(({ value }) => value === raw)?.text;
  }

  /** Shows an engineering value, whoever may write it; one that does not fit is not shown. */
  show(value: number): void {
    this.bytes.set(this.encoded(value) ?? this.bytes);
  }

  /** Shows bytes of its own that no factory value says; what is too long is cut off. */
  answer(bytes: Uint8Array | undefined): void {
    if (!bytes) return;
    this.bytes.set(bytes.subarray(0, this.bytes.length));
    this.save();
  }

  /** An engineering value as it would stand on the wire; undefined for one that does not fit. */
  encoded(value: number): Uint8Array | undefined {
    try {
      return this.codec.engineering(value);
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      return undefined;
    }
  }

  /** Why its value cannot be had now; undefined where it can. */
  get silent(): Refusal | undefined {
    return this.guard.talks() ? undefined : 'state';
  }

  /** Takes another value over, or says why not; nothing is changed then. */
  write(bytes: Uint8Array): Refusal | undefined {
    const { access, limits, stopFirst } = this.parameter;
    if (this.silent) return this.silent;
    if (access === 'read') return 'read-only';
    if (bytes.length !== this.bytes.length) return 'size';
    const value = this.codec.number(bytes);
    const under = limits?.minimum != null && value < ratioNumber(limits.minimum);
    const over = limits?.maximum != null && value > ratioNumber(limits.maximum);
    if (under || over) return 'range';
    if (!this.guard.opened()) return 'locked';
    if (stopFirst && this.guard.moves()) return 'state';
    this.bytes.set(bytes);
    if (this.parameter.retained !== 'after saving' && this.parameter.retained !== 'never') this.save();
    this.guard.written();
    return undefined;
  }

  /** Its value outlasts a loss of power. */
  save(): void {
    if (this.parameter.retained !== 'never' || this.saved === undefined) this.saved = this.bytes.slice();
  }

  /** What a loss of power leaves. */
  powerOn(): void {
    this.bytes.set(this.saved);
  }
}

/**
 * What the device at a port says it is: vendor and device in bytes 7 to 11 of its direct parameters, its product name
 * at index 18 (IO-Link interface specification V1.1.3, annex B; from memory).
 */
function portIdentity(place: Parameter['place'], ports: readonly PortDevice[]): Uint8Array | undefined {
  const held = place?.way === 'port' ? ports.find((p) => p.port === place.port) : undefined;
  if (!held || place?.way !== 'port') return undefined;
  const { vendorId, deviceId, productName } = held;
  if (place.index === 18) return new TextEncoder().encode(productName);
  if (place.index !== 0) return undefined;
  const bytes = new Uint8Array(16);
  bytes.set([vendorId >> 8, vendorId & 0xff, deviceId >> 16, (deviceId >> 8) & 0xff, deviceId & 0xff], 7);
  return bytes;
}

/** Values that a start finds again: a save command has this word among its labels, a restart command that one. */
const commands = { save: /\b(save|store)\b/i, restart: /\b(restart|reboot|reset)\b/i } as const;

/** The parameters of a stand-in, and what they are for. */
export class DescribedParameters {
  readonly all: readonly DescribedParameter[];
  private readonly settings: ReadonlyMap<string, DescribedParameter>;
  private readonly shown: readonly [Role, DescribedParameter][];
  /** The device moves: what needs a standstill is refused. */
  private moving = false;
  /** Of each port, the first first, whether its device talks; what has no ports says nothing of them. */
  private ports: readonly boolean[] | undefined;
  /** It is told to start anew. */
  onRestart: () => void = () => undefined;

  constructor(parameters: readonly Parameter[], ports: readonly PortDevice[] = []) {
    const byCode = new Map<string, DescribedParameter>();
    const places = decimalPlaces(parameters.map((p) => ({ ...p, planned: null })));
    this.all = parameters.map((one) => {
      const { key } = one;
      const described: DescribedParameter = new DescribedParameter(new ParameterCodec(one, places(one)), {
        opened: () => !key || byCode.get(key.code)?.raw === ratioNumber(key.raw),
        moves: () => this.moving,
        talks: () => one.place?.way !== 'port' || this.ports?.[one.place.port - 1] !== false,
        written: () => this.acted(described),
      });
      if (one.code && !byCode.has(one.code)) byCode.set(one.code, described);
      return described;
    });
    for (const one of this.all) one.answer(portIdentity(one.parameter.place, ports));
    const withRole = this.all.flatMap((one): [Role, number, DescribedParameter][] =>
      one.parameter.role ? [[one.parameter.role.is, one.parameter.role.number ?? 1, one]] : [],
    );
    const isShown = (role: Role) => factsOfRole(role).direction === 'feedback';
    this.settings = new Map(
      withRole.filter(([role]) => !isShown(role)).map(([role, number, one]) => [`${role} ${number}`, one]),
    );
    this.shown = withRole.filter(([role]) => isShown(role)).map(([role, , one]) => [role, one]);
  }

  /** What a parameter with this role is set to. */
  set(role: Role, number = 1): Setting | undefined {
    const one = this.settings.get(`${role} ${number}`);
    if (!one) return undefined;
    const { label } = one;
    return { value: one.value, unit: one.parameter.unit, ...(label === undefined ? {} : { label }) };
  }

  /** Takes over what a parameter with this role is set to in another way, such as by configuration data. */
  take(role: Role, value: number, number = 1): boolean {
    const one = this.settings.get(`${role} ${number}`);
    one?.show(value);
    return one !== undefined;
  }

  /** Takes what a device shows into the parameters that are for it. */
  show(values: ShownRoles): void {
    this.moving = values.running === true || values['program running'] === true;
    const ports = values['port valid'];
    if (Array.isArray(ports)) this.ports = ports.map(Boolean);
    for (const [role, one] of this.shown) {
      const value = values[role];
      if (typeof value === 'number' || typeof value === 'boolean') one.show(Number(value));
    }
  }

  /** Whether one that needs a key can be written now. */
  get unlocked(): boolean {
    return this.all.some(({ parameter: { key } }) => {
      const lock = key && this.all.find((one) => one.parameter.code === key.code);
      return lock ? lock.raw === ratioNumber(key.raw) : false;
    });
  }

  restore(): void {
    for (const one of this.all) one.restore();
  }

  /** What a loss of power leaves of them. */
  powerOn(): void {
    for (const one of this.all) one.powerOn();
  }

  /** One that is a command has been written: it acts, and goes back to what it was. */
  private acted(one: DescribedParameter): void {
    if (one.parameter.role?.is !== 'device command') return;
    const label = one.label ?? '';
    one.bytes.fill(0);
    if (commands.save.test(label)) for (const each of this.all) each.save();
    if (commands.restart.test(label)) this.onRestart();
  }
}
