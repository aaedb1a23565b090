import { finding } from '../../messages/finding.js';
import type { LinkRule } from '../protocol.js';
import type { ProfinetLink, ProfinetOffer } from './link.js';
import { stationNameOf } from './stationName.js';

/** A PROFINET device is found by its station name, which knows fewer letters than a name does. */
export const stationNameDiffers: LinkRule<ProfinetLink, ProfinetOffer> = ({ device: { id, name } }) => {
  const becomes = stationNameOf(name);
  return becomes === name ? [] : [finding('device.stationName', 'notice', { device: id }, { name, becomes })];
};
