import { z } from 'zod';
import { protocolById, protocolOf } from '../../protocols/list.js';
import { editKind, partId } from './editKind.js';
import { withLink } from './parts.js';

/** A link over another protocol, with the defaults of that; images, what happens on loss and the update time stay. */
export const linkProtocol = editKind(
  'link.protocol',
  {
    link: partId,
    protocol: z.string().max(40),
    /** One of its ways to connect; absent: its first. */
    connection: z.string().max(40).optional(),
  },
  {
    apply: (cell, { link: id, protocol, connection }) =>
      withLink(cell, id, (link) => {
        const { commandMs, feedbackMs } = protocolOf(link).times(link);
        const made = protocolById(protocol).create({
          id,
          command: link.command,
          feedback: link.feedback,
          update: Math.min(10_000_000, Math.max(500, Math.max(commandMs, feedbackMs) * 1000)),
        });
        return { ...made, ...(connection === undefined ? {} : { connection }) };
      }),
    title: (_cell, { protocol }) => `connect over ${protocolById(protocol).title}`,
  },
);
