import { cellTransport } from './lib/desk/cellTransport.js';
import type { Transport } from '@sveltejs/kit';

/** What pages carry from the server to the browser in a way of its own. */
export const transport: Transport = { cell: cellTransport };
