/** Media elements that play pieces of footage. A piece keeps its element while it goes on, so that nothing is sought twice. */
export interface Deck {
  element: HTMLVideoElement | HTMLAudioElement;
  /** Of the clip that it plays; null when it is free. */
  clip: string | null;
  address: string;
  gain: GainNode | null;
  /** When it was last asked for. */
  used: number;
  /** Where it is to stand when the seek under way has ended. */
  next: number | null;
}

/** Further off than this an element is sought anew; nearer, it is led back by its pace, which nobody hears. In seconds. */
const seekBeyond = 0.12,
  leadBeyond = 0.012;
/** So near to a wanted second an element shows the wanted frame, in seconds. */
const expectedWithin = 0.004;
/** The name of the element that stands ahead of a clip's own. */
const expected = (clip: string) => `${clip}, ahead`;

export class Decks {
  private readonly decks: Deck[] = [];
  private clock = 0;

  constructor(
    private readonly kind: 'video' | 'audio',
    private readonly most: number,
    private readonly onPicture: () => void,
  ) {}

  all(): readonly Deck[] {
    return this.decks;
  }

  find(clip: string): Deck | null {
    return this.decks.find((deck) => deck.clip === clip) ?? null;
  }

  /**
   * Brings a free element to a second of a clip that will probably be asked for next. `cue` then takes it instead of
   * seeking the one on screen: the picture is there at once.
   */
  expect(clip: string, address: string, seconds: number): void {
    this.cue(expected(clip), address, seconds);
  }

  /** Whether an element was brought to about this second of a clip. */
  private takeExpected(clip: string, address: string, seconds: number): void {
    const ahead = this.find(expected(clip));
    if (ahead?.address !== address || ahead.element.readyState < 2 || ahead.element.seeking) return;
    if (Math.abs(ahead.element.currentTime - seconds) > expectedWithin) return;
    const shown = this.find(clip);
    ahead.clip = clip;
    // It goes on to what is expected after this.
    if (shown) shown.clip = expected(clip);
  }

  /** The element of a clip, at a second of its source; a free one, or the one longest unused, is taken for a clip that has none. */
  cue(clip: string, address: string, seconds: number, tolerance = 0.004): Deck {
    this.takeExpected(clip, address, seconds);
    let deck = this.find(clip);
    if (!deck || deck.address !== address) {
      // One that holds the same file already need not open it again.
      const idle = this.decks.filter((each) => each.clip === null);
      deck ??=
        idle.find((each) => each.address === address) ??
        (this.decks.length < this.most
          ? this.make()
          : (idle[0] ?? this.decks.reduce((oldest, each) => (each.used < oldest.used ? each : oldest))));
      deck.element.pause();
      deck.clip = clip;
      deck.next = null;
      if (deck.address !== address) {
        deck.address = address;
        deck.element.src = address;
      }
    }
    deck.used = ++this.clock;
    const { element } = deck;
    const go = () => {
      deck.next = null;
      if (Math.abs(element.currentTime - seconds) <= tolerance) return;
      // A new seek would drop the one under way before its picture is seen: a long drag would show nothing.
      if (element.seeking && element.readyState > 0) deck.next = seconds;
      else element.currentTime = seconds + 0.001;
    };
    element.onloadedmetadata = go;
    if (element.readyState > 0) go();
    return deck;
  }

  private goOn(deck: Deck): void {
    if (deck.next === null) return;
    deck.element.currentTime = deck.next + 0.001;
    deck.next = null;
  }

  /** Lets an element run at its clip's speed, near the second where it should be. */
  run(deck: Deck, wanted: number, speed: number, lead = true): void {
    const { element } = deck;
    deck.used = ++this.clock;
    if (element.readyState > 0 && !element.seeking) {
      const off = element.currentTime - wanted;
      if (lead && Math.abs(off) > seekBeyond * Math.max(1, speed)) element.currentTime = wanted + 0.001;
      const pace =
        speed * (lead && Math.abs(off) > leadBeyond ? 1 - Math.sign(off) * Math.min(0.05, Math.abs(off)) : 1);
      if (Math.abs(element.playbackRate - pace) > 0.001) element.playbackRate = pace;
    }
    if (element.paused) void element.play().catch(() => undefined);
  }

  release(keep: ReadonlySet<string>): void {
    for (const deck of this.decks) {
      if (deck.clip === null || keep.has(deck.clip)) continue;
      deck.element.pause();
      deck.gain?.gain.setValueAtTime(0, deck.gain.context.currentTime);
      deck.clip = null;
    }
  }

  pause(): void {
    for (const deck of this.decks) deck.element.pause();
  }

  wire(context: AudioContext): void {
    for (const deck of this.decks) this.wireOne(deck, context);
    this.context = context;
  }
  private context: AudioContext | null = null;

  private wireOne(deck: Deck, context: AudioContext): void {
    if (deck.gain) return;
    deck.gain = context.createGain();
    deck.gain.gain.value = 0;
    context.createMediaElementSource(deck.element).connect(deck.gain).connect(context.destination);
  }

  private make(): Deck {
    const element = document.createElement(this.kind);
    // What comes out of a store of its own may be looked into as well.
    element.crossOrigin = 'anonymous';
    element.preload = 'auto';
    element.preservesPitch = true;
    if (element instanceof HTMLVideoElement) element.playsInline = true;
    for (const event of ['seeked', 'loadeddata', 'error']) element.addEventListener(event, this.onPicture);
    const deck: Deck = { element, clip: null, address: '', gain: null, used: 0, next: null };
    // After the picture that was sought has been drawn.
    element.addEventListener('seeked', () => requestAnimationFrame(() => this.goOn(deck)));
    this.decks.push(deck);
    if (this.context) this.wireOne(deck, this.context);
    return deck;
  }

  dispose(): void {
    for (const { element } of this.decks) {
      element.pause();
      element.removeAttribute('src');
      element.load();
    }
  }
}
