export { benchAddress } from './loopback.js';
export { Bench } from './bench/bench.js';
export type { LinkReport } from './bench/bench.js';
export { CaptureFile } from './capture/tap.js';
export { Schedule } from './schedule.js';
export { StandIn } from './standIns/standIn.js';
