import { cutFadeSeconds, segmentAt, type Segment } from '#core/reel';

/** Where a segment's picture and sound come from. */
export interface PlayableSource {
  address: string;
  photo: boolean;
}

/**
 * Plays a reel directly from its footage: two video elements take turns, the next piece stands ready at its first
 * frame while one plays, so that a cut shows no gap. Sound goes through Web Audio, with the same short fade at each
 * cut as the render. It knows nothing of the screen.
 */
export class ReelPlayer {
  private active = 0;
  private readonly loaded: (string | null)[] = [null, null];
  private index = -1;
  private playing = false;
  private frame = 0;
  private photoClock = 0;
  private audio: { context: AudioContext; gains: GainNode[] } | null = null;
  private now = 0;
  onTime: (seconds: number) => void = () => undefined;
  onPlaying: (playing: boolean) => void = () => undefined;

  constructor(
    private readonly videos: [HTMLVideoElement, HTMLVideoElement],
    private readonly photo: HTMLImageElement,
    private segments: Segment[],
    private readonly sourceOf: (media: string) => PlayableSource | null,
  ) {}

  /** Another version of the reel; the picture stays at the same time where that still exists. */
  setSegments(segments: Segment[]): void {
    this.segments = segments;
    this.index = -1;
    this.seek(Math.min(this.now, Math.max(0, (segments.at(-1)?.endSeconds ?? 0) - 0.01)));
  }

  get seconds(): number {
    return this.now;
  }

  seek(seconds: number): void {
    const index = segmentAt(this.segments, seconds);
    const segment = this.segments[index];
    this.now = Math.max(0, Math.min(seconds, this.segments.at(-1)?.endSeconds ?? 0));
    this.onTime(this.now);
    if (!segment) return;
    const into = Math.min(this.now, segment.endSeconds - 0.001) - segment.startSeconds;
    this.index = index;
    this.photoClock = performance.now() - into * 1000;
    const source = this.sourceOf(segment.media);
    this.showPhoto(source?.photo ? source.address : null);
    if (source && !source.photo) this.cue(this.active, source.address, segment.sourceSeconds + into);
    this.reveal();
    this.prepareNext();
    if (this.playing) this.startActive();
  }

  async play(): Promise<void> {
    if (this.segments.length === 0) return;
    if (this.now >= this.segments.at(-1)!.endSeconds - 0.02) this.seek(0);
    this.wireSound();
    await this.audio?.context.resume();
    this.playing = true;
    this.onPlaying(true);
    this.photoClock = performance.now() - (this.now - (this.segments[this.index]?.startSeconds ?? 0)) * 1000;
    this.startActive();
    cancelAnimationFrame(this.frame);
    this.frame = requestAnimationFrame(this.tick);
  }

  pause(): void {
    this.playing = false;
    cancelAnimationFrame(this.frame);
    for (const video of this.videos) video.pause();
    this.onPlaying(false);
  }

  dispose(): void {
    this.pause();
    void this.audio?.context.close();
  }

  private readonly tick = () => {
    const segment = this.segments[this.index];
    if (!this.playing || !segment) return;
    const source = this.sourceOf(segment.media);
    const video = this.videos[this.active]!;
    const timed = !source || source.photo ? (performance.now() - this.photoClock) / 1000 : video.currentTime - segment.sourceSeconds;
    const into = Math.max(0, timed);
    const length = segment.endSeconds - segment.startSeconds;
    if (into >= length - 0.008 || (source && !source.photo && video.ended)) this.cut();
    else if (!video.seeking || source?.photo) {
      this.now = segment.startSeconds + into;
      this.fadeOutBefore(length - into);
      this.onTime(this.now);
    }
    this.frame = requestAnimationFrame(this.tick);
  };

  /** To the next piece: the prepared element is shown, the old one stops after its frame was covered. */
  private cut(): void {
    const next = this.segments[this.index + 1];
    if (!next) {
      this.now = this.segments.at(-1)!.endSeconds;
      this.onTime(this.now);
      return this.pause();
    }
    const old = this.videos[this.active]!;
    this.index++;
    this.photoClock = performance.now();
    this.now = next.startSeconds;
    const source = this.sourceOf(next.media);
    if (source && !source.photo) {
      this.active = 1 - this.active;
      this.cue(this.active, source.address, next.sourceSeconds);
    }
    this.showPhoto(source?.photo ? source.address : null);
    this.startActive();
    this.reveal();
    old.pause();
    this.prepareNext();
    this.onTime(this.now);
  }

  private startActive(): void {
    const source = this.sourceOf(this.segments[this.index]!.media);
    if (!source || source.photo) return this.videos.forEach((video) => video.pause());
    const gain = this.audio?.gains[this.active];
    if (gain) {
      const at = this.audio!.context.currentTime;
      gain.gain.cancelScheduledValues(at);
      gain.gain.setValueAtTime(0, at);
      gain.gain.linearRampToValueAtTime(1, at + cutFadeSeconds);
    }
    void this.videos[this.active]!.play().catch(() => undefined);
  }

  private fadeOutBefore(left: number): void {
    const gain = this.audio?.gains[this.active];
    if (!gain || left > cutFadeSeconds + 0.017) return;
    const at = this.audio!.context.currentTime;
    gain.gain.cancelScheduledValues(at);
    gain.gain.setValueAtTime(gain.gain.value, at);
    gain.gain.linearRampToValueAtTime(0, at + Math.max(0.002, left));
  }

  /** Puts an element at a frame; the address is only set when it changes, since that empties the decoder. */
  private cue(slot: number, address: string, seconds: number): void {
    const video = this.videos[slot]!;
    if (this.loaded[slot] !== address) {
      this.loaded[slot] = address;
      video.src = address;
      video.onloadedmetadata = () => void (video.currentTime = seconds + 0.001);
      return;
    }
    video.onloadedmetadata = null;
    if (Math.abs(video.currentTime - seconds) > 0.004) video.currentTime = seconds + 0.001;
  }

  private prepareNext(): void {
    const next = this.segments.slice(this.index + 1).find((segment) => this.sourceOf(segment.media)?.photo === false);
    const source = next && this.sourceOf(next.media);
    if (next && source) this.cue(1 - this.active, source.address, next.sourceSeconds);
  }

  private reveal(): void {
    this.videos.forEach((video, slot) => (video.style.visibility = slot === this.active ? 'visible' : 'hidden'));
  }

  private showPhoto(address: string | null): void {
    this.photo.style.visibility = address ? 'visible' : 'hidden';
    if (address && this.photo.getAttribute('src') !== address) this.photo.src = address;
  }

  private wireSound(): void {
    if (this.audio) return;
    const context = new AudioContext();
    const gains = this.videos.map((video) => {
      const gain = context.createGain();
      context.createMediaElementSource(video).connect(gain).connect(context.destination);
      return gain;
    });
    this.audio = { context, gains };
  }
}
