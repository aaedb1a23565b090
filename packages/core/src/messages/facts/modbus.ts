/** Modbus. */
export interface ModbusFacts {
  'modbus.notModbus': { reason: string };
  'modbus.oddBytes': { bytes: number };
  'modbus.noCoilValue': { value: number };
  'modbus.refused': { exception: number; meaning: string; cure: string };
  'modbus.otherFunction': { asked: number; got: number };
}
