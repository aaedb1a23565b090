import { goto } from '$app/navigation';
import type { Desk } from '$lib/desk/desk.svelte.js';
import type { Target } from './find.js';

/** Goes to where something is looked at. */
export function follow(desk: Desk, target: Target): void {
  const base = `/cells/${desk.cell.id}`;
  if (target.to === 'bit') {
    desk.crosshair = { image: target.image, bit: target.bit };
    void goto(`${base}/sight`);
  } else if (target.to === 'device') {
    desk.choose(target.device);
    void goto(`${base}/line-up`);
  } else void goto(target.to === 'view' ? `${base}/${target.path}` : target.path);
}
