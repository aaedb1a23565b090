import type { Description } from '../cell/description.js';
import type { Cell, Device } from '../cell/model.js';
import type { DescribedBase } from './shared/described.js';
import type { Choice, DescriberKind, DescriberSummary, DevicePlace } from './describer.js';
import { edsKind } from './eds/kind.js';
import type { Fact } from './fact.js';
import { gsdmlKind } from './gsdml/kind.js';
import { ioddKind } from './iodd/kind.js';
import { tableKind } from './table/kind.js';

/** Every kind of description, in the order in which a file is tried; the last takes what is left. */
export const describerKinds = [ioddKind, gsdmlKind, tableKind, edsKind] as const;

/** What a description file can be. */
export type AnyDescriber = ReturnType<(typeof describerKinds)[number]['read']>['describer'];

/** A kind whose describers are not looked at. */
type AnyKind = DescriberKind<DescribedBase & { source: string }>;
const kindOf = ({ source }: AnyDescriber): AnyKind =>
  describerKinds.find((kind) => kind.source === source) as unknown as AnyKind;

/** The kinds of file that this device can be written as. */
export const writersFor = (device: Device): NonNullable<AnyKind['writes']>[] =>
  (describerKinds as unknown as AnyKind[]).flatMap(({ writes }) => (writes?.can(device) ? [writes] : []));

/** What a library lists of a describer. */
export const summaryOf = (describer: AnyDescriber): DescriberSummary => ({
  source: describer.source,
  ...kindOf(describer).summary(describer),
});

/** What a describer says, thing by thing. */
export const factsOf = (describer: AnyDescriber): Fact[] => kindOf(describer).facts(describer);

/** How much is in it: number and what. */
export const countsOf = (describer: AnyDescriber): [number, string][] => kindOf(describer).counts(describer);

/**
 * The ways to make a device of a describer; none for one that describes no device with an address of its own, or no
 * connection.
 */
export const choicesOf = (describer: AnyDescriber): Choice[] => kindOf(describer).choices(describer);

/** What a device of this choice offers; undefined when the describer does not have it. */
export const descriptionOf = (
  describer: AnyDescriber,
  choice: number,
  newId: () => string,
): Description | undefined => kindOf(describer).describe(describer, choice, newId);

/** A device of the cell made of a describer; undefined when it does not have this choice. Ids come from `newId`. */
export const deviceOfChoice = (
  describer: AnyDescriber,
  choice: number,
  cell: Cell,
  place: DevicePlace,
  newId: () => string,
): Device | undefined => kindOf(describer).device(describer, choice, cell, place, newId);
