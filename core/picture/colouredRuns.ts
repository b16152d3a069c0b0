import type { Range } from '#core/time';
import type { ColourName } from './colourNames';
import type { FaceSample } from './faces';
import type { ObjectRun, ObjectSample } from './objects';

/** A stretch in which something of a colour is seen: "red boat", "red clothes", "red head" (what is on it, or its hair). */
export interface ColouredRun extends Range {
  label: string;
}

interface Seen {
  time: number;
  labels: ReadonlySet<string>;
}

/** What is on somebody is told from many pictures a second; once is a mistake. Things are looked at every two seconds. */
const leastSeen = { worn: 3, things: 1 };
/** A gap of so many samples is bridged. */
const bridged = { worn: 3, things: 1 };

/**
 * When things and clothes of a colour are in the picture; a cut ends a stretch.
 * @param found where things were found that are no mistake
 * @param cuts scene boundaries in seconds
 */
export function colouredRuns(
  faces: readonly FaceSample[],
  objects: readonly ObjectSample[],
  found: readonly ObjectRun[],
  cuts: readonly number[],
  duration: number,
): ColouredRun[] {
  const label = (colour: ColourName, of: string) => `${colour} ${of}`;
  const worn = faces.map(({ time, boxes }): Seen => ({
    time,
    labels: new Set(
      boxes.flatMap(({ worn: own }) => [
        ...(own?.body ?? []).map((colour) => label(colour, 'clothes')),
        ...(own?.head ?? []).map((colour) => label(colour, 'head')),
      ]),
    ),
  }));
  const things = objects.map(({ time, boxes }): Seen => ({
    time,
    labels: new Set(
      boxes
        .filter(
          (box) =>
            box.label !== 'person' &&
            found.some((run) => run.label === box.label && run.start <= time && run.end >= time),
        )
        .flatMap((box) => (box.colours ?? []).map((colour) => label(colour, box.label))),
    ),
  }));
  return [
    ...joined(worn, cuts, duration, leastSeen.worn, bridged.worn),
    ...joined(things, cuts, duration, leastSeen.things, bridged.things),
  ].sort((a, b) => a.start - b.start || a.end - b.end);
}

function joined(
  samples: readonly Seen[],
  cuts: readonly number[],
  duration: number,
  least: number,
  bridge: number,
): ColouredRun[] {
  const runs: ColouredRun[] = [];
  const open = new Map<string, ColouredRun & { at: number; seen: number }>();
  const close = (label: string) => {
    const { start, end, seen } = open.get(label)!;
    open.delete(label);
    // A photo has one sample.
    if (seen >= Math.min(least, samples.length)) runs.push({ label, start, end });
  };
  let cut = 0;
  for (const [index, { time, labels }] of samples.entries()) {
    const before = samples[index - 1]?.time ?? -time;
    const after = samples[index + 1]?.time ?? 2 * duration - time;
    let boundary = -Infinity;
    while (cut < cuts.length && cuts[cut]! <= time) boundary = cuts[cut++]!;
    for (const [label, { at }] of open) if (boundary > before || index - at > 1 + bridge) close(label);
    const start = Math.max(0, boundary, (before + time) / 2);
    const end = Math.min(duration, (time + after) / 2, cuts[cut] ?? Infinity);
    for (const label of labels) {
      const run = open.get(label);
      if (run) Object.assign(run, { end, at: index, seen: run.seen + 1 });
      else open.set(label, { label, start, end, at: index, seen: 1 });
    }
  }
  for (const label of [...open.keys()]) close(label);
  return runs;
}
