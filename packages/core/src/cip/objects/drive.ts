import { flag, i16, u16, u32, u8, shortString } from '../../bytes/struct.js';
import { classes } from '../messageRouter.js';
import { attribute, single, type CipClass } from '../objectModel.js';
import { generalStatus } from '../status.js';

/** The nameplate of a motor (Motor Data object, class 16#28; CIP Vol. 1, 5-28). */
export interface MotorNameplate {
  /** 3 permanent magnet synchronous, 7 squirrel cage induction. */
  type: number;
  catalogue: string;
  /** A */
  ratedCurrent: number;
  /** V */
  ratedVoltage: number;
  /** W */
  ratedPower: number;
  /** Hz */
  ratedFrequency: number;
  poles: number;
  /** rpm */
  baseSpeed: number;
}

/** States of the Control Supervisor, class 16#29 (Vol. 1, 5-29, figure of its states). */
export const supervisorStates = {
  startup: 1,
  notReady: 2,
  ready: 3,
  enabled: 4,
  stopping: 5,
  faultStop: 6,
  faulted: 7,
} as const;

export interface DriveFacts {
  motor: MotorNameplate;
  state: number;
  runForward: boolean;
  runReverse: boolean;
  runningForward: boolean;
  runningReverse: boolean;
  ready: boolean;
  faulted: boolean;
  warning: boolean;
  faultCode: number;
  warningCode: number;
  /** Start and stop come from the network. */
  networkControls: boolean;
  networkReference: boolean;
  atReference: boolean;
  /** rpm */
  speedActual: number;
  speedReference: number;
  /** A */
  current: number;
  /** ms */
  accelerationTime: number;
  decelerationTime: number;
}

export interface DriveChange {
  networkControls?: boolean;
  networkReference?: boolean;
  resetFault?: boolean;
  accelerationTime?: number;
  decelerationTime?: number;
}

/** Motor Data, Control Supervisor and AC/DC Drive of a drive (CIP Vol. 1, 5-28 to 5-30); speeds in rpm, currents in 0.1 A. */
export function driveObjects(facts: () => DriveFacts, change: (part: DriveChange) => void): CipClass[] {
  const take = (part: DriveChange): number => {
    change(part);
    return generalStatus.success;
  };
  const motor = single(classes.motorData, {
    attributes: {
      3: attribute(u8, () => facts().motor.type),
      4: attribute(shortString, () => facts().motor.catalogue),
      6: attribute(u16, () => Math.round(facts().motor.ratedCurrent * 10)),
      7: attribute(u16, () => facts().motor.ratedVoltage),
      8: attribute(u32, () => facts().motor.ratedPower),
      9: attribute(u16, () => facts().motor.ratedFrequency),
      12: attribute(u16, () => facts().motor.poles),
      15: attribute(u16, () => facts().motor.baseSpeed),
    },
  });
  const supervisor = single(classes.controlSupervisor, {
    attributes: {
      3: attribute(flag, () => facts().runForward),
      4: attribute(flag, () => facts().runReverse),
      5: attribute(
        flag,
        () => facts().networkControls,
        (networkControls) => {
          // Who starts the drive may only be changed while it stands still (Vol. 1, 5-29.5).
          if (facts().runningForward || facts().runningReverse) return generalStatus.deviceStateConflict;
          return take({ networkControls });
        },
      ),
      6: attribute(u8, () => facts().state),
      7: attribute(flag, () => facts().runningForward),
      8: attribute(flag, () => facts().runningReverse),
      9: attribute(flag, () => facts().ready),
      10: attribute(flag, () => facts().faulted),
      11: attribute(flag, () => facts().warning),
      12: attribute(
        flag,
        () => false,
        (resetFault) => take({ resetFault }),
      ),
      13: attribute(u16, () => facts().faultCode),
      14: attribute(u16, () => facts().warningCode),
      15: attribute(flag, () => facts().networkControls),
    },
  });
  const drive = single(classes.acDcDrive, {
    attributes: {
      3: attribute(flag, () => facts().atReference),
      4: attribute(
        flag,
        () => facts().networkReference,
        (networkReference) => take({ networkReference }),
      ),
      // Drive mode 2: vendor's speed control, closed by slip compensation.
      6: attribute(u8, () => 2),
      7: attribute(i16, () => Math.round(facts().speedActual)),
      8: attribute(i16, () => Math.round(facts().speedReference)),
      9: attribute(i16, () => Math.round(facts().current * 10)),
      18: attribute(
        u16,
        () => facts().accelerationTime,
        (accelerationTime) => take({ accelerationTime }),
      ),
      19: attribute(
        u16,
        () => facts().decelerationTime,
        (decelerationTime) => take({ decelerationTime }),
      ),
      29: attribute(flag, () => facts().networkReference),
    },
  });
  return [motor, supervisor, drive];
}
