import {
  codecOf,
  imagesOf,
  rolePlaces,
  roles,
  type Device,
  type ExchangePlace,
  type Role,
} from '@fadenkreuz/core';

/** What of a device a step can name: by role where there is one, else by field. */
export interface PlaceChoice {
  key: string;
  title: string;
  place: Omit<ExchangePlace, 'device'>;
}

export const keyOfPlace = ({ side, role, number, field, bit }: Omit<ExchangePlace, 'device'>): string =>
  [side, role ?? '', role === null ? (field ?? '') : (number ?? 1), role === null ? (bit ?? '') : ''].join(
    ' ',
  );

/** All places of one side of a device. */
export function placeChoices(device: Device, side: ExchangePlace['side']): PlaceChoice[] {
  return device.links
    .flatMap((link) => imagesOf(link))
    .filter((image) => image.direction === side)
    .flatMap((image) => {
      const byRole = [...rolePlaces(image)].flatMap(([role, numbers]) =>
        [...numbers.keys()].map((number) =>
          choiceOf({ side, ...byRoleOf(role, number, numbers.size > 1) }, role, number, numbers.size),
        ),
      );
      const taken = new Set(
        [...rolePlaces(image).values()].flatMap((n) =>
          [...n.values()].map((p) => `${p.index} ${p.bit ?? ''}`),
        ),
      );
      const byField = codecOf(image).signals.flatMap((signal, index) => {
        if (taken.has(`${index} `)) return [];
        const place = { side, role: null, number: null, field: signal.id, bit: null };
        return [{ key: keyOfPlace(place), title: signal.name, place }];
      });
      return [...byRole, ...byField];
    });
}

const byRoleOf = (role: Role, number: number, several: boolean) => ({
  ...{ role, number: several ? number : null, field: null, bit: null },
});
const choiceOf = (
  place: Omit<ExchangePlace, 'device'>,
  role: Role,
  number: number,
  count: number,
): PlaceChoice => ({
  key: keyOfPlace(place),
  title: roles[role].title + (count > 1 ? ` ${number}` : ''),
  place,
});
