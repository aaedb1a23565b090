import type { Desk } from '$lib/desk/desk.svelte.js';
import { send } from '$lib/desk/send.js';
import type { ManualMove, ManualStatus } from '@fadenkreuz/field/agent-api';

/** How often the agent hears that somebody still holds, ms: several times in its 200 ms. */
const everyMs = 50;

/**
 * A move by hand from this window: begun with a button, held as long as the button is, or until it has arrived.
 * Whatever takes the window away ends it: release, focus, another tab, the browser itself, the connection.
 */
export class Holding {
  /** The device that is held; undefined while none is. */
  device = $state<string | undefined>();
  /** It was seen to move, or to get ready, since it is held. */
  private seen = false;
  private timer: ReturnType<typeof setInterval> | undefined;

  constructor(private readonly desk: Desk) {}

  /** Begins; a refusal becomes the note, and nothing is held. */
  async begin(device: string, move: ManualMove): Promise<void> {
    this.end();
    this.device = device;
    this.seen = false;
    this.timer = setInterval(() => void this.still(), everyMs);
    const begun = await this.desk.askArmed('/move', { device, move });
    if (!begun) this.end();
  }

  /** The agent is told again; one that does not answer in time hears of it no more, and lets go by itself. */
  private async still(): Promise<void> {
    const { device } = this;
    if (device === undefined) return;
    const answer = await send(
      'POST',
      '/api/bench/hold',
      undefined,
      { device, holder: this.desk.holder },
      150,
    );
    if (!answer.ok && !answer.away && this.device === device) this.end();
  }

  /** What the bench says of it: once it has come to rest, nothing is held any more. */
  hear(state: ManualStatus['state'] | undefined): void {
    if (this.device === undefined) return;
    if (state === 'preparing' || state === 'moving') this.seen = true;
    else if (this.seen) this.end();
  }

  /** Lets go, at once. */
  letGo(): void {
    const { device } = this;
    if (device === undefined) return;
    this.end();
    const body = { device, holder: this.desk.holder };
    void send('POST', '/api/bench/let-go', undefined, body);
  }

  private end(): void {
    clearInterval(this.timer);
    this.timer = undefined;
    this.device = undefined;
  }

  /** Listens to whatever takes the window away; returns the way to end it. */
  listen(): () => void {
    const go = () => this.letGo();
    const hidden = () => document.hidden && this.letGo();
    window.addEventListener('blur', go);
    window.addEventListener('pagehide', go);
    window.addEventListener('offline', go);
    document.addEventListener('visibilitychange', hidden);
    return () => {
      go();
      window.removeEventListener('blur', go);
      window.removeEventListener('pagehide', go);
      window.removeEventListener('offline', go);
      document.removeEventListener('visibilitychange', hidden);
    };
  }
}
