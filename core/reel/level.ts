/** At and under this level, in dB, nothing is heard. */
export const quietest = -60;
/** A level in dB that can be set by hand. */
export const isLevel = (db: number): boolean => db >= quietest && db <= 12;
/** A level in dB as a factor; 0 at the quietest and under it. */
export const amplitude = (db: number): number => (db <= quietest ? 0 : 10 ** (db / 20));

/** Published programme loudness targets, in LUFS: EBU R 128 for broadcast; the louder ones are common practice on the web, no source. */
export const loudnessTargets = [-23, -16, -14] as const;
/** No peak above this, in dBTP (EBU R 128). */
export const highestPeak = -1;
