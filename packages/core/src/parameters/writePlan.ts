import type { Parameter } from '../devices/parameter.js';
import { ParameterCodec } from '../devices/parameterCodec.js';
import { ratioNumber } from '../layout/ratio.js';
import { hexOf } from '../bytes/hexBytes.js';
import type { Outcome } from './outcome.js';
import type { ReadValues } from '../devices/decimalPlaces.js';

/** One write of a series. */
export interface WriteStep {
  parameter: string;
  /** Hex pairs. */
  bytes: string;
  /** `key`: opens others; `lock`: goes back to what it was. */
  why: 'value' | 'key' | 'lock';
}

/**
 * What is left of writes to one device that were cut off, in their order; none where all of it ended. Keys open and
 * close anew; so does a parameter that is written more than once, for it does what a key does.
 */
export function stepsLeft(lines: readonly (WriteStep & { outcome: Outcome })[]): WriteStep[] {
  const missing = ({ outcome }: { outcome: Outcome }) => outcome === 'unknown' || outcome === 'not tried';
  if (!lines.some(missing)) return [];
  const again = ({ parameter }: WriteStep) => lines.filter((l) => l.parameter === parameter).length > 1;
  return lines
    .filter((line) => line.why !== 'value' || missing(line) || again(line))
    .map(({ parameter, bytes, why }) => ({ parameter, bytes, why }));
}

/**
 * The writes for these values in their order: as the device lists its parameters; before one that needs a key, the key;
 * behind the last that needs it, the key as it was. A key that is among the values itself is left to them.
 */
export function writePlan(
  parameters: readonly Parameter[],
  values: ReadValues,
  read: ReadValues = new Map(),
): WriteStep[] {
  const steps: WriteStep[] = [];
  let open: { key: Parameter; raw: string } | undefined;
  const byCode = new Map(parameters.flatMap((p) => (p.code ? [[p.code, p] as const] : [])));
  const close = () => {
    if (!open) return;
    const { key } = open;
    const bytes =
      read.get(key.id) ?? hexOf(new ParameterCodec(key).engineering(ratioNumber(key.initial ?? '0')));
    steps.push({ parameter: key.id, bytes, why: 'lock' });
    open = undefined;
  };
  for (const parameter of parameters) {
    const bytes = values.get(parameter.id);
    if (bytes === undefined) continue;
    const { key: needs } = parameter;
    const key = needs ? byCode.get(needs.code) : undefined;
    if (needs && key && !values.has(key.id)) {
      if (open?.key !== key || open.raw !== needs.raw) {
        close();
        const raw = new ParameterCodec({ ...key, scale: null }).engineering(ratioNumber(needs.raw));
        steps.push({ parameter: key.id, bytes: hexOf(raw), why: 'key' });
        open = { key, raw: needs.raw };
      }
    } else close();
    steps.push({ parameter: parameter.id, bytes, why: 'value' });
  }
  close();
  return steps;
}
