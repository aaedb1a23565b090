import { identifierOf } from '../entries/identifiers.js';
import { namingTrouble, patternTrouble } from '../lineup/naming.js';
import { finding } from '../messages/finding.js';
import { groupsBy, type Rule } from './rule.js';

/** Two devices, or a device and the controller, have one name. */
export const deviceNameTwice: Rule = ({ devices, controller }) =>
  groupsBy([{ id: undefined, name: controller.name }, ...devices], (d) => d.name.toLowerCase())
    .filter((group) => group.length > 1)
    .map((group) => {
      const { id, name } = group.at(-1)!;
      return finding('device.nameTwice', 'error', id ? { device: id } : {}, { name, count: group.length });
    });

/** A name that controller code cannot use as it stands (IEC 61131-3:2013, 6.1.2). */
export const deviceNameNoIdentifier: Rule = ({ devices }) =>
  devices
    .filter((d) => identifierOf(d.name) !== d.name)
    .map((d) =>
      finding(
        'device.nameNoIdentifier',
        'notice',
        { device: d.id },
        { name: d.name, becomes: identifierOf(d.name) },
      ),
    );

/** A name longer than the controller's program takes. */
export const deviceNameTooLong: Rule = ({ devices, naming: { longest } }) =>
  devices
    .filter(({ name }) => name.length > longest)
    .map(({ id, name }) =>
      finding('device.nameTooLong', 'warning', { device: id }, { name, length: name.length, longest }),
    );

/** The cell's naming pattern is one, and its devices' names follow it. */
export const namesFollowPattern: Rule = ({ devices, naming }) => {
  const { pattern } = naming;
  const wrong = patternTrouble(pattern);
  if (wrong) return [finding('naming.pattern', 'warning', {}, { pattern, why: wrong })];
  return devices.flatMap((device) => {
    const why = namingTrouble(naming, device);
    const facts = { name: device.name, pattern, why: why ?? '' };
    return why ? [finding('device.namePattern', 'notice', { device: device.id }, facts)] : [];
  });
};

/** Words that name a kind of device, not the machine part that it moves or serves; common practice, no source. */
const kindWords = new Set(
  `axis camera converter controller device drive encoder hub inverter io item master module motor node part plc robot scale sensor
  servo slave station terminal unit valve vfd weigher`.split(/\s+/),
);

/** A name of nothing but kinds and numbers, such as Drive1: on the machine it tells nobody which one is meant. */
export const deviceNameSaysNothing: Rule = ({ devices }) =>
  devices
    .filter(({ name }) => {
      const words = name.toLowerCase().match(/[\p{L}]+|\d+/gu) ?? [];
      // One letter with a number is a designation: it tells devices apart, and says no more.
      return words.every((word) => kindWords.has(word) || /^(\d+|\p{L})$/u.test(word));
    })
    .map(({ id, name }) => finding('device.nameSaysNothing', 'notice', { device: id }, { name }));

/** A safety device on a standard protocol may be read, never relied upon. */
export const safetyStatusOnly: Rule = ({ devices }) =>
  devices
    .filter((d) => d.kind === 'safety controller' && d.links.length > 0)
    .map((d) => finding('safety.statusOnly', 'notice', { device: d.id }, { device: d.name }));
