export { decode, encode } from '../bytes/struct.js';
export { askMessage, hearAnswer } from './ask.js';
export type { Asking, Given } from './ask.js';
export { giveAddress } from './assign.js';
export type { Assignment } from './assign.js';
export {
  bootpMessage,
  clientPort,
  dhcpType,
  macText,
  ops,
  optionCodes,
  serverPort,
  textOption,
} from './message.js';
export type { BootpMessage } from './message.js';
