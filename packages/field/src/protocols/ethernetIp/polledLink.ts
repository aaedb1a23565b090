import { finding, type EthernetIpLink } from '@fadenkreuz/core';
import {
  classes,
  hexCode,
  logical,
  services,
  statusText,
  type RouterResponse,
} from '@fadenkreuz/core/ethernet-ip';
import { attended } from '../../timing/attendedTime.js';
import type { LinkEnds } from '../ends.js';
import { RunningLink, type LinkContext } from '../runningLink.js';
import { clientOptions, ExplicitClient } from './explicitClient.js';
import { sizeRefused, type ConnectionName } from './openRequest.js';

/** Attribute 3 of an assembly: its data. */
const dataOf = (instance: number) => [
  logical('class', classes.assembly),
  logical('instance', instance),
  logical('attribute', 3),
];

/**
 * Assemblies exchanged by explicit requests at a poll time, for devices that offer nothing else. One request at a time,
 * in turn. Connected, the device drops its outputs when the requests stop; unconnected, it holds what it was told last.
 */
export class PolledLink extends RunningLink<EthernetIpLink> {
  override readonly polled = true;
  private client: ExplicitClient | undefined;
  private stops: (() => void)[] = [];
  private watchFrom = 0;
  private readonly due = { command: false, feedback: false };
  private asking = false;

  constructor(
    ends: LinkEnds<EthernetIpLink>,
    context: LinkContext,
    private readonly name: () => ConnectionName,
  ) {
    super(ends, context);
  }

  watch(now: number): void {
    const limit = (this.link.feedbackRpi / 1000) * this.link.timeoutMultiplier;
    const silence = attended(now) - this.watchFrom;
    if (this.state === 'open' && silence > limit) this.silent(silence);
  }

  protected async open(): Promise<void> {
    const { context, link } = this;
    const client = await ExplicitClient.open({
      ...clientOptions(this.ends),
      tap: context.tap,
      reach: context.reach,
    });
    this.client = client;
    if (link.connection === 'polled-connected')
      // The device waits for four of these intervals.
      await client.connect(
        this.name(),
        Math.max(link.feedbackRpi, (link.feedbackRpi * link.timeoutMultiplier) / 4),
      );
    const [command, feedback] = [link.commandRpi / 1000, link.feedbackRpi / 1000];
    // A first exchange shows whether the instances are there before the link is called open.
    if (!(await this.exchange('feedback'))) return;
    if (link.command.size > 0 && !(await this.exchange('command'))) return;
    if (this.ended) return;
    this.watchFrom = attended();
    this.stands(feedback);
    this.stops = [
      context.schedule.every(feedback, () => this.want('feedback')),
      ...(link.command.size > 0 ? [context.schedule.every(command, () => this.want('command'))] : []),
    ];
  }

  protected async release(): Promise<void> {
    for (const stop of this.stops) stop();
    this.stops = [];
    const { client } = this;
    this.client = undefined;
    await client?.close();
  }

  sendAhead(): void {
    if (this.state === 'open' && this.link.command.size > 0) this.want('command');
  }

  private want(direction: 'command' | 'feedback'): void {
    // A turn that comes while the one before still waits is left out.
    if (this.due[direction]) this.leaveOut();
    this.due[direction] = true;
    if (!this.asking) void this.serve();
  }

  private async serve(): Promise<void> {
    this.asking = true;
    try {
      while (this.state === 'open' && (this.due.feedback || this.due.command)) {
        const direction = this.due.command ? 'command' : 'feedback';
        this.due[direction] = false;
        if (direction === 'command' && !this.writesNow('')) continue;
        if (!(await this.exchange(direction))) break;
      }
    } catch {
      if (this.state === 'open') this.silent(attended() - this.watchFrom);
    }
    this.asking = false;
  }

  /** One request; false when the device refused it, which ends the link. Throws when nothing answers. */
  private async exchange(direction: 'command' | 'feedback'): Promise<boolean> {
    const { client, link } = this;
    if (!client) return false;
    const image = link[direction];
    const from = performance.now();
    const answer = await client.requestConnected({
      service: direction === 'command' ? services.setAttributeSingle : services.getAttributeSingle,
      path: dataOf(image.instance),
      data: direction === 'command' ? this.command : new Uint8Array(),
    });
    if (this.ended || client !== this.client) return false;
    if (answer.status !== 0) return this.refused(answer);
    this.answered();
    const now = performance.now();
    this.probe = { answerMs: now - from, identityStatus: null, refusal: null };
    this.watchFrom = attended(now);
    if (direction === 'command') {
      this.gone();
      return true;
    }
    if (answer.data.length !== this.feedback.length) {
      this.lose('refused', sizeRefused(this.device, image, answer.data.length, ''));
      return false;
    }
    this.take(answer.data, 0, 0, now);
    return true;
  }

  private refused({ status, extended }: RouterResponse): false {
    const { means, cure } = statusText(status, extended);
    this.lose(
      'refused',
      finding(
        'link.requestRefused',
        'error',
        { device: this.device.id },
        { device: this.device.name, general: hexCode(status, 2), meaning: means, cure },
      ),
    );
    return false;
  }
}
