import { protocolById, type Cell, type EthernetIpLink, type ManualLine } from '@fadenkreuz/core';
import { emptyImage, type ByHandEntry } from '../protocolForms.js';

/** What a manual's table of assemblies says. */
export interface Assemblies extends ByHandEntry {
  commandInstance: number;
  commandCount: number;
  feedbackInstance: number;
  feedbackCount: number;
  configurationInstance: number;
  /** Bytes per counted unit: the manual may count bytes, 16- or 32-bit elements. */
  unitBytes: number;
}

export const initial = (): Assemblies => ({
  commandInstance: 100,
  commandCount: 2,
  feedbackInstance: 101,
  feedbackCount: 2,
  configurationInstance: 102,
  unitBytes: 2,
  updateMs: 20,
});

export function linkFrom(cell: Cell, entry: Assemblies, newId: () => string): EthernetIpLink {
  const { commandInstance, commandCount, feedbackInstance, feedbackCount, unitBytes } = entry;
  const command = { instance: commandInstance, size: commandCount * unitBytes };
  const feedback = { instance: feedbackInstance, size: feedbackCount * unitBytes };
  return {
    ...protocolById('ethernet-ip').create({
      id: newId(),
      command: emptyImage(cell, 'command', command, newId),
      feedback: { ...emptyImage(cell, 'feedback', feedback, newId), derived: [] },
      update: entry.updateMs * 1000,
    }),
    configuration: { instance: entry.configurationInstance, data: '' },
  } as EthernetIpLink;
}

/** What a manual's line says, taken over into the entries; sizes are bytes then, or whole elements of the same unit. */
export function withLine(
  entry: Assemblies,
  { command, feedback, configuration, rpiMs }: ManualLine,
): Assemblies {
  const sizes = [command?.bytes, feedback?.bytes].filter((b) => b !== undefined);
  const unitBytes = sizes.every((b) => b % entry.unitBytes === 0) ? entry.unitBytes : 1;
  const counted = (bytes: number | undefined, before: number) =>
    bytes === undefined ? (before * entry.unitBytes) / unitBytes : bytes / unitBytes;
  return {
    ...entry,
    unitBytes,
    commandInstance: command?.instance ?? entry.commandInstance,
    commandCount: counted(command?.bytes, entry.commandCount),
    feedbackInstance: feedback?.instance ?? entry.feedbackInstance,
    feedbackCount: counted(feedback?.bytes, entry.feedbackCount),
    configurationInstance: configuration?.instance ?? entry.configurationInstance,
    updateMs: rpiMs ?? entry.updateMs,
  };
}
