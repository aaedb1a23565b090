import { actingByRoles, type Device, type Link } from '@fadenkreuz/core';

/** What of a changed design needs more than being taken over while it runs. */

/** How the bytes of an image are read is no matter of its connection. */
const layoutKeys = new Set(['fields', 'groups', 'derived', 'order', 'swapped', 'numbering']);

/** Everything of a link but its layout: when it changes, the connection must be opened anew. */
export const connectionOf = (device: Device, { command, feedback, ...link }: Link): string => {
  const bare = (image: object) =>
    Object.entries(image).filter(([key]) => !layoutKeys.has(key) && key !== 'start');
  return JSON.stringify([device.address, device.identity, link, bare(command), bare(feedback)]);
};

/** What a stand-in is made of: when it changes, another one takes its place. */
export const standInOf = (device: Device): string => {
  const { address, description } = device;
  // Which field has which role is taken over while it runs; whether it acts at all is another stand-in.
  // What is planned for its parameters it does not know.
  const known = (key: string, value: unknown) => (key === 'planned' ? undefined : value);
  return JSON.stringify([address, actingByRoles(device)?.title, description], known);
};
