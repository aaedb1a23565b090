export { Reader } from '../../bytes/reader.js';
export { Problem } from '../../messages/problem.js';
export { decode, encode, u16, u32, u8, shortString } from '../../bytes/struct.js';
export * as encapsulation from './encapsulation.js';
export { decodePath, encodePath, logical, logicalOf } from './path.js';
export type { ElectronicKey, Segment } from './path.js';
export {
  classes,
  decodeRequest,
  decodeResponse,
  readResponse,
  encodeRequest,
  encodeResponse,
  services,
  writeRequest,
  writeResponse,
} from './messageRouter.js';
export type { RouterRequest, RouterResponse } from './messageRouter.js';
export { decodeUnconnectedSend, encodeUnconnectedSend } from './unconnectedSend.js';
export {
  class1,
  class3,
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
export { connectionIdOf, isNewer, OutgoingPacket, packetSize, readPacket, wrappedSize } from './ioPacket.js';
export type { RealTimeFormat } from './ioPacket.js';
export { judgeOpening, routeRefusal, sameTriad, triadOf } from './opening.js';
export type { ConnectionKind, ConnectionPoint, Opening, StandingConnection, TargetFacts } from './opening.js';
export { answerMessage, answerReader, emptyResponse, single } from './objectModel.js';
export type { Caller, CipClass, Outcome } from './objectModel.js';
export { refusalOf } from './refusals.js';
export { extendedStatus, generalStatus, hexCode, statusText } from './status.js';
export { assemblyObject } from './objects/assembly.js';
export { driveObjects } from './objects/drive.js';
export { deviceStates, identityObject, identityStatus, identityStruct } from './objects/identity.js';
export type { IdentityFacts } from './objects/identity.js';
export { messageRouterObject } from './objects/messageRouter.js';
export {
  ethernetLinkObject,
  interfaceConfiguration,
  startUp,
  tcpIpInterfaceObject,
} from './objects/network.js';
export type { EthernetLinkFacts, LinkCounters, TcpIpChange, TcpIpFacts } from './objects/network.js';
export { describedObjects } from './objects/described.js';
export { parameterObject } from './objects/parameter.js';
export { portObject } from './objects/ports.js';
export { isduError } from '../../devices/isduErrors.js';
