import { decimal } from '#core/sentences';
/**
 * What is said of a song's tempo.
 * @param tempo beats a minute; 0 where none were heard
 */
export function tempoWords(tempo: number, beatsABar: number, isSure: boolean): string {
  if (!tempo) return 'no beats heard';
  const beats = `${decimal(tempo, 1)} bpm`;
  return isSure ? `${beats} · ${beatsABar} beats a bar` : `${beats}, not sure`;
}
