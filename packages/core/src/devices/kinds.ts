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
  'other',
] as const;

export type DeviceKind = (typeof deviceKinds)[number];
