/** Layouts, values and parameters of the design. */
export interface LayoutsFacts {
  'field.overlap': { image: string; first: string; second: string; fromBit: number; toBit: number };
  'field.pastEnd': { image: string; field: string; endsAtByte: number; size: number };
  'field.nameTwice': { image: string; name: string; count: number };
  'image.straddles': { image: string; fields: number; first: string; elementBits: number };
  'field.oddUnderSwap': { image: string; field: string; byte: number };
  'field.halvesApart': { image: string; first: string; second: string; bits: number };
  'field.signNowhere': { image: string; field: string; where: string };
  'role.twice': { image: string; role: string; fields: string };
  'role.unfit': { image: string; field: string; role: string; why: string };
  'role.missing': { device: string; kind: string; role: string };
  'field.signUnused': { image: string; field: string; sign: string };
  'field.decimalsNowhere': { image: string; field: string };
  'field.unitMissing': { image: string; field: string };
  'field.limitsOutOfRange': { image: string; field: string; limits: string; range: string };
  'field.coarseSteps': { image: string; field: string; limits: string; steps: number };
  'field.factorTooFine': { image: string; field: string; factor: string; greatest: string };
  'field.labelOutside': { image: string; field: string; values: string; minimum: string; maximum: string };
  'field.safetyFeedback': { image: string; field: string; kind: string };
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
  'image.blockOutside': { image: string; block: string; at: number; size: number };
  'image.blockOffUnit': { image: string; block: string; at: number; unitBytes: number };
  'image.blockCutsField': {
    image: string;
    block: string;
    field: string;
    at: number;
    before: string;
    behind: string;
  };
  'image.notationUnknown': { image: string; notation: string };
  'derived.nameUnknown': { image: string; name: string; missing: string };
  'derived.wrong': { image: string; name: string; reason: string };
  'machine.targetUnknown': { line: string; missing: string };
  'machine.nameUnknown': { line: string; missing: string };
  'machine.wrong': { line: string; reason: string };
  'machine.twice': { line: string };
  'image.notWholeElements': { image: string; size: number; elementBits: number };
  'image.sizeFactor': { image: string; planned: number; actual: number; factor: number; reading: string };
  'image.sizeDiffers': { image: string; planned: number; actual: number };
  'image.instanceUnknown': { image: string; instance: number; known: string };
  'image.areaOverlap': { first: string; second: string; direction: string; byte: number };
  'parameter.placeTwice': { device: string; parameters: string; place: string };
  'parameter.placeUnreached': { device: string; parameter: string; place: string; protocols: string };
  'parameter.notNetwork': SettingFacts;
  'parameter.noLossReaction': SettingFacts;
  'parameter.addressAsked': SettingFacts;
  'parameter.orderDiffers': SettingFacts & { order: string };
  'parameter.portNotReady': SettingFacts & { port: number };
  'parameter.portLength': {
    device: string;
    parameter: string;
    port: number;
    planned: string;
    at: string;
    bytes: number;
  };
  'parameter.beyondNameplate': {
    device: string;
    parameter: string;
    value: string;
    rated: string;
    nameplate: string;
  };
  'parameter.portPlace': { device: string; parameter: string; port: number };
  'parameter.value': { device: string; parameter: string; reason: string };
  'field.parameterUnknown': { device: string; field: string; parameter: string };
  'image.layoutDiffers': { image: string; point: string; fields: string; count: number };
}

/** A setting of a device, and the label of its value; not planned, it is the default. */
interface SettingFacts {
  device: string;
  parameter: string;
  label: string;
  planned: boolean;
}
