import type { InputFacts } from '../facts/input.js';
import type { Texts } from '../wording.js';

/** Files, entries and addresses that cannot be taken. */
export const inputTexts: Texts<InputFacts> = {
  'file.tooLarge': (f) => ({
    says: `The file has ${f.bytes} bytes; a cell file may have ${f.limit}.`,
    cure: 'Split the cell, or take out what is no cell data.',
  }),
  'file.tookTooLong': (f) => ({
    says: `The file was given up after ${f.seconds} s of reading.`,
    cure: 'Take out what is not needed, or save it anew with the program that it comes from.',
  }),
  'file.tookTooMuch': (f) => ({
    says: `Reading the file takes more than ${f.memoryMb} MB of memory; it was given up.`,
    cure: 'Take out what is not needed, or save it anew with the program that it comes from.',
  }),
  'file.notJson': (f) => ({
    says: `The file is no complete JSON: ${f.reason}.`,
    cure: 'Export it again, or mend it at that place.',
  }),
  'file.notACell': (f) => ({
    says: `The file does not call itself a Fadenkreuz cell; it starts with ${f.found}.`,
    cure: 'Choose a file that was exported as a cell file.',
  }),
  'sets.line': (f) => ({
    says: `Line ${f.line} is no step of a set: ${f.text}.`,
    cure: 'Write a parameter by its code or name, an equals sign, and the value: P9.1 = 4711.',
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
    says: `${f.value} does not fit ${f.field}, which holds ${f.minimum} to ${f.maximum}.`,
    cure: 'Enter a value in this range, or give the field a wider type.',
  }),
  'value.past': (f) => ({
    says: `Byte ${f.byte} lies behind the image, which has ${f.size} bytes.`,
    cure: 'Count bytes from 0, or make the image larger.',
  }),
  'value.notANumber': (f) => ({
    says: `"${f.value}" is no value for ${f.field}.`,
    cure: 'Enter a number; a bit takes 0 or 1.',
  }),
  'value.outsideLimits': (f) => ({
    says: `${f.value} ${f.unit} lies outside the limits of ${f.field}, ${f.minimum} to ${f.maximum} ${f.unit}.`,
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
  'address.directNotChosen': (f) => ({
    says: `${f.text} is a direct address, and how this controller counts them is not chosen.`,
    cure: 'Choose it in the lens of the controller, in the line-up: by bytes, by words, or each size on its own.',
  }),
  'address.otherDirection': (f) => ({
    says: `${f.text} is an address of the other direction, not of ${f.image}.`,
    cure: `Write it like ${f.example}, or turn to the other image.`,
  }),
  'manualLine.whoseInput': () => ({
    says: 'Input was taken as what comes to the controller, output as what it sends.',
    cure: 'Swap them if the manual means the device’s own inputs and outputs.',
  }),
  'manualLine.noUnit': () => ({
    says: 'The line does not say what its sizes are counted in; they were taken as bytes.',
    cure: 'Add bytes, 16-bit or 32-bit.',
  }),
  'manualLine.noSize': (f) => ({
    says: `The line says no size of ${f.side} instance ${f.instance}.`,
    cure: 'Enter the size from the manual.',
  }),
  'manualLine.sideMissing': (f) => ({
    says: `The line names no ${f.side} instance.`,
    cure: 'Enter it from the manual.',
  }),
  'manualLine.sameInstance': (f) => ({
    says: `Command and feedback have the same instance ${f.instance}.`,
    cure: 'Look it up again: they are two assemblies.',
  }),
  'manualLine.tooLarge': (f) => ({
    says: `The ${f.side} would have ${f.bytes} bytes; an image has ${f.limit} at most.`,
    cure: 'The sizes may be counted in bytes or bits.',
  }),
  'manualLine.configurationData': (f) => ({
    says: `The configuration has ${f.bytes} bytes, which the line does not give; none are sent.`,
    cure: 'Enter them at the link, as the manual lists them.',
  }),
  'manualLine.unread': (f) => ({
    says: `“${f.text}” was not understood.`,
    cure: 'What it says is to be entered by hand.',
  }),
  'expression.wrong': (f) => ({
    says: `${f.expression}: ${f.reason}, at character ${f.at + 1}.`,
    cure: 'Use field names, numbers, + - * /, comparisons, a ? b : c, and the functions bits, lowest, highest, abs, min, max, round.',
  }),
};
