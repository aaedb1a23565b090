import demo from '@fadenkreuz/demo/ripening-store-3.json' with { type: 'json' };
import { Device, Parameter, readCellFile } from '@fadenkreuz/core';

/** Ten stand-ins with 200 parameters each, as instances of the Parameter object. */
const [model] = readCellFile(JSON.stringify(demo)).devices.filter((d) => d.name === 'climate_io_u1');
export const parametersEach = 200;

export const devices: readonly Device[] = Array.from({ length: 10 }, (_, d) =>
  Device.parse({
    ...model!,
    ...{ id: `d${d}`, name: `module_${d}`, address: `10.96.40.${10 + d}` },
    description: {
      ...model!.description,
      parameters: Array.from({ length: parametersEach }, (_, p) =>
        Parameter.parse({
          ...{ id: `d${d}-p${p}`, code: String(p + 1), name: `value ${p + 1}`, type: 'UINT', bits: 16 },
          place: { way: 'attribute', class: 15, instance: p + 1, attribute: 1 },
          initial: String(p),
        }),
      ),
    },
  }),
);
export const addressOf = (device: Device): string => device.address.replace(/^10/, '127');
