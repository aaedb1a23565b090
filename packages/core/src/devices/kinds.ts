export const deviceKinds = [
  'variable-speed drive',
  'servo axis',
  'robot',
  'vision sensor',
  'safety controller',
  'valve terminal',
  'weigher',
  'marker',
  'process I/O',
  'soft starter',
  'IO-Link master',
  'remote I/O',
  'motor starter',
  'identification reader',
  'torque tool',
  'measuring sensor',
  'other',
] as const;

export type DeviceKind = (typeof deviceKinds)[number];

/** Words by which makers call the kinds of their devices, the narrower before the wider; common practice, no source. */
const wordsOfKinds: readonly [RegExp, DeviceKind][] = [
  [/soft.?start/i, 'soft starter'],
  [/motor.?starter|overload relay|motor protect|contactor/i, 'motor starter'],
  [/\brfid\b|identification|read.?write head|\btag reader/i, 'identification reader'],
  [/torque|tighten|screwdriv|nutrunner/i, 'torque tool'],
  [/\bservo|\baxis\b|motion drive|position(ing)? control/i, 'servo axis'],
  [/\brobot/i, 'robot'],
  [/\bsafety|light curtain/i, 'safety controller'],
  [/\bvision|camera|code reader/i, 'vision sensor'],
  [/valve|pneumatic/i, 'valve terminal'],
  [/weigh|\bscale\b|load cell/i, 'weigher'],
  [/\bmark(er|ing)\b|print|label/i, 'marker'],
  [/io-?link.{0,20}master|master.{0,20}io-?link/i, 'IO-Link master'],
  [/remote.?i\/?o|bus coupler|i\/o (block|station|module)|discrete|digital (in|out)put/i, 'remote I/O'],
  [/distance|displacement|level|pressure|flow|temperature|\bsensor|encoder|transmitter/i, 'measuring sensor'],
  [/\bdrives?\b|inverter|frequency converter/i, 'variable-speed drive'],
  [/\bi\/o\b|analog|input|output/i, 'process I/O'],
];

/** The kind of device that a text names, as a maker's family or type; undefined where it names none. */
export const kindOfText = (text: string): DeviceKind | undefined =>
  deviceKinds.find((kind) => kind === text.trim().toLowerCase() || kind === text.trim()) ??
  wordsOfKinds.find(([words]) => words.test(text))?.[1];
