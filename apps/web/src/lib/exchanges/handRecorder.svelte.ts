import { allImages, draftFrom, type Exchange, type HeardImage } from '@fadenkreuz/core';
import { ImageNews } from '../api/live.js';
import { fromBase64 } from '../desk/liveBytes.js';
import type { Desk } from '../desk/desk.svelte.js';
import { send } from '../desk/send.js';

/** How often the bench is asked for what its images became, ms. */
const askMs = 400;
/** The bench follows so many links at once. */
const mostLinks = 200;

/** Records what is done by hand on the bench, and makes a draft of it. */
export class HandRecorder {
  recording = $state(false);
  /** Packets that differed from the one before. */
  count = $state(0);
  private heard: HeardImage[] = [];
  private since = 0;
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor(private readonly desk: Desk) {}

  async start(): Promise<void> {
    this.heard = [];
    this.count = 0;
    this.recording = true;
    // What was before the begin is what it begins with, and nothing that was done.
    const news = await this.news(0);
    this.since = news?.changes.at(-1)?.number ?? 0;
    for (const { image } of allImages(this.desk.cell)) {
      const bytes = this.desk.bytes.get(image.id);
      if (bytes) this.heard.push({ at: 0, image: image.id, bytes: bytes.slice() });
    }
    this.plan();
  }

  /** Ends it; undefined where nothing was commanded. */
  async stop(): Promise<Exchange | undefined> {
    clearTimeout(this.timer);
    await this.ask();
    this.recording = false;
    const draft = draftFrom(
      this.desk.cell,
      this.heard,
      `by hand ${this.desk.cell.exchanges.length + 1}`,
      () => crypto.randomUUID(),
    );
    return draft.steps.length > 0 ? draft : undefined;
  }

  end(): void {
    clearTimeout(this.timer);
    this.recording = false;
  }

  private plan(): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.ask().then(() => this.recording && this.plan()), askMs);
  }

  private async ask(): Promise<void> {
    const news = await this.news(this.since);
    for (const { number, at, link, direction, bytes } of news?.changes ?? []) {
      this.since = number;
      const image = allImages(this.desk.cell).find(
        (p) => p.link.id === link && p.image.direction === direction,
      );
      if (image) this.heard.push({ at, image: image.image.id, bytes: fromBase64(bytes) });
    }
    this.count = this.heard.length;
  }

  private async news(since: number) {
    const links = this.desk.cell.devices.flatMap((d) => d.links.map((l) => l.id)).slice(0, mostLinks);
    const answer = await send('POST', '/api/bench/images', ImageNews, { links, since });
    return answer.ok ? answer.value : undefined;
  }
}
