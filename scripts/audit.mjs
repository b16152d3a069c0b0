// Asks the registry whether faults of our packages are known. One that does not answer is no fault of ours, and is said.
import { spawnSync } from 'node:child_process';

const asked = spawnSync('npm', ['audit', '--omit=dev', '--json'], { encoding: 'utf8', timeout: 60_000 });
let answer = null;
try {
  answer = JSON.parse(asked.stdout);
} catch {
  // No answer.
}
const counts = answer?.metadata?.vulnerabilities;
if (!counts) console.log('The registry does not tell of known faults; only hashes were checked.');
else {
  const grave = counts.high + counts.critical;
  console.log(`Known faults of packages: ${counts.total}, of which ${grave} grave.`);
  if (grave > 0) {
    console.log(
      Object.values(answer.vulnerabilities)
        .map(({ name, severity, range }) => `${severity}: ${name} ${range}`)
        .join('\n'),
    );
    process.exit(1);
  }
}
