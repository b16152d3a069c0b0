import { formatClock } from '#core/time';
import { dayWords } from './readTime';
import type { Term, TimePoint } from './types';

const count = (number: number, one: string, many: string) => `${number} ${number === 1 ? one : many}`;

const pointWords = (point: TimePoint): string =>
  point.from === 'marker'
    ? `the marker “${point.note}”`
    : point.from === 'start'
      ? formatClock(point.seconds)
      : point.seconds === 0
        ? 'the end'
        : `${formatClock(point.seconds)} before the end`;

/** A term in plain words, as chips show it. */
export function describeTerm(term: Term): string {
  switch (term.kind) {
    case 'said':
      return `${[term.words.join(' '), ...(term.alike ?? [])].map((words) => `“${words}”`).join(' or ')} is said`;
    case 'person':
      return term.name;
    case 'faces':
      if (term.most === 0) return 'nobody';
      if (term.most === term.least) return count(term.least, 'face', 'faces');
      return term.least === 1 ? 'somebody' : `${term.least} faces or more`;
    case 'thing':
      return term.least > 1 ? `${term.least} × ${term.label}` : term.label;
    case 'coloured':
      return (
        {
          clothes: `${term.colour} clothes`,
          head: `${term.colour} hat or hair`,
          worn: `somebody in ${term.colour}`,
          anything: `something ${term.colour}`,
        }[term.of as string] ?? `${term.colour} ${term.of}`
      );
    case 'photo':
      return 'photo';
    case 'named':
      return term.what === 'bin'
        ? `bin “${term.name}”`
        : term.media.length === 1
          ? term.name
          : `${term.media.length} files “${term.name}”`;
    case 'smile':
      return term.all ? 'everyone smiling' : 'smiling';
    case 'camera':
      return [
        {
          still: 'still camera',
          pan: 'pan',
          tilt: 'tilt',
          zoom: 'zoom',
          move: 'camera move',
          whip: 'whip pan',
          shaky: 'shaky',
          steady: 'steady',
        }[term.move],
        term.way,
      ]
        .filter(Boolean)
        .join(' ');
    case 'action':
      return term.much === 'fast' ? 'much motion' : 'little motion';
    case 'sound':
      return { loud: 'loud', cheer: 'cheering', quiet: 'quiet', talk: 'talk', music: 'music', silence: 'silence' }[
        term.what
      ];
    case 'size':
      return { close: 'close', medium: 'medium', wide: 'wide' }[term.size];
    case 'light':
      return { dark: 'dark', bright: 'well lit', sharp: 'sharp', blurred: 'out of focus' }[term.what];
    case 'time':
      return term.from.from === 'start' && term.from.seconds === 0
        ? `before ${pointWords(term.to)}`
        : term.to.from === 'end' && term.to.seconds === 0
          ? `after ${pointWords(term.from)}`
          : `${pointWords(term.from)} to ${pointWords(term.to)}`;
    case 'date':
      return dayWords(term.days);
    case 'pick': {
      const which = term.count === Infinity ? '' : term.count === 1 ? 'the ' : `${term.count} `;
      if (term.by === 'most') return `${which}${term.count === 1 ? 'one ' : ''}with most: ${describeTerm(term.of!)}`;
      return `${which}${term.by}`;
    }
    case 'timecode':
      return `timecode ${term.code}`;
  }
}
