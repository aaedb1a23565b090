import { means } from '../settingMeaning.js';
import type { Told } from './commands.js';

/** Settings by which a device obeys the network or does not, read by their labels. */

/** Whether a setting lets the network give this; a device without such a setting does. */
export const networkGives = (told: Told, source: 'start source' | 'reference source'): boolean => {
  const label = told.parameter(source)?.label;
  return label === undefined || means(label, 'network');
};

/** On loss of the network it goes on with what it was last told, where its setting says so. */
export const carriesOn = (told: Told): boolean => {
  const label = told.parameter('loss reaction')?.label;
  return label !== undefined && means(label, 'carry on') && !means(label, 'stop');
};
