import { blockBytes, finding, Problem, type Block, type ModbusTcpLink } from '@fadenkreuz/core';
import { meiIdentification } from '@fadenkreuz/core/modbus-tcp';
import { attended } from '../../timing/attendedTime.js';
import { ipEnd } from '../ends.js';
import { RunningLink } from '../runningLink.js';
import { ModbusClient } from './client.js';
import { readPlaces, writePlaces } from './places.js';

/** How a block does, for the fields that show it. */
interface BlockState {
  block: Block;
  /** `performance.now()` of its last good exchange. */
  goodAt: number | undefined;
  asking: boolean;
  /** A turn came while it was asking. */
  owed: boolean;
}

/** Ages above this are shown as this: the field has 16 bits. */
const oldestShown = 0xffff;

/**
 * A Modbus TCP link: several blocks, each read or written at its own poll time, in as many requests as the limits of
 * the protocol ask for, and never a register that no block names. Freshness of every block can be shown in the feedback
 * image.
 */
export class BlocksLink extends RunningLink<ModbusTcpLink> {
  override readonly polled = true;
  private client: ModbusClient | undefined;
  private stops: (() => void)[] = [];
  private watchFrom = 0;
  /** It fell silent at the question what it is: the next attempt, and only that, does without. */
  private mute = false;
  private readonly blocks: BlockState[] = this.link.blocks.map((block) => ({
    block,
    goodAt: undefined,
    asking: false,
    owed: false,
  }));

  watch(now: number): void {
    this.showFreshness(now);
    const silence = attended(now) - this.watchFrom;
    if (this.state === 'open' && silence > this.silenceLimitMs) this.silent(silence);
  }

  /** Blocks may have long poll times: the quickest one says how long is too long. */
  private get silenceLimitMs(): number {
    const quickest = Math.min(...this.link.blocks.map((b) => b.poll), 1_000_000);
    return Math.max((quickest / 1000) * this.link.timeoutMultiplier, 100);
  }

  protected async open(): Promise<void> {
    const { context, link } = this;
    const { end, localAddress, cut } = this.ends;
    const { address, port = link.port } = ipEnd(end);
    this.client = await ModbusClient.open({
      address,
      port,
      localAddress,
      cut,
      tap: context.tap,
      reach: context.reach,
      answerLimitMs: Math.min(Math.max(this.silenceLimitMs, 200), 2000),
    });
    for (const state of this.blocks) {
      state.goodAt = undefined;
      state.asking = state.owed = false;
    }
    const other = await this.otherDevice(this.client);
    if (other || this.ended) return;
    // Feedback first: what cannot even be read is not written to.
    const inOrder = [...this.blocks].sort((a, b) => b.block.direction.localeCompare(a.block.direction));
    for (const state of inOrder) if (!(await this.exchange(state))) return;
    if (this.ended) return;
    this.watchFrom = attended();
    const read = this.link.blocks.filter((b) => b.direction === 'feedback').map((b) => b.poll);
    this.stands(Math.min(...read, ...(read.length ? [] : [1_000_000])) / 1000);
    this.stops = this.blocks.map((state) =>
      context.schedule.every(state.block.poll / 1000, () => void this.turn(state)),
    );
  }

  /** Whether the device says that it is another one than planned, which ends the link; most devices say nothing. */
  private async otherDevice(client: ModbusClient): Promise<boolean> {
    const { identity } = this.device;
    // A plan without a product code says nothing that could be compared.
    if (identity.productCode === 0) return false;
    if (this.mute) {
      this.mute = false;
      return false;
    }
    const ask = { mei: meiIdentification, category: 1, object: 0 };
    const answer = await client.ask(this.link.unit, 'readIdentification', ask).catch((error: unknown) => {
      if (error instanceof Problem) return undefined;
      // Some devices fall silent at a function that they do not know; others were only cut off meanwhile.
      this.mute = true;
      throw error;
    });
    const product = answer?.objects.find((o) => o.id === 1)?.text;
    const revision = answer?.objects.find((o) => o.id === 2)?.text;
    if (product === undefined) return false;
    const planned = `${identity.productCode}, revision ${identity.majorRevision}.${identity.minorRevision}`;
    const found = `${product}, revision ${revision}`;
    if (planned === found) return false;
    const facts = { device: this.device.name, planned, found };
    this.lose('refused', finding('link.otherDevice', 'error', { device: this.device.id }, facts));
    return true;
  }

  protected async release(): Promise<void> {
    for (const stop of this.stops) stop();
    this.stops = [];
    const { client } = this;
    this.client = undefined;
    await client?.close();
  }

  sendAhead(): void {
    for (const state of this.blocks) if (state.block.direction === 'command') void this.turn(state);
  }

  private async turn(state: BlockState): Promise<void> {
    if (this.state !== 'open') return;
    if (state.asking) {
      // One turn is made up for when the answer has come; what comes beyond it is left out.
      if (state.owed) this.leaveOut();
      state.owed = true;
      return;
    }
    try {
      do {
        state.owed = false;
        if (state.block.direction === 'command' && !this.writesNow(state.block.id)) return;
        if (!(await this.exchange(state))) return;
      } while (state.owed && this.state === 'open');
    } catch {
      if (this.state === 'open') this.silent(attended() - this.watchFrom);
    }
  }

  /** Reads or writes a block once; false when the device refused, which ends the link. Throws when nothing answers. */
  private async exchange(state: BlockState): Promise<boolean> {
    const { client } = this;
    if (!client) return false;
    state.asking = true;
    const from = performance.now();
    try {
      if (state.block.direction === 'feedback') await this.readBlock(client, state.block);
      else await this.writeBlock(client, state.block);
    } catch (error) {
      if (!(error instanceof Problem) || this.ended || client !== this.client) throw error;
      const { says, cure, facts: told } = error.report();
      const { exception = 0 } = told as { exception?: number };
      const facts = { device: this.device.name, block: state.block.name, exception, says, cure };
      this.lose('refused', finding('link.blockRefused', 'error', { device: this.device.id }, facts));
      return false;
    } finally {
      state.asking = false;
    }
    this.answered();
    state.goodAt = performance.now();
    this.watchFrom = attended(state.goodAt);
    this.probe = { answerMs: state.goodAt - from, identityStatus: null, refusal: null };
    return client === this.client;
  }

  private async readBlock(client: ModbusClient, block: Block): Promise<void> {
    const bytes = await readPlaces(client, { ...block, unit: this.link.unit });
    if (client === this.client) this.take(bytes, 0, block.at, performance.now());
  }

  private async writeBlock(client: ModbusClient, block: Block): Promise<void> {
    const bytes = this.command.subarray(block.at, block.at + blockBytes(block));
    await writePlaces(client, { ...block, unit: this.link.unit }, bytes);
    this.gone();
  }

  /** Writes bit and age of each block into the feedback image, where the plan wants them. */
  private showFreshness(now: number): void {
    for (const { block, goodAt } of this.blocks) {
      const age = goodAt === undefined ? oldestShown : Math.min(oldestShown, Math.round(now - goodAt));
      const fresh = this.state === 'open' && age <= (block.poll / 1000) * this.link.timeoutMultiplier;
      if (block.fresh !== null && block.fresh >> 3 < this.feedback.length) {
        const mask = 1 << (block.fresh & 7);
        if (fresh) this.feedback[block.fresh >> 3]! |= mask;
        else this.feedback[block.fresh >> 3]! &= ~mask;
      }
      if (block.age !== null && block.age + 1 < this.feedback.length) {
        this.feedback[block.age] = age >> 8;
        this.feedback[block.age + 1] = age & 0xff;
      }
    }
  }
}
