import { z } from 'zod';
import { int, maxImageBytes, printable } from '../../entries/entries.js';
import { linkHead, linkTail, timeoutMultiplier, updateTime } from '../link.js';

/** One submodule of a PROFINET device, in the order of plugging: its bytes lie behind those of the ones before it. */
export const Slot = z.strictObject({
  slot: int(0, 0x7fff),
  subslot: int(1, 0xffff),
  /** Id of the module in its description, and the numbers by which the device knows both. */
  module: printable(80),
  moduleIdent: int(0, 0xffff_ffff),
  submoduleIdent: int(0, 0xffff_ffff),
  title: printable(64).default(''),
  /** Bytes of process data, from the device and to it. */
  inputs: int(0, maxImageBytes),
  outputs: int(0, maxImageBytes),
});

/** A link over PROFINET: one input and one output data object of all submodules. */
export const ProfinetLink = z.strictObject({
  ...linkHead,
  protocol: z.literal('profinet'),
  connection: z.literal('cyclic-rt'),
  /** Send clock × reduction ratio, controller → device and back. */
  commandRpi: updateTime,
  feedbackRpi: updateTime,
  timeoutMultiplier,
  /** What is plugged. */
  slots: z.array(Slot).max(512).default([]),
  ...linkTail,
});

/** What a PROFINET device offers beside its points. */
export const ProfinetOffer = z.strictObject({
  protocol: z.literal('profinet'),
  /** Id of the device access point in its description. */
  accessPoint: printable(80).default(''),
});

export type Slot = z.infer<typeof Slot>;
export type ProfinetLink = z.infer<typeof ProfinetLink>;
export type ProfinetOffer = z.infer<typeof ProfinetOffer>;
