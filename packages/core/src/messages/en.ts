import type { Code, Facts } from './facts.js';

export interface Wording {
  /** What happened, and where. */
  says: string;
  /** What to do about it. */
  cure: string;
}

type Dictionary = { [C in Code]: (facts: Facts[C]) => Wording };

/** All sentences in English, by code. */
export const en: Dictionary = {
  'file.tooLarge': (f) => ({
    says: `The file has ${f.bytes} bytes; a cell file may have ${f.limit}.`,
    cure: 'Split the cell, or take out what is no cell data.',
  }),
  'file.notJson': (f) => ({
    says: `The file is no complete JSON: ${f.reason}.`,
    cure: 'Export it again, or mend it at that place.',
  }),
  'file.notACell': (f) => ({
    says: `The file does not call itself a Fadenkreuz cell; it starts with ${f.found}.`,
    cure: 'Choose a file that was exported as a cell file.',
  }),
  'file.notAWorkbook': (f) => ({
    says: `The file is no workbook that can be read: ${f.reason}.`,
    cure: 'Save it as .xlsx or .csv, or copy its rows and paste them.',
  }),
  'file.version': (f) => ({
    says: `The file is of version ${f.found}; this program reads version ${f.known}.`,
    cure: 'Open it with a newer program, or export it from one in this version.',
  }),
  'input.invalid': (f) => ({
    says: `${f.where}: ${f.reason}.`,
    cure: 'Correct this entry; nothing was stored.',
  }),
  'bytes.short': (f) => ({
    says: `${f.what} needs ${f.need} bytes, ${f.have} are there.`,
    cure: 'The sender cut it short: capture the traffic and look at this message.',
  }),
  'value.doesNotFit': (f) => ({
    says: `${f.value} does not fit ${f.field}, which holds ${f.least} to ${f.most}.`,
    cure: 'Enter a value in this range, or give the field a wider type.',
  }),
  'value.notANumber': (f) => ({
    says: `"${f.value}" is no value for ${f.field}.`,
    cure: 'Enter a number; a bit takes 0 or 1.',
  }),
  'value.outsideLimits': (f) => ({
    says: `${f.value} ${f.unit} lies outside the limits of ${f.field}, ${f.least} to ${f.most} ${f.unit}.`,
    cure: 'Enter a value between them, or correct the limits of the field.',
  }),
  'value.noSign': (f) => ({
    says: `${f.field} has no bit for its sign.`,
    cure: 'Enter a positive value, or name the field that holds its sign.',
  }),
  'value.noSuchCharacter': (f) => ({
    says: `The text has a character that ${f.encoding} cannot write in ${f.field}.`,
    cure: 'Leave it out, or set the encoding that the device reads.',
  }),
  'value.textTooLong': (f) => ({
    says: `The text takes ${f.bytes} bytes; ${f.field} has room for ${f.room}.`,
    cure: 'Shorten it.',
  }),
  'value.bytesMissing': (f) => ({
    says: `${f.bytes} bytes were given; ${f.field} holds ${f.need}.`,
    cure: `Enter ${f.need} pairs of hex digits.`,
  }),
  'address.unreadable': (f) => ({
    says: `"${f.text}" is no address of this image.`,
    cure: `Write it like ${f.example}.`,
  }),
  'address.outside': (f) => ({
    says: `${f.text} lies outside ${f.image}.`,
    cure: `Its last address is ${f.last}.`,
  }),
  'address.noSuchBit': (f) => ({
    says: `There is no such bit in ${f.unit}.`,
    cure: `Its bits are ${f.first} to ${f.last}.`,
  }),
  'address.otherDirection': (f) => ({
    says: `${f.text} is an address of the other direction, not of ${f.image}.`,
    cure: `Write it like ${f.example}, or turn to the other image.`,
  }),
  'expression.wrong': (f) => ({
    says: `${f.expression}: ${f.reason}, at character ${f.at + 1}.`,
    cure: 'Use field names, numbers, + - * /, comparisons, a ? b : c, and the functions bits, lowest, highest, abs, min, max, round.',
  }),
  'edit.unknown': (f) => ({
    says: `There is no ${f.what} with the id ${f.id} in this cell.`,
    cure: 'Somebody may have removed it; look at the present state.',
  }),
  'edit.idTaken': (f) => ({ says: `The id ${f.id} is used already.`, cure: 'Add it under a new id.' }),
  'edit.fieldPastEnd': (f) => ({
    says: `${f.field} would end at bit ${f.endsAtBit}, but the image ends at bit ${f.imageBits}.`,
    cure: 'Place it further up, make it shorter, or make the image larger first.',
  }),
  'edit.conflict': (f) => ({
    says: `Not stored: somebody else changed ${f.what} meanwhile (${f.by}).`,
    cure: 'Look at what stands there now; your entry is kept here, and can be made again.',
  }),
  'edit.undoConflict': (f) => ({
    says: `"${f.title}" cannot be taken back: somebody else has changed the same since (${f.by}).`,
    cure: 'Change it by hand to what it should be.',
  }),
  'edit.ahead': (f) => ({
    says: `The edit was made on version ${f.madeOn}, but the cell is at ${f.now}.`,
    cure: 'Load the page again.',
  }),
  'bench.otherVersion': (f) => ({
    says: `The bench runs version ${f.has}, not ${f.asked}.`,
    cure: 'Send it the whole cell.',
  }),
  'edit.nothingToUndo': () => ({
    says: 'There is nothing to undo in this cell.',
    cure: 'Every edit is undone already.',
  }),
  'edit.nothingToRedo': () => ({
    says: 'There is nothing to redo in this cell.',
    cure: 'Redo follows an undo directly; a new edit ends it.',
  }),
  'cell.unknown': (f) => ({
    says: `There is no cell ${f.cell}.`,
    cure: 'Choose one from the list of cells.',
  }),
  'cell.noSuchVersion': (f) => ({
    says: `There is no version ${f.version} of this cell.`,
    cure: `Its versions are 1 to ${f.now}.`,
  }),
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
    says: `${f.field} of ${f.image} has a text for ${f.values}, but holds ${f.least} to ${f.most}.`,
    cure: 'Correct the number, or give the field the length that the manual says.',
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
    says: `${f.parameter} of ${f.device} stands at ${f.place}, which ${f.protocols} does not reach.`,
    cure: 'Enter the place that the manual gives for this protocol.',
  }),
  'parameter.value': (f) => ({
    says: `${f.parameter} of ${f.device}: ${f.reason}.`,
    cure: 'Compare type, factor, limits and initial value with the manual.',
  }),
  'field.parameterUnknown': (f) => ({
    says: `The decimal point of ${f.field} is said by parameter ${f.parameter}, which ${f.device} does not have.`,
    cure: 'Write its name or code as it stands among the parameters of the device, or add it there.',
  }),
  'device.nameTwice': (f) => ({
    says: `${f.count} devices are called ${f.name}.`,
    cure: 'Give each a name of its own that says which machine part it serves.',
  }),
  'device.nameNoIdentifier': (f) => ({
    says: `${f.name} is no identifier in IEC 61131-3; in code it becomes ${f.becomes}.`,
    cure: 'Start with a letter and use letters, digits and single underscores.',
  }),
  'device.nameSaysNothing': (f) => ({
    says: `The name ${f.name} does not say which machine part the device moves or serves.`,
    cure: 'Put the machine part in front: rack_lift_a1 for the axis of the rack’s lift.',
  }),
  'address.twice': (f) => ({
    says: `${f.devices} share the address ${f.address}.`,
    cure: 'Give one of them a free address.',
  }),
  'device.namePattern': (f) => ({
    says: `${f.name} does not follow the cell's pattern ${f.pattern}: ${f.why}.`,
    cure: 'Rename it, correct its designation, or change the pattern.',
  }),
  'device.stationName': (f) => ({
    says: `${f.name} cannot stand on a PROFINET network as it is; its station name is ${f.becomes}.`,
    cure: 'Nothing to do, as long as the device is given this name.',
  }),
  'device.nameTooLong': (f) => ({
    says: `${f.name} has ${f.length} characters; the controller takes ${f.longest}.`,
    cure: 'Shorten it.',
  }),
  'naming.pattern': (f) => ({
    says: `The naming pattern ${f.pattern} cannot be used: ${f.why}.`,
    cure: 'Correct it; the lens of the cell lists the pieces.',
  }),
  'address.inReservedRange': (f) => ({
    says: `${f.device} has ${f.address}, in the reserved range ${f.first} to ${f.last}${f.title ? ` (${f.title})` : ''}.`,
    cure: 'Give it an address outside this range.',
  }),
  'address.outsideKindRange': (f) => ({
    says: `${f.device} has ${f.address}; devices of the kind ${f.kind} belong in ${f.ranges}.`,
    cure: 'Give it an address there, or widen the range.',
  }),
  'address.otherKindRange': (f) => ({
    says: `${f.device} has ${f.address}, in the range ${f.first} to ${f.last} that is kept for ${f.kind}.`,
    cure: 'Give it an address outside this range.',
  }),
  'network.rangeOutside': (f) => ({
    says: `The range ${f.first} to ${f.last} does not lie within ${f.subnet}.`,
    cure: 'Correct its first or last address.',
  }),
  'network.rangesOverlap': (f) => ({
    says: `The ranges ${f.first} and ${f.second} overlap.`,
    cure: 'Make one of them smaller.',
  }),
  'network.gatewayOutside': (f) => ({
    says: `The gateway ${f.gateway} can be no host of ${f.subnet}.`,
    cure: 'Give it an address of the subnet, or leave it empty.',
  }),
  'network.noGateway': (f) => ({
    says: `${f.device} stands in ${f.subnet}, the controller in another subnet, and there is no gateway between them.`,
    cure: 'Name the gateway, or move the device.',
  }),
  'network.subnetsOverlap': (f) => ({
    says: `The subnets ${f.first} and ${f.second} overlap.`,
    cure: 'Take one of them out, or give it another prefix.',
  }),
  'limits.connections': (f) => ({
    says: `${f.name} would have ${f.used} connections; it can have ${f.limit}.`,
    cure: 'Link fewer devices to it, or choose one that can do more.',
  }),
  'limits.packets': (f) => ({
    says: `${f.name} would send and receive ${f.used} packets a second; it can do ${f.limit}.`,
    cure: 'Give links a longer update time, where the reaction allows it.',
  }),
  'limits.port': (f) => ({
    says: `The links take ${f.share} % of the port of ${f.name} at ${f.rate} Mbit/s in one direction.`,
    cure: 'Give links a longer update time: above a half, bursts begin to wait (common practice).',
  }),
  'address.outsideSubnet': (f) => ({
    says: `${f.device} at ${f.address} is outside the subnet ${f.subnet}.`,
    cure: 'Choose an address inside it, or correct the subnet.',
  }),
  'address.reserved': (f) => ({
    says: `${f.address} of ${f.device} is the network or the broadcast address of ${f.subnet}.`,
    cure: 'Choose an address between the two.',
  }),
  'safety.statusOnly': (f) => ({
    says: `${f.device} is a safety device on a standard protocol: what it reports is status only.`,
    cure: 'Never let a safety function rely on these signals; keep it in the safety circuit.',
  }),
  'block.pastImage': (f) => ({
    says: `The block ${f.block} ends in byte ${f.endsAtByte}, but ${f.image} has only ${f.size} bytes.`,
    cure: 'Make the image larger, or the block shorter.',
  }),
  'block.pastTable': (f) => ({
    says: `The block ${f.block} of ${f.device} goes past address 65535.`,
    cure: 'Compare first register and count with the manual.',
  }),
  'block.overlap': (f) => ({
    says: `The blocks ${f.first} and ${f.second} both use byte ${f.byte} of ${f.image}.`,
    cure: 'Let the second one begin behind the first.',
  }),
  'block.readOnly': (f) => ({
    says: `The block ${f.block} is to be written, but the table ${f.table} of ${f.device} can only be read.`,
    cure: 'Write to holding registers or coils.',
  }),
  'block.noSuchRegisters': (f) => ({
    says: `The block ${f.block} asks ${f.device} for ${f.first} to ${f.last}, which it does not have as a whole.`,
    cure: `It has ${f.known}; addresses count from 0, reference 400001 is address 0.`,
  }),
  'link.lossContradicts': (f) => ({
    says: `The plan says that ${f.device} will ${f.planned} its outputs on loss, but it will ${f.does} them: ${f.why}.`,
    cure: 'Correct the plan, or ask the device in another way.',
  }),
  'protocol.unknown': (f) => ({
    says: `There is no protocol ${f.protocol}.`,
    cure: `Choose one of ${f.known}.`,
  }),
  'image.layoutDiffers': (f) => ({
    says: `${f.image} is laid out differently from ${f.point}, which it exchanges: ${f.fields}${f.count > 3 ? ` and ${f.count - 3} more` : ''}.`,
    cure: 'Take the layout of the connection point, or choose the point that this layout belongs to.',
  }),
  'link.otherProtocol': (f) => ({
    says: `${f.device} is planned with ${f.planned}, but speaks ${f.speaks}.`,
    cure: 'Choose its protocol, or another stand-in.',
  }),
  'link.notCyclic': (f) => ({
    says: `${f.device} offers explicit messages only; it has no cyclic connections.`,
    cure: 'Ask for its assemblies at a poll time.',
  }),
  'link.formatDiffers': (f) => ({
    says: `${f.device} takes commands in the format ${f.command} and sends feedback in the format ${f.feedback}; the plan says otherwise.`,
    cure: 'Take the formats of the device: else all bytes lie four places off.',
  }),
  'modbus.notModbus': (f) => ({
    says: `What came is no Modbus over TCP: it has ${f.reason}.`,
    cure: 'See what else listens on this port, and whether a gateway speaks serial Modbus unchanged.',
  }),
  'modbus.oddBytes': (f) => ({
    says: `Registers were announced with ${f.bytes} bytes, but each has two.`,
    cure: 'The sender is at fault: capture the traffic and look at this message.',
  }),
  'modbus.noCoilValue': (f) => ({
    says: `A coil was to be set to ${f.value}, which is neither on (16#FF00) nor off (0).`,
    cure: 'The sender is at fault: capture the traffic and look at this message.',
  }),
  'modbus.refused': (f) => ({
    says: `The device answered with exception ${f.exception}: ${f.meaning}.`,
    cure: f.cure,
  }),
  'modbus.otherFunction': (f) => ({
    says: `Function ${f.asked} was asked, function ${f.got} was answered.`,
    cure: 'The device mixes its answers up: let it have one question at a time.',
  }),
  'describer.tooLarge': (f) => ({
    says: `The description file has more than ${f.limit} ${f.what}.`,
    cure: 'Ask the maker for the file of this one device, without the rest of a catalogue.',
  }),
  'describer.unknown': (f) => ({
    says: `${f.file} is no description file that can be read.`,
    cure: 'Choose an EDS, a GSDML or IODD file, a zipped one, or a describer of Fadenkreuz; a table goes by “From a table”.',
  }),
  'describer.notInLibrary': (f) => ({
    says: `The library has no describer ${f.id}.`,
    cure: 'Search again; somebody may have taken it out.',
  }),
  'describer.noKind': (f) => ({
    says: `The XML begins with <${f.found}>, which is neither a GSDML nor an IODD file.`,
    cure: 'Choose the description file itself: GSDML begins with <ISO15745Profile>, IODD with <IODevice>.',
  }),
  'described.noNumber': (f) => ({
    says: `${f.entry} is no number: “${f.text}”.`,
    cure: 'It was left out; enter it as the manual says.',
  }),
  'described.noText': (f) => ({
    says: `The text ${f.id} is missing${f.language ? ` in ${f.language}` : ''}.`,
    cure: 'Its id stands in its place.',
  }),
  'described.pastEnd': (f) => ({
    says: `${f.entry} ends at bit ${f.endsAtBit}, past the end of its ${f.bits} bits.`,
    cure: 'It was left out; look in the manual where it lies.',
  }),
  'described.overlap': (f) => ({
    says: `${f.first} and ${f.second} overlap.`,
    cure: 'Both were read; look in the manual which is right.',
  }),
  'described.unknownType': (f) => ({
    says: `${f.entry} has the data type ${f.type}, which is not known.`,
    cure: 'Its bytes keep their place as raw bytes.',
  }),
  'slot.noModule': (f) => ({
    says: `Slot ${f.slot} asks for the module ${f.module}, which the file does not have.`,
    cure: 'Plug another module there.',
  }),
  'slot.notAllowed': (f) => ({
    says: `${f.module} may not sit in slot ${f.slot}.`,
    cure: f.allowed ? `Put it into one of ${f.allowed}.` : 'This device does not take it at all.',
  }),
  'slot.taken': (f) => ({
    says: `Slot ${f.slot} holds ${f.by} already; ${f.module} has no room there.`,
    cure: 'Put one of them into another slot.',
  }),
  'slot.tooMuch': (f) => ({
    says: `The modules have ${f.bytes} bytes of ${f.side}; the device takes ${f.most}.`,
    cure: 'Take modules out.',
  }),
  'xml.broken': (f) => ({
    says: `The XML is broken: ${f.reason}.`,
    cure: 'It was read on; correct it there, or ask the maker for a whole file.',
  }),
  'xml.declares': () => ({
    says: 'The file declares a document type of its own, which no description file needs and which can be used to fill the memory.',
    cure: 'Take the line that begins with <!DOCTYPE out, if you trust the file.',
  }),
  'package.broken': (f) => ({
    says: `The package cannot be unpacked: ${f.reason}.`,
    cure: 'Fetch it again, or unpack it yourself and choose the file in it.',
  }),
  'package.path': (f) => ({
    says: `The package has an entry whose name leads out of it: ${f.name}.`,
    cure: 'Do not use this package; ask the maker for another.',
  }),
  'package.noDescriber': () => ({
    says: 'The package holds no GSDML and no IODD file.',
    cure: 'Choose the package that the maker offers for this device.',
  }),
  'eds.none': () => ({
    says: 'The file has no section in brackets, so it is no electronic data sheet.',
    cure: 'Choose the file of this device that ends in .eds.',
  }),
  'eds.semicolon': () => ({
    says: 'The semicolon at the end of the entry is missing.',
    cure: 'It was taken to end where the next one begins; put the semicolon there.',
  }),
  'eds.quote': () => ({
    says: 'A text is not closed with a quote.',
    cure: 'It was taken to end with its line; put the quote there.',
  }),
  'eds.brace': () => ({
    says: 'A brace is not closed.',
    cure: 'It was taken to end where the next entry begins; put the brace there.',
  }),
  'eds.bracket': (f) => ({
    says: `The name of the section ${f.section} has no closing bracket.`,
    cure: 'It was taken to end with its line; put the bracket there.',
  }),
  'eds.stray': (f) => ({
    says: `“${f.text}” is neither a section nor an entry.`,
    cure: 'It was left out; make it an entry with = and ;, or a comment with $.',
  }),
  'eds.outside': (f) => ({
    says: `The entry ${f.keyword} stands before the first section.`,
    cure: 'It was left out; move it into the section where it belongs.',
  }),
  'described.twice': (f) => ({
    says: `${f.what} stands there a second time; the first is in line ${f.first}.`,
    cure: 'The first one counts; remove the other, or give it another number.',
  }),
  'described.missing': (f) => ({
    says: `The file has no ${f.what}.`,
    cure: 'Ask the maker for a whole file, or enter what is missing from the manual.',
  }),
  'eds.noNumber': (f) => ({
    says: `Field ${f.field} of ${f.entry} is no number: “${f.text}”.`,
    cure: 'It was read as empty; enter it as the manual says.',
  }),
  'eds.noReference': (f) => ({
    says: `${f.entry} refers to “${f.text}”, which is neither an assembly nor a parameter.`,
    cure: 'It was read as empty; the bytes of this direction have no members.',
  }),
  'described.dangling': (f) => ({
    says: `${f.entry} refers to ${f.refers}, which the file does not have.`,
    cure: 'What it refers to stays without a meaning; look it up in the manual.',
  }),
  'eds.size': (f) => ({
    says: `The members of ${f.entry} fill ${f.actual} bytes, its stated size is ${f.stated}.`,
    cure: 'The stated size counts, for the device compares it; look in the manual where the members lie.',
  }),
  'eds.count': (f) => ({
    says: `${f.entry} states ${f.stated} members and lists ${f.actual}.`,
    cure: 'What is listed counts.',
  }),
  'wire.right': (f) => ({
    says: `${f.device} stands at ${f.address}, as planned.`,
    cure: 'Nothing to do.',
  }),
  'wire.asksOn': (f) => ({
    says: `${f.device} is the planned device, but it still asks for its address by ${f.method}: after the next start it may have none.`,
    cure: 'Let it keep its address, so that it asks no more.',
  }),
  'wire.wrongRevision': (f) => ({
    says: `${f.device} has revision ${f.found}; planned is ${f.planned}.`,
    cure: 'Look what differs; accept the revision, or load the planned firmware.',
  }),
  'wire.wrongIdentity': (f) => ({
    says: `At the address of ${f.device} stands ${f.found}; planned is ${f.planned}.`,
    cure: 'Compare the nameplates: change the device, its address or the plan.',
  }),
  'wire.twoAtAddress': (f) => ({
    says: `Two devices answer at ${f.address}, the address of ${f.device}: ${f.serials}.`,
    cure: 'Unplug one of them, give the other its own address, and scan again.',
  }),
  'wire.factoryAddress': (f) => ({
    says: `${f.device} still stands at its factory address ${f.found}; planned is ${f.address}.`,
    cure: 'Give it the planned address.',
  }),
  'wire.otherAddress': (f) => ({
    says: `${f.device} stands at ${f.found}; planned is ${f.address}.`,
    cure: 'Give it the planned address, or take the found one into the plan.',
  }),
  'wire.missing': (f) => ({
    says: f.elsewhere
      ? `Nothing answers at ${f.address}, the address of ${f.device}; several devices of its kind stand elsewhere: ${f.elsewhere}.`
      : `Nothing answers at ${f.address}, the address of ${f.device}.`,
    cure: f.elsewhere
      ? 'Find out by serial number which of them it is.'
      : 'Look at its power and its cable; a new device may be asking for an address.',
  }),
  'wire.notPlanned': (f) => ({
    says: `At ${f.address} stands ${f.found}, which is not in the plan.`,
    cure: 'Take it into the plan, or leave it be.',
  }),
  'scan.tooWide': (f) => ({
    says: `The scan would ask ${f.addresses} addresses; it asks ${f.limit} at most.`,
    cure: 'Name a smaller range.',
  }),
  'scan.noRange': (f) => ({
    says: `"${f.text}" is no range of addresses.`,
    cure: 'Write it as 192.168.40.0/24, as 192.168.40.10-192.168.40.60, or as one address.',
  }),
  'address.notSet': (f) => ({
    says: `The device at ${f.at} did not take the address: ${f.step}: ${f.reason}.`,
    cure: 'Read its settings; a switch on the device, or another controller that holds it, may keep it from changing.',
  }),
  'giving.cannotListen': (f) => ({
    says: `No addresses can be given: port ${f.port} cannot be had (${f.reason}).`,
    cure: 'End the other program that gives addresses on this computer, or start Fadenkreuz with the right to use this port.',
  }),
  'link.refused': (f) => ({
    says: `${f.device} refused the connection: general status ${f.general}, extended status ${f.extended}. ${f.meaning}`,
    cure: f.cure,
  }),
  'link.sizeRefused': (f) => ({
    says: `${f.device} refused the connection over the size of the ${f.side} image: planned ${f.planned} bytes, the device has ${f.actual}. ${f.reading}`,
    cure: `Enter ${f.actual} bytes.`,
  }),
  'link.silent': (f) => ({
    says: `${f.device} sent nothing for ${f.waitedMs} ms; the connection timed out.`,
    cure: 'Look at its power and its cable; the link is tried again by itself.',
  }),
  'link.unreachable': (f) => ({
    says: `${f.device} cannot be reached at ${f.address}: ${f.reason}.`,
    cure: f.connected
      ? 'It takes connections: see what else asks it and how often, then look at its cable; the link is tried again by itself.'
      : 'Look at power, cable and address; the link is tried again by itself.',
  }),
  'link.requestRefused': (f) => ({
    says: `${f.device} refused a request for its assembly: general status ${f.general}. ${f.meaning}`,
    cure: f.cure,
  }),
  'link.blockRefused': (f) => ({
    says: `${f.device} refused the block ${f.block}. ${f.says}`,
    cure: f.cure,
  }),
  'link.notSpoken': (f) => ({
    says: `${f.device} is linked over ${f.protocol}, which the bench does not speak yet.`,
    cure: 'Its layout, slots and addresses are worked out all the same; try it on the machine.',
  }),
  'link.otherDevice': (f) => ({
    says: `At the address of ${f.device} stands another device than planned: planned ${f.planned}, found ${f.found}.`,
    cure: 'Find out which device it is, then correct the plan or the address.',
  }),
  'link.outsideReach': (f) => ({
    says: `${f.device} has no stand-in, and the agent was not allowed to reach ${f.address}.`,
    cure: `Choose a stand-in for it, or start with ./start --reach ${f.subnet} to talk to the real device.`,
  }),
  'link.noAdapter': (f) => ({
    says: `This computer has no address in the subnet of ${f.device} at ${f.address}.`,
    cure: 'Give one of its network adapters a free address in that subnet.',
  }),
  'reach.noSubnet': (f) => ({
    says: `"${f.text}" is no IPv4 subnet.`,
    cure: 'Write it like 192.168.40.0/24.',
  }),
  'fault.notHere': (f) => ({
    says: `The fault ${f.fault} cannot be injected at ${f.device}.`,
    cure: 'Choose one from the list of its faults.',
  }),
  'fault.noStandIn': (f) => ({
    says: `${f.device} is no stand-in on this bench; faults can only be injected at stand-ins.`,
    cure: 'Choose a stand-in for it and start the bench.',
  }),
  'standIn.none': (f) => ({
    says: `${f.device} has no stand-in yet.`,
    cure: 'Its layout can be worked on; on the bench it stays out.',
  }),
  'standIn.cannotBind': (f) => ({
    says: `The stand-in of ${f.device} cannot use ${f.address}, port ${f.port}: ${f.reason}.`,
    cure: 'End the program that holds this port (perhaps a second bench), then start again.',
  }),
  'bench.notRunning': () => ({ says: 'The bench does not run.', cure: 'Start it first.' }),
  'bench.alreadyRuns': (f) => ({
    says: `The bench runs already, with the cell ${f.cell}.`,
    cure: 'Stop it first; it runs one cell at a time.',
  }),
  'capture.nothing': () => ({
    says: 'No traffic has been recorded.',
    cure: 'Start the bench and choose Record traffic in its trace.',
  }),
  'bench.notArmed': () => ({
    says: 'Nothing was written: the bench is not armed.',
    cure: 'Arm it; that allows writing for a limited time.',
  }),
  'bench.outsideLoopback': (f) => ({
    says: `${f.address} lies outside loopback, where the agent may not send.`,
    cure: 'On the bench every device stands in 127.0.0.0/8; start with --reach SUBNET to talk to real devices.',
  }),
  'bench.noOpenLink': (f) => ({
    says: `Nothing was written: the link of ${f.device} is not open.`,
    cure: 'Look at the reason beside its connection on the bench.',
  }),
  'agent.away': (f) => ({
    says: `The agent, which runs the bench, does not answer (${f.reason}).`,
    cure: 'It is started again by itself; the design is untouched.',
  }),
  'database.away': (f) => ({
    says: `The database does not answer (${f.reason}).`,
    cure: 'It is started again by itself; nothing that was confirmed is lost. Try again in a moment.',
  }),
};
