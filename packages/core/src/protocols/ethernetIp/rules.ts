import { pointsFor, type PointUse } from '../../devices/description.js';
import { imageTitle, type Direction } from '../../layout/image.js';
import { finding, type Finding } from '../../messages/finding.js';
import { setLink, type LinkRule } from '../protocol.js';
import { sizeReading } from '../sizeReading.js';
import { isPolled, onlyListens, type EthernetIpLink, type EthernetIpOffer } from './link.js';

type Rule = LinkRule<EthernetIpLink, EthernetIpOffer>;

/** The use of the point that an image stands for: one that only listens sends heartbeats to a point of their own. */
export const useOf = (link: EthernetIpLink, direction: Direction): PointUse =>
  direction === 'command' && onlyListens(link) ? (link.connection as PointUse) : direction;

/** Instance or size of an image differ from what the device is described to have. */
export const instanceAgainstDescription: Rule = ({ device, link }) =>
  [link.command, link.feedback].flatMap((image) => {
    const known = pointsFor(device.description, useOf(link, image.direction));
    if (known.length === 0) return [];
    const place = { device: device.id, image: image.id };
    const title = imageTitle(device, image.direction);
    const point = known.find((p) => p.number === image.instance);
    if (!point)
      return [
        finding('image.instanceUnknown', 'error', place, {
          image: title,
          instance: image.instance,
          known: known.map((p) => `${p.number} (${p.size} bytes)`).join(', '),
        }),
      ];
    if (point.size === image.size) return [];
    const sizes = { image: title, planned: image.size, actual: point.size };
    const factor = sizeReading(image.size, point.size);
    const fix: Finding['fix'] = {
      title: `Enter ${point.size} bytes`,
      edit: { edit: 'image.set', image: image.id, set: { size: point.size } },
    };
    return [
      factor
        ? finding('image.sizeFactor', 'error', place, { ...sizes, ...factor }, fix)
        : finding('image.sizeDiffers', 'error', place, sizes, fix),
    ];
  });

/** A way to open, or a real time format, that the device is described not to offer. */
export const connectionAgainstOffer: Rule = ({ device, link, offer }) => {
  if (!offer) return [];
  const place = { device: device.id };
  const polled = isPolled(link);
  if (!offer.cyclic && !polled)
    return [
      finding(
        'link.notCyclic',
        'error',
        place,
        { device: device.name },
        {
          title: 'Ask for its assemblies at a poll time',
          edit: setLink(link, { connection: 'polled-connected', onLoss: 'drop' }),
        },
      ),
    ];
  if (polled) return [];
  const { commandFormat, feedbackFormat } = offer;
  const commands = link.connection !== 'exclusive-owner' || link.commandFormat === commandFormat;
  if (commands && link.feedbackFormat === feedbackFormat) return [];
  return [
    finding(
      'link.formatDiffers',
      'error',
      place,
      { device: device.name, command: commandFormat, feedback: feedbackFormat },
      {
        title: 'Take the formats of the device',
        edit: setLink(link, { commandFormat, feedbackFormat }),
      },
    ),
  ];
};
