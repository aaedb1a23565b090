import type { AssemblySpec } from '@fadenkreuz/core/behaviours';
import type { Identity } from '@fadenkreuz/core';
import {
  class1Cyclic,
  classes,
  decode,
  decodePath,
  encode,
  extendedStatus as extended,
  forwardClose,
  forwardClosed,
  forwardOpen,
  forwardOpened,
  forwardRefused,
  generalStatus,
  identityObject,
  largeForwardOpen,
  logicalOf,
  runIdleBytes,
  sequenceBytes,
  services,
  shortString,
  u16,
  u32,
  type ForwardOpen,
  type RouterRequest,
  type RouterResponse,
  type Segment,
} from '@fadenkreuz/core/cip';

/** The one exclusive-owner connection while it stands. */
export interface TargetConnection {
  request: ForwardOpen;
  toTargetId: number;
  toOriginatorId: number;
  feedback: AssemblySpec;
  originator: string;
}

/** What the object model of a target needs to know and may do. */
export interface TargetObjects {
  identity(): Identity & { serialNumber: number; status: number };
  assemblies: readonly AssemblySpec[];
  bytesOf(instance: number): Uint8Array | undefined;
  connection(): TargetConnection | undefined;
  open(connection: TargetConnection, configuration: Uint8Array): void;
  close(): void;
  newConnectionId(): number;
}

const nothing = new Uint8Array();

/** The shortest packet interval that the stand-ins keep, µs. */
const shortestRpi = 1000;

/** Message Router of a target: one answer for every request (CIP Vol. 1, 2-4 and chapter 5). */
export function answerRequest(objects: TargetObjects, request: RouterRequest, from: string): RouterResponse {
  const answer = (data: Uint8Array): RouterResponse => ({
    service: request.service,
    status: generalStatus.success,
    extended: [],
    data,
  });
  const refuse = (status: number): RouterResponse => ({
    service: request.service,
    status,
    extended: [],
    data: nothing,
  });
  const classId = logicalOf(request.path, 'class');
  const instance = logicalOf(request.path, 'instance');
  const attribute = logicalOf(request.path, 'attribute');
  if (request.path.some((s) => s.segment === 'unknown') || classId === undefined)
    return refuse(generalStatus.pathSegmentError);

  switch (classId) {
    case classes.identity: {
      if (instance !== 1) return refuse(generalStatus.pathDestinationUnknown);
      const identity = objects.identity();
      if (request.service === services.getAttributesAll) return answer(encode(identityObject, identity));
      if (request.service !== services.getAttributeSingle) return refuse(generalStatus.serviceNotSupported);
      const bytes = [
        encode(u16, identity.vendor),
        encode(u16, identity.deviceType),
        encode(u16, identity.productCode),
        Uint8Array.of(identity.majorRevision, identity.minorRevision),
        encode(u16, identity.status),
        encode(u32, identity.serialNumber),
        encode(shortString, identity.productName),
      ][(attribute ?? 0) - 1];
      return bytes ? answer(bytes) : refuse(generalStatus.attributeNotSupported);
    }
    case classes.assembly: {
      const bytes = objects.bytesOf(instance ?? 0);
      if (!bytes) return refuse(generalStatus.pathDestinationUnknown);
      if (request.service === services.setAttributeSingle) return refuse(generalStatus.attributeNotSettable);
      if (request.service !== services.getAttributeSingle) return refuse(generalStatus.serviceNotSupported);
      if (attribute === 3) return answer(bytes.slice());
      if (attribute === 4) return answer(encode(u16, bytes.length));
      return refuse(generalStatus.attributeNotSupported);
    }
    case classes.connectionManager:
      if (instance !== 1) return refuse(generalStatus.pathDestinationUnknown);
      if (request.service === services.forwardOpen)
        return openConnection(
          objects,
          request.service,
          decode(forwardOpen, request.data, 'Forward_Open'),
          from,
        );
      if (request.service === services.largeForwardOpen)
        return openConnection(
          objects,
          request.service,
          decode(largeForwardOpen, request.data, 'Large_Forward_Open'),
          from,
        );
      if (request.service === services.forwardClose) return closeConnection(objects, request);
      return refuse(generalStatus.serviceNotSupported);
    default:
      return refuse(generalStatus.pathDestinationUnknown);
  }
}

type Triad = Pick<ForwardOpen, 'connectionSerial' | 'originatorVendor' | 'originatorSerial'>;
const triadOf = ({ connectionSerial, originatorVendor, originatorSerial }: Triad): Triad => ({
  connectionSerial,
  originatorVendor,
  originatorSerial,
});
const sameTriad = (a: Triad, b: Triad) => JSON.stringify(triadOf(a)) === JSON.stringify(triadOf(b));

/** Three connection points of the path: configuration (an instance), command, feedback (CIP Vol. 1, 3-5.5.1.10). */
function pointsOf(path: readonly Segment[]) {
  const points = path.flatMap((s) =>
    s.segment === 'logical' && s.type === 'connectionPoint' ? [s.value] : [],
  );
  return { configuration: logicalOf(path, 'instance'), command: points[0], feedback: points[1] };
}

/** Why a Forward_Open is refused: extended status words; undefined when it is accepted. */
function reasonToRefuse(
  objects: TargetObjects,
  request: ForwardOpen,
  path: readonly Segment[],
): number[] | undefined {
  const current = objects.connection();
  if (current && sameTriad(current.request, request)) return [extended.connectionInUse];
  if (request.transport !== class1Cyclic) return [extended.transportNotSupported];
  if (path.some((s) => s.segment === 'unknown' || s.segment === 'port')) return [extended.invalidSegment];

  const key = path.flatMap((s) => (s.segment === 'key' ? [s.key] : []))[0];
  if (key) {
    const own = objects.identity();
    // A zero in the key means 'any' (CIP Vol. 1, C-1.4.2).
    const differs = (asked: number, has: number) => asked !== 0 && asked !== has;
    if (differs(key.vendor, own.vendor) || differs(key.productCode, own.productCode))
      return [extended.vendorOrProductMismatch];
    if (differs(key.deviceType, own.deviceType)) return [extended.deviceTypeMismatch];
    if (differs(key.majorRevision & 0x7f, own.majorRevision)) return [extended.revisionMismatch];
    const compatible = (key.majorRevision & 0x80) !== 0;
    if (compatible ? key.minorRevision > own.minorRevision : differs(key.minorRevision, own.minorRevision))
      return [extended.revisionMismatch];
  }

  const points = pointsOf(path);
  const assembly = (instance: number | undefined, use: AssemblySpec['use']) =>
    objects.assemblies.find((a) => a.instance === instance && a.use === use);
  if (logicalOf(path, 'class') !== classes.assembly) return [extended.invalidConfigurationPath];
  const configuration = assembly(points.configuration, 'configuration');
  const command = assembly(points.command, 'command');
  const feedback = assembly(points.feedback, 'feedback');
  if (!configuration) return [extended.invalidConfigurationPoint];
  if (!command) return [extended.invalidToTargetPoint];
  if (!feedback) return [extended.invalidToOriginatorPoint];

  if (current) return [extended.ownershipConflict];
  if (request.toTarget.type !== 'point-to-point' || request.toOriginator.type !== 'point-to-point')
    return [extended.invalidConnectionType];
  // The second word is the size of the assembly in bytes.
  if (request.toTarget.size !== command.size + sequenceBytes + runIdleBytes)
    return [extended.invalidToTargetSize, command.size];
  if (request.toOriginator.size !== feedback.size + sequenceBytes)
    return [extended.invalidToOriginatorSize, feedback.size];
  const data = configurationData(path);
  if (data.length > 0 && data.length !== configuration.size + (configuration.size % 2))
    return [extended.invalidConfigurationSize, configuration.size];
  if (Math.min(request.toTargetRpi, request.toOriginatorRpi) < shortestRpi) return [extended.rpiNotSupported];
  return undefined;
}

const configurationData = (path: readonly Segment[]): Uint8Array =>
  path.flatMap((s) => (s.segment === 'data' ? [s.data] : []))[0] ?? nothing;

function openConnection(
  objects: TargetObjects,
  service: number,
  request: ForwardOpen,
  from: string,
): RouterResponse {
  const path = decodePath(request.path);
  const refusal = reasonToRefuse(objects, request, path);
  if (refusal)
    return {
      service,
      status: generalStatus.connectionFailure,
      extended: refusal,
      data: encode(forwardRefused, { ...triadOf(request), remainingPath: 0, reserved: 0 }),
    };
  const feedback = objects.assemblies.find(
    (a) => a.instance === pointsOf(path).feedback && a.use === 'feedback',
  )!;
  // The consumer of a point-to-point direction chooses its connection id (CIP Vol. 1, 3-7.2).
  const toTargetId = objects.newConnectionId();
  const connection = {
    request,
    toTargetId,
    toOriginatorId: request.toOriginatorId,
    feedback,
    originator: from,
  };
  objects.open(connection, configurationData(path));
  return {
    service,
    status: generalStatus.success,
    extended: [],
    data: encode(forwardOpened, {
      toTargetId,
      toOriginatorId: request.toOriginatorId,
      ...triadOf(request),
      toTargetApi: request.toTargetRpi,
      toOriginatorApi: request.toOriginatorRpi,
      applicationWords: 0,
      reserved: 0,
    }),
  };
}

function closeConnection(objects: TargetObjects, request: RouterRequest): RouterResponse {
  const wanted = decode(forwardClose, request.data, 'Forward_Close');
  const current = objects.connection();
  const known = current !== undefined && sameTriad(current.request, wanted);
  if (known) objects.close();
  const triad = triadOf(wanted);
  return {
    service: request.service,
    status: known ? generalStatus.success : generalStatus.connectionFailure,
    extended: known ? [] : [extended.connectionNotFound],
    data: known
      ? encode(forwardClosed, { ...triad, applicationWords: 0, reserved: 0 })
      : encode(forwardRefused, { ...triad, remainingPath: 0, reserved: 0 }),
  };
}
