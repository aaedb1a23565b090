/** The nameplate of a motor (as the Motor Data object, class 16#28, has it; CIP Vol. 1, 5-28). */
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
