/**
 * The one clock: wraps the media element, tells listeners the moment of the frame on screen.
 * With a picture that is the frame's own time, never currentTime, which can be a frame off.
 */
type Listener = (atUs: number) => void;

/** So far beyond the end of a stretch its playing may rest. */
const LATE_US = 100_000;
const RATES = [-8, -4, -2, -1, 1, 2, 4, 8];

export class Player {
  /** Media time of what is on screen, in µs. */
  at = 0;
  /** How often somebody went to a moment. */
  seeks = 0;
  private plays = 0;
  private readonly listeners = new Set<Listener>();
  private readonly over = new AbortController();
  private frames = new Float64Array(0);
  private timer = 0;
  private backwards = 0;
  /** A moment gone to that the piece does not have yet. */
  private beyond: number | null = null;
  private stretch: { fromUs: number; toUs: number; loop: boolean } | null = null;

  constructor(
    readonly media: HTMLVideoElement,
    private readonly hasPicture: boolean,
    private durationUs = Number.POSITIVE_INFINITY,
  ) {
    const { signal } = this.over;
    if (hasPicture) this.waitForFrame();
    media.addEventListener("play", () => this.begins(), { signal });
    media.addEventListener("seeked", () => this.readClock(), { signal });
    media.addEventListener("ended", () => this.ended(), { signal });
    media.addEventListener("loadeddata", () => this.readClock(), { signal });
  }

  private begins(): void {
    this.plays += 1;
    this.tick();
  }

  /** Begin at a moment, as soon as anything can be played. */
  begin(atUs: number): void {
    this.seeks += 1;
    this.at = atUs;
    const go = () => this.seek(this.at);
    this.media.addEventListener("loadedmetadata", go, { signal: this.over.signal, once: true });
  }

  /** The piece got longer or shorter. */
  setDuration(durationUs: number): void {
    this.durationUs = durationUs;
    if (this.beyond !== null && this.beyond < durationUs) this.seek(this.beyond);
  }

  /** Presentation times of all frames in µs, for stepping. */
  setFrames(frames: Float64Array<ArrayBuffer>): void {
    this.frames = frames;
  }

  listen(listener: Listener): () => void {
    this.listeners.add(listener);
    listener(this.at);
    return () => this.listeners.delete(listener);
  }

  /** How often somebody went to a moment or began to play. */
  get moves(): number {
    return this.seeks + this.plays;
  }

  get playing(): boolean {
    return !this.media.paused;
  }

  /** Play from one moment to another, once or over and over. */
  playStretch(fromUs: number, toUs: number, loop: boolean): void {
    this.seek(Math.max(0, fromUs));
    this.stretch = { fromUs: Math.max(0, fromUs), toUs, loop };
    void this.media.play().catch(() => undefined);
  }

  /** While a stretch is looped its ends can be moved, without starting it anew. */
  reloop(fromUs: number, toUs: number): void {
    if (this.stretch?.loop) this.stretch = { fromUs: Math.max(0, fromUs), toUs, loop: true };
  }

  get looping(): boolean {
    return this.stretch?.loop ?? false;
  }

  toggle(): void {
    this.stretch = null;
    if (this.backwards) this.shuttle(0);
    else if (this.media.paused) void this.media.play().catch(() => undefined);
    else this.media.pause();
  }

  /**
   * Go to a moment: to the first frame that shows it, so that a word gone to is a word lit; a
   * millisecond inside the frame, so that rounding cannot fall before it.
   */
  seek(atUs: number): void {
    this.seeks += 1;
    this.stretch = null;
    this.beyond = atUs >= this.durationUs ? atUs : null;
    const frame = this.frames[lastAtOrBefore(this.frames, atUs - 1) + 1];
    const inside = Math.max(0, Math.min(frame ?? atUs, this.durationUs - 1_000));
    this.media.currentTime = (inside + 1_000) / 1e6;
    this.tell(inside);
  }

  /** One frame on (1) or back (-1). */
  step(direction: 1 | -1): void {
    this.media.pause();
    const here = lastAtOrBefore(this.frames, this.at + 500);
    const target = this.frames[here + direction];
    if (target !== undefined) this.seek(target);
    else if (!this.frames.length) this.seek(this.at + (direction * 1e6) / 30);
  }

  /** Faster forwards (1), faster backwards (-1) or stop (0). */
  shuttle(direction: 1 | 0 | -1): void {
    this.stretch = null;
    const now = this.backwards || (this.media.paused ? 0 : this.media.playbackRate);
    window.clearInterval(this.timer);
    this.timer = 0;
    this.backwards = 0;
    if (direction === 0) {
      this.media.pause();
      this.media.playbackRate = 1;
      return;
    }
    const found = RATES.indexOf(now);
    const start = direction > 0 ? RATES.indexOf(1) : RATES.indexOf(-1);
    const sameWay = now * direction > 0;
    const next = RATES[Math.max(0, Math.min(7, sameWay ? found + direction : start))] as number;
    if (next > 0) {
      this.media.playbackRate = next;
      void this.media.play().catch(() => undefined);
      return;
    }
    this.media.pause();
    this.backwards = next;
    this.timer = window.setInterval(() => this.seek(Math.max(0, this.at + next * 100_000)), 100);
  }

  setRate(rate: number): void {
    this.media.playbackRate = rate;
  }

  close(): void {
    this.over.abort();
    window.clearInterval(this.timer);
    this.listeners.clear();
  }

  private waitForFrame(): void {
    this.media.requestVideoFrameCallback((_, frame) => {
      if (this.over.signal.aborted) return;
      // What comes while another moment is gone to belongs to the moment before.
      if (!this.media.seeking) this.tell(Math.round(frame.mediaTime * 1e6));
      this.waitForFrame();
    });
  }

  /** Without a picture the sound's clock is all there is. */
  private tick(): void {
    if (this.hasPicture || this.media.paused || this.over.signal.aborted) return;
    this.tell(Math.round(this.media.currentTime * 1e6));
    requestAnimationFrame(() => this.tick());
  }

  /** A stretch that reaches beyond the piece ends with it. */
  private ended(): void {
    const { stretch } = this;
    if (stretch?.loop) this.playStretch(stretch.fromUs, stretch.toUs, true);
    else this.stretch = null;
  }

  private readClock(): void {
    if (!this.hasPicture) this.tell(Math.round(this.media.currentTime * 1e6));
  }

  private tell(atUs: number): void {
    this.at = atUs;
    const { stretch } = this;
    if (stretch && !this.media.paused && atUs >= stretch.toUs) {
      if (stretch.loop) this.playStretch(stretch.fromUs, stretch.toUs, true);
      else {
        this.stretch = null;
        this.media.pause();
        // A busy machine may show the end of a stretch late.
        if (atUs - stretch.toUs > LATE_US) {
          this.seek(stretch.toUs);
          return;
        }
      }
    }
    for (const listener of this.listeners) listener(atUs);
  }
}

/** Index of the last value that is not above `value`; -1 when all are. */
export function lastAtOrBefore(values: ArrayLike<number>, value: number): number {
  return lastBy(values, value, (one) => one);
}

/** The same for items in the order of some number of theirs. */
export function lastBy<T>(items: ArrayLike<T>, value: number, of: (item: T) => number): number {
  let low = 0;
  let high = items.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (of(items[middle] as T) <= value) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}
