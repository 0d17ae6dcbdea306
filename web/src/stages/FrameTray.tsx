import type { Piece, Source } from "../api/client";
import { TraySection } from "../ui/TraySection";

/** The shape in words: common ones by name, others by their numbers. */
export function shapeName(width: number, height: number): string {
  const shapes: [string, number][] = [
    ["Tall 9:16", 9 / 16],
    ["Portrait 4:5", 4 / 5],
    ["Square 1:1", 1],
    ["Wide 16:9", 16 / 9],
  ];
  const found = shapes.find(([, ratio]) => Math.abs(width / height - ratio) < 0.01);
  return found?.[0] ?? (width > height ? "Wide" : "Tall");
}

export function FrameTray({ piece, source }: { piece: Piece; source: Source }) {
  return (
    <TraySection
      title="Frame"
      about={
        source.kind === "video"
          ? "The recording's own shape, turned upright where the camera was turned."
          : "A recording without a picture is shown on a plain tall frame."
      }
    >
      <p className="rounded border border-line bg-card p-3">
        <b>{shapeName(piece.width, piece.height)}</b> · {piece.width} × {piece.height} pixels
      </p>
    </TraySection>
  );
}
