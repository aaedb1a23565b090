export { decode, encode } from '../bytes/struct.js';
export { askMessage, hearAnswer } from './ask.js';
export type { Asking, Given } from './ask.js';
export { giveAddress } from './give.js';
export type { Gift } from './give.js';
export { bootpMessage, clientPort, dhcpType, macText, ops, serverPort } from './message.js';
export type { BootpMessage } from './message.js';
