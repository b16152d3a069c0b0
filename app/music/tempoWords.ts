/**
 * What is said of a song's tempo.
 * @param tempo beats a minute; 0 where none were heard
 */
export function tempoWords(tempo: number, beatsABar: number, isSure: boolean): string {
  if (!tempo) return 'no beats heard';
  const beats = `${tempo.toFixed(1)} bpm`;
  return isSure ? `${beats} · ${beatsABar} beats a bar` : `${beats}, not sure`;
}
