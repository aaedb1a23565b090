import Papa from 'papaparse';
import { Problem } from '../messages/problem.js';
import { blankMotor, DriveTrain, Motor } from './driveTrain.js';

/** A small library of made-up motors and gears; a person's own come as CSV. */

const motor = (model: string, part: Partial<Motor>): Motor => ({
  ...{ ...blankMotor, ...part, model },
  from: 'library',
});

export const motorLibrary: readonly Motor[] = [
  motor('QM-71K4', {
    ...{ type: 'asynchronous', ratedPower: 370, ratedSpeed: 1400, ratedCurrent: 1.05, ratedVoltage: 400 },
    ...{ ratedFrequency: 50, poles: 4, inertia: 6.5, peakTorque: 6, maximumSpeed: 3600 },
  }),
  motor('QM-90L4', {
    ...{ type: 'asynchronous', ratedPower: 1500, ratedSpeed: 1425, ratedCurrent: 4, ratedVoltage: 400 },
    ...{ ratedFrequency: 50, poles: 4, inertia: 32, peakTorque: 25, maximumSpeed: 3600 },
  }),
  motor('QS-40-1', {
    ...{ ratedTorque: 1.3, peakTorque: 3.9, ratedSpeed: 3000, maximumSpeed: 6000, ratedCurrent: 2.1 },
    ...{ poles: 8, inertia: 0.32 },
  }),
  motor('QS-80-5', {
    ...{ ratedTorque: 4.8, peakTorque: 14.4, ratedSpeed: 3000, maximumSpeed: 4500, ratedCurrent: 5.2 },
    ...{ poles: 8, inertia: 2.13 },
  }),
];

type Gear = DriveTrain['gear'];
export const gearLibrary: readonly { model: string; gear: Gear }[] = [
  { model: 'QG-5 planetary', gear: { motor: '5', shaft: '1', efficiency: 0.97, inertia: 0.12 } },
  { model: 'QG-10 planetary', gear: { motor: '10', shaft: '1', efficiency: 0.96, inertia: 0.1 } },
  { model: 'QG-40 worm', gear: { motor: '40', shaft: '1', efficiency: 0.62, inertia: 0.35 } },
  { model: 'QG-43/6 bevel', gear: { motor: '43', shaft: '6', efficiency: 0.94, inertia: 0.4 } },
];

/** The columns of a table of motors: names of the entries, whatever their order. */
export const motorColumns = Object.keys(blankMotor).filter((key) => key !== 'from');

/**
 * Motors of a CSV table whose heads are entries of a motor (`model`, `type`, `ratedPower` in W …); empty cells are not
 * known. Throws `input.invalid` naming the line.
 */
export function readMotors(text: string): Motor[] {
  const { data, meta } = Papa.parse<Record<string, string>>(text.trim(), {
    ...{ header: true, skipEmptyLines: true },
    transformHeader: (head) => head.trim(),
  });
  const heads = meta.fields ?? [];
  const unknown = heads.filter((head) => !motorColumns.includes(head));
  if (!heads.includes('type') || unknown.length > 0)
    throw new Problem('input.invalid', {
      where: `column ${unknown[0] ?? 'type'}`,
      reason: `is not understood: the columns are ${motorColumns.join(', ')}`,
    });
  return data.map((row, i) => {
    const entries = Object.entries(row)
      .filter(([, cell]) => cell.trim() !== '')
      .map(([head, cell]) => [head, head === 'model' || head === 'type' ? cell.trim() : Number(cell)]);
    const parsed = Motor.safeParse({ ...Object.fromEntries(entries), from: 'library' });
    if (parsed.success) return parsed.data;
    const [issue] = parsed.error.issues;
    throw new Problem('input.invalid', {
      where: `line ${i + 2}, ${issue?.path.join('.') ?? ''}`,
      reason: issue?.message ?? 'is not understood',
    });
  });
}
