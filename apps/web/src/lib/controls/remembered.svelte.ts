/** How this browser shows something, which outlasts the page. `of` reads back what was kept, or gives the usual one. */
export class Remembered<T extends string | boolean> {
  private current = $state<T>() as T;

  constructor(
    private readonly key: string,
    of: (kept: string | null) => T,
  ) {
    this.current = of(typeof localStorage === 'undefined' ? null : localStorage.getItem(key));
  }

  get value(): T {
    return this.current;
  }
  set value(to: T) {
    this.current = to;
    localStorage.setItem(this.key, String(to));
  }
}

/** Something that is open or not. */
export const rememberedOpen = (key: string, usual: boolean): Remembered<boolean> =>
  new Remembered(key, (kept) => (kept === null ? usual : kept === 'true'));
