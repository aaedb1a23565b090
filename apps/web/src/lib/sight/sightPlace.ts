import { allImages, type ImagePlace } from '@fadenkreuz/core';
import type { Desk } from '../desk/desk.svelte.js';

/**
 * The image that the Sight is about: under the crosshair, else the first feedback image.
 */
export function sightPlace(desk: Desk): ImagePlace | undefined {
  const places = allImages(desk.cell);
  const feedback = places.filter((p) => p.image.direction === 'feedback');
  return places.find((p) => p.image.id === desk.crosshair?.image) ?? feedback[0];
}
