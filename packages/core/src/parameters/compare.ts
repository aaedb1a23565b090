import type { Parameter } from '../devices/parameter.js';
import { ParameterCodec, type ParameterValue } from '../devices/parameterCodec.js';
import { ratioNumber } from '../layout/ratio.js';
import { Problem, type ProblemReport } from '../messages/problem.js';
import { bytesOfHex, hexOf } from '../bytes/hexBytes.js';
import { decimalPlaces, type ReadValues } from '../devices/decimalPlaces.js';

/** Where a value of a parameter stands. */
export const sources = ['planned', 'device', 'default', 'other'] as const;
export type Source = (typeof sources)[number];

/** One value of a parameter: its bytes, and what they say; or why they say nothing. */
export type Shown = ({ hex: string } & ParameterValue) | { problem: ProblemReport };

/** A parameter with its values side by side; a value that is not known is left out. */
export interface ComparedParameter {
  parameter: Parameter;
  values: Partial<Record<Source, Shown>>;
  /** Two of the values that are known are not the same. */
  differs: boolean;
}

/** The values to compare: what stands in the device, and in whatever else was chosen. */
export interface Compare {
  device?: ReadValues | undefined;
  other?: ReadValues | undefined;
}

/**
 * The values of all parameters of a device beside each other, compared byte by byte. `planned` and `device` count as
 * differing, and either from `other` where that is given; a default alone is no difference. `rows`: those of them that
 * are asked for.
 */
export function compareParameters(
  parameters: readonly Parameter[],
  { device, other }: Compare,
  rows = parameters,
): ComparedParameter[] {
  const places = decimalPlaces(parameters, device ?? other);
  return rows.map((parameter) => {
    const codec = new ParameterCodec(parameter, places(parameter));
    const { planned, initial, id } = parameter;
    const values: ComparedParameter['values'] = {};
    const put = (source: Source, bytes: (() => Uint8Array) | undefined) => {
      if (bytes) values[source] = shown(codec, bytes);
    };
    put('planned', planned === null ? undefined : () => codec.written(planned));
    put('default', initial === null ? undefined : () => codec.engineering(ratioNumber(initial)));
    for (const [source, read] of [
      ['device', device],
      ['other', other],
    ] as const) {
      const hex = read?.get(id);
      put(source, hex === undefined ? undefined : () => bytesOfHex(hex));
    }
    const judged = [values.planned, values.device, values.other].flatMap((v) =>
      v && 'hex' in v ? v.hex : [],
    );
    return { parameter, values, differs: new Set(judged).size > 1 };
  });
}

function shown(codec: ParameterCodec, bytes: () => Uint8Array): Shown {
  try {
    const value = bytes();
    return { hex: hexOf(value), ...codec.read(value) };
  } catch (error) {
    if (!(error instanceof Problem)) throw error;
    return { problem: error.report() };
  }
}
