/** A figure of a drive train, and what it may be; texts with units. */
interface Figure {
  device: string;
  is: string;
  may: string;
}

/** Drive trains, and moves by hand. */
export interface MotionFacts {
  'train.nameplateLocked': { device: string; entry: string };
  'train.scaleStrayed': { device: string; field: string };
  'train.turnedTwice': { device: string; parameter: string };
  'train.inertiaRatio': Figure;
  'train.rmsTorque': Figure;
  'train.peakTorque': Figure;
  'train.speed': Figure;
  'train.fieldWeakening': Figure;
  'train.coupling': Figure;
  'train.brake': Figure;
  'train.brakeMissing': Figure;
  'train.resistorMissing': Figure;
  'train.resistorResistance': Figure;
  'train.resistorPower': Figure;
  'train.encoderOverflow': Figure;
  'train.moduloDrifts': Figure;
  'train.unitsCoarse': Figure;
  'manual.notPossible': { device: string; missing: string };
  'manual.heldByOther': { device: string };
}
