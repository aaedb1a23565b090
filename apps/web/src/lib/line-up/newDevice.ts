import {
  descriptionByHand,
  unknownIdentity,
  unknownNameplate,
  type Device,
  type Link,
} from '@fadenkreuz/core';

/** What a person enters of a device that is added by hand, whatever its protocol. */
export interface NewDevice {
  name: string;
  designation: string;
  kind: Device['kind'];
  maker: string;
  address: string;
}

/** The device behind its link; ids from `newId`. Nothing is checked here: the model does that. */
export function deviceFrom(entry: NewDevice, link: Link, newId: () => string): Device {
  const links = [link];
  return {
    id: newId(),
    name: entry.name.trim(),
    designation: entry.designation.trim(),
    kind: entry.kind,
    maker: entry.maker.trim(),
    ...unknownNameplate,
    serves: '',
    address: entry.address.trim(),
    identity: unknownIdentity,
    description: descriptionByHand(links),
    simulated: false,
    orderSelectable: false,
    links,
  };
}
