import { describe, expect, it } from 'vitest';
import { assembleReel, mainTrack, type Source } from '#core/reel';
import { rates } from '#core/time';
import type { OpenReel } from '#data/reels';
import { withWaiting, type WaitingEdit } from './waitingEdits';

const sources = new Map<string, Source>([['a', { id: 'a', name: 'a.mp4', durationSeconds: 60 }]]);
const open = (lastEdit: string | null = null): OpenReel => ({
  id: 'r',
  projectId: 'p',
  head: 4,
  canUndo: false,
  canRedo: true,
  lastEdit,
  document: assembleReel(
    'Pond',
    [{ media: 'a', start: 10, end: 14, name: 'A' }],
    sources,
    rates['25'],
    { width: 16, height: 16 },
    () => 'c',
  ),
});
const trims: WaitingEdit[] = ['1', '2', '3'].map((id) => ({
  id,
  command: { type: 'trim', clip: 'c', edge: 'out', frames: -10 },
}));
const length = (reel: OpenReel) => mainTrack(reel.document).items[0]!.frames;

describe('a reel that is loaded while edits still wait', () => {
  it('is shown as it will be: three trims, of which the server has none yet', () => {
    const shown = withWaiting(open(), trims, sources);
    expect([length(shown), shown.canUndo, shown.canRedo]).toEqual([70, true, false]);
  });
  it('does not trim twice what the server has already', () =>
    expect(length(withWaiting(open('2'), trims, sources))).toBe(90));
  it('waits for the server where a step through the history comes first', () => {
    expect(length(withWaiting(open(), [trims[0]!, { id: 'u', step: 'undo' }, trims[1]!], sources))).toBe(90);
  });
  it('an edit that no longer fits changes nothing', () => {
    const gone: WaitingEdit = { id: 'x', command: { type: 'remove', clip: 'nobody' } };
    expect(withWaiting(open(), [gone, ...trims], sources)).toEqual(open());
    expect(withWaiting(open(), [], sources)).toEqual(open());
  });
});
