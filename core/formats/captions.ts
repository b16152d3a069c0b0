import { clipsBeside, planSound, type Reel } from '#core/reel';
import { overlap } from '#core/time';
import { captionLines, captionRules, lineText, twoLanguages, type CaptionTrack, type HeardWord } from '#core/captions';
import type { Cue, Word } from '#core/words';

/** Two rows of 42 letters at the most. Common practice in subtitling, no source. */
const rowLetters = 42;

/** What captions of a reel are made of. */
export interface ReelTexts {
  /** What is said in a file. */
  wordsOf: (media: string) => readonly Word[];
  /** The same in the captions' second language, with its own times. */
  secondOf?: (media: string) => readonly Word[];
  /** Who speaks in a file at a second: by name where subtitles are to name them, by number where they are coloured. */
  speakerOf?: (media: string, seconds: number) => Pick<HeardWord, 'speaker' | 'voice'>;
}

const nobody = () => ({});

/** The words that are heard in a reel, at their times in it: those of each piece of the main track that lie mostly inside it. */
export function wordsInReel(
  reel: Reel,
  wordsOf: ReelTexts['wordsOf'],
  speakerOf: NonNullable<ReelTexts['speakerOf']> = nobody,
): HeardWord[] {
  const heard = [...planSound(reel), ...clipsBeside(reel)].filter(
    (segment) => segment.media !== null && segment.gain > 0,
  );
  return heard
    .flatMap(({ media, sourceSeconds, startSeconds, endSeconds, speed }) => {
      const range = { start: sourceSeconds, end: sourceSeconds + (endSeconds - startSeconds) * speed };
      const inReel = (seconds: number) =>
        startSeconds + (Math.min(range.end, Math.max(range.start, seconds)) - sourceSeconds) / speed;
      const said = (word: Word) => speakerOf(media!, (word.start + word.end) / 2);
      return wordsOf(media!).flatMap((word, index) =>
        overlap(word, range) > (word.end - word.start) / 2
          ? [{ ...word, start: inReel(word.start), end: inReel(word.end), media: media!, index, ...said(word) }]
          : [],
      );
    })
    .sort((a, b) => a.start - b.start);
}

/** The captions of a reel as they stand over its picture; none where it has none, or nothing is said. */
export function captionTracks(reel: Reel, { wordsOf, secondOf, speakerOf }: ReelTexts): CaptionTrack[] {
  const style = reel.captions;
  if (!style) return [];
  const linesOf = (texts: ReelTexts['wordsOf']) =>
    captionLines(wordsInReel(reel, texts, speakerOf), { ...captionRules, letters: style.letters });
  const spoken = linesOf(wordsOf);
  const second = style.second && secondOf ? linesOf(secondOf) : [];
  if (second.length === 0) return spoken.length === 0 ? [] : [{ lines: spoken, style, follows: true }];
  const [above, below] = twoLanguages(style, reel.size);
  return [
    ...(spoken.length === 0 ? [] : [{ lines: spoken, style: above, follows: true }]),
    { lines: second, style: below, follows: false },
  ];
}

/** Words as subtitles for other players: two long rows, otherwise as the captions of the reel are made; see `captionLines`. */
export const captionCues = (words: readonly HeardWord[], letters = 2 * rowLetters): Cue[] =>
  captionLines(words, { ...captionRules, letters }).map(({ start, end, words: own }) => ({
    start,
    end,
    text: lineText(own),
    ...(own[0]?.speaker === undefined ? {} : { speaker: own[0].speaker }),
  }));

/** Those that are seen in a stretch, at their times in it; what begins before it or goes on after it is cut. In seconds. */
export const cuesBetween = (cues: readonly Cue[], from: number, to: number): Cue[] =>
  cues
    .filter(({ start, end }) => end > from && start < to)
    .map((cue) => ({ ...cue, start: Math.max(cue.start, from) - from, end: Math.min(cue.end, to) - from }));

/** In two rows of about the same length when one is too short. */
function inRows(text: string): string {
  if (text.length <= rowLetters) return text;
  const words = text.split(' ');
  let best = 1;
  const longer = (at: number) => Math.max(words.slice(0, at).join(' ').length, words.slice(at).join(' ').length);
  for (let at = 2; at < words.length; at++) if (longer(at) < longer(best)) best = at;
  return `${words.slice(0, best).join(' ')}\n${words.slice(best).join(' ')}`;
}

function clock(seconds: number, separator: string): string {
  const total = Math.round(seconds * 1000);
  const two = (value: number) => String(value).padStart(2, '0');
  return `${two(Math.floor(total / 3_600_000))}:${two(Math.floor(total / 60_000) % 60)}:${two(Math.floor(total / 1000) % 60)}${separator}${String(total % 1000).padStart(3, '0')}`;
}

/** SubRip knows no speakers: a name stands before the text. Common practice in subtitling, no source. */
export const writeSrt = (cues: readonly Cue[]): string =>
  cues
    .map(
      (cue, index) => `${index + 1}\n${clock(cue.start, ',')} --> ${clock(cue.end, ',')}\n${inRows(withName(cue))}\n`,
    )
    .join('\n');

const withName = ({ speaker, text }: Cue): string => (speaker === undefined ? text : `${speaker}: ${text}`);

const escaped = (text: string) => text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;');
/** WebVTT (W3C 2019); speakers as voice spans (section 4.2.2). */
export const writeVtt = (cues: readonly Cue[]): string =>
  `WEBVTT\n\n${cues.map((cue) => `${clock(cue.start, '.')} --> ${clock(cue.end, '.')}\n${voiced(cue)}\n`).join('\n')}`;

function voiced({ speaker, text }: Cue): string {
  const own = escaped(inRows(text));
  return speaker === undefined ? own : `<v ${escaped(speaker)}>${own}`;
}

/** Advanced SubStation Alpha (v4+) with one plain style. */
export function writeAss(cues: readonly Cue[], size: { width: number; height: number }): string {
  const short = (seconds: number) => {
    const total = Math.round(seconds * 100);
    const two = (value: number) => String(value).padStart(2, '0');
    return `${Math.floor(total / 360_000)}:${two(Math.floor(total / 6000) % 60)}:${two(Math.floor(total / 100) % 60)}.${two(total % 100)}`;
  };
  const letters = Math.round(size.height * 0.055);
  return `[Script Info]\nScriptType: v4.00+\nPlayResX: ${size.width}\nPlayResY: ${size.height}\nWrapStyle: 0\n\n[V4+ Styles]\nFormat: Name, Fontname, Fontsize, PrimaryColour, SecondaryColour, OutlineColour, BackColour, Bold, Italic, Underline, StrikeOut, ScaleX, ScaleY, Spacing, Angle, BorderStyle, Outline, Shadow, Alignment, MarginL, MarginR, MarginV, Encoding\nStyle: Default,Figtree,${letters},&H00E4EDF2,&H00E4EDF2,&H00181410,&H80000000,-1,0,0,0,100,100,0,0,1,${Math.max(1, Math.round(letters / 14))},0,2,${Math.round(size.width * 0.05)},${Math.round(size.width * 0.05)},${Math.round(size.height * 0.06)},1\n\n[Events]\nFormat: Layer, Start, End, Style, Name, MarginL, MarginR, MarginV, Effect, Text\n${cues.map((cue) => `Dialogue: 0,${short(cue.start)},${short(cue.end)},Default,${(cue.speaker ?? '').replace(/[,\n\r]/g, ' ')},0,0,0,,${inRows(cue.text).replaceAll('\n', '\\N').replace(/[{}]/g, '')}`).join('\n')}\n`;
}
