import { useState } from 'react';
import type { Moment } from '#core/moments';
import type { Range } from '#core/time';
import type { TrimStep } from '../page/Page';
import type { PageContext } from './pageContext';

/** A moment whose edge is being drawn; times of its file. */
interface Trimming extends Range {
  moment: Moment;
  edge: 'start' | 'end';
}
/** The shortest that a moment can be drawn to, in seconds. */
const shortest = 0.1;
/** Times that are the same but for rounding. */
const isAt = (a: number, b: number) => Math.abs(a - b) < 1e-6;

type Context = Pick<PageContext, 'string' | 'player' | 'marks' | 'notes' | 'footage' | 'placed'>;

/** Drawing the edges of a moment on the page: the frame at the cut is shown, and what results is kept by hand. */
export function useMomentTrim({ string, player, marks, notes, footage, placed }: Context) {
  const [trimming, setTrimming] = useState<Trimming | null>(null);
  const trimmedAt = (edge: number): Trimming | null => {
    const at = placed.find(({ range }) => isAt(range.start, edge) || isAt(range.end, edge));
    if (!at) return null;
    const { moment, range } = at;
    return { moment, edge: isAt(range.start, edge) ? 'start' : 'end', start: moment.start, end: moment.end };
  };
  /** @param edge where the edge lay, and `time` where it is drawn to, both in the string */
  const trim = (edge: number, time: number, how: TrimStep) => {
    if (how === 'left') {
      marks.setMarked(null);
      return setTrimming(null);
    }
    const done = how === 'done';
    const base = trimming ?? trimmedAt(edge);
    const to = string.locate(time);
    const media = base?.moment.media;
    const file = footage.find((each) => each.id === media);
    if (!base || !media || !to || !file || file.whole) return;
    // Beyond the file its end is meant.
    const isBefore = time < (string.timeOf(media, base.moment.start) ?? 0);
    const seconds = to.id === media ? to.seconds : isBefore ? 0 : file.durationSeconds;
    const range =
      base.edge === 'start'
        ? { start: Math.min(seconds, base.end - shortest), end: base.end }
        : { start: base.start, end: Math.max(seconds, base.start + shortest) };
    const shown = string.rangesOf(media, range)[0] ?? null;
    if (shown) player.seek(base.edge === 'start' ? shown.start : Math.max(shown.start, shown.end - 0.02));
    marks.setMarked(done ? null : shown);
    setTrimming(done ? null : { ...base, ...range });
    if (!done) return;
    notes.decide([{ id: media, ...range }], 'keep');
    marks.setSelected(shown);
  };
  return { trimming, trim };
}
