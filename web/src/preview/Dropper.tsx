/** A sheet over the preview while a colour is taken from it. */
import { useEffect, useState } from "react";
import { colourAt, useDropper } from "./dropper";

export function Dropper({ video }: { video: React.RefObject<HTMLVideoElement | null> }) {
  const take = useDropper((state) => state.take);
  const [under, setUnder] = useState<{ x: number; y: number; colour: string } | null>(null);
  useEffect(() => {
    if (!take) return;
    const give = (event: KeyboardEvent) => {
      if (event.key !== "Escape") return;
      event.preventDefault();
      event.stopPropagation();
      take(null);
    };
    window.addEventListener("keydown", give, { capture: true });
    return () => window.removeEventListener("keydown", give, { capture: true });
  }, [take]);
  if (!take) return null;
  const at = (event: React.PointerEvent) => {
    const box = event.currentTarget.getBoundingClientRect();
    const [x, y] = [event.clientX - box.left, event.clientY - box.top];
    const colour = video.current && colourAt(video.current, x / box.width, y / box.height);
    return colour ? { x, y, colour } : null;
  };
  return (
    <div
      data-dropper
      className="absolute inset-0 z-30 cursor-crosshair"
      onPointerMove={(event) => setUnder(at(event))}
      onPointerDown={(event) => {
        event.preventDefault();
        event.stopPropagation();
        take(at(event)?.colour ?? null);
      }}
    >
      {under && (
        <span
          className="tabular pointer-events-none absolute rounded bg-page px-1.5 py-1 text-ink shadow"
          style={{ left: Math.max(0, under.x - 90), top: under.y + 12 }}
        >
          <span
            className="mr-1 inline-block size-3 rounded-sm border border-line align-[-1px]"
            style={{ background: under.colour }}
          />
          {under.colour}
        </span>
      )}
    </div>
  );
}
