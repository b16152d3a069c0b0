import { parseArgs } from 'node:util';
import { MediaError } from '#media/process';
import { analyze, writeWhole } from './analyze';

const help = `Bright Reel on the command line: the same work, without server or database.

  ./bright-reel analyze FILE --out OUT.json   read a file: faces, speech, motion, camera, scenes, light, loudness
  ./bright-reel --help                        this page

Times are in seconds; docs/formats.md describes the document. Exit code 0: done. 1: the file cannot be used, with
one line that says why. 2: the command was not understood.`;

class UsageError extends Error {}

async function main(args: string[]): Promise<void> {
  const { values, positionals } = parse(args);
  if (values.help || args.length === 0) return console.log(help);
  const [command, file, ...rest] = positionals;
  if (command !== 'analyze') throw new UsageError(`"${command}" is no command of Bright Reel. ./bright-reel --help lists them.`);
  if (!file || rest.length || !values.out) throw new UsageError('Give one file and where to write: ./bright-reel analyze FILE --out OUT.json');
  const live = process.stderr.isTTY;
  const document = await analyze(file, live ? (share) => process.stderr.write(`\r${Math.round(share * 100)} % read `) : undefined);
  if (live) process.stderr.write('\r              \r');
  await writeWhole(values.out, `${JSON.stringify(document)}\n`);
}

function parse(args: string[]) {
  try {
    return parseArgs({ args, allowPositionals: true, options: { out: { type: 'string' }, help: { type: 'boolean', short: 'h' } } });
  } catch (error) {
    throw new UsageError(`${(error as Error).message.split('.')[0]}. ./bright-reel --help shows what there is.`);
  }
}

main(process.argv.slice(2)).then(
  () => process.exit(0),
  (error: unknown) => {
    if (error instanceof MediaError || error instanceof UsageError) console.error(error.message);
    else console.error(`This should not have happened: ${(error as Error).message}`);
    process.exit(error instanceof UsageError ? 2 : 1);
  },
);
