/**
 * Feeds a video element with the segments of a cut piece, so that its media time is the piece's.
 * What an edit did not change stays where it is; the rest is appended again at its new place.
 */
import { api, type Schemas, take } from "../api/client";
import { covers, type Part, same, stale, wanted } from "./partsWindow";

type Found = Schemas["StreamView"];

export class Stream {
  readonly url: string;
  private readonly source = new MediaSource();
  private readonly over = new AbortController();
  private buffer: SourceBuffer | null = null;
  private found: Found = { kind: "", parts: [] };
  private readonly there = new Map<number, Part>();
  private busy = false;
  /** What is being fetched; given up when something else is wanted before it. */
  private fetching: { part: Part; given: AbortController } | null = null;
  /** Whether what was being read was removed: the element waits for it for ever, till it is sent there anew. */
  private torn = false;

  constructor(
    private readonly media: HTMLVideoElement,
    private readonly pieceId: number,
    private readonly shapeId: number,
    /** Where it is to begin, as long as the element knows of no moment. */
    private readonly beginUs: number,
  ) {
    this.url = URL.createObjectURL(this.source);
    const { signal } = this.over;
    this.source.addEventListener("sourceopen", () => void this.refresh(), { signal });
    media.addEventListener("seeking", () => this.look(), { signal });
    media.addEventListener("timeupdate", () => void this.pump(), { signal });
  }

  /** Ask for the piece's parts anew: its clips may have changed. */
  async refresh(): Promise<void> {
    if (this.source.readyState === "closed") return;
    const path = { piece_id: this.pieceId };
    const query = { shape_id: this.shapeId };
    const found = await take(
      api.GET("/api/pieces/{piece_id}/stream", { params: { path, query } }),
    ).catch(() => null);
    if (!found || this.over.signal.aborted) return;
    this.found = found;
    this.look();
  }

  close(): void {
    this.over.abort();
    this.fetching?.given.abort();
    URL.revokeObjectURL(this.url);
  }

  /** Where it plays, or what it plays, is another by now: a part on its way may be of no use. */
  private look(): void {
    const { fetching } = this;
    const next = wanted([...this.there.values()], this.found.parts, this.at);
    if (fetching && !same(next ?? undefined, fetching.part)) fetching.given.abort();
    void this.pump();
  }

  private get at(): number {
    return this.media.readyState ? this.media.currentTime * 1e6 : this.beginUs;
  }

  /** Bring the buffer to what is wanted around the moment that plays, one change after another. */
  private async pump(): Promise<void> {
    if (this.busy || this.source.readyState === "closed" || !this.found.parts.length) return;
    this.busy = true;
    try {
      while (!this.over.signal.aborted && (await this.step()));
    } finally {
      this.busy = false;
    }
  }

  /** The next change, if there is one to make. */
  private async step(): Promise<boolean> {
    this.buffer ??= this.source.addSourceBuffer(this.found.kind);
    const { parts } = this.found;
    const old = stale([...this.there.values()], parts, this.at);
    if (old) {
      this.there.delete(old.at_us);
      this.torn ||= this.media.seeking || covers(old, this.at);
      await this.done(() =>
        this.buffer?.remove(old.at_us / 1e6, (old.at_us + old.duration_us) / 1e6),
      );
      return true;
    }
    this.end(parts);
    const next = wanted([...this.there.values()], parts, this.at);
    if (!next) {
      this.finish(parts);
      return false;
    }
    const { data, given } = await this.fetched(next);
    if (given) return true;
    if (!data || !this.buffer) return false;
    const { buffer } = this;
    const start = next.at_us / 1e6;
    const end = (next.at_us + next.duration_us) / 1e6;
    // Opened wide first: the one may never pass the other.
    buffer.appendWindowEnd = Number.POSITIVE_INFINITY;
    buffer.appendWindowStart = start;
    buffer.appendWindowEnd = end;
    buffer.timestampOffset = start;
    this.there.set(next.at_us, next);
    await this.done(() => buffer.appendBuffer(data));
    if (this.torn && this.media.readyState && covers(next, this.at)) {
      this.torn = false;
      this.media.currentTime = this.media.currentTime;
    }
    return true;
  }

  /** A part's data, unless it was given up or cannot be had. */
  private async fetched(part: Part): Promise<{ data: ArrayBuffer | null; given: boolean }> {
    const given = new AbortController();
    this.fetching = { part, given };
    const data = await fetch(part.url, { signal: given.signal })
      .then((answer) => (answer.ok ? answer.arrayBuffer() : null))
      .catch(() => null);
    this.fetching = null;
    return { data, given: given.signal.aborted };
  }

  /** How long the whole piece is: no moment beyond what is known can be gone to. */
  private end(parts: readonly Part[]): void {
    const last = parts.at(-1);
    if (!last || this.buffer?.updating || this.source.readyState !== "open") return;
    const seconds = (last.at_us + last.duration_us) / 1e6;
    if (this.source.duration === seconds) return;
    try {
      this.source.duration = seconds;
    } catch {
      // What is buffered beyond it is removed first, with the next change.
    }
  }

  /**
   * Say that nothing follows the last part, once it is there: else the element waits at its end for
   * more. What is changed later opens the stream again by itself.
   */
  private finish(parts: readonly Part[]): void {
    const last = parts.at(-1);
    const whole = last && same(last, this.there.get(last.at_us));
    if (!whole || this.buffer?.updating || this.source.readyState !== "open") return;
    this.source.endOfStream();
  }

  private done(change: () => void): Promise<void> {
    return new Promise((resolve) => {
      const { buffer } = this;
      if (!buffer) return resolve();
      const end = () => {
        buffer.removeEventListener("updateend", end);
        resolve();
      };
      buffer.addEventListener("updateend", end);
      try {
        change();
      } catch {
        end();
      }
    });
  }
}
