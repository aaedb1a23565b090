/**
 * Values that come one by one from callbacks, to be read with `for await`; ends when the work that brings them does.
 */
export class AsyncQueue<T> implements AsyncIterable<T> {
  private readonly waiting: T[] = [];
  private ended = false;
  private failure: { error: unknown } | undefined;
  private wake: () => void = () => undefined;

  put(value: T): void {
    this.waiting.push(value);
    this.wake();
  }

  /** No more values come once this is done; if it fails, so does the reading. */
  endWith(work: Promise<unknown>): void {
    work
      .catch((error: unknown) => (this.failure = { error }))
      .finally(() => {
        this.ended = true;
        this.wake();
      });
  }

  async *[Symbol.asyncIterator](): AsyncIterator<T> {
    for (;;) {
      while (this.waiting.length > 0) yield this.waiting.shift()!;
      if (this.ended) break;
      await new Promise<void>((resolve) => (this.wake = resolve));
    }
    if (this.failure) throw this.failure.error;
  }
}
