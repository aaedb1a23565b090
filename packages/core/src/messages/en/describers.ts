import type { DescribersFacts } from '../facts/describers.js';
import type { Texts } from '../wording.js';

/** Description files. */
export const describersTexts: Texts<DescribersFacts> = {
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
  'described.pastRecord': (f) => ({
    says: `${f.entry} ends at bit ${f.endsAtBit}, past the end of its record of ${f.bits} bits.`,
    cure: 'It is shown as the file has it; look in the manual where it lies before you write the record.',
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
    says: `The modules have ${f.bytes} bytes of ${f.side}; the device takes ${f.maximum}.`,
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
  'described.lacks': (f) => ({
    says: `<${f.entry}> has no ${f.name}.`,
    cure: 'It was left out; enter what it describes as the manual says.',
  }),
  'described.limits': (f) => ({
    says: `A limit of ${f.entry} has more digits than can be kept; it was left out.`,
    cure: 'Enter the limit as the manual says, with 40 digits at most.',
  }),
  'described.labels': (f) => ({
    says: [
      f.lost && `${f.lost} of the values of ${f.entry} cannot have a label`,
      f.cut && `${f.cut} of the labels of ${f.entry} have more than 64 characters and are cut`,
    ]
      .filter(Boolean)
      .join('; ')
      .concat('.'),
    cure: 'Labels are for whole numbers from -2147483648 to 4294967295, each once, 256 at most; enter the others as a note.',
  }),
  'eds.circle': (f) => ({
    says: `${f.entry} contains itself; what it holds of itself was left out.`,
    cure: 'Lay the image out from the manual, and ask the maker for a right file.',
  }),
  'eds.divider': (f) => ({
    says: `The scaling of ${f.entry} (${f.name}) divides by 0; its raw number is shown as it is.`,
    cure: 'Enter the factor as the manual says.',
  }),
  'package.chosen': (f) => ({
    says: `The package holds several descriptions; ${f.file} is the newest and was read, ${f.others} not.`,
    cure: 'For another one, unpack it and open it alone.',
  }),
  'iodd.unit': (f) => ({
    says: `Unit code ${f.code} of ${f.entry} is none that is known here; it is shown as a code.`,
    cure: 'Enter the unit as the manual says.',
  }),
  'iodd.scale': (f) => ({
    says: `The ${f.name} of ${f.entry} is no number: “${f.text}”. The raw number is shown as it is.`,
    cure: 'Enter factor and offset as the manual says.',
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
};
