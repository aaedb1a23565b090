/** The machine around the devices: what one of them does and another one meets. Lengths in mm, masses in kg. */
export interface World {
  /** Height of the lift car. */
  liftHeight: number;
  /** A wheel lies in the lift car. */
  wheelOnLift: boolean;
  /** Compressed air reaches the gripper. */
  gripperAir: boolean;
  /** What the robot has put on the scale. */
  loadOnScale: number;
  /** Speed of the brush belt, m/s. */
  beltSpeed: number;
  /** A wheel lies before the camera. */
  wheelAtCamera: boolean;
  /** The brine valve lets through, from 0 to 1. */
  brineValve: number;
  /** Speed of the brine pump, from 0 to 1. */
  brinePump: number;
}

/** The machine as it stands in the morning: valve open, air on, a wheel in the lift. */
export const morning: World = {
  liftHeight: 0,
  wheelOnLift: true,
  gripperAir: true,
  loadOnScale: 0,
  beltSpeed: 0,
  wheelAtCamera: true,
  brineValve: 1,
  brinePump: 0,
};
