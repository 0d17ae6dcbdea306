/** Fetches the scene in windows as playback needs them and keeps the newest of each. */
import { fetchScene } from "../api/scene";
import { Painter } from "./painter";

const WINDOW_US = 20_000_000;
const KEPT = 6;

export class SceneWindows {
  private readonly painters = new Map<number, { version: number; painter: Painter }>();
  private readonly asked = new Map<number, number>();
  private version = 0;

  constructor(
    private readonly pieceId: number,
    private readonly arrived: () => void,
  ) {}

  /** Captions changed: what is there is shown until the new is. */
  changed(): void {
    this.version += 1;
  }

  /** The painter for a moment, the newest there is; asks for it and the next when needed. */
  at(atUs: number): Painter | undefined {
    const index = Math.floor(Math.max(0, atUs) / WINDOW_US);
    this.ask(index);
    if (atUs - index * WINDOW_US > WINDOW_US / 2) this.ask(index + 1);
    return this.painters.get(index)?.painter;
  }

  private ask(index: number): void {
    if (this.asked.get(index) === this.version) return;
    this.asked.set(index, this.version);
    void this.load(index, this.version);
  }

  private async load(index: number, version: number): Promise<void> {
    try {
      const from = index * WINDOW_US;
      const scene = await fetchScene(this.pieceId, from, from + WINDOW_US);
      if ((this.painters.get(index)?.version ?? -1) > version) return;
      this.painters.set(index, { version, painter: new Painter(scene) });
      this.forgetFar(index);
      this.arrived();
      void this.painters.get(index)?.painter.ready.then(this.arrived);
    } catch {
      this.asked.delete(index);
    }
  }

  private forgetFar(index: number): void {
    for (const other of this.painters.keys()) {
      if (Math.abs(other - index) > KEPT) {
        this.painters.delete(other);
        this.asked.delete(other);
      }
    }
  }
}
