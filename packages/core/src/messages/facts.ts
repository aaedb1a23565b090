/**
 * Every problem and every finding has a code; this table says which facts belong to it. The words stand in one
 * dictionary per language (en.ts), which does not build when a code is left out.
 */
export interface Facts {
  // input that cannot be taken
  'file.tooLarge': { bytes: number; limit: number };
  'file.notJson': { reason: string };
  'file.notACell': { found: string };
  'file.notAWorkbook': { reason: string };
  'file.version': { found: string; known: number };
  'input.invalid': { where: string; reason: string };
  'bytes.short': { what: string; need: number; have: number };
  'value.doesNotFit': { field: string; value: string; least: string; most: string };
  'value.notANumber': { field: string; value: string };
  'value.outsideLimits': { field: string; value: string; least: string; most: string; unit: string };
  'value.noSign': { field: string };
  'value.noSuchCharacter': { field: string; encoding: string };
  'value.textTooLong': { field: string; bytes: number; room: number };
  'value.bytesMissing': { field: string; bytes: number; need: number };
  'address.unreadable': { text: string; example: string };
  'address.outside': { text: string; image: string; last: string };
  'address.noSuchBit': { unit: string; first: number; last: number };
  'address.otherDirection': { text: string; image: string; example: string };
  'expression.wrong': { expression: string; reason: string; at: number };
  // edits
  'edit.unknown': { what: string; id: string };
  'edit.idTaken': { id: string };
  'edit.fieldPastEnd': { field: string; endsAtBit: number; imageBits: number };
  'edit.stale': { madeOn: number; now: number };
  'edit.nothingToUndo': Record<string, never>;
  'edit.nothingToRedo': Record<string, never>;
  'cell.unknown': { cell: string };
  'cell.noSuchVersion': { version: string; now: number };
  // findings of the design
  'field.overlap': { image: string; first: string; second: string; fromBit: number; toBit: number };
  'field.pastEnd': { image: string; field: string; endsAtByte: number; size: number };
  'field.nameTwice': { image: string; name: string; count: number };
  'image.straddles': { image: string; fields: number; first: string; elementBits: number };
  'field.oddUnderSwap': { image: string; field: string; byte: number };
  'field.halvesApart': { image: string; first: string; second: string; bits: number };
  'field.signNowhere': { image: string; field: string; where: string };
  'field.signUnused': { image: string; field: string; sign: string };
  'field.decimalsNowhere': { image: string; field: string };
  'field.unitMissing': { image: string; field: string };
  'field.limitsOutOfRange': { image: string; field: string; limits: string; range: string };
  'field.coarseSteps': { image: string; field: string; limits: string; steps: number };
  'field.factorTooFine': { image: string; field: string; factor: string; greatest: string };
  'field.labelOutside': { image: string; field: string; values: string; least: string; most: string };
  'field.safetyCommand': { image: string; field: string };
  'image.orderNotStated': { image: string; device: string; fields: number; first: string };
  'image.baseDoubtful': { image: string; field: string; unitBits: number; fields: number };
  'image.rangeBaseDoubtful': {
    image: string;
    first: number;
    last: number;
    point: number;
    bits: number;
    start: number;
  };
  'image.rangePastEnd': { image: string; first: number; last: number; point: number; bits: number };
  'image.notationUnknown': { image: string; notation: string };
  'derived.nameUnknown': { image: string; name: string; missing: string };
  'derived.wrong': { image: string; name: string; reason: string };
  'image.notWholeElements': { image: string; size: number; elementBits: number };
  'image.sizeFactor': { image: string; planned: number; actual: number; factor: number; reading: string };
  'image.sizeDiffers': { image: string; planned: number; actual: number };
  'image.instanceUnknown': { image: string; instance: number; known: string };
  'image.areaOverlap': { first: string; second: string; direction: string; byte: number };
  'device.nameTwice': { name: string; count: number };
  'device.nameNoIdentifier': { name: string; becomes: string };
  'device.nameSaysNothing': { name: string };
  'address.twice': { address: string; devices: string };
  'device.namePattern': { name: string; pattern: string; why: string };
  'device.nameTooLong': { name: string; length: number; longest: number };
  'naming.pattern': { pattern: string; why: string };
  'address.inReservedRange': { device: string; address: string; first: string; last: string; title: string };
  'address.outsideKindRange': { device: string; address: string; kind: string; ranges: string };
  'address.otherKindRange': { device: string; address: string; kind: string; first: string; last: string };
  'network.rangeOutside': { first: string; last: string; subnet: string };
  'network.rangesOverlap': { first: string; second: string };
  'network.gatewayOutside': { gateway: string; subnet: string };
  'network.noGateway': { device: string; subnet: string };
  'network.subnetsOverlap': { first: string; second: string };
  'limits.connections': { name: string; used: number; limit: number };
  'limits.packets': { name: string; used: number; limit: number };
  'limits.port': { name: string; share: number; rate: number };
  'address.outsideSubnet': { device: string; address: string; subnet: string };
  'address.reserved': { device: string; address: string; subnet: string };
  'safety.statusOnly': { device: string };
  // links
  'block.pastImage': { block: string; image: string; endsAtByte: number; size: number };
  'block.pastTable': { block: string; device: string };
  'block.overlap': { first: string; second: string; image: string; byte: number };
  'block.readOnly': { block: string; device: string; table: string };
  'block.noSuchRegisters': { block: string; device: string; first: number; last: number; known: string };
  'link.lossContradicts': { device: string; planned: string; why: string; does: string };
  'link.otherProtocol': { device: string; planned: string; speaks: string };
  'link.notCyclic': { device: string };
  'link.formatDiffers': { device: string; command: string; feedback: string };
  // Modbus
  'modbus.notModbus': { reason: string };
  'modbus.oddBytes': { bytes: number };
  'modbus.noCoilValue': { value: number };
  'modbus.refused': { exception: number; meaning: string; cure: string };
  'modbus.otherFunction': { asked: number; got: number };
  // description files
  'describer.tooLarge': { what: string; limit: number };
  'describer.unknown': { file: string };
  'eds.none': Record<string, never>;
  'eds.semicolon': Record<string, never>;
  'eds.quote': Record<string, never>;
  'eds.brace': Record<string, never>;
  'eds.bracket': { section: string };
  'eds.stray': { text: string };
  'eds.outside': { keyword: string };
  'eds.twice': { what: string; first: number };
  'eds.missing': { what: string };
  'eds.noNumber': { entry: string; field: number; text: string };
  'eds.noReference': { entry: string; text: string };
  'eds.dangling': { entry: string; refers: string };
  'eds.size': { entry: string; stated: number; actual: number };
  'eds.count': { entry: string; stated: number; actual: number };
  // the wire against the plan
  'wire.right': { device: string; address: string };
  'wire.asksOn': { device: string; address: string; method: string };
  'wire.wrongRevision': { device: string; planned: string; found: string };
  'wire.wrongIdentity': { device: string; planned: string; found: string };
  'wire.twoAtAddress': { device: string; address: string; serials: string };
  'wire.factoryAddress': { device: string; address: string; found: string };
  'wire.otherAddress': { device: string; address: string; found: string };
  'wire.missing': { device: string; address: string; elsewhere: string };
  'wire.notPlanned': { address: string; found: string };
  'scan.tooWide': { addresses: number; limit: number };
  'scan.noRange': { text: string };
  'scan.runs': Record<string, never>;
  'address.notSet': { at: string; step: string; reason: string };
  'address.noHost': { address: string; subnet: string };
  'giving.cannotListen': { port: number; reason: string };
  // the bench
  'link.refused': { device: string; general: string; extended: string; meaning: string; cure: string };
  'link.sizeRefused': { device: string; side: string; planned: number; actual: number; reading: string };
  'link.silent': { device: string; waitedMs: number };
  'link.unreachable': { device: string; address: string; reason: string };
  'link.requestRefused': { device: string; general: string; meaning: string; cure: string };
  'link.blockRefused': { device: string; block: string; exception: number; says: string; cure: string };
  'link.otherDevice': { device: string; planned: string; found: string };
  'link.outsideReach': { device: string; address: string; subnet: string };
  'link.noAdapter': { device: string; address: string };
  'reach.noSubnet': { text: string };
  'fault.notHere': { fault: string; device: string };
  'fault.noStandIn': { device: string };
  'standIn.none': { device: string };
  'standIn.cannotBind': { device: string; address: string; port: number; reason: string };
  'bench.notRunning': Record<string, never>;
  'bench.alreadyRuns': { cell: string };
  'bench.notArmed': Record<string, never>;
  'bench.outsideLoopback': { address: string };
  'bench.noOpenLink': { device: string };
  'agent.away': { reason: string };
  'database.away': { reason: string };
}

export type Code = keyof Facts;
