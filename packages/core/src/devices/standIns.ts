/** The kinds of device that have a behaviour; list.ts has the behaviours themselves. */
export const standIns = [
  'climateIo',
  'speedDrive',
  'servoAxis',
  'robot',
  'visionSensor',
  'lightCurtain',
  'valveTerminal',
  'weigher',
  'marker',
  'softStarter',
  'ioLinkMaster',
] as const;
export type StandInKind = (typeof standIns)[number];
