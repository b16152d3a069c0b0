/**
 * `npm run siege`: attacks an installation of its own on loopback and prints what came of it. Everything that is tried
 * comes from a seed, so that what was found can be found again. `--seed N --minutes M --inputs N --kills N --media N`;
 * `--only inputs,protocol,media,kills,disk,writers`.
 */
import { parseArgs } from 'node:util';
import { Installation } from './installation';
import { besiegeInputs } from './inputs';
import { besiegeDisk } from './disk';
import { besiegeByKilling, twoWriters } from './kills';
import { makeKnown } from './known';
import { besiegeMedia } from './media';
import { ask200, besiegeProtocol } from './protocol';
import { Found, table } from './report';

const { values } = parseArgs({
  options: {
    seed: { type: 'string', default: '1' },
    minutes: { type: 'string', default: '240' },
    inputs: { type: 'string', default: '10000' },
    kills: { type: 'string', default: '500' },
    media: { type: 'string', default: '300' },
    only: { type: 'string', default: 'inputs,protocol,media,kills,disk,writers' },
  },
});
const seed = Number(values.seed);
const until = Date.now() + Number(values.minutes) * 60_000;
const only = new Set(values.only.split(','));
const began = Date.now();
/** Seconds since it began. */
const now = () => Math.round((Date.now() - began) / 1000);
const found = new Found((sentence) => console.error(`${now()} s: ${sentence.slice(0, 400)}`));
const rows: [string, string, string][] = [];
/** Notes what a part came to, and says it at once, since all of them take an hour. */
const note = (...row: [what: string, tried: string, came: string]): void => {
  rows.push(row);
  console.error(`${now()} s: ${row.join(', ')}`);
};
const place = new Installation();
await place.start();
const known = await makeKnown(place);

if (only.has('inputs')) {
  const { tried, taken } = await besiegeInputs(place, { seed, count: Number(values.inputs), until }, found);
  note(
    'bad inputs',
    String(tried),
    `${found.count('faults')} 500s, ${found.count('hangs')} hangs, ${found.count('letIns')} let in; ${Math.round((100 * taken) / Math.max(1, tried))} % were taken`,
  );
}
if (only.has('protocol') && Date.now() < until) {
  const before = found.total;
  const tried = await besiegeProtocol(place, known, seed, found);
  note('protocol abuse', String(tried), `${found.total - before} found`);
  const { median, slowest } = await ask200(place, known, found);
  note('200 requests at once', '200', `median ${median.toFixed(2)} s, slowest ${slowest.toFixed(2)} s`);
}
if (only.has('media') && Date.now() < until) {
  const { files, mostBytes } = await besiegeMedia(place, known, { seed, count: Number(values.media), until }, found);
  note(
    'hostile media',
    String(files),
    `${found.count('unbounded')} not ended in bounds; at most ${Math.round(mostBytes / 1e6)} MB`,
  );
}
if (only.has('writers') && Date.now() < until)
  note('edits by three at once', String(await twoWriters(place, known, 60, found)), `${found.count('lost')} lost`);
if (only.has('disk') && Date.now() < until) {
  const before = found.total;
  if (process.env.SIEGE_DISK)
    note('disk full', `${await besiegeDisk(place, known, found)} moments`, `${found.total - before} found`);
  else note('disk full', 'not tried', 'no small disk can be mounted here');
}
if (only.has('kills') && Date.now() < until) {
  const { kills, confirmed } = await besiegeByKilling(
    place,
    known,
    { seed, count: Number(values.kills), until },
    found,
  );
  note(
    'kills',
    String(kills),
    `${found.count('lost')} of ${confirmed} confirmed changes lost, ${found.count('endless')} tasks never ended`,
  );
}
const seconds = (Date.now() - began) / 1000;
console.log(`Seed ${seed}, ${Math.round(seconds / 60)} min.\n`);
console.log(table(rows));
if (found.total > 0) {
  console.log(`\n${found.lines(60).join('\n')}`);
  console.log(`\nLast words of the installation:\n${place.lastWords()}`);
}
await place.stop();
process.exit(found.total > 0 ? 1 : 0);
