// Prints "passed failed" of a Vitest or Playwright JSON report; a runner that failed without a failed test counts as
// one.
import { readFileSync } from 'node:fs';

const [, , file, status] = process.argv;
let [passed, failed] = [0, 0];
try {
  const report = JSON.parse(readFileSync(file, 'utf8'));
  if (report.stats) [passed, failed] = [report.stats.expected, report.stats.unexpected + report.stats.flaky];
  else [passed, failed] = [report.numPassedTests, report.numFailedTests];
} catch {
  // No report: the runner did not get so far.
}
if (status !== '0' && failed === 0) failed = 1;
console.log(`${passed} ${failed}`);
