/** Exit codes of the command line (DESIGN.md §4). */
export const exitCodes = { done: 0, findings: 1, badInput: 2 } as const;

/** Whole numbers that JSON's readers would round are written as texts. */
const exactly = (_key: string, value: unknown): unknown =>
  typeof value === 'bigint' ? String(value) : value;

/** Prints one value: as a JSON line, or as the sentence that is for people. */
export function print(json: boolean, value: object, text: string): void {
  process.stdout.write((json ? JSON.stringify(value, exactly) : text) + '\n');
}

/** Resolves after this many seconds, or when the program is asked to stop. */
export function wait(seconds: number | undefined): Promise<void> {
  return new Promise((resolve) => {
    const timer =
      seconds === undefined ? setInterval(() => undefined, 60_000) : setTimeout(end, seconds * 1000);
    function end() {
      clearTimeout(timer);
      process.off('SIGINT', end);
      process.off('SIGTERM', end);
      resolve();
    }
    process.on('SIGINT', end);
    process.on('SIGTERM', end);
  });
}
