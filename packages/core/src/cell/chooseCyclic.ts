import { canBeChosen, choiceNumber, type ChosenSlots } from '../devices/chosenSlots.js';
import type { Parameter } from '../devices/parameter.js';
import { uniqueIdentifiers } from '../entries/identifiers.js';
import { Field } from '../layout/field.js';
import { Problem } from '../messages/problem.js';
import { protocolOf } from '../protocols/list.js';
import type { Device } from './model.js';

/** What stands in the places of choice as it is planned, by id and in their order; null: nothing. */
export function chosenNow(device: Pick<Device, 'description'>, slots: ChosenSlots): (string | null)[] {
  const { parameters } = device.description;
  return slots.selectors.map((code) => {
    const selector = parameters.find((p) => p.code === code);
    const number = Number(selector?.planned ?? selector?.initial ?? '0');
    return parameters.find((p) => number !== 0 && choiceNumber(slots, p) === number)?.id ?? null;
  });
}

/**
 * A device that carries these parameters cyclically, in this order: the fields of its image and of its connection point
 * follow, and the parameters that tell the device are planned. Places for which nothing is chosen stay free. Throws
 * `edit.unknown`, `parameter.notCyclic`.
 */
export function chooseCyclic(device: Device, slots: ChosenSlots, chosen: readonly (string | null)[]): Device {
  const { parameters, points } = device.description;
  const at = (i: number) => (slots.at + i * slots.size) * 8;
  const picked = slots.selectors.map((_, i) => {
    const id = chosen[i] ?? null;
    if (id === null) return undefined;
    const parameter = parameters.find((p) => p.id === id);
    if (!parameter) throw new Problem('edit.unknown', { what: 'parameter', id });
    if (!canBeChosen(slots, parameter))
      throw new Problem('parameter.notCyclic', { parameter: parameter.name, bytes: slots.size });
    return parameter;
  });
  const end = at(slots.selectors.length);
  const links = device.links.map((link) => {
    const image = link[slots.use];
    if (!pointIs(link, slots)) return link;
    const kept = image.fields.filter((f) => f.at + f.bits <= at(0) || f.at >= end);
    const names = uniqueIdentifiers([
      ...kept.map((f) => f.name),
      ...picked.map((p, i) => p?.name.toLowerCase() ?? `free_${i + 1}`),
    ]).slice(kept.length);
    const fields = picked.flatMap((parameter, i) =>
      parameter ? [fieldOf(parameter, `${image.id}-c${i + 1}`, names[i]!, at(i))] : [],
    );
    return { ...link, [slots.use]: { ...image, fields: [...kept, ...fields] } };
  });
  const [changed] = links.filter((link) => pointIs(link, slots));
  const fields = changed?.[slots.use].fields;
  return {
    ...device,
    links: links as Device['links'],
    description: {
      ...device.description,
      points: points.map((point) =>
        fields && point.use === slots.use && point.number === slots.point && point.fields
          ? { ...point, fields }
          : point,
      ),
      parameters: parameters.map((parameter) => {
        const i = slots.selectors.indexOf(parameter.code);
        if (i < 0) return parameter;
        const one = picked[i];
        return { ...parameter, planned: String(one ? choiceNumber(slots, one) : 0) };
      }),
    },
  };
}

/** Whether a link exchanges the point that has the places; one of registers has one image a side, of all of them. */
const pointIs = (link: Device['links'][number], { use, point }: ChosenSlots): boolean =>
  protocolOf(link)
    .pointsOf(link)
    .some((p) => p.use === use && (p.number === point || p.registers !== null));

function fieldOf(parameter: Parameter, id: string, name: string, at: number): Field {
  const { type, bits, scale, unit, limits, labels, order, role, code } = parameter;
  return Field.parse({
    ...{ id, name, type, at, bits, scale, unit, limits, labels, order, role },
    note: `parameter ${code || parameter.name}`,
  });
}
