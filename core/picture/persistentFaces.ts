import { intersectionOverUnion, type FaceBox, type FaceSample } from './faces';
import type { ObjectSample } from './objects';

/** A face that is never surer than this, from its first sample to its last, needs the figure of a person around it. */
const surelyFace = 0.8;
/** Boxes of neighbouring samples that overlap so much are of one face. */
const sameFace = 0.2;
/** So far apart the pictures in which a face and its person were found may lie, in seconds. */
const personWithin = 2.01;

/**
 * Drops faces seen in one sample only, with no like face (overlap of the boxes) within `reachSeconds` before or
 * after: real faces persist, false ones flicker. Those that are unsure all along are kept only inside a person: what
 * both nets take for somebody is hardly ever nobody. The strongest (score over 0.9) stay.
 * @param things what the object net saw; left out, faces that are unsure all along stay
 */
export function persistentFaces(
  samples: readonly FaceSample[],
  things?: readonly ObjectSample[],
  reachSeconds = 1.1,
): FaceSample[] {
  const ways = ([1, -1] as const).map((way) => followed(samples, things, reachSeconds, way));
  return samples.map(({ time, boxes }) => ({
    time,
    boxes: boxes.filter((box) => {
      // A photo has no pictures beside it that could confirm a face.
      if (samples.length === 1) return box.score > 0.7;
      if (box.score > 0.9) return true;
      const seen = ways.map((way) => way.get(box)!);
      return seen.some(({ goesOn }) => goesOn) && seen.some(({ surest, inPerson }) => surest >= surelyFace || inPerson);
    }),
  }));
}

interface Followed {
  /** Whether there is a like face before (or behind). */
  goesOn: boolean;
  /** Best score on the way, and whether a person was around it anywhere. */
  surest: number;
  inPerson: boolean;
}

/** What the boxes before each box (`way` 1) or behind it (-1) that it goes on from say about it. */
function followed(
  samples: readonly FaceSample[],
  things: readonly ObjectSample[] | undefined,
  reachSeconds: number,
  way: 1 | -1,
): Map<FaceBox, Followed> {
  const all = new Map<FaceBox, Followed>();
  for (let step = 0; step < samples.length; step++) {
    const index = way === 1 ? step : samples.length - 1 - step;
    const { time, boxes } = samples[index]!;
    for (const box of boxes)
      all.set(box, {
        goesOn: false,
        surest: box.score,
        inPerson: things === undefined || isInPerson(box, time, things),
      });
    for (let at = index - way; at >= 0 && at < samples.length; at -= way) {
      const other = samples[at]!;
      if (Math.abs(other.time - time) > reachSeconds) break;
      for (const box of boxes)
        for (const each of other.boxes) {
          if (intersectionOverUnion(each, box) <= sameFace) continue;
          const [here, there] = [all.get(box)!, all.get(each)!];
          here.goesOn = true;
          here.surest = Math.max(here.surest, there.surest);
          here.inPerson ||= there.inPerson;
        }
    }
  }
  return all;
}

const isInPerson = (face: FaceBox, time: number, things: readonly ObjectSample[]): boolean => {
  const [x, y] = [face.x + face.width / 2, face.y + face.height / 2];
  return things.some(
    (sample) =>
      Math.abs(sample.time - time) <= personWithin &&
      sample.boxes.some(
        (box) => box.label === 'person' && x > box.x && x < box.x + box.width && y > box.y && y < box.y + box.height,
      ),
  );
};
