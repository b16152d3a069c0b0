import { parseArgs } from 'node:util';
import { rates, type Rate } from '#core/time';
import { MediaError } from '#media/process';
import { writeWhole } from './writeWhole';

const help = `Bright Reel on the command line: the same work, without server or database, and the care of an installation.

  ./bright-reel analyze FILE --out OUT.json [--from SECONDS] [--to SECONDS]
      read a file: what it is, faces, people, objects, speech, motion, camera, what steadying costs, scenes, light, loudness
  ./bright-reel transcribe FILE --out OUT.json [--language en] [--terms NAMES.txt] [--model MODEL.bin]
      the words with their times, how sure each is, and what else may have been said; --terms is a list of names that may be said,
      --model a speech model of the kind that whisper.cpp reads
  ./bright-reel align FILE --words TEXT.txt --out OUT.json [--language en]
      the words of a plain text with the times at which they are said, and what was left out, added or said otherwise
  ./bright-reel sync REFERENCE OTHER --out OUT.json
      where the sound of one recording lies in that of another, and how their clocks drift apart
  ./bright-reel beats FILE --out OUT.json
      tempo, beats, bars, sections and drops of a piece of music
  ./bright-reel shorts FILE --out OUT.json [--words TEXT.srt] [--count 5] [--min 15] [--max 45]
      short pieces that stand on their own, with title, reason and score; the words are heard when no text is given
  ./bright-reel highlights FILE... --out REEL.otio [--length SECONDS] [--music SONG] [--mix NAME] [--words TEXTS]
      the best of the files in their order, as an edit; as long as the music, or as is usual, when no length is given;
      --words is what is said: a text of the only file, or a folder of texts named like the files
  ./bright-reel montage SONG FILE... --out REEL.otio [--every 1|2|3|4|8|bar|energy]
      footage cut to the beats of a song, as an edit; denser where the song is fuller (energy) when nothing is said
  ./bright-reel convert REEL --out OUT [--rate 29.97] [--words TEXT.srt]
      an edit in another format, by the ending of OUT: .otio, .edl, .csv, .srt, .vtt, .ass, .chapters.txt, .description.txt;
      --rate is what an EDL was made for, and what another edit is brought to
  ./bright-reel render REEL --out FILE.mp4 [--lines 1080] [--quality draft|good|best] [--rate 29.97]
                 [--words TEXT.srt]
      an edit as a finished file: .mp4, .webm, .gif, .wav, .png; --words, of its only source, sets captions
  ./bright-reel storage move FROM TO
      what a store holds into another, while an installation uses both: folders, or buckets as s3://bucket/prefix;
      broken off, the same command goes on
  ./bright-reel backup FOLDER
      the database and all files of the installation in BRIGHT_REEL_DATA, while it runs; into the same folder again, only
      what is new is copied
  ./bright-reel restore FOLDER
      such a backup, into an installation that is empty
  --cache FOLDER keeps what was read there, by content, so that a second call is quick.
  ./bright-reel --help

Times are in seconds; docs/formats.md describes the documents. Exit code 0: done. 1: a file cannot be used, with
one line that says why. 2: the command was not understood.`;

class UsageError extends Error {}

/** Each command loads what it works with, so that help and refusals come at once. */

async function main(args: string[]): Promise<void> {
  const { values, positionals } = parse(args);
  if (values.help || args.length === 0) return console.log(help);
  const [command, file, ...rest] = positionals;
  const live = process.stderr.isTTY;
  const progress = live ? (share: number) => process.stderr.write(`\r${Math.round(share * 100)} % done `) : undefined;
  const need = (wanted: number, form: string) => {
    if (!file || rest.length !== wanted - 1 || !values.out)
      throw new UsageError(
        `Give ${wanted === 1 ? 'one file' : 'two files'} and where to write: ./bright-reel ${form} --out OUT.json`,
      );
    return { file, out: values.out };
  };
  const needMany = (least: number, form: string) => {
    if (!file || rest.length < least - 1 || !values.out)
      throw new UsageError(`Give files and where to write: ./bright-reel ${form} --out REEL.otio`);
    return { out: values.out };
  };
  const shared = (out: string) => ({
    out,
    ...(values.cache === undefined ? {} : { cache: values.cache }),
    ...(progress ? { onProgress: progress } : {}),
  });
  const write = async (out: string, document: unknown) => {
    if (live) process.stderr.write('\r              \r');
    await writeWhole(out, `${JSON.stringify(document)}\n`);
  };
  if (command === 'analyze') {
    const { out } = need(1, 'analyze FILE');
    await write(out, await (await import('./analyze')).analyze(file!, progress, rangeOf(values.from, values.to)));
  } else if (command === 'transcribe') {
    const { out } = need(1, 'transcribe FILE');
    await write(out, await (await import('./transcribe')).transcribe(file!, values, progress));
  } else if (command === 'align') {
    const { out } = need(1, 'align FILE --words TEXT.txt');
    if (!values.words) throw new UsageError('Name the text with --words.');
    await write(out, await (await import('./align')).align(file!, values.words, values.language, progress));
  } else if (command === 'beats') {
    const { out } = need(1, 'beats FILE');
    await write(out, await (await import('./beats')).beats(file!));
  } else if (command === 'shorts') {
    const { out } = need(1, 'shorts FILE');
    const number = (name: 'count' | 'min' | 'max') => {
      const value = values[name] === undefined ? undefined : Number(values[name]);
      if (value !== undefined && !(value > 0 && value <= 600))
        throw new UsageError(`--${name} is a number from 1 to 600.`);
      return value;
    };
    const [count, minSeconds, maxSeconds] = [number('count'), number('min'), number('max')];
    if ((minSeconds ?? 15) >= (maxSeconds ?? 45)) throw new UsageError('--min is less than --max.');
    await write(
      out,
      await (
        await import('./shorts')
      ).shorts(
        file!,
        {
          ...(count ? { count: Math.round(count) } : {}),
          ...(minSeconds ? { minSeconds } : {}),
          ...(maxSeconds ? { maxSeconds } : {}),
          ...(values.words ? { words: values.words } : {}),
        },
        progress,
      ),
    );
  } else if (command === 'sync') {
    const { out } = need(2, 'sync REFERENCE OTHER');
    const { offsetSeconds, driftPpm, confidence } = await (
      await import('#media/read/offset')
    ).offsetBetween(file!, rest[0]!);
    const round = (value: number, digits: number) => Math.round(value * 10 ** digits) / 10 ** digits;
    await write(out, {
      offsetSeconds: round(offsetSeconds, 5),
      driftPpm: round(driftPpm, 2),
      confidence: round(confidence, 3),
    });
    if (confidence < 0.3) console.error('These recordings may have nothing in common: the offset is a guess.');
  } else if (command === 'highlights') {
    const { out } = needMany(1, 'highlights FILE...');
    const length = values.length === undefined ? null : Number(values.length);
    if (length !== null && !(length > 0 && length <= 36_000)) throw new UsageError('--length is a number of seconds.');
    const made = await (
      await import('./makeReel')
    ).highlights([file!, ...rest], {
      ...shared(out),
      length,
      music: values.music,
      mix: values.mix,
      words: values.words,
    });
    await writeWhole(out, made);
  } else if (command === 'montage') {
    const { out } = needMany(2, 'montage SONG FILE...');
    await writeWhole(
      out,
      await (await import('./makeReel')).montage(file!, rest, { ...shared(out), every: values.every }),
    );
  } else if (command === 'convert') {
    const { out } = need(1, 'convert REEL');
    const { text, left } = await (await import('./convert')).convert(file!, out, rateOf(values.rate), values.words);
    await writeWhole(out, text);
    for (const sentence of left) console.error(sentence);
  } else if (command === 'render') {
    const { out } = need(1, 'render REEL');
    const left = await (
      await import('./renderReelFile')
    ).renderReelFile(file!, out, {
      ...shared(out),
      rate: rateOf(values.rate) ?? rates['25'],
      lines: values.lines,
      quality: values.quality,
      words: values.words,
    });
    for (const sentence of left) console.error(sentence);
  } else if (command === 'storage') {
    const [from, to, ...more] = rest;
    if (file !== 'move' || !from || !to || more.length > 0)
      throw new UsageError('Give two places: ./bright-reel storage move FROM TO');
    const said = await (await import('./storage')).moveStorage(from, to, progress);
    console.log(live ? `\r${said}` : said);
  } else throw new UsageError(`"${command}" is no command of Bright Reel. ./bright-reel --help lists them.`);
}

/** One of the usual rates, as people write it. */
function rateOf(text: string | undefined): Rate | null {
  if (text === undefined) return null;
  if (!Object.hasOwn(rates, text))
    throw new UsageError(
      `--rate is ${Object.keys(rates)
        .sort((a, b) => Number(a) - Number(b))
        .join(', ')}.`,
    );
  return rates[text as keyof typeof rates];
}

function rangeOf(from: string | undefined, to: string | undefined) {
  if (from === undefined && to === undefined) return undefined;
  const [start, end] = [from === undefined ? 0 : Number(from), to === undefined ? Infinity : Number(to)];
  if (Number.isNaN(start) || Number.isNaN(end) || start < 0 || end <= start)
    throw new UsageError('--from and --to are seconds, and --to lies after --from.');
  return { start, end };
}

function parse(args: string[]) {
  try {
    return parseArgs({
      args,
      allowPositionals: true,
      options: {
        out: { type: 'string' },
        from: { type: 'string' },
        to: { type: 'string' },
        language: { type: 'string' },
        words: { type: 'string' },
        terms: { type: 'string' },
        model: { type: 'string' },
        length: { type: 'string' },
        music: { type: 'string' },
        mix: { type: 'string' },
        every: { type: 'string' },
        rate: { type: 'string' },
        lines: { type: 'string' },
        quality: { type: 'string' },
        cache: { type: 'string' },
        count: { type: 'string' },
        min: { type: 'string' },
        max: { type: 'string' },
        help: { type: 'boolean', short: 'h' },
      },
    });
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
