/** The bench, its links and its parts. */
export interface BenchFacts {
  'link.refused': { device: string; general: string; extended: string; meaning: string; cure: string };
  'link.sizeRefused': { device: string; side: string; planned: number; actual: number; reading: string };
  'link.silent': { device: string; waitedMs: number };
  /** `connected`: the TCP connection came about, and what was asked over it was not answered. */
  'link.unreachable': { device: string; address: string; reason: string; connected: boolean };
  'link.requestRefused': { device: string; general: string; meaning: string; cure: string };
  'parameter.refused': {
    device: string;
    place: string;
    /** Of devices/parameterAccess.ts. */
    refusal: string;
    says: string;
    cure: string;
  };
  'parameter.noList': { device: string };
  'parameter.noWay': { device: string; place: string };
  'parameter.size': { parameter: string; bytes: number; size: number };
  'parameter.noAnswer': { device: string; place: string; reason: string };
  'parameter.unknownSince': { device: string; place: string; reason: string };
  'parameter.noPlace': { device: string; parameter: string };
  'parameter.notRead': { device: string; parameter: string };
  'link.blockRefused': { device: string; block: string; exception: number; says: string; cure: string };
  'link.notSpoken': { device: string; protocol: string };
  'link.needsArm': { device: string; sends: string };
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
  'capture.nothing': Record<string, never>;
  'bench.armedByOther': Record<string, never>;
  'bench.notArmed': Record<string, never>;
  'bench.outsideLoopback': { address: string };
  'bench.noOpenLink': { device: string };
  'agent.away': { reason: string };
  'server.busy': Record<string, never>;
  'database.full': { reason: string };
  'database.busy': Record<string, never>;
  'database.away': { reason: string };
}
