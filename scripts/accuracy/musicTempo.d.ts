declare module 'music-tempo' {
  export default class MusicTempo {
    /** @param samples mono at 44.1 kHz */
    constructor(samples: Float32Array);
    /** Beats a minute. */
    tempo: number;
    /** Seconds. */
    beats: number[];
  }
}
