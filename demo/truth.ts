/** What the generator knows about a file it made; written beside the media for the tests. Times in seconds. */
export interface Truth {
  file: string;
  seconds: number;
  /** Starts of all shots but the first: hard cuts. */
  cuts: number[];
  people: { who: string; start: number; end: number; faceHeight: number }[];
  speech: { who: string; text: string; start: number; end: number }[];
  camera: { start: number; end: number; kind: 'still' | 'smooth' | 'shaky' | 'whip' }[];
  flaws: { start: number; end: number; kind: 'dark' | 'blurred' }[];
  bursts: { start: number; end: number; kind: 'cheer' | 'splash' | 'horn' }[];
}

export const emptyTruth = (file: string, seconds: number): Truth => ({
  file,
  seconds,
  cuts: [],
  people: [],
  speech: [],
  camera: [],
  flaws: [],
  bursts: [],
});
