import type { LayoutsFacts } from '../facts/layouts.js';
import type { Texts } from '../wording.js';

/** Layouts, values and parameters of the design. */
export const layoutsTexts: Texts<LayoutsFacts> = {
  'field.overlap': (f) => ({
    says: `${f.first} and ${f.second} both use bits ${f.fromBit} to ${f.toBit} of ${f.image}.`,
    cure: 'Move or shorten one of them.',
  }),
  'field.pastEnd': (f) => ({
    says: `${f.field} ends in byte ${f.endsAtByte}, but ${f.image} has only ${f.size} bytes.`,
    cure: 'Make the image as large as the device says, or move the field.',
  }),
  'field.nameTwice': (f) => ({
    says: `${f.count} fields of ${f.image} are called ${f.name}.`,
    cure: 'Name each after what it does; code needs one name a signal.',
  }),
  'image.straddles': (f) => ({
    says: `${f.fields === 1 ? 'A value' : `${f.fields} values`} of ${f.image}, ${f.first} first, ${f.fields === 1 ? 'lies' : 'lie'} across two ${f.elementBits}-bit elements of the controller.`,
    cure: 'If the manual agrees, code must put the parts together, as the written code does; if not, the base of the addresses may be wrong.',
  }),
  'field.oddUnderSwap': (f) => ({
    says: `${f.field} of ${f.image} begins at the odd byte ${f.byte}, and the bytes of each word are swapped on the way.`,
    cure: 'Its bytes arrive in two different words: put them together by hand, or have the device place it at an even byte.',
  }),
  'field.halvesApart': (f) => ({
    says: `${f.first} and ${f.second} of ${f.image} are named as halves of one value, with ${f.bits} bits between them.`,
    cure: 'Compare the addresses with the manual; halves lie side by side as a rule.',
  }),
  'field.signNowhere': (f) => ({
    says: `The sign of ${f.field} in ${f.image} should come from ${f.where}.`,
    cure: 'Choose the field and the bit that hold the sign.',
  }),
  'role.twice': (f) => ({
    says: `In ${f.image}, ${f.fields} have the role ${f.role}.`,
    cure: 'Leave it to the one that the manual means.',
  }),
  'role.unfit': (f) => ({
    says: `In ${f.image}, ${f.field} has the role ${f.role}: ${f.why}.`,
    cure: 'Choose another role, or correct the field.',
  }),
  'role.missing': (f) => ({
    says: `Nothing of ${f.device} has the role ${f.role}, without which a ${f.kind} cannot be worked with.`,
    cure: 'Give the role to the field or bit that it is.',
  }),
  'field.signUnused': (f) => ({
    says: `${f.field} of ${f.image} is read as positive always, though ${f.sign} stands beside it.`,
    cure: `Take its sign from ${f.sign}.`,
  }),
  'field.decimalsNowhere': (f) => ({
    says: `The decimal point of ${f.field} in ${f.image} should come from a field that is gone or is no number.`,
    cure: 'Choose the field that holds the decimal places, or state them.',
  }),
  'field.unitMissing': (f) => ({
    says: `${f.field} of ${f.image} is scaled, but has no unit.`,
    cure: 'Enter the unit of the scaled value.',
  }),
  'field.limitsOutOfRange': (f) => ({
    says: `${f.field} of ${f.image} is limited to ${f.limits}, but its raw numbers only reach ${f.range}.`,
    cure: 'Compare factor and type with the manual.',
  }),
  'field.coarseSteps': (f) => ({
    says: `${f.field} of ${f.image} has only ${f.steps} raw numbers between its limits ${f.limits}.`,
    cure: 'The factor seems too large: compare it with the manual.',
  }),
  'field.factorTooFine': (f) => ({
    says: `With the factor ${f.factor}, ${f.field} of ${f.image} comes to ${f.greatest}, where a REAL cannot tell its steps apart.`,
    cure: 'Compare factor and offset with the manual, or use an LREAL in the controller.',
  }),
  'field.labelOutside': (f) => ({
    says: `${f.field} of ${f.image} has a text for ${f.values}, but holds ${f.minimum} to ${f.maximum}.`,
    cure: 'Correct the number, or give the field the length that the manual says.',
  }),
  'field.safetyFeedback': (f) => ({
    says: `${f.field} of ${f.image} reports a safety function, but the device is a ${f.kind} on a standard protocol.`,
    cure: 'Use it to inform only; what stops the machine must come from the safety circuit itself.',
  }),
  'field.safetyCommand': (f) => ({
    says: `${f.field} of ${f.image} serves a safety function, but a standard protocol carries it.`,
    cure: 'Let the safety circuit act; what goes over this link may only ask and report.',
  }),
  'image.orderNotStated': (f) => ({
    says: `${f.device} can send in either byte order, and ${f.image} does not say which (${f.fields} fields, ${f.first} first).`,
    cure: 'State the order that is set in the device; read one known value to be sure.',
  }),
  'image.baseDoubtful': (f) => ({
    says: `${f.field} lies past the end of ${f.image}; one unit of ${f.unitBits} bits further up, all ${f.fields} fields would fit.`,
    cure: 'The manual seems to count from 1 where 0 was taken: move all fields forward by one unit.',
  }),
  'image.rangeBaseDoubtful': (f) => ({
    says: `Signals ${f.first} to ${f.last} from point ${f.point} end one bit behind the ${f.bits} bits of ${f.image}.`,
    cure: `The manual seems to count points from 0: start at point ${f.start}.`,
  }),
  'image.rangePastEnd': (f) => ({
    says: `Signals ${f.first} to ${f.last} from point ${f.point} do not fit the ${f.bits} bits of ${f.image}.`,
    cure: 'Correct the count or the first point, or make the image larger.',
  }),
  'image.blockOutside': (f) => ({
    says: `Block ${f.block} would begin at byte ${f.at}; ${f.image} has ${f.size} bytes.`,
    cure: 'Correct where it begins, or make the image larger.',
  }),
  'image.blockOffUnit': (f) => ({
    says: `Block ${f.block} of ${f.image} begins at byte ${f.at}, within a unit of ${f.unitBytes} bytes.`,
    cure: `Begin it at a multiple of ${f.unitBytes}, or number the image in smaller units.`,
  }),
  'image.blockCutsField': (f) => ({
    says: `Block ${f.block} of ${f.image} begins at byte ${f.at}, in the middle of ${f.field}: its base does not fit.`,
    cure: `Begin it at ${f.before} or at ${f.behind}: the manual may count its bytes or words from another base.`,
  }),
  'image.notationUnknown': (f) => ({
    says: `${f.image} is numbered in the notation ${f.notation}, which is not described.`,
    cure: 'Choose another notation, or describe this one for the cell.',
  }),
  'derived.nameUnknown': (f) => ({
    says: `${f.name} of ${f.image} is computed from ${f.missing}, which is not there.`,
    cure: 'Use the names of fields of this image, with underscores for all other characters.',
  }),
  'derived.wrong': (f) => ({
    says: `${f.name} of ${f.image} cannot be computed. ${f.reason}`,
    cure: 'Correct its expression.',
  }),
  'machine.targetUnknown': (f) => ({
    says: `The machine's line ${f.line} is for ${f.missing}, which is not there.`,
    cure: 'Name a device, a point, and a quantity of its kind or a feedback role or field; or remove the line.',
  }),
  'machine.nameUnknown': (f) => ({
    says: `The machine's line ${f.line} is computed from ${f.missing}, which is not there.`,
    cure: 'Name another line, or a device, a point and its role or field, with underscores for all other characters.',
  }),
  'machine.wrong': (f) => ({
    says: `The machine's line ${f.line} cannot be computed. ${f.reason}`,
    cure: 'Correct its expression.',
  }),
  'machine.twice': (f) => ({
    says: `The machine has two lines for ${f.line}: the second undoes the first.`,
    cure: 'Remove one, or give it another name.',
  }),
  'image.notWholeElements': (f) => ({
    says: `${f.image} has ${f.size} bytes, which is no whole number of the controller's ${f.elementBits}-bit elements.`,
    cure: `Make the controller's array one element longer, or choose 8-bit elements; the device's size stays.`,
  }),
  'image.sizeFactor': (f) => ({
    says: `${f.image} is planned with ${f.planned} bytes, the device has ${f.actual}: off by ${f.factor}. ${f.reading}`,
    cure: `Enter ${f.actual} bytes.`,
  }),
  'image.sizeDiffers': (f) => ({
    says: `${f.image} is planned with ${f.planned} bytes, the device has ${f.actual}.`,
    cure: `Enter ${f.actual} bytes, or choose the instance that has ${f.planned}.`,
  }),
  'image.instanceUnknown': (f) => ({
    says: `${f.image} names assembly instance ${f.instance}, which the device does not have.`,
    cure: `Its instances for this direction: ${f.known}.`,
  }),
  'image.areaOverlap': (f) => ({
    says: `${f.first} and ${f.second} both use byte ${f.byte} of the controller's ${f.direction} area.`,
    cure: 'Give one of them another start address.',
  }),
  'parameter.placeTwice': (f) => ({
    says: `${f.parameters} of ${f.device} stand at the same place, ${f.place}.`,
    cure: 'Look up both in the manual: one of the numbers was mistyped.',
  }),
  'parameter.placeUnreached': (f) => ({
    says: `${f.parameter} of ${f.device} is at ${f.place}, which ${f.protocols} does not reach.`,
    cure: 'Enter the place that the manual gives for this protocol.',
  }),
  'parameter.notNetwork': (f) => ({
    says: `${f.device} is commanded over the network, and its ${f.parameter} is ${setTo(f)}: it will not obey.`,
    cure: 'Plan the choice that takes it from the network, and write it to the device.',
  }),
  'parameter.noLossReaction': (f) => ({
    says: `${f.device} is to drop its outputs when the connection is lost, and its ${f.parameter} is ${setTo(f)}: it will go on.`,
    cure: 'Plan the reaction that stops it, and write it to the device.',
  }),
  'parameter.addressAsked': (f) => ({
    says: `${f.device} has a fixed address in the plan, and its ${f.parameter} is ${setTo(f)}: without a server it is gone after its next start.`,
    cure: 'Plan that it keeps its address, or have it done on the wire.',
  }),
  'parameter.orderDiffers': (f) => ({
    says: `The images of ${f.device} are laid out ${f.order}, and its ${f.parameter} is ${setTo(f)}.`,
    cure: 'Plan the other byte order for the device, or lay out the images as it sends them.',
  }),
  'parameter.portNotReady': (f) => ({
    says: `${f.device} shows data of port ${f.port}, and its ${f.parameter} is ${setTo(f)}: the port stays without data.`,
    cure: 'Plan load power and mode for the port, and write them to the master.',
  }),
  'parameter.portLength': (f) => ({
    says: `${f.parameter} of ${f.device} is ${f.planned} bytes, and ${f.at} at port ${f.port} has ${f.bytes}.`,
    cure: 'Plan the length that the device has: a shorter one cuts its values off, a longer one is refused by most masters.',
  }),
  'parameter.beyondNameplate': (f) => ({
    says: `${f.parameter} of ${f.device} is ${f.value}, and ${f.nameplate} is ${f.rated}.`,
    cure: 'Compare both with the nameplate of the motor; keep it if more is allowed for a short time or with a weaker field.',
  }),
  'parameter.portPlace': (f) => ({
    says: `${f.parameter} stands behind port ${f.port} of ${f.device}, and how the master passes requests on is not known.`,
    cure: 'Enter it under Parameters, Ports: the manual of the master says which object or which registers.',
  }),
  'parameter.value': (f) => ({
    says: `${f.parameter} of ${f.device}: ${f.reason}.`,
    cure: 'Compare type, factor, limits and initial value with the manual.',
  }),
  'field.parameterUnknown': (f) => ({
    says: `The decimal point of ${f.field} is said by parameter ${f.parameter}, which ${f.device} does not have.`,
    cure: 'Write its name or code as it stands among the parameters of the device, or add it there.',
  }),
  'image.layoutDiffers': (f) => ({
    says: `${f.image} is laid out differently from ${f.point}, which it exchanges: ${f.fields}${f.count > 3 ? ` and ${f.count - 3} more` : ''}.`,
    cure: 'Take the layout of the connection point, or choose the point that this layout belongs to.',
  }),
};

const setTo = ({ label, planned }: { label: string; planned: boolean }): string =>
  planned ? `planned as “${label}”` : `“${label}” by default`;
