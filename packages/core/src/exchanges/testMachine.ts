import type { Cell, Device } from '../cell/model.js';
import type { Link } from '../cell/link.js';
import { testCell, testDevice, testLink } from '../cell/testCell.js';
import { nextSeed } from '../devices/disturbance.js';
import { Commands } from '../devices/byRoles/commands.js';
import { roleBehaviourOf } from '../devices/byRoles/list.js';
import { RoleImage } from '../devices/byRoles/roleImage.js';
import type { Laid } from '../devices/byRoles/testLayouts.js';
import type { DeviceKind } from '../devices/kinds.js';

/** For tests: a device of a kind on any layout and protocol, behind a wire that delays and loses packets. */

export function cellWith(
  kind: DeviceKind,
  laid: Laid,
  protocol: Link['protocol'],
): { cell: Cell; device: Device } {
  const plain = testDevice();
  const { command, feedback } = testLink(protocol);
  const { fields: out, size: outSize } = laid.command;
  const { fields: back, size: backSize } = laid.feedback;
  const link = testLink(protocol, {
    command: { ...command, fields: out, size: outSize },
    feedback: { ...feedback, fields: back, size: backSize },
  } as never) as Link;
  const device: Device = { ...plain, kind, name: 'unit_a1', links: [link] };
  return { cell: testCell([device]), device };
}

export interface Wire {
  seed: number;
  /** Of 100 packets so many are lost; scans that one takes at most. */
  lost: number;
  delay: number;
  /** A fault of the kind that strikes after so many ms. */
  fault?: { id: string; atMs: number } | undefined;
  met?: Readonly<Record<string, number>> | undefined;
}

/** ms from one scan of the controller to the next; a packet goes every second scan. */
export const scanMs = 10;

export class TestMachine {
  readonly command: Uint8Array;
  readonly feedback: Uint8Array;
  private readonly own: RoleImage;
  private readonly shown: RoleImage;
  private readonly commands: Commands;
  private readonly kind;
  private state: unknown;
  private random: number;
  private readonly underWay: { due: number; to: 'device' | 'controller'; bytes: Uint8Array }[] = [];
  private ms = 0;

  constructor(
    kind: DeviceKind,
    link: Link,
    private readonly wire: Wire,
  ) {
    this.kind = roleBehaviourOf(kind)!;
    this.own = new RoleImage(link.command);
    this.shown = new RoleImage(link.feedback);
    this.command = new Uint8Array(link.command.size);
    this.feedback = new Uint8Array(link.feedback.size);
    this.commands = new Commands(this.own, {
      met: (quantity) => wire.met?.[quantity],
      set: () => undefined,
      shown: (role) => this.shown.numbers(role),
      holds: () => false,
    });
    this.state = this.kind.start();
    this.random = wire.seed;
    // The device has shown its state before the controller looks for the first time.
    this.device(20);
    this.feedback.set(this.shown.bytes.subarray(0, this.feedback.length));
  }

  private chance(of: number): number {
    this.random = nextSeed(this.random);
    return Math.abs(this.random >> 7) % of;
  }

  private device(ms: number): void {
    this.state = this.kind.step(this.state, this.commands.next(ms, true));
    this.shown.show(this.kind.shows(this.state, this.shown));
  }

  /** What the device shows now, whatever has reached the controller of it. */
  get now(): RoleImage {
    this.shown.read();
    return this.shown;
  }

  /** How fast what it drives goes; 0 for what moves nothing. */
  get moves(): number {
    return this.kind.moves?.(this.state, { scale: 1 }) ?? 0;
  }

  /** One scan of the controller is over: packets go and come, the device works on. */
  step(): void {
    this.ms += scanMs;
    const { fault } = this.wire;
    if (fault && this.ms >= fault.atMs && this.ms < fault.atMs + scanMs)
      this.state = this.kind.faults.find((f) => f.id === fault.id)!.inject(this.state);
    if (this.ms % (2 * scanMs) === 0) {
      this.send('device', this.command);
      this.send('controller', this.shown.bytes);
    }
    // Of packets that overtake each other the newest counts, as on every cyclic link.
    for (const packet of this.underWay.splice(0)) {
      if (packet.due > this.ms) this.underWay.push(packet);
      else if (packet.to === 'device') this.own.bytes.set(packet.bytes.subarray(0, this.own.bytes.length));
      else this.feedback.set(packet.bytes.subarray(0, this.feedback.length));
    }
    this.device(scanMs);
  }

  private send(to: 'device' | 'controller', bytes: Uint8Array): void {
    if (this.chance(100) < this.wire.lost) return;
    const last = Math.max(0, ...this.underWay.filter((p) => p.to === to).map((p) => p.due));
    const due = Math.max(last, this.ms + scanMs * this.chance(this.wire.delay + 1));
    this.underWay.push({ due, to, bytes: bytes.slice() });
  }
}
