import type { Item } from '#usecases/projects';

type Probe = NonNullable<Item['probe']>;

/** For tests: an item that was read; `probe` and the rest can be said otherwise. */
export function testItem(
  id: string,
  { probe, ...more }: Omit<Partial<Item>, 'probe'> & { probe?: Partial<Probe> | null } = {},
): Item {
  const read: Probe = {
    kind: 'video',
    durationSeconds: 40,
    rate: { num: 25, den: 1 },
    width: 1280,
    height: 720,
    hasSound: true,
    videoCodec: 'h264',
    audioCodec: 'aac',
    format: 'mp4',
    ...probe,
  };
  return {
    id,
    name: `${id}.mp4`,
    hash: id,
    binId: null,
    position: 0,
    problem: null,
    createdAt: new Date('2026-06-06T10:00:00Z'),
    size: 1000,
    sheets: null,
    warnings: [],
    loudness: null,
    summary: { faces: 0, speechShare: 0, shakySeconds: 0, movingSeconds: 0, flawedSeconds: 0, scenes: 1 },
    defaultIn: null,
    defaultOut: null,
    syncOffset: null,
    isRough: false,
    here: null,
    state: null,
    waits: null,
    nextTask: null,
    ...more,
    probe: probe === null ? null : read,
  } as unknown as Item;
}
