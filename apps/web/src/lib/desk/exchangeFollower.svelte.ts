import { ExchangeStory, type Story } from '../api/exchanges.js';
import { send } from './send.js';

/** How often the bench is asked while the exchange runs, and else; ms. */
const busyMs = 200;
const idleMs = 2000;

/** What is known of one exchange on the bench, as long as a part of the screen looks at it. */
export class ExchangeFollower {
  story = $state.raw<Story | undefined>();
  private timer: ReturnType<typeof setTimeout> | undefined;
  private ended = false;

  constructor(
    private readonly exchange: string,
    private readonly running: () => boolean,
  ) {
    void this.ask();
  }

  end(): void {
    this.ended = true;
    clearTimeout(this.timer);
  }

  /** Asks at once: something was begun. */
  async ask(): Promise<void> {
    clearTimeout(this.timer);
    if (this.running()) {
      const answer = await send(
        'GET',
        `/api/bench/exchange?exchange=${encodeURIComponent(this.exchange)}`,
        ExchangeStory,
      );
      if (this.ended) return;
      if (answer.ok) this.story = answer.value.story ?? undefined;
    } else this.story = undefined;
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.ask(), this.story?.status.state === 'running' ? busyMs : idleMs);
  }
}
