import { readFileSync, writeFileSync } from 'node:fs';
import { helpTable, helpText } from '../settings/help';

/** Writes what the settings are into `./start --help` and the handbook; run after every change of a setting. */
const places = [
  {
    file: 'start',
    from: '# settings\n',
    to: '\n# end of settings',
    text: `settings_help='${helpText().replaceAll("'", '’')}'`,
  },
  {
    file: 'docs/handbook/settings.md',
    from: '<!-- settings -->\n',
    to: '\n<!-- end of settings -->',
    text: `\n<!-- prettier-ignore -->\n${helpTable()}\n`,
  },
];
for (const { file, from, to, text } of places) {
  const now = readFileSync(file, 'utf8');
  const [start, end] = [now.indexOf(from) + from.length, now.indexOf(to)];
  if (start < from.length || end < 0) throw new Error(`${file} has no place for the settings`);
  writeFileSync(file, now.slice(0, start) + text + now.slice(end));
}
