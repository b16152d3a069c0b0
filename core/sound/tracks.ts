/** A track of sound in a file. */
export interface SoundTrack {
  channels: number;
  /** As ffmpeg names it: "stereo", "5.1(side)"; null where the file does not say. */
  layout: string | null;
  codec: string;
  sampleRate: number;
  /** ISO 639, and the name that the recorder gave; null where the file does not say. */
  language: string | null;
  title: string | null;
}
