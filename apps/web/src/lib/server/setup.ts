import { z } from 'zod';
import { openDatabase } from './database.js';
import { loadDemoIfEmpty, resetDemo } from './demo.js';

const { DATABASE_URL } = z.object({ DATABASE_URL: z.string().min(1) }).parse(process.env);
const db = openDatabase(DATABASE_URL);
await db.migrate.latest();
if (process.argv.includes('--reset-demo')) await resetDemo(db);
else await loadDemoIfEmpty(db);
await db.destroy();
