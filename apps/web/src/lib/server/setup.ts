import { z } from 'zod';
import { openDatabase, updateTables } from './database.js';
import { loadDemoIfEmpty, resetDemo } from './demo.js';

/** The exit code where the launcher has to copy what is stored first, and say so. */
const toBeCopied = 3;
const { DATABASE_URL } = z.object({ DATABASE_URL: z.string().min(1) }).parse(process.env);
// A step may take its time.
const db = openDatabase(DATABASE_URL, 0);
try {
  if (await updateTables(db, process.argv.includes('--copied'))) {
    if (process.argv.includes('--reset-demo')) await resetDemo(db);
    else await loadDemoIfEmpty(db);
  } else process.exitCode = toBeCopied;
} catch (error) {
  console.error(error);
  // The last line is what a person reads.
  console.error((error as Error).message.replace(/\s+/g, ' '));
  process.exitCode = 1;
} finally {
  await db.destroy();
}
