import { overlap, type Range } from '#core/time';
import { descriptorDistance } from './tracks';

/** A face track of some file of the project, with its looks. */
export interface LookedTrack extends Range {
  /** File and track, unique in the project. */
  key: string;
  media: string;
  descriptor: readonly number[];
}

/** Tracks that a person said belong together; they stay so whatever the machine thinks. */
export interface NamedPerson {
  id: string;
  tracks: readonly string[];
}

/** Tracks that are one person. */
export interface PersonGroup {
  /** Of the named person, or null for one that the machine found. */
  id: string | null;
  tracks: string[];
}

/** Mean descriptors closer than this are one person. Measured on the demo and stated with the face package. */
const samePersonUnder = 0.36;
/** Joining somebody whom a person named takes so much more likeness: a correction must not draw others in. */
const strictness = 0.8;

/**
 * Groups face tracks into persons: agglomerative clustering with average linkage (Sokal & Michener 1958) on the
 * distance of descriptors. Two tracks that are in one picture at the same time are two persons. Named persons keep
 * their tracks and are never joined with one another; other tracks may join them. About O(tracks²).
 * @returns longest time on screen first
 */
export function groupPeople(
  tracks: readonly LookedTrack[],
  named: readonly NamedPerson[] = [],
  under = samePersonUnder,
): PersonGroup[] {
  const taken = new Map(named.flatMap((person) => person.tracks.map((key) => [key, person.id])));
  const clusters: Cluster[] = [
    ...named.map((person) => ({
      id: person.id,
      members: tracks.filter((track) => taken.get(track.key) === person.id),
    })),
    ...tracks.filter((track) => !taken.has(track.key)).map((track) => ({ id: null, members: [track] })),
  ];
  const count = clusters.length;
  const distances = Array.from({ length: count }, (_, i) =>
    Float32Array.from({ length: count }, (_, j) => (i === j ? Infinity : between(clusters[i]!, clusters[j]!))),
  );
  const alive = new Set(clusters.keys());
  // Each cluster remembers its nearest other, so that a joining looks at one row and not at the whole table.
  const nearest = (i: number) => {
    let at = -1;
    for (const j of alive) if (j !== i && (at < 0 || distances[i]![j]! < distances[i]![at]!)) at = j;
    return at;
  };
  const nearestOf = Int32Array.from({ length: count }, (_, i) => nearest(i));
  for (;;) {
    let best = under;
    let pair: [number, number] | null = null;
    for (const i of alive) {
      const j = nearestOf[i]!;
      if (j < 0 || distances[i]![j]! >= best) continue;
      best = distances[i]![j]!;
      pair = i < j ? [i, j] : [j, i];
    }
    if (!pair) break;
    const [i, j] = pair;
    const [keep, gone] = clusters[j]!.id ? [j, i] : [i, j];
    const [sizeKeep, sizeGone] = [clusters[keep]!.members.length, clusters[gone]!.members.length];
    const idBoth = clusters[keep]!.id;
    for (const other of alive) {
      if (other === keep || other === gone) continue;
      const joined =
        Math.max(distances[keep]![other]!, distances[gone]![other]!) === Infinity || (idBoth && clusters[other]!.id)
          ? Infinity
          : (distances[keep]![other]! * sizeKeep + (distances[gone]![other]! / (idBoth ? strictness : 1)) * sizeGone) /
            (sizeKeep + sizeGone);
      distances[keep]![other] = joined;
      distances[other]![keep] = joined;
    }
    clusters[keep]!.members.push(...clusters[gone]!.members);
    alive.delete(gone);
    for (const other of alive) {
      if (other === keep || nearestOf[other] === keep || nearestOf[other] === gone) nearestOf[other] = nearest(other);
      else if (distances[other]![keep]! < distances[other]![nearestOf[other]!]!) nearestOf[other] = keep;
    }
  }
  const seconds = (cluster: Cluster) => cluster.members.reduce((sum, track) => sum + track.end - track.start, 0);
  return [...alive]
    .map((index) => clusters[index]!)
    .filter((cluster) => cluster.members.length || cluster.id)
    .sort((a, b) => seconds(b) - seconds(a))
    .map(({ id, members }) => ({
      id,
      tracks: members
        .sort((a, b) => (a.media === b.media ? a.start - b.start : a.media < b.media ? -1 : 1))
        .map((track) => track.key),
    }));
}

interface Cluster {
  id: string | null;
  members: LookedTrack[];
}

/** Mean distance of all pairs; infinite when both are named, or both are on screen at once. */
function between(a: Cluster, b: Cluster): number {
  if ((a.id && b.id) || a.members.length === 0 || b.members.length === 0) return Infinity;
  let sum = 0;
  for (const one of a.members)
    for (const other of b.members) {
      if (one.media === other.media && overlap(one, other) > 0.3) return Infinity;
      sum += descriptorDistance(one.descriptor, other.descriptor);
    }
  return sum / (a.members.length * b.members.length) / (a.id || b.id ? strictness : 1);
}
