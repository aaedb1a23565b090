/**
 * Seeded runs of a property. `./test` has few of them, for with one seed they are the same ones each time;
 * `SEEDED=20 npx vitest run --project core` has twenty times as many.
 */
export const runs = (few: number): number => few * Number(process.env['SEEDED'] ?? 1);
