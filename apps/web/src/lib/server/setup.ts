import { z } from 'zod';
import { openDatabase } from './database.js';
import { loadDemoIfEmpty, resetDemo } from './demo.js';

const { DATABASE_URL } = z.object({ DATABASE_URL: z.string().min(1) }).parse(process.env);
// A step may take its time.
const db = openDatabase(DATABASE_URL, 0);
try {
  if (process.argv.includes('--pending')) {
    const [, pending] = (await db.migrate.list()) as [unknown[], unknown[]];
    const stored = await db.schema.hasTable('cell');
    console.log(stored ? pending.length : 0);
    process.exit();
  }
  await db.migrate.latest();
  if (process.argv.includes('--reset-demo')) await resetDemo(db);
  else await loadDemoIfEmpty(db);
} catch (error) {
  console.error(error);
  // The last line is what a person reads.
  console.error((error as Error).message.replace(/\s+/g, ' '));
  process.exitCode = 1;
} finally {
  await db.destroy();
}
