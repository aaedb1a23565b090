export { Problem } from '../messages/problem.js';
export { decode, encode, u16, u32, u8, shortString } from '../bytes/struct.js';
export * as encapsulation from './encapsulation.js';
export { decodePath, encodePath, logical, logicalOf } from './path.js';
export type { ElectronicKey, Segment } from './path.js';
export {
  classes,
  decodeRequest,
  decodeResponse,
  encodeRequest,
  encodeResponse,
  services,
} from './messageRouter.js';
export type { RouterRequest, RouterResponse } from './messageRouter.js';
export {
  class1Cyclic,
  forwardClose,
  forwardClosed,
  forwardOpen,
  forwardOpened,
  forwardRefused,
  largeForwardOpen,
  maxSmallSize,
  multiplierCode,
  multiplierOf,
} from './connectionManager.js';
export type { ForwardOpen, NetworkParameters } from './connectionManager.js';
export {
  connectionIdOf,
  decodeIoPacket,
  encodeIoPacket,
  isNewer,
  runIdleBytes,
  sequenceBytes,
} from './ioPacket.js';
export type { IoPacket } from './ioPacket.js';
export { extendedStatus, generalStatus, hexCode, statusText } from './status.js';
export { identityObject, identityStatus, operational } from './identity.js';
