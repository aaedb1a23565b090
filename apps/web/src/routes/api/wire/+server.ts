import { answer } from '../../../lib/server/answer.js';
import { getServices } from '../../../lib/server/services.js';

/** The last scan, who asks for an address, and this computer's adapters. */
export const GET = () => answer(() => getServices().agent.wire('GET'));
