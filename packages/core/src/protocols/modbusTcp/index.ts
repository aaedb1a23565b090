export { encodeFrame, modbusPort, takeFrame } from './frame.js';
export type { ModbusFrame } from './frame.js';
export {
  decodeAnswer,
  encodeAsk,
  encodeException,
  exceptions,
  functions,
  limits,
  meiIdentification,
} from './pdu.js';
export type { Answer, Ask, FunctionName, IdentificationObject } from './pdu.js';
export { readPlan } from './readPlan.js';
export type { Block } from './readPlan.js';
export { refusalOf } from './refusals.js';
export { isduCode, isduError } from '../../devices/isduErrors.js';
export { serve } from './serve.js';
export type { ModbusMemory } from './serve.js';
