/*
 * Work that takes a thread for seconds is done one after another, and each person in turn: whoever asks for twelve documents
 * waits for their own, and not somebody else for all of them.
 */

interface Waiting {
  begin(): void;
  told(ahead: number): void;
}

export class Turns {
  /** Who waits, whose turn is next first, each with their own in order. */
  private readonly waiting = new Map<string, Waiting[]>();
  private running = 0;

  constructor(
    private readonly atOnce: number,
    private readonly mostOfOne: number,
  ) {}

  /**
   * Does somebody's work in their turn. `told` hears how many go before it, each time that it changes. Throws what `signal` says
   * where it is given up while it waits, and `full()` where they have too much waiting already.
   */
  async take<T>(
    whose: string,
    work: () => Promise<T>,
    { signal, told = () => {}, full }: { signal?: AbortSignal; told?: (ahead: number) => void; full(): Error },
  ): Promise<T> {
    signal?.throwIfAborted();
    if (this.running >= this.atOnce) await this.wait(whose, { signal, told, full });
    else this.running++;
    try {
      return await work();
    } finally {
      this.running--;
      this.next();
    }
  }

  private wait(
    whose: string,
    { signal, told, full }: { signal?: AbortSignal | undefined; told: (ahead: number) => void; full(): Error },
  ): Promise<void> {
    const own = this.waiting.get(whose) ?? [];
    if (own.length >= this.mostOfOne) return Promise.reject(full());
    return new Promise<void>((resolve, reject) => {
      const one: Waiting = { begin: resolve, told };
      own.push(one);
      this.waiting.set(whose, own);
      signal?.addEventListener("abort", () => {
        if (!own.includes(one)) return;
        own.splice(own.indexOf(one), 1);
        if (own.length === 0 && this.waiting.get(whose) === own) this.waiting.delete(whose);
        this.tell();
        reject(signal.reason as Error);
      });
      this.tell();
    });
  }

  /** Begins the first work of whoever has waited longest for a turn; they are last of all after it. */
  private next(): void {
    const first = this.waiting.entries().next().value;
    if (!first || this.running >= this.atOnce) return;
    const [whose, own] = first;
    const one = own.shift()!;
    this.waiting.delete(whose);
    if (own.length > 0) this.waiting.set(whose, own);
    this.running++;
    one.begin();
    this.tell();
  }

  /** Tells everybody who waits how many go before them. */
  private tell(): void {
    let ahead = this.running;
    for (let round = 0; [...this.waiting.values()].some((own) => own.length > round); round++)
      for (const own of this.waiting.values()) own[round]?.told(ahead++);
  }
}
