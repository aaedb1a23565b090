import type { Refusal } from '../../devices/refusal.js';
import { generalStatus } from './status.js';

/** What CIP answers for each reason to refuse a value (Vol. 1, appendix B). */
const statuses: Record<Refusal, number> = {
  absent: generalStatus.pathDestinationUnknown,
  'read-only': generalStatus.attributeNotSettable,
  range: generalStatus.invalidAttributeValue,
  state: generalStatus.deviceStateConflict,
  locked: generalStatus.privilegeViolation,
  size: generalStatus.notEnoughData,
  busy: generalStatus.resourceUnavailable,
  device: generalStatus.vendorSpecific,
};

/** The general status for a refusal; success where there is none. */
export const statusOf = (refusal: Refusal | undefined): number =>
  refusal === undefined ? generalStatus.success : statuses[refusal];

/**
 * What a general status means for whoever asked for a value: the same reasons, read the other way, and what else
 * devices answer.
 */
const refusals = new Map<number, Refusal>([
  ...(Object.entries(statuses) as [Refusal, number][]).map(([refusal, status]) => [status, refusal] as const),
  [generalStatus.pathSegmentError, 'absent'],
  [generalStatus.attributeNotSupported, 'absent'],
  [generalStatus.serviceNotSupported, 'absent'],
  [generalStatus.invalidParameter, 'range'],
  [generalStatus.notEnoughData, 'size'],
  [generalStatus.tooMuchData, 'size'],
  [generalStatus.objectStateConflict, 'state'],
  [generalStatus.resourceUnavailable, 'busy'],
]);

/** Why a request was refused, by its general status; what the standard does not tell is the device's own reason. */
export const refusalOf = (status: number): Refusal => refusals.get(status) ?? 'device';
