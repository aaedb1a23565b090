/** What a reader is told. */
export interface Wording {
  /** What happened, and where. */
  says: string;
  /** What to do about it. */
  cure: string;
}

/** A sentence for each code of a room; it does not build when one is left out. */
export type Texts<Facts> = { [C in keyof Facts]: (facts: Facts[C]) => Wording };
