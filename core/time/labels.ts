/** When and on what it was recorded, as far as a file tells. */
export interface RecordingLabels {
  /** Timecode of the first frame, ";" before the frames of drop-frame counting. */
  startTimecode: string | null;
  /** The same in seconds after midnight, counted in frames; of sound files, which count in samples, all there is. */
  startSeconds: number | null;
  /** Name of the tape or card. */
  reelName: string | null;
  /** ISO 8601, with an offset where one is known. */
  recordedAt: string | null;
}
