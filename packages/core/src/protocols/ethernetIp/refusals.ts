import type { Refusal } from '../../devices/parameterAccess.js';
import { generalStatus } from './status.js';

/** What CIP answers for each reason to refuse a value (Vol. 1, appendix B). */
const statuses: Record<Refusal, number> = {
  absent: generalStatus.pathDestinationUnknown,
  'read-only': generalStatus.attributeNotSettable,
  range: generalStatus.invalidAttributeValue,
  state: generalStatus.deviceStateConflict,
  locked: generalStatus.privilegeViolation,
  device: generalStatus.vendorSpecific,
};

/** The general status for a refusal; success where there is none. */
export const statusOf = (refusal: Refusal | undefined): number =>
  refusal === undefined ? generalStatus.success : statuses[refusal];
