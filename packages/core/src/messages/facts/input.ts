/** Files, entries and addresses that cannot be taken. */
export interface InputFacts {
  'file.tooLarge': { bytes: number; limit: number };
  'file.tookTooLong': { seconds: number };
  'file.tookTooMuch': { memoryMb: number };
  'file.notJson': { reason: string };
  'file.notACell': { found: string };
  'file.notAWorkbook': { reason: string };
  'file.version': { found: string; known: number };
  'input.invalid': { where: string; reason: string };
  'sets.line': { line: number; text: string };
  'bytes.short': { what: string; need: number; have: number };
  'value.doesNotFit': { field: string; value: string; minimum: string; maximum: string };
  'value.past': { byte: number; size: number };
  'value.notANumber': { field: string; value: string };
  'value.outsideLimits': { field: string; value: string; minimum: string; maximum: string; unit: string };
  'value.noSign': { field: string };
  'value.noSuchCharacter': { field: string; encoding: string };
  'value.textTooLong': { field: string; bytes: number; room: number };
  'value.bytesMissing': { field: string; bytes: number; need: number };
  'address.unreadable': { text: string; example: string };
  'address.outside': { text: string; image: string; last: string };
  'address.noSuchBit': { unit: string; first: number; last: number };
  'address.otherDirection': { text: string; image: string; example: string };
  'address.directNotChosen': { text: string };
  'manualLine.whoseInput': Record<string, never>;
  'manualLine.noUnit': Record<string, never>;
  'manualLine.noSize': { side: string; instance: number };
  'manualLine.sideMissing': { side: string };
  'manualLine.sameInstance': { instance: number };
  'manualLine.tooLarge': { side: string; bytes: number; limit: number };
  'manualLine.configurationData': { bytes: number };
  'manualLine.unread': { text: string };
  'expression.wrong': { expression: string; reason: string; at: number };
}
