import { z } from 'zod';
import { maxParameters, Parameter } from '../../devices/parameter.js';
import { PortDevice } from '../../devices/ports.js';
import { int } from '../../entries/entries.js';
import { parseInput } from '../../entries/parse.js';
import { Field } from '../../layout/field.js';
import type { Image } from '../../layout/image.js';
import { Problem } from '../../messages/problem.js';
import { deviceById } from '../find.js';
import { checkedLater, editKind, partId } from './editKind.js';
import { arranged, keptTogether, withDevice } from './parts.js';

/**
 * What is plugged in at a port of an IO-Link master, or that nothing is: its parameters take the place of those of the
 * device before it, of which the same places keep what is planned for them; its process data become fields.
 */
export const portSet = editKind(
  'port.set',
  {
    device: partId,
    port: int(1, 255),
    holds: checkedLater<z.input<typeof PortDevice>>().nullable(),
    parameters: z.array(checkedLater<z.input<typeof Parameter>>()).max(maxParameters).default([]),
    /** Fields of its process data, by the image that they lie in. */
    layouts: z
      .array(
        z.strictObject({ image: partId, fields: z.array(checkedLater<z.input<typeof Field>>()).max(200) }),
      )
      .max(2)
      .default([]),
  },
  {
    apply: (cell, { device: id, port, holds, parameters, layouts }) => {
      const device = deviceById(cell, id);
      const own = new Set(device.links.flatMap(({ command, feedback }) => [command.id, feedback.id]));
      for (const { image } of layouts)
        if (!own.has(image)) throw new Problem('edit.unknown', { what: 'image', id: image });
      const { description } = device;
      const held = holds && parseInput(PortDevice, { ...holds, port }, 'device at a port');
      const before = description.parameters.filter((p) => p.place?.way === 'port' && p.place.port === port);
      const planned = new Map(before.map((p) => [placeKey(p), p.planned]));
      const fresh = parameters
        .map((p) => parseInput(Parameter, p, 'parameter'))
        .map((p) => ({ ...p, planned: p.planned ?? planned.get(placeKey(p)) ?? null }));
      const laid = (image: Image): Image => {
        const layout = layouts.find((l) => l.image === image.id);
        if (!layout) return image;
        const fields = layout.fields.map((f) => parseInput(Field, f, 'field'));
        return keptTogether({
          ...image,
          fields: arranged(image.fields, new Map(fields.map((f) => [f.id, f])), []),
        });
      };
      return withDevice(cell, id, (d) => ({
        ...d,
        description: {
          ...description,
          ports: [...description.ports.filter((p) => p.port !== port), ...(held ? [held] : [])].sort(
            (a, b) => a.port - b.port,
          ),
          parameters: [...description.parameters.filter((p) => !before.includes(p)), ...fresh],
        },
        links: d.links.map((link) => ({
          ...link,
          command: laid(link.command),
          feedback: laid(link.feedback),
        })),
      }));
    },
    title: (cell, { device, port, holds }) => {
      const { name } = deviceById(cell, device);
      return holds ? `put ${holds.name} at port ${port} of ${name}` : `unplug port ${port} of ${name}`;
    },
  },
);

/** What the place of a parameter is, for one of another device at the same port. */
const placeKey = ({ place }: Parameter): string => JSON.stringify(place);
