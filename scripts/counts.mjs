/** Passed and failed tests of a report of Vitest or Playwright, as "PASSED FAILED". Usage: counts.mjs REPORT.json */
import { readFileSync } from 'node:fs';

const report = JSON.parse(readFileSync(process.argv[2], 'utf8'));
if (report.stats) console.log(report.stats.expected + report.stats.flaky, report.stats.unexpected);
else {
  const broken = report.testResults.filter((file) => file.status === 'failed' && file.assertionResults.length === 0);
  console.log(report.numPassedTests, report.numFailedTests + broken.length);
}
