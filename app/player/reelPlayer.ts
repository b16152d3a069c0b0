import type { CaptionTrack } from '#core/captions';
import { cropParts, isFramed, type View } from '#core/framing';
import type { ColourTable } from '#core/look';
import { amplitude, fadeAt, levelAt, segmentAt, type GainPoint, type Reel, type Segment, leavesOf } from '#core/reel';
import { framesPerSecond, rates, type Rate } from '#core/time';
import { Composer, type Picture } from './compose';
import { Decks } from './decks';

/** Where a segment's picture and sound come from. */
export interface PlayableSource {
  address: string;
  photo: boolean;
}

/** A reel as it is seen and heard; see `planPictures` and `planHeard`. */
export interface PlayPlan {
  rate: Rate;
  reel: Pick<Reel, 'titles' | 'theme' | 'rate' | 'fit' | 'captions' | 'logo'>;
  captions?: readonly CaptionTrack[];
  /** Address of the logo's picture. */
  logo?: string | null;
  pictures: Segment[];
  /** One list a track. */
  sounds: Segment[][];
  /** Music beneath, with its level all along the reel. */
  music?: { address: string; startSeconds: number; durationSeconds: number; curve: readonly GainPoint[] } | null;
}
export const emptyPlan: PlayPlan = { rate: rates['25'], reel: { rate: rates['25'] }, pictures: [], sounds: [] };

/** What the player asks of the screen around it. */
export interface Surroundings {
  sourceOf(media: string): PlayableSource | null;
  tableOf(leaf: Segment): ColourTable | null;
  viewOf(leaf: Segment, frame: number): View | null;
}

/** Elements that stand ready before they are needed, in seconds. */
const prepareSeconds = 4;
/** Steps that are longer are jumps, after which nothing can be expected, in seconds. */
const longestStep = 2;
/** Frames that take longer to draw are too slow for 30 in a second. */
const slowMs = 20;
/** Between two reports of the time while it plays, in milliseconds. */
const tellEvery = 60;
/** Over so long a level moves to where it should be; hides the step of a cut. */
const gainSeconds = 0.008;

const leavesAt = (segment: Segment | undefined): Segment[] => (segment ? leavesOf(segment) : []);

/**
 * Plays a reel directly from its footage. What comes next stands ready at its first frame while a piece plays, so that
 * a cut shows no gap. A piece whose own sound is heard gives it from the element that shows it, so that lips and words
 * stay together; every other sound has an element of its own that is led along. Frames are drawn by the rules of the
 * renderer. It knows nothing of the screen.
 */
export class ReelPlayer {
  private plan = emptyPlan;
  private now = 0;
  private playing = false;
  private frame = 0;
  /** For what has no clock of its own: photos, held frames, gaps. */
  private clock = { at: 0, seconds: 0 };
  private context: AudioContext | null = null;
  private readonly videos = new Decks('video', 5, () => this.redraw());
  private readonly audios = new Decks('audio', 6, () => undefined);
  private readonly photos = new Map<string, HTMLImageElement>();
  private readonly composer = new Composer();
  private song: { element: HTMLAudioElement; gain: GainNode | null; address: string } | null = null;
  private asked = false;
  canvas: HTMLCanvasElement | null = null;
  /** Shows what lies around the crop. */
  backdrop: HTMLCanvasElement | null = null;
  onTime: (seconds: number) => void = () => undefined;
  onPlaying: (playing: boolean) => void = () => undefined;

  constructor(private readonly around: Surroundings) {
    void document.fonts.ready.then(() => this.redraw());
  }

  /** Another version of the reel; the picture stays at the same time where that still exists. */
  setPlan(plan: PlayPlan): void {
    this.plan = plan;
    if (!plan.music) this.song?.element.pause();
    this.seek(Math.min(this.now, Math.max(0, this.end - 0.01)));
  }

  private get end(): number {
    return this.plan.pictures.at(-1)?.endSeconds ?? 0;
  }

  get seconds(): number {
    return this.now;
  }
  /** How far the last seek went; the next one will probably go as far. */
  private step = 0;

  seek(seconds: number): void {
    const before = this.now;
    this.now = Math.max(0, Math.min(seconds, this.end));
    this.step = this.now - before;
    this.restartClock();
    this.onTime(this.now);
    this.cueAround();
    if (this.playing) this.runAll();
    this.redraw();
  }

  async play(): Promise<void> {
    if (this.plan.pictures.length === 0) return;
    if (this.now >= this.end - 0.02) this.seek(0);
    if (!this.context) {
      this.context = new AudioContext();
      this.videos.wire(this.context);
      this.audios.wire(this.context);
    }
    await this.context.resume();
    this.playing = true;
    this.onPlaying(true);
    this.restartClock();
    this.cueAround();
    this.runAll();
    cancelAnimationFrame(this.frame);
    this.frame = requestAnimationFrame(this.tick);
  }

  pause(): void {
    if (this.playing) this.onPlaying(false);
    this.playing = false;
    cancelAnimationFrame(this.frame);
    this.onTime(this.now);
    this.redraw();
    this.videos.pause();
    this.audios.pause();
    this.song?.element.pause();
  }

  dispose(): void {
    this.pause();
    this.videos.dispose();
    this.audios.dispose();
    void this.context?.close();
  }

  private told = 0;
  private tell(): void {
    this.told = performance.now();
    this.onTime(this.now);
  }

  private restartClock(): void {
    this.clock = { at: performance.now(), seconds: this.now };
  }

  private segment(): Segment | undefined {
    return this.plan.pictures[segmentAt(this.plan.pictures, Math.min(this.now, this.end - 1e-4))];
  }

  private source(leaf: Segment): PlayableSource | null {
    return leaf.media === null ? null : this.around.sourceOf(leaf.media);
  }

  /** Whether a stretch's picture runs by itself. */
  private runs(leaf: Segment): boolean {
    const source = this.source(leaf);
    return source !== null && !source.photo && leaf.speed > 0;
  }

  private sourceTime(leaf: Segment): number {
    return leaf.sourceSeconds + Math.max(0, this.now - leaf.startSeconds) * leaf.speed;
  }

  /** A montage is cut to its music: the music is the clock, and pictures are led along. */
  private get songLeads(): boolean {
    return Boolean(this.plan.music) && this.plan.pictures.some((segment) => segment.clip?.slot !== undefined);
  }

  /** Where the song is heard now; null while it does not run. What is on its way to the loudspeaker is not heard yet. */
  private songSeconds(): number | null {
    const { music } = this.plan;
    const element = this.song?.element;
    if (!music || !element || element.paused || element.seeking || element.readyState < 2 || element.ended) return null;
    return element.currentTime - music.startSeconds - (this.context?.outputLatency ?? 0);
  }

  /** The time to the millisecond, for taps; while the music leads, what is heard. */
  get exactSeconds(): number {
    return (this.playing && this.songLeads ? this.songSeconds() : null) ?? this.now;
  }

  /** Where the music's element stands, before its way to the loudspeaker; null while it does not run. */
  get rawMusic(): number | null {
    const element = this.song?.element;
    return this.playing && element && !element.paused ? element.currentTime : null;
  }

  private readonly tick = () => {
    if (!this.playing) return;
    const segment = this.segment();
    // Time is what the running picture says; of two that cross, the one that comes in, since it goes on.
    const leader = leavesAt(segment).findLast((leaf) => this.runs(leaf));
    const deck = leader && this.videos.find(leader.id);
    const byClock = this.clock.seconds + (performance.now() - this.clock.at) / 1000;
    const song = this.songLeads ? this.songSeconds() : null;
    if (song !== null) {
      this.now = Math.max(this.now, Math.min(song, this.now + 0.5));
      this.restartClock();
    } else if (this.songLeads) {
      // Until the song runs nothing does; where it cannot, the clock goes on alone.
      if (this.song?.element.error || this.song?.element.ended) this.now = byClock;
      else this.restartClock();
    } else if (leader && deck && deck.element.readyState >= 2 && !deck.element.seeking) {
      const { element } = deck;
      const read = leader.startSeconds + (element.currentTime - leader.sourceSeconds) / leader.speed;
      // A source that ended early is waited out by the clock.
      if (!element.ended && !element.paused) {
        this.now = Math.max(this.now, Math.min(read, this.now + 0.5));
        this.restartClock();
      } else if (element.ended) this.now = byClock;
    } else if (!leader || deck?.element.error) this.now = byClock;
    else this.restartClock();
    if (this.now >= this.end - 0.004) {
      this.now = this.end;
      this.onTime(this.now);
      this.redraw();
      return this.pause();
    }
    if (segment && this.now >= segment.endSeconds - 0.006) {
      this.now = Math.max(this.now, segment.endSeconds + 1e-6);
      this.restartClock();
      this.cueAround();
    }
    this.runAll();
    this.draw();
    // The screen around follows more slowly than the picture; it has more to do.
    if (performance.now() - this.told > tellEvery) this.tell();
    this.frame = requestAnimationFrame(this.tick);
  };

  /** Puts elements at what is seen and heard now, and at what comes soon. */
  private cueAround(): void {
    const { pictures, sounds } = this.plan;
    const keep = new Set<string>();
    const index = pictures.indexOf(this.segment()!);
    const upcoming = pictures
      .slice(index, index + 4)
      .filter((segment, at) => at === 0 || segment.startSeconds < this.now + prepareSeconds);
    for (const [at, segment] of upcoming.entries())
      for (const leaf of leavesAt(segment)) {
        const source = this.source(leaf);
        if (source?.photo) this.photo(source.address);
        if (!source || source.photo || keep.has(leaf.id) || keep.size >= 4) continue;
        keep.add(leaf.id);
        // While it plays, an element that shows its piece already is led, not sought.
        const wanted = at === 0 ? this.sourceTime(leaf) : leaf.sourceSeconds;
        this.videos.cue(
          leaf.id,
          source.address,
          wanted,
          this.playing && at === 0 && this.videos.find(leaf.id) ? 0.12 : 0.004,
        );
      }
    this.videos.release(keep);
    const heard = new Set<string>();
    for (const leaf of this.aside(sounds, keep)) heard.add(leaf.id);
    this.audios.release(heard);
  }

  /** While the picture rests after a step, an element goes where the next step will lead. */
  private expectStep(): void {
    const next = this.now + this.step;
    if (this.step === 0 || Math.abs(this.step) > longestStep || next < 0 || next >= this.end) return;
    if (this.videos.all().some(({ clip, element, next: then }) => clip !== null && (element.seeking || then !== null)))
      return;
    const leaf = leavesAt(this.plan.pictures[segmentAt(this.plan.pictures, next)]).at(-1);
    this.step = 0;
    if (leaf && this.runs(leaf))
      this.videos.expect(
        leaf.id,
        this.source(leaf)!.address,
        leaf.sourceSeconds + Math.max(0, next - leaf.startSeconds) * leaf.speed,
      );
  }

  /** Sounds now that no running picture gives. */
  private aside(sounds: readonly Segment[][], shown: ReadonlySet<string>): Segment[] {
    const seen = new Set(
      leavesAt(this.segment())
        .filter((leaf) => shown.has(leaf.id))
        .map((leaf) => leaf.id),
    );
    return sounds
      .flatMap((track) => leavesAt(track[segmentAt(track, this.now)]))
      .filter((leaf) => leaf.gain > 0 && !seen.has(leaf.id) && this.source(leaf) !== null && !this.source(leaf)!.photo);
  }

  private runAll(): void {
    const segment = this.segment();
    const leaves = leavesAt(segment);
    const leader = leaves.findLast((leaf) => this.runs(leaf));
    const frame = (leaf: Segment) => Math.max(0, (this.now - leaf.startSeconds) * framesPerSecond(this.plan.rate));
    // Equal power over a crossing, as in the render.
    const gains = new Map<string, number>();
    for (const track of this.plan.sounds) {
      const sound = track[segmentAt(track, this.now)];
      if (!sound) continue;
      if (sound.cross) {
        const share = Math.min(1, frame(sound) / sound.frames);
        gains.set(sound.cross.from.id, sound.cross.from.gain * Math.cos((share * Math.PI) / 2));
        gains.set(sound.cross.to.id, sound.cross.to.gain * Math.sin((share * Math.PI) / 2));
      } else gains.set(sound.id, sound.gain * fadeAt(sound, frame(sound)).share);
    }
    const active = new Set<string>();
    for (const leaf of leaves) {
      const source = this.source(leaf);
      if (!source || source.photo) continue;
      active.add(leaf.id);
      const deck = this.videos.find(leaf.id) ?? this.videos.cue(leaf.id, source.address, this.sourceTime(leaf));
      if (leaf.speed > 0) this.videos.run(deck, this.sourceTime(leaf), leaf.speed, leaf !== leader || this.songLeads);
      else deck.element.pause();
      this.setGain(deck, leaf.speed > 0 ? (gains.get(leaf.id) ?? 0) : 0);
    }
    for (const deck of this.videos.all())
      if (deck.clip === null || !active.has(deck.clip)) {
        deck.element.pause();
        this.setGain(deck, 0);
      }
    const heard = new Set<string>();
    for (const leaf of this.aside(this.plan.sounds, active)) {
      heard.add(leaf.id);
      const deck =
        this.audios.find(leaf.id) ?? this.audios.cue(leaf.id, this.source(leaf)!.address, this.sourceTime(leaf));
      this.audios.run(deck, this.sourceTime(leaf), leaf.speed);
      this.setGain(deck, gains.get(leaf.id) ?? 0);
    }
    this.audios.release(heard);
    this.soundMusic();
  }

  private setGain(deck: { gain: GainNode | null }, level: number): void {
    if (deck.gain) deck.gain.gain.setTargetAtTime(level, deck.gain.context.currentTime, gainSeconds);
  }

  /** The music at its place and level; it begins anew at its end, as in the render. */
  private soundMusic(): void {
    const { music } = this.plan;
    if (!music || !this.playing) return;
    if (!this.song) {
      const element = new Audio();
      element.crossOrigin = 'anonymous';
      element.preload = 'auto';
      const gain = this.context?.createGain() ?? null;
      if (this.context && gain)
        this.context.createMediaElementSource(element).connect(gain).connect(this.context.destination);
      this.song = { element, gain, address: '' };
    }
    const { element, gain } = this.song;
    if (this.song.address !== music.address) element.src = this.song.address = music.address;
    const place = music.startSeconds + this.now;
    const wanted = place < music.durationSeconds ? place : (place - music.durationSeconds) % music.durationSeconds;
    if (
      element.readyState > 0 &&
      !element.seeking &&
      Math.abs(element.currentTime - wanted) > (this.songLeads && !element.paused ? 0.4 : this.songLeads ? 0.01 : 0.15)
    )
      element.currentTime = wanted;
    const level = amplitude(levelAt(music.curve, this.now));
    if (gain) gain.gain.setTargetAtTime(level, this.context!.currentTime, 0.02);
    else element.volume = Math.min(1, level);
    if (element.paused) void element.play().catch(() => undefined);
  }

  private photo(address: string): HTMLImageElement {
    let image = this.photos.get(address);
    if (!image) {
      image = new Image();
      image.crossOrigin = 'anonymous';
      image.onload = () => this.redraw();
      image.src = address;
      this.photos.set(address, image);
    }
    return image;
  }

  private logo(): Picture | null {
    const image = this.plan.logo ? this.photo(this.plan.logo) : null;
    return image && image.complete && image.naturalWidth > 0
      ? { image, width: image.naturalWidth, height: image.naturalHeight }
      : null;
  }

  /** The whole picture, dimmed, around the crop that the canvas shows: its middle lies in the middle of the backdrop. */
  private drawBackdrop(backdrop: HTMLCanvasElement, segment: Segment | null, frame: number): void {
    const context = backdrop.getContext('2d')!;
    context.fillStyle = '#0b0f12';
    context.fillRect(0, 0, backdrop.width, backdrop.height);
    const leaf = leavesAt(segment ?? undefined).at(-1);
    const picture = leaf && this.pictureOf(leaf);
    const framing = leaf?.clip?.framing;
    const size = this.size;
    if (
      !picture ||
      !leaf ||
      framing?.below ||
      !isFramed(framing, leaf.clip?.fit ?? this.plan.reel.fit ?? 'bars', picture, size)
    )
      return;
    const { view } = cropParts(
      framing,
      leaf.sourceSeconds + (frame / framesPerSecond(this.plan.rate)) * leaf.speed,
      picture,
      size,
    )[0]!;
    // As wide as the frame is shown, which fills the height or the width of the backdrop.
    const shown = Math.min(backdrop.width, (backdrop.height * size.width) / size.height);
    const scale = shown / (view.width * picture.width);
    context.drawImage(
      picture.image,
      backdrop.width / 2 - view.x * picture.width * scale,
      backdrop.height / 2 - view.y * picture.height * scale,
      picture.width * scale,
      picture.height * scale,
    );
    context.fillStyle = 'rgba(11,15,18,0.66)';
    context.fillRect(0, 0, backdrop.width, backdrop.height);
  }

  private pictureOf(leaf: Segment): Picture | null {
    const source = this.source(leaf);
    if (!source) return null;
    if (source.photo) {
      const image = this.photo(source.address);
      return image.complete && image.naturalWidth > 0
        ? { image, width: image.naturalWidth, height: image.naturalHeight }
        : null;
    }
    const element = this.videos.find(leaf.id)?.element;
    return element instanceof HTMLVideoElement && element.readyState >= 2
      ? { image: element, width: element.videoWidth, height: element.videoHeight }
      : null;
  }

  private isMissing(leaf: Segment): boolean {
    const source = this.source(leaf);
    return !source || (!source.photo && this.videos.find(leaf.id)?.element.error != null);
  }

  /** Soon, once, however often it is asked for. */
  redraw(): void {
    if (this.asked || this.playing) return;
    this.asked = true;
    requestAnimationFrame(() => {
      this.asked = false;
      this.draw();
      this.expectStep();
    });
  }

  /** Pixels that are drawn when there is time for them. */
  setSize(width: number, height: number): void {
    this.size = { width, height };
    this.scaleTo(1);
    this.redraw();
  }
  private size = { width: 0, height: 0 };
  private scale = 1;
  /** Mean time that a frame takes, in milliseconds. */
  private pace = 0;
  private drawn = -1;

  private scaleTo(scale: number): void {
    this.scale = scale;
    this.pace = 0;
    if (!this.canvas) return;
    const [width, height] = [
      Math.max(2, Math.round(this.size.width * scale)),
      Math.max(2, Math.round(this.size.height * scale)),
    ];
    if (this.canvas.width !== width) this.canvas.width = width;
    if (this.canvas.height !== height) this.canvas.height = height;
  }

  private draw(): void {
    const segment = this.segment() ?? null;
    if (!this.canvas) return;
    const frame = segment
      ? Math.floor(
          (Math.min(this.now, this.end - 1e-4) - segment.startSeconds) * framesPerSecond(this.plan.rate) + 1e-3,
        )
      : 0;
    const number = (segment?.startFrame ?? 0) + frame;
    // A screen that is faster than the reel need not draw a frame twice.
    if (this.playing && number === this.drawn) return;
    this.drawn = number;
    // A machine that cannot keep up draws fewer pixels while it plays, and all of them at rest.
    if (!this.playing && this.scale !== 1) this.scaleTo(1);
    else if (this.playing && this.pace > slowMs && this.scale > 0.5) this.scaleTo(this.scale - 0.25);
    const before = performance.now();
    this.composer.draw(this.canvas, segment, frame, {
      quick: this.playing,
      reel: this.plan.reel,
      captions: this.plan.captions ?? [],
      logo: this.logo(),
      pictureOf: (leaf) => this.pictureOf(leaf),
      isMissing: (leaf) => this.isMissing(leaf),
      tableOf: this.around.tableOf,
      viewOf: this.around.viewOf,
    });
    if (this.backdrop) this.drawBackdrop(this.backdrop, segment, frame);
    const took = performance.now() - before;
    this.pace = this.pace === 0 ? took : this.pace * 0.85 + took * 0.15;
  }
}
