/** The network of a safety controller, as far as its status goes. */
export interface SafetyFacts {
  'safety.circle': { device: string; blocks: string };
  'safety.wireMissing': { device: string; block: string; wire: string };
  'safety.bitOutside': { device: string; place: string };
  'safety.bitTwice': { device: string; place: string };
  'safety.notApproved': { device: string };
  'safety.approvalWithdrawn': { device: string; by: string; at: string };
}
