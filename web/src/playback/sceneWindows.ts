/** Fetches the scene in windows as playback needs them and keeps the newest of each. */
import { fetchScene } from "../api/scene";
import { Painter } from "./painter";

const WINDOW_US = 20_000_000;
/** On either side: a painter keeps pictures of its words. */
const KEPT = 2;
/** What is in sight is asked for first, alone: a whole window takes the server longer. */
const GLANCE_US = 400_000;

interface Kept {
  version: number;
  painter: Painter;
}

export class SceneWindows {
  private readonly painters = new Map<number, Kept>();
  private readonly asked = new Map<number, number>();
  private glance: (Kept & { from: number; to: number }) | null = null;
  private version = 0;

  constructor(
    private readonly pieceId: number,
    private readonly shapeId: number,
    private readonly arrived: () => void,
  ) {}

  /** Captions changed: what is there is shown until the new is; what is in sight comes first. */
  changed(atUs: number): void {
    this.version += 1;
    if (this.painters.size) void this.look(Math.max(0, Math.floor(atUs)), this.version);
    this.at(atUs);
  }

  /** The painter for a moment, the newest there is; asks for it and the next when needed. */
  at(atUs: number): Painter | undefined {
    const index = Math.floor(Math.max(0, atUs) / WINDOW_US);
    this.ask(index);
    if (atUs - index * WINDOW_US > WINDOW_US / 2) this.ask(index + 1);
    const kept = this.painters.get(index);
    const { glance } = this;
    const nearer = glance && glance.from <= atUs && atUs < glance.to;
    if (nearer && glance.version > (kept?.version ?? -1)) return glance.painter;
    return kept?.painter;
  }

  private ask(index: number): void {
    if (this.asked.get(index) === this.version) return;
    this.asked.set(index, this.version);
    void this.load(index, this.version);
  }

  private async look(from: number, version: number): Promise<void> {
    const to = from + GLANCE_US;
    const scene = await fetchScene(this.pieceId, from, to, this.shapeId).catch(() => null);
    if (!scene || version < (this.glance?.version ?? 0)) return;
    this.glance = { version, painter: new Painter(scene), from, to };
    this.arrived();
    void this.glance.painter.ready.then(this.arrived);
  }

  private async load(index: number, version: number): Promise<void> {
    try {
      const from = index * WINDOW_US;
      const scene = await fetchScene(this.pieceId, from, from + WINDOW_US, this.shapeId);
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
