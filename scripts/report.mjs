/**
 * What the runners said, in a few lines for the end of ./test: what failed, what passed only at its second try (it is
 * also written into docs/flaky.md), and what was skipped. Usage: report.mjs UNIT.json E2E.json
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { relative } from 'node:path';

const read = (file) => {
  try {
    return JSON.parse(readFileSync(file, 'utf8'));
  } catch {
    return undefined;
  }
};
const [unit, e2e] = process.argv.slice(2).map(read);

const unitTests = (unit?.testResults ?? []).flatMap((file) =>
  file.assertionResults.map((test) => ({ ...test, name: `${relative('.', file.name)} › ${test.fullName}` })),
);
const brokenFiles = (unit?.testResults ?? []).filter(
  (file) => file.status === 'failed' && file.assertionResults.length === 0,
);
const specsOf = (suite) => [...(suite.specs ?? []), ...(suite.suites ?? []).flatMap(specsOf)];
const specs = specsOf(e2e ?? {}).map((spec) => ({
  name: `${spec.file}:${spec.line} › ${spec.title}`,
  ok: spec.ok,
  statuses: spec.tests.map((test) => test.status),
}));

const firstLines = (text, count) => text.split('\n').slice(0, count).join('\n    ');
const list = (title, lines) => {
  if (lines.length > 0) console.log([title, ...lines.map((line) => `  ${line}`)].join('\n'));
};

list('What failed:', [
  ...brokenFiles.map((file) => `${relative('.', file.name)}: ${firstLines(file.message, 1)}`),
  ...unitTests
    .filter(({ status }) => status === 'failed')
    .map(({ name, failureMessages }) => `${name}\n    ${firstLines(failureMessages[0] ?? '', 6)}`),
  ...specs.filter(({ ok }) => !ok).map(({ name }) => name),
]);
const flaky = specs.filter(({ statuses }) => statuses.includes('flaky')).map(({ name }) => name);
list('Passed only at the second try (also in docs/flaky.md):', flaky);
list('Skipped:', [
  ...unitTests.filter(({ status }) => status === 'pending' || status === 'skipped').map(({ name }) => name),
  ...specs.filter(({ statuses }) => statuses.includes('skipped')).map(({ name }) => name),
]);

const flakyList = 'docs/flaky.md';
const known = readFileSync(flakyList, 'utf8');
const fresh = flaky.filter((name) => !known.includes(name));
if (fresh.length > 0) {
  const day = new Date().toISOString().slice(0, 10);
  writeFileSync(flakyList, known.replace('None.\n', '') + fresh.map((name) => `- ${day}: ${name}\n`).join(''));
}
