import { flag, i16, u16, u32, u8, shortString } from '../../../bytes/struct.js';
import type { DriveChange, DriveFacts } from '../../../devices/driveFacts.js';
import { classes } from '../messageRouter.js';
import { attribute, single, type CipClass } from '../objectModel.js';
import { statusOf } from '../refusals.js';
import { generalStatus } from '../status.js';

/**
 * Motor Data, Control Supervisor and AC/DC Drive of a drive (CIP Vol. 1, 5-28 to 5-30); speeds in rpm, currents in 0.1
 * A.
 */
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
          if (facts().runningForward || facts().runningReverse) return statusOf('state');
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
