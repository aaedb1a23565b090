import { StandIn } from '../../packages/field/src/standIns/standIn.js';
import { Schedule } from '../../packages/field/src/timing/schedule.js';
import { devices } from './cell.js';

/** The asked side, in a process of its own; prints a line when all stand. */
const schedule = new Schedule();
for (const device of devices) await new StandIn(device, { schedule }).open();
console.log('ready');
process.stdin.on('end', () => process.exit(0)).resume();
