import demo from '@fadenkreuz/demo/ripening-store-3.json' with { type: 'json' };
import { actingByRoles } from '../cell/acting.js';
import { readCellFile } from '../cell/cellFile.js';
import type { Behaviour } from '../devices/behaviour.js';
import { lossBy, type ConnectionPoint } from '../devices/description.js';
import { DescribedParameters } from '../devices/plain/parameters.js';
import { codecOf } from '../layout/codec.js';
import { LaidOut, type PointBytes } from './laidOut.js';
import { RoleDriven } from './roleDriven.js';

export const demoCell = readCellFile(JSON.stringify(demo));

/** A device of the demo over its own points, commanded and read by the names of its planned layout. */
export class Trial {
  private readonly met: Record<string, number> = {};
  state: unknown;
  readonly behaviour: Behaviour<unknown>;
  readonly points: (ConnectionPoint & PointBytes)[];
  readonly parameters: DescribedParameters;
  private readonly device;
  private readonly link;
  private readonly acts: RoleDriven;
  private readonly laidOut;
  private connected = true;
  private run = true;

  constructor(deviceId: string) {
    const device = (this.device = demoCell.devices.find((d) => d.id === deviceId)!);
    const { description } = device;
    this.link = device.links[0]!;
    this.points = description.points.map((point) => ({ ...point, bytes: new Uint8Array(point.size) }));
    this.laidOut = new LaidOut(this.link, description);
    this.parameters = new DescribedParameters(description.parameters);
    this.acts = new RoleDriven(actingByRoles(device)!, this.link, description, {
      met: (quantity) => this.met[quantity],
      parameters: this.parameters,
      holds: () =>
        lossBy(description.loss, this.point('configuration')?.bytes ?? new Uint8Array()) === 'hold',
    });
    this.behaviour = this.acts.behaviour(() => this.points);
    this.state = this.behaviour.start();
  }

  private point(use: ConnectionPoint['use'], number?: number): ConnectionPoint & PointBytes {
    return this.points.find((p) => p.use === use && (number === undefined || p.number === number))!;
  }
  private get commanded() {
    const { command } = this.link;
    return this.point('command', command.instance || undefined);
  }

  /** Sets fields of the command image; engineering values. */
  set(values: Record<string, number | boolean>): this {
    const codec = codecOf(this.link.command);
    const bytes = new Uint8Array(Math.max(codec.bytes, this.commanded.size));
    bytes.set(this.commanded.bytes);
    const view = new DataView(bytes.buffer);
    codec.decode(view);
    for (const [name, value] of Object.entries(values)) {
      const index = codec.signals.findIndex((s) => s.name === name);
      if (index < 0) throw new Error(`no ${name}`);
      if (typeof value === 'boolean') codec.setValue(index, value);
      else codec.setEngineering(index, value);
    }
    codec.encode(view);
    this.commanded.bytes.set(bytes.subarray(0, this.commanded.bytes.length));
    return this;
  }

  after(ms: number, elapsedMs = 10): this {
    for (let t = 0; t < ms; t += elapsedMs)
      this.state = this.behaviour.step(this.state, {
        elapsedMs,
        owned: this.connected,
        point: this.commanded.number,
        run: this.run,
      });
    return this;
  }

  /** Configuration data, as they come when a connection is opened. */
  configure(data: readonly number[]): this {
    this.point('configuration').bytes.set(data);
    this.acts.configured(this.points);
    return this;
  }

  /** The controller is lost: what drops its outputs has zeros from now on. */
  lost(connected = false): this {
    this.connected = connected;
    if (!connected) this.commanded.bytes.fill(0);
    return this;
  }
  idle(): this {
    this.run = false;
    return this;
  }
  /** What of the machine acts on it. */
  around(met: Record<string, number>): this {
    Object.assign(this.met, met);
    return this;
  }
  fault(id: string, injected = true): this {
    const fault = this.behaviour.faults.find((f) => f.id === id)!;
    this.state = injected ? fault.inject(this.state) : fault.clear(this.state);
    return this;
  }
  /** Bytes of a feedback point. */
  bytes(number: number): Uint8Array {
    const { bytes } = this.point('feedback', number);
    this.behaviour.feedback(bytes, number);
    return bytes;
  }
  /** One value of the feedback image, engineering. */
  get(name: string): number {
    const image = this.link.feedback;
    const bytes = new Uint8Array(image.size);
    bytes.set(this.bytes(this.point('feedback', image.instance || undefined).number));
    const codec = codecOf(image);
    codec.decode(new DataView(bytes.buffer));
    const index = codec.signals.findIndex((s) => s.name === name);
    if (index < 0) throw new Error(`no ${name}`);
    return codec.numbers[index]!;
  }

  /** The value of a role or field by its identifier, as the machine around it reads it. */
  valueOf(name: string): number | undefined {
    for (const { use, number } of this.points) if (use === 'feedback') this.bytes(number);
    return this.laidOut.valueOf(name, this.points);
  }
}
