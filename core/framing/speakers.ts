import { lengthOf, overlap, type Range } from '#core/time';
import { speakerIn, type MouthTrace } from './mouths';

/** A face that was followed, and whose it is; null for somebody without a name. */
export interface NamedFace extends Range {
  /** Id of the track. */
  track: string;
  name: string | null;
}

/** Somebody has to be seen for so much of a turn to be the one who is heard without their mouth being watched. */
const seenShare = 0.5;

/**
 * Who speaks in each turn, by name: whose mouth moves most; where no mouth was watched, whoever is alone in the picture
 * for most of it. Turns of which that cannot be told, and those of people without a name, are left out.
 * @param turns stretches in which one voice speaks, in seconds
 */
export function namedTurns(
  turns: readonly Range[],
  faces: readonly NamedFace[],
  mouths: readonly MouthTrace[],
): (Range & { name: string })[] {
  return turns.flatMap(({ start, end }) => {
    const turn = { start, end };
    const seen = faces.filter((face) => overlap(face, turn) > 0);
    const moving = speakerIn(
      turn,
      mouths.filter(({ track }) => seen.some((face) => face.track === track)),
    );
    const speaker = moving === null ? alone(seen, turn) : seen.find(({ track }) => track === moving);
    return speaker?.name ? [{ ...turn, name: speaker.name }] : [];
  });
}

/** The only face of a turn, if it is there for most of it. */
function alone(seen: readonly NamedFace[], turn: Range): NamedFace | undefined {
  const [first] = seen;
  const isOne =
    first && seen.every(({ track, name }) => track === first.track || (name !== null && name === first.name));
  const seconds = seen.reduce((sum, face) => sum + overlap(face, turn), 0);
  return isOne && seconds >= seenShare * lengthOf(turn) ? first : undefined;
}
