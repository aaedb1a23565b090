import { bytesOfHex } from '../bytes/hexBytes.js';
import { ratioNumber } from '../layout/ratio.js';
import { Problem } from '../messages/problem.js';
import type { Parameter } from './parameter.js';
import { ParameterCodec } from './parameterCodec.js';

/** What was read, by the id of the parameter, as hex pairs. */
export type ReadValues = ReadonlyMap<string, string>;

/**
 * How many decimal places a parameter has that another one says: as that one was read, else as it is planned, else as
 * it leaves the factory.
 */
export function decimalPlaces(
  parameters: readonly Parameter[],
  read?: ReadValues,
): (parameter: Parameter) => number {
  const byCode = new Map(parameters.flatMap((p) => (p.code ? [[p.code, p] as const] : [])));
  return ({ decimals }) => {
    const says = decimals === null ? undefined : byCode.get(decimals);
    if (!says) return 0;
    const codec = new ParameterCodec(says);
    const hex = read?.get(says.id);
    try {
      const bytes =
        hex !== undefined
          ? bytesOfHex(hex)
          : says.planned !== null
            ? codec.written(says.planned)
            : codec.engineering(ratioNumber(says.initial ?? '0'));
      const number = codec.rawNumber(bytes);
      return Number.isInteger(number) && number >= 0 && number <= mostPlaces ? number : 0;
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      return 0;
    }
  };
}
const mostPlaces = 15;
