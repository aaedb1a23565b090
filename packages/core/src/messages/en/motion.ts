import type { MotionFacts } from '../facts/motion.js';
import type { Texts } from '../wording.js';

export const motionTexts: Texts<MotionFacts> = {
  'train.nameplateLocked': (f) => ({
    says: `${f.entry} of the motor of ${f.device} was read from its nameplate, and is locked.`,
    cure: 'Uncouple the nameplate first, under Motion.',
  }),
  'train.scaleStrayed': (f) => ({
    says: `${f.field} of ${f.device} follows the drive train, but has another scale.`,
    cure: 'Take the scale of the train again, or let the field not follow, under Motion.',
  }),
  'train.turnedTwice': (f) => ({
    says: `${f.device}: ${f.parameter} turns its direction round, and the scales of its fields once more: it goes the wrong way.`,
    cure: 'Turn it round in one place: in the drive, or in the drive train.',
  }),
  'train.inertiaRatio': (f) => ({
    says: `${f.device}: the load has ${f.is} times the moment of inertia of the motor; ${f.may} times is usual at most.`,
    cure: 'Take a gear with more reduction, or a motor with more inertia.',
  }),
  'train.rmsTorque': (f) => ({
    says: `${f.device}: the moves ask for ${f.is} all the time; the motor has ${f.may}.`,
    cure: 'Accelerate less, rest longer, or take a larger motor.',
  }),
  'train.peakTorque': (f) => ({
    says: `${f.device}: the moves ask for ${f.is} at most; the motor gives ${f.may}.`,
    cure: 'Accelerate less, or take a larger motor.',
  }),
  'train.speed': (f) => ({
    says: `${f.device}: the moves turn the motor with ${f.is}; it may turn with ${f.may}.`,
    cure: 'Move slower, or take a gear with less reduction.',
  }),
  'train.fieldWeakening': (f) => ({
    says: `${f.device}: ${f.is} lies above the rated speed of ${f.may}: there the motor has less torque.`,
    cure: 'Move slower, or look at the torque that is left in the diagram.',
  }),
  'train.coupling': (f) => ({
    says: `${f.device}: ${f.is} is more than the coupling carries, ${f.may}.`,
    cure: 'Accelerate less, or take a larger coupling.',
  }),
  'train.brake': (f) => ({
    says: `${f.device}: at rest the load asks for ${f.is}; the brake holds ${f.may}.`,
    cure: 'Take a larger brake, or balance the load.',
  }),
  'train.brakeMissing': (f) => ({
    says: `${f.device}: its load asks for ${f.is} at rest, and there is no brake: it falls when the drive is off.`,
    cure: 'Add a brake, or balance the load.',
  }),
  'train.resistorMissing': (f) => ({
    says: `${f.device}: ${f.is} come back in one braking, more than the DC bus takes, and there is no braking resistor.`,
    cure: 'Add a braking resistor, or brake slower.',
  }),
  'train.resistorResistance': (f) => ({
    says: `${f.device}: the braking resistor has ${f.is}; for the peak it may have ${f.may} at most.`,
    cure: 'Take a resistor of less resistance, as far as the drive allows, or brake slower.',
  }),
  'train.resistorPower': (f) => ({
    says: `${f.device}: the braking resistor takes ${f.is} over the cycle; it is rated for ${f.may}.`,
    cure: 'Take a larger resistor, or rest longer between the moves.',
  }),
  'train.encoderOverflow': (f) => ({
    says: `${f.device}: the moves reach over ${f.is}; encoder and counter tell ${f.may} apart.`,
    cure: 'Take larger units or an encoder with more revolutions, or say that the axis begins anew (modulo).',
  }),
  'train.moduloDrifts': (f) => ({
    says: `${f.device}: its modulo range is ${f.is} increments, no whole number: it drifts with each turn.`,
    cure: 'Enter the gear exactly, as a fraction, or another range.',
  }),
  'train.unitsCoarse': (f) => ({
    says: `${f.device}: its position fields have steps of ${f.is}; the encoder tells ${f.may} apart.`,
    cure: 'Give the fields more decimal places, or let them follow the train.',
  }),
  'manual.notPossible': (f) => ({
    says: `${f.device} cannot be moved by hand: no field has the role ${f.missing}.`,
    cure: 'Give its fields their roles in the Sight.',
  }),
  'manual.heldByOther': (f) => ({
    says: `${f.device} is moved by somebody else.`,
    cure: 'Wait until it is let go.',
  }),
};
