import type { SafetyLogic } from '@fadenkreuz/core';
import { getContext, setContext } from 'svelte';

/** What the blocks of a drawing ask of it. */
export interface Drawn {
  readonly logic: SafetyLogic;
  readonly chosen: string | undefined;
  /** Undefined: nothing is known of it. */
  value(id: string): boolean | undefined;
  choose(id: string): void;
}

const key = Symbol('the drawing of a network');
export const giveDrawn = (drawn: Drawn): Drawn => setContext(key, drawn);
export const useDrawn = (): Drawn => getContext<Drawn>(key);
