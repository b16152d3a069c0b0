/** What lives longer than a screen: a document under one's hands, to which screens listen. */
export abstract class LiveDocument<State> {
  private readonly listeners = new Set<() => void>();

  constructor(private now: State) {}

  /** What there is to be seen; another object whenever something changed. */
  readonly state = (): State => this.now;

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  };

  get onScreen(): boolean {
    return this.listeners.size > 0;
  }

  protected set(change: Partial<State>): void {
    this.replace({ ...this.now, ...change });
  }

  protected replace(next: State): void {
    this.now = next;
    for (const listener of this.listeners) listener();
  }
}

/** Documents by what they are of; one for each on a page. The server, which serves many pages, keeps none. */
export class Documents<T> {
  private readonly known = new Map<string, T>();

  get(key: string, make: () => T): T {
    if (typeof window === 'undefined') return make();
    let document = this.known.get(key);
    if (!document) this.known.set(key, (document = make()));
    return document;
  }
}
