/** What the standard says once for all IO-Link devices: variables, units, process data. From memory. */

/** Index of the standard variables (IO-Link interface specification V1.1.3, table B.8). */
export const standardVariables: Readonly<
  Record<string, { index: number; name: string; access: 'ro' | 'rw' | 'wo' }>
> = {
  V_DirectParameters_1: { index: 0, name: 'Direct parameters 1', access: 'ro' },
  V_DirectParameters_2: { index: 1, name: 'Direct parameters 2', access: 'rw' },
  V_SystemCommand: { index: 2, name: 'System command', access: 'wo' },
  V_DeviceAccessLocks: { index: 12, name: 'Device access locks', access: 'rw' },
  V_VendorName: { index: 16, name: 'Vendor name', access: 'ro' },
  V_VendorText: { index: 17, name: 'Vendor text', access: 'ro' },
  V_ProductName: { index: 18, name: 'Product name', access: 'ro' },
  V_ProductID: { index: 19, name: 'Product ID', access: 'ro' },
  V_ProductText: { index: 20, name: 'Product text', access: 'ro' },
  V_SerialNumber: { index: 21, name: 'Serial number', access: 'ro' },
  V_HardwareRevision: { index: 22, name: 'Hardware revision', access: 'ro' },
  V_FirmwareRevision: { index: 23, name: 'Firmware revision', access: 'ro' },
  V_ApplicationSpecificTag: { index: 24, name: 'Application specific tag', access: 'rw' },
  V_FunctionTag: { index: 25, name: 'Function tag', access: 'rw' },
  V_LocationTag: { index: 26, name: 'Location tag', access: 'rw' },
  V_ErrorCount: { index: 32, name: 'Error count', access: 'ro' },
  V_DeviceStatus: { index: 36, name: 'Device status', access: 'ro' },
  V_DetailedDeviceStatus: { index: 37, name: 'Detailed device status', access: 'ro' },
  V_ProcessDataInput: { index: 40, name: 'Process data input', access: 'ro' },
  V_ProcessDataOutput: { index: 41, name: 'Process data output', access: 'ro' },
};

/** Unit codes of the standard unit definitions as UCUM writes them. */
const units: Readonly<Record<number, string>> = {
  1000: 'K',
  1001: 'Cel',
  1002: '[degF]',
  1005: 'deg',
  1010: 'm',
  1012: 'cm',
  1013: 'mm',
  1014: 'um',
  1038: 'L',
  1054: 's',
  1056: 'ms',
  1058: 'min',
  1059: 'h',
  1061: 'm/s',
  1077: 'Hz',
  1085: '/min',
  1088: 'kg',
  1089: 'g',
  1120: 'N',
  1130: 'Pa',
  1132: 'MPa',
  1133: 'kPa',
  1137: 'bar',
  1138: 'mbar',
  1209: 'A',
  1211: 'mA',
  1240: 'V',
  1243: 'mV',
  1281: 'Ohm',
  1342: '%',
  1349: 'm3/h',
  1351: 'L/s',
  1352: 'L/min',
  1353: 'L/h',
};
/** The unit of a code; one that is not known by its code. */
export const unitText = (code: number | undefined): string =>
  code === undefined ? '' : (units[code] ?? `unit ${code}`);
