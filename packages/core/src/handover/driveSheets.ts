import type { Cell, Device } from '../cell/model.js';
import { flawFinding } from '../checks/motionRules.js';
import { identifierOf } from '../entries/identifiers.js';
import type { DriveTrain } from '../motion/driveTrain.js';
import { axisUnit } from '../motion/mechanics.js';
import { figuresOf } from '../motion/startUp.js';
import { trainRows } from '../motion/trainRows.js';
import { driveSettings } from '../parameters/driveSettings.js';
import { linkBudget } from '../protocols/linkBudget.js';
import { table } from './markdown.js';

/** The drive trains of a cell for the papers of its machine: what each is made of, what follows from it; Markdown. */

const withTrain = (cell: Cell) => cell.devices.filter((d) => d.train !== null);

const said = (value: number | string | null | undefined, unit = '') =>
  value === null || value === undefined || value === '' ? '' : `${value}${unit ? ` ${unit}` : ''}`;

/** The parts of a train in the order in which they are entered; what is not known is left out. */
function parts(train: DriveTrain): [string, string][] {
  const { motor, brake, encoder, gear, coupling, output, load, supply } = train;
  const unit = axisUnit(output);
  const sizes = output ? Object.entries(output).filter(([key]) => key !== 'is') : [];
  const rows: [string, string][] = [
    ['motor', motor ? [motor.model, motor.type].filter(Boolean).join(', ') : ''],
    ['rated power', said(motor?.ratedPower, 'W')],
    ['rated speed', said(motor?.ratedSpeed, 'rpm')],
    ['rated torque', said(motor?.ratedTorque, 'N·m')],
    ['peak torque', said(motor?.peakTorque, 'N·m')],
    ['maximum speed', said(motor?.maximumSpeed, 'rpm')],
    [
      'rated current, voltage',
      [said(motor?.ratedCurrent, 'A'), said(motor?.ratedVoltage, 'V')].filter(Boolean).join(', '),
    ],
    ['poles', said(motor?.poles)],
    ['moment of inertia of the motor', said(motor?.inertia, 'kg·cm²')],
    [
      'brake',
      brake ? `holds ${brake.torque} N·m, closes in ${brake.closes} ms, opens in ${brake.opens} ms` : 'none',
    ],
    [
      'encoder',
      encoder
        ? `${encoder.type}, ${encoder.increments} increments${encoder.type === 'absolute' ? `, ${encoder.turns} revolutions` : ''}`
        : 'none',
    ],
    ['gear', `${gear.motor} : ${gear.shaft}, efficiency ${gear.efficiency}`],
    ['coupling', coupling ? said(coupling.torque, 'N·m') || 'yes' : 'none'],
    [
      'the shaft drives',
      output ? [output.is, ...sizes.map(([key, value]) => `${key} ${value}`)].join(', ') : '',
    ],
    ['counts against the motor', train.reversed ? 'yes' : 'no'],
    ['begins anew after', said(train.modulo, unit)],
    [
      'load',
      [
        said(load.mass || null, 'kg'),
        said(load.inertia || null, 'kg·cm²'),
        load.incline ? `incline ${load.incline}°` : '',
      ]
        .filter(Boolean)
        .join(', '),
    ],
    ['quick stop', said(train.quickStop, `${unit}/s²`)],
    ['following error, at most', said(train.followingError, unit)],
    ['fastest by hand', said(train.manualSpeed, `${unit}/s`)],
    [
      'braking resistor',
      supply.resistance === null ? 'none' : `${supply.resistance} Ω, ${said(supply.power, 'W')}`,
    ],
  ];
  return rows.filter(([, value]) => value !== '');
}

function sheet(cell: Cell, device: Device): string {
  const train = device.train!;
  const unit = axisUnit(train.output);
  const fields = device.links.flatMap((l) => [...l.command.fields, ...l.feedback.fields]);
  const figures = figuresOf(train, fields);
  const [link] = device.links;
  const rows = trainRows(train, figures, link && linkBudget(link, cell.controller.cycle / 1000).lossNoticed);
  const settings = driveSettings(train, device.description.parameters);
  const flaws = (figures?.flaws ?? []).map((flaw) => flawFinding(device, flaw));
  return [
    `## ${device.name}${device.serves ? `: ${device.serves}` : ''}`,
    table(['part', 'entry'], parts(train)),
    ...(train.moves.length > 0
      ? [
          '### Moves',
          table(
            [
              'move',
              `distance, ${unit}`,
              `velocity, ${unit}/s`,
              `acceleration, ${unit}/s²`,
              `deceleration, ${unit}/s²`,
              `jerk, ${unit}/s³`,
              'rest, s',
              'carries, kg',
            ],
            train.moves.map((m, i) => [
              m.title || String(i + 1),
              ...[
                m.distance,
                m.velocity,
                m.acceleration,
                m.deceleration,
                m.jerk ?? 'none',
                m.rest,
                m.carries,
              ].map(String),
            ]),
          ),
        ]
      : []),
    '### What follows',
    table(
      ['figure', 'value', ''],
      rows.map(({ title, value, more = '' }) => [title, value, more]),
    ),
    ...(settings.length > 0
      ? [
          '### Parameters of the drive',
          table(
            ['parameter', 'value', 'because'],
            settings.map(({ parameter, value, reason }) => [
              parameter.name,
              said(value, parameter.unit),
              reason,
            ]),
          ),
        ]
      : []),
    ...(flaws.length > 0
      ? ['### What is wrong with it', flaws.map(({ says, cure }) => `- ${says} ${cure}`).join('\n')]
      : []),
  ].join('\n\n');
}

/** Empty where no device has a drive train. */
export function driveSheets(cell: Cell): string {
  const devices = withTrain(cell);
  if (devices.length === 0) return '';
  return [`# Drive trains of ${cell.name}`, ...devices.map((d) => sheet(cell, d))].join('\n\n') + '\n';
}

export const driveSheetsFile = (cell: Cell): string => `${identifierOf(cell.name)}_drive_trains.md`;
