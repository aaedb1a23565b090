/** Description files. */
export interface DescribersFacts {
  'describer.tooLarge': { what: string; limit: number };
  'describer.unknown': { file: string };
  'describer.notInLibrary': { id: string };
  'describer.noKind': { found: string };
  'described.noNumber': { entry: string; text: string };
  'described.noText': { id: string; language: string };
  'described.pastEnd': { entry: string; endsAtBit: number; bits: number };
  'described.overlap': { first: string; second: string };
  'described.unknownType': { entry: string; type: string };
  'slot.noModule': { slot: number; module: string };
  'slot.notAllowed': { slot: number; module: string; allowed: string };
  'slot.taken': { slot: number; module: string; by: string };
  'slot.tooMuch': { side: string; bytes: number; maximum: number };
  'xml.broken': { reason: string };
  'xml.declares': Record<string, never>;
  'package.broken': { reason: string };
  'package.path': { name: string };
  'package.noDescriber': Record<string, never>;
  'eds.none': Record<string, never>;
  'eds.semicolon': Record<string, never>;
  'eds.quote': Record<string, never>;
  'eds.brace': Record<string, never>;
  'eds.bracket': { section: string };
  'eds.stray': { text: string };
  'eds.outside': { keyword: string };
  'described.twice': { what: string; first: number };
  'described.missing': { what: string };
  'eds.noNumber': { entry: string; field: number; text: string };
  'eds.noReference': { entry: string; text: string };
  'described.dangling': { entry: string; refers: string };
  'eds.size': { entry: string; stated: number; actual: number };
  'eds.circle': { entry: string };
  'eds.limits': { entry: string; name: string };
  'eds.divider': { entry: string; name: string };
  'eds.count': { entry: string; stated: number; actual: number };
}
