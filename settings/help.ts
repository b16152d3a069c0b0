import { sentences, Settings } from './index';

/** A line for every setting: name, example, what it is, its default. */
function rows(): { set: string; says: string; usual: string }[] {
  const defaults = new Settings();
  return Object.entries(sentences).map(([name, { example, says }]) => {
    const usual = defaults[name as keyof Settings];
    return { set: `${name}=${example}`, says, usual: usual === undefined ? '' : [usual].flat().join(',') };
  });
}

/** For `./start --help`. */
export const helpText = (): string =>
  rows()
    .map(({ set, says, usual }) => `  ${set.padEnd(42)} ${says}${usual ? ` (${usual})` : ''}`)
    .join('\n');

/** For the README. */
export const helpTable = (): string =>
  [
    '| Variable | What it is | Default |',
    '| --- | --- | --- |',
    ...rows().map(({ set, says, usual }) => `| \`${set}\` | ${says} | ${usual ? `\`${usual}\`` : ''} |`),
  ].join('\n');
