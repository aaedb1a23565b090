// Prints "passed failed" of a Vitest or Playwright JSON report, then a line for each test that failed, or passed only
// when it was tried a second time. A runner that failed without a failed test counts as one.
import { readFileSync } from 'node:fs';
import { stripVTControlCharacters } from 'node:util';

const [, , file, status] = process.argv;
let passed = 0;
const failed = [];
const second = [];

/** A test of a Playwright report lies in suites within suites. */
function playwright({ title, suites = [], specs = [] }) {
  for (const suite of suites) playwright(suite);
  for (const spec of specs) {
    const name = `${title} › ${spec.title}`;
    const [{ status: outcome, results }] = spec.tests;
    const said = results.find(({ error }) => error)?.error.message;
    if (outcome === 'unexpected') failed.push(line(name, said));
    if (outcome === 'flaky') second.push(line(name, said));
    if (outcome === 'expected' || outcome === 'flaky') passed++;
  }
}
function vitest({ testResults }) {
  for (const { name: file, assertionResults, message } of testResults) {
    const said = assertionResults.map(({ fullName, status: outcome, failureMessages: [first] }) => {
      if (outcome === 'passed') passed++;
      if (outcome === 'failed') failed.push(line(fullName, first));
      // A test that passed keeps what its first try said.
      else if (first) second.push(line(fullName, first));
      return outcome;
    });
    if (message && !said.includes('failed')) failed.push(line(file, message));
  }
}
const line = (name, said = '') =>
  `${name}: ${stripVTControlCharacters(said)
    .split('\n')
    .filter((text) => text.trim() !== '' && !text.includes('node_modules'))
    .slice(0, 8)
    .join(' | ')
    .slice(0, 600)}`;

try {
  const report = JSON.parse(readFileSync(file, 'utf8'));
  if (report.stats) playwright(report);
  else vitest(report);
} catch {
  // No report: the runner did not get so far.
}
if (status !== '0' && failed.length === 0) failed.push(`${file}: the runner ended with ${status}`);
console.log(`${passed} ${failed.length}`);
for (const name of failed) console.log(`failed: ${name}`);
for (const name of second) console.log(`passed at its second try: ${name}`);
