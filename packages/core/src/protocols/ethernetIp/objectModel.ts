import { Reader } from '../../bytes/reader.js';
import { encode, u16, type Part } from '../../bytes/struct.js';
import { Writer } from '../../bytes/writer.js';
import { Problem } from '../../messages/problem.js';
import {
  classes,
  encodeResponse,
  readRequest,
  responseBytes,
  services,
  type RouterRequest,
  type RouterResponse,
} from './messageRouter.js';
import { inOrder, logicalOf } from './path.js';
import { generalStatus as status } from './status.js';

/**
 * The object model of a target (CIP Vol. 1, chapters 2 and 5): classes with instances with attributes, each a row that
 * says how it is read and, if it can be, how it is written. One walker serves the common services of appendix A for all
 * of them.
 */
export interface Attribute {
  read: () => Uint8Array;
  /** Takes over a value; the general status says whether it did. Absent: it can only be read. */
  write?: (data: Uint8Array) => number;
  /** Whether Get_Attributes_All leaves it out. */
  apart?: boolean;
}

/** What a service of an object's own answers; data default to none, the status to success. */
export interface Outcome {
  /** Answered in the name of another service: that of the request which an Unconnected_Send carried. */
  service?: number;
  status?: number;
  extended?: number[];
  data?: Uint8Array;
}

/** Where a request came from. */
export interface Caller {
  /** Address of the originator. */
  from: string;
  /** The class 3 connection that carried it; undefined when it came unconnected. */
  connection?: number | undefined;
  /** UDP port at which it wants its cyclic packets, where it names one. */
  ioPort?: number | undefined;
  /** More bytes of an answer than this cannot be carried. */
  maxAnswer: number;
}

export interface CipInstance {
  attributes: Readonly<Record<number, Attribute>>;
  services?: Readonly<Record<number, (request: RouterRequest, caller: Caller) => Outcome>>;
}

export interface CipClass {
  id: number;
  /**
   * Attributes and services of the class itself (instance 0); attribute 1, the revision, is 1 where it is not stated.
   */
  own?: CipInstance;
  /** The instances that there are, ascending. */
  numbers: () => readonly number[];
  instance: (number: number) => CipInstance | undefined;
}

/** An attribute of one type. `set` takes a value over and returns a general status. */
export function attribute<T>(part: Part<T>, get: () => T, set?: (value: T) => number): Attribute {
  return {
    read: () => encode(part, get()),
    ...(set
      ? {
          write: (data) => {
            const reader = new Reader(data, 'attribute');
            let value: T;
            try {
              value = part.read(reader);
            } catch (error) {
              if (error instanceof Problem) return status.notEnoughData;
              throw error;
            }
            if (reader.left > 0) return status.tooMuchData;
            return set(value);
          },
        }
      : {}),
  };
}

/** A class with the one instance 1. */
export const single = (id: number, instance: CipInstance, own?: CipInstance): CipClass => ({
  id,
  ...(own ? { own } : {}),
  numbers: () => [1],
  instance: (number) => (number === 1 ? instance : undefined),
});

const nothing = new Uint8Array();

/** A bound on what one message may ask for at once; more than fit the largest message sensibly. */
const maxParts = 128;

/** The answer to one message of the Message Router; never throws. */
export const answerMessage = (model: readonly CipClass[], message: Uint8Array, caller: Caller): Uint8Array =>
  encodeResponse(answerReader(model, new Reader(message, 'CIP request'), caller));

/** The same for a message that is a part of a longer one. */
export function answerReader(model: readonly CipClass[], message: Reader, caller: Caller): RouterResponse {
  const service = message.left > 0 ? message.bytes[message.at]! : 0;
  let answer: RouterResponse;
  try {
    answer = answerRequest(model, readRequest(message), caller);
  } catch (error) {
    if (!(error instanceof Problem)) throw error;
    // A request that is cut short is answered, not dropped: the originator must not wait for a timeout.
    return emptyResponse(service, status.notEnoughData);
  }
  return responseBytes(answer) <= caller.maxAnswer ? answer : emptyResponse(service, status.replyTooLarge);
}

/** A response that says a status and nothing else. */
export const emptyResponse = (service: number, code: number): RouterResponse => ({
  service,
  status: code,
  extended: noWords,
  data: nothing,
});
const noWords: number[] = [];

/** One answer for every request. Throws `bytes.short` when the body of the request is cut off. */
function answerRequest(model: readonly CipClass[], request: RouterRequest, caller: Caller): RouterResponse {
  const { service, path } = request;
  const classId = logicalOf(path, 'class');
  // What is not known takes all that follows, so it can only come last.
  if (classId === undefined || path.at(-1)!.segment === 'unknown' || !inOrder(path))
    return emptyResponse(service, status.pathSegmentError);
  const target = classOf(model, classId);
  const number = logicalOf(path, 'instance') ?? 0;
  const instance = number === 0 ? target && classInstance(target) : target?.instance(number);
  if (!target || !instance) return emptyResponse(service, status.pathDestinationUnknown);

  const own = instance.services?.[service];
  if (own) return responseOf(service, own(request, caller));
  switch (service) {
    case services.getAttributesAll:
      return responseOf(service, getAll(instance));
    case services.getAttributeSingle:
      return responseOf(service, getOne(instance, logicalOf(path, 'attribute')));
    case services.setAttributeSingle:
      return emptyResponse(service, setOne(instance, logicalOf(path, 'attribute'), request.data));
    case services.getAttributeList:
      return responseOf(service, getList(instance, request.data));
    case services.multipleServicePacket:
      if (classId !== classes.messageRouter) return emptyResponse(service, status.serviceNotSupported);
      return responseOf(service, severalServices(model, request.data, caller));
    default:
      return emptyResponse(service, status.serviceNotSupported);
  }
}

const responseOf = (
  asked: number,
  { service = asked, status: code = status.success, extended = noWords, data = nothing }: Outcome,
): RouterResponse => ({ service, status: code, extended, data });

function classOf(model: readonly CipClass[], id: number): CipClass | undefined {
  for (const one of model) if (one.id === id) return one;
  return undefined;
}

/** Class attributes 1 to 3: revision, highest instance, number of instances (Vol. 1, 4-4). */
function classInstance(target: CipClass): CipInstance {
  const highest = () => target.numbers().at(-1) ?? 0;
  return {
    ...target.own,
    attributes: {
      1: attribute(u16, () => 1),
      2: attribute(u16, highest),
      3: attribute(u16, () => target.numbers().length),
      ...target.own?.attributes,
    },
  };
}

function getAll({ attributes }: CipInstance): Outcome {
  const shown = Object.values(attributes).filter((a) => !a.apart);
  if (shown.length === 0) return { status: status.serviceNotSupported };
  const w = new Writer();
  for (const { read } of shown) w.put(read());
  return { data: w.done() };
}

function getOne({ attributes }: CipInstance, number: number | undefined): Outcome {
  const found = attributes[number ?? -1];
  return found ? { data: found.read() } : { status: status.attributeNotSupported };
}

function setOne({ attributes }: CipInstance, number: number | undefined, data: Uint8Array): number {
  const found = attributes[number ?? -1];
  if (!found) return status.attributeNotSupported;
  return found.write ? found.write(data) : status.attributeNotSettable;
}

/** Get_Attribute_List (appendix ): count and numbers; of each number, status and value come back. */
function getList({ attributes }: CipInstance, data: Uint8Array): Outcome {
  const r = new Reader(data, 'Get_Attribute_List');
  const count = r.u16();
  if (count > maxParts) return { status: status.replyTooLarge };
  const numbers = Array.from({ length: count }, () => r.u16());
  const w = new Writer();
  w.u16(count);
  for (const number of numbers) {
    const found = attributes[number];
    w.u16(number);
    w.u16(found ? status.success : status.attributeNotSupported);
    if (found) w.put(found.read());
  }
  const whole = numbers.every((n) => attributes[n]);
  return { status: whole ? status.success : status.attributeListError, data: w.done() };
}

/** Multiple_Service_Packet (appendix ): count, offsets from the count on, requests; answers in the same form. */
function severalServices(model: readonly CipClass[], data: Uint8Array, caller: Caller): Outcome {
  const r = new Reader(data, 'Multiple_Service_Packet');
  const count = r.u16();
  if (count > maxParts) return { status: status.replyTooLarge };
  const offsets = Array.from({ length: count }, () => r.u16());
  const minimum = 2 + 2 * count;
  const rising = offsets.every((o, i) => o >= (offsets[i - 1] ?? minimum) && o <= data.length);
  if (!rising) return { status: status.notEnoughData };
  const inner = { ...caller, maxAnswer: Infinity };
  const answers = offsets.map((from, i) => {
    const message = data.subarray(from, offsets[i + 1] ?? data.length);
    // One packet inside another could answer without end.
    if (message[0] === services.multipleServicePacket)
      return encodeResponse(emptyResponse(message[0], status.serviceNotSupported));
    return answerMessage(model, message, inner);
  });
  const w = new Writer();
  w.u16(count);
  let at = minimum;
  for (const answer of answers) {
    w.u16(at);
    at += answer.length;
  }
  for (const answer of answers) w.put(answer);
  const failed = answers.some((a) => a[2] !== status.success);
  return { status: failed ? status.embeddedServiceError : status.success, data: w.done() };
}
