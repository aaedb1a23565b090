/**
 * What status codes mean and what to do. General status: CIP Vol. 1, appendix B-1; extended status of the Connection
 * Manager: Vol. 1, table 3-5.33. Codes and names from memory of these tables; sentences and cures are ours.
 */
export interface StatusText {
  means: string;
  cure: string;
}

/** General status codes that targets of this kind answer. */
export const generalStatus = {
  success: 0x00,
  connectionFailure: 0x01,
  resourceUnavailable: 0x02,
  pathSegmentError: 0x04,
  pathDestinationUnknown: 0x05,
  serviceNotSupported: 0x08,
  invalidAttributeValue: 0x09,
  attributeListError: 0x0a,
  objectStateConflict: 0x0c,
  attributeNotSettable: 0x0e,
  privilegeViolation: 0x0f,
  deviceStateConflict: 0x10,
  replyTooLarge: 0x11,
  notEnoughData: 0x13,
  attributeNotSupported: 0x14,
  tooMuchData: 0x15,
  embeddedServiceError: 0x1e,
  vendorSpecific: 0x1f,
  invalidParameter: 0x20,
} as const;

const general: Record<number, StatusText> = {
  0x01: { means: 'A connection could not be made.', cure: 'The extended status says why.' },
  0x02: { means: 'The device has no resources left.', cure: 'Close other connections to it.' },
  0x04: { means: 'The device does not understand the path.', cure: 'Look at class, instance and attribute.' },
  0x05: {
    means: 'The device has no such class or instance.',
    cure: 'Compare the instance numbers with the description of the device.',
  },
  0x08: {
    means: 'The device does not offer this service.',
    cure: 'Use a service that its manual lists for this object.',
  },
  0x09: {
    means: 'The device does not accept this value.',
    cure: 'Compare with the range that its manual gives.',
  },
  0x0a: {
    means: 'One of the attributes that were asked for could not be had.',
    cure: 'Look at the status beside each attribute in the answer.',
  },
  0x0c: {
    means: 'The object cannot do this in its present state.',
    cure: 'Bring the device into the state that is asked for, such as stopped.',
  },
  0x0e: { means: 'This attribute can only be read.', cure: 'Write the parameter that it is made from.' },
  0x0f: {
    means: 'The device does not let everybody do this.',
    cure: 'Give the key word or the access right that its manual asks for, then try again.',
  },
  0x10: {
    means: 'The state of the device forbids this.',
    cure: 'Stop it, or end another master’s control, then try again.',
  },
  0x11: {
    means: 'The answer is longer than the connection can carry.',
    cure: 'Ask for less at once, or over a larger connection.',
  },
  0x13: { means: 'Too few bytes were sent.', cure: 'Compare the length with the type of the value.' },
  0x14: { means: 'The object has no such attribute.', cure: 'Compare the attribute number with the manual.' },
  0x15: { means: 'Too many bytes were sent.', cure: 'Compare the length with the type of the value.' },
  0x1e: {
    means: 'One of several requests in the message failed.',
    cure: 'Look at the status of each answer.',
  },
  0x1f: {
    means: 'The device answers with an error of its maker.',
    cure: 'Look the extended status up in its manual.',
  },
  0x20: { means: 'A value that came with the request is not allowed.', cure: 'Compare it with the manual.' },
};

/** Extended status of the Connection Manager with general status 1. */
export const extendedStatus = {
  connectionInUse: 0x0100,
  transportNotSupported: 0x0103,
  ownershipConflict: 0x0106,
  connectionNotFound: 0x0107,
  invalidConnectionParameters: 0x0108,
  invalidConnectionSize: 0x0109,
  notListening: 0x0119,
  invalidTimeoutMultiplier: 0x0133,
  rpiNotSupported: 0x0111,
  outOfConnections: 0x0113,
  vendorOrProductMismatch: 0x0114,
  deviceTypeMismatch: 0x0115,
  revisionMismatch: 0x0116,
  invalidConfigurationPath: 0x0117,
  invalidToTargetType: 0x0123,
  invalidToOriginatorType: 0x0124,
  invalidConfigurationSize: 0x0126,
  invalidToTargetSize: 0x0127,
  invalidToOriginatorSize: 0x0128,
  invalidConfigurationPoint: 0x0129,
  invalidToTargetPoint: 0x012a,
  invalidToOriginatorPoint: 0x012b,
  unconnectedTimedOut: 0x0204,
  connectionTimedOut: 0x0203,
  portNotAvailable: 0x0311,
  linkAddressNotValid: 0x0312,
  invalidSegment: 0x0315,
} as const;

const extended: Record<number, StatusText> = {
  0x0100: {
    means: 'The same connection is open already.',
    cure: 'Wait until the old one times out, or close it.',
  },
  0x0103: {
    means: 'The device does not offer this transport class or trigger.',
    cure: 'Use class 1, cyclic.',
  },
  0x0106: {
    means: 'Another controller owns the outputs.',
    cure: 'Find and stop the other owner, or ask for an input-only connection.',
  },
  0x0107: { means: 'The device knows no such connection.', cure: 'It has timed out already; open it anew.' },
  0x0108: {
    means: 'The parameters of the connection are not valid.',
    cure: 'Compare type and priority with the manual.',
  },
  0x0109: {
    means: 'The size of the connection does not fit the device.',
    cure: 'Enter the sizes of the assembly instances in bytes.',
  },
  0x0111: { means: 'The device does not offer this update time.', cure: 'Ask for a longer one.' },
  0x0113: { means: 'The device has no connection left.', cure: 'Close other connections to it.' },
  0x0114: {
    means: 'Vendor or product code differs from the plan: another device has this address.',
    cure: 'Find out which device it is, then correct the plan or the address.',
  },
  0x0115: {
    means: 'The device type differs from the plan: another kind of device has this address.',
    cure: 'Find out which device it is, then correct the plan or the address.',
  },
  0x0116: {
    means: 'The revision differs from the plan.',
    cure: 'Accept the revision that was found, if its images are the same.',
  },
  0x0117: {
    means: 'An assembly instance of the path does not exist.',
    cure: 'Compare the instance numbers with the description of the device.',
  },
  0x0119: {
    means: 'There is nothing to listen to: no controller holds a connection that sends these data.',
    cure: 'Have the owner open its connection first, or ask for an input-only connection.',
  },
  0x0123: {
    means: 'The device does not offer this connection type for commands.',
    cure: 'Use point-to-point.',
  },
  0x0124: {
    means: 'The device does not offer this connection type for feedback.',
    cure: 'Use point-to-point, or multicast where its manual names it.',
  },
  0x0133: {
    means: 'The device does not know this time-out multiplier.',
    cure: 'Use 4, 8, 16, 32, 64, 128, 256 or 512.',
  },
  0x0126: {
    means: 'The configuration data has the wrong size.',
    cure: 'Send as many bytes as the configuration assembly has, or none.',
  },
  0x0127: {
    means: 'The command image has the wrong size.',
    cure: 'Enter the size of the assembly in bytes.',
  },
  0x0128: {
    means: 'The feedback image has the wrong size.',
    cure: 'Enter the size of the assembly in bytes.',
  },
  0x0129: {
    means: 'The configuration instance does not exist.',
    cure: 'Compare it with the description of the device.',
  },
  0x012a: {
    means: 'The command instance does not exist.',
    cure: 'Compare it with the description of the device.',
  },
  0x012b: {
    means: 'The feedback instance does not exist.',
    cure: 'Compare it with the description of the device.',
  },
  0x0203: {
    means: 'The connection has timed out.',
    cure: 'Look for lost packets; a longer update time helps a loaded network.',
  },
  0x0204: {
    means: 'The request to open was not answered in time.',
    cure: 'Look at power and cable; try again.',
  },
  0x0311: {
    means: 'The path names a port that the device does not have.',
    cure: 'Address the device directly.',
  },
  0x0312: {
    means: 'The path names a place behind a port that is not there.',
    cure: 'Address the device directly.',
  },
  0x0315: {
    means: 'The path has a segment that the device does not understand.',
    cure: 'Compare the path with the description of the device.',
  },
};

/** Sentence and cure of a status pair; an extended status only speaks with general status 1. */
export function statusText(status: number, extendedWords: readonly number[] = []): StatusText {
  const fine = status === 1 && extendedWords[0] !== undefined ? extended[extendedWords[0]] : undefined;
  return (
    fine ??
    general[status] ?? {
      means: 'The standard gives this code no meaning here.',
      cure: 'Look it up in the manual of the device.',
    }
  );
}

/** 16#0109: how codes are written in messages. */
export const hexCode = (code: number, digits: number): string =>
  `16#${code.toString(16).toUpperCase().padStart(digits, '0')}`;
