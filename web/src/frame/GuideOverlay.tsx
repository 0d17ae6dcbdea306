/** What covers the shape where it is shown, over the preview alone. */
import type { Shape } from "../api/client";
import { useGuide } from "./guides";

const share = (value: number): string => `${value * 100}%`;

export function GuideOverlay({ shape }: { shape: Shape }) {
  const guide = useGuide(shape);
  if (!guide) return null;
  return (
    <div
      role="img"
      aria-label={`Guide: ${guide.name}`}
      data-guide
      className="pointer-events-none absolute inset-0 overflow-hidden"
    >
      {guide.areas.map((area) => (
        <span
          key={`${area.about} ${area.x} ${area.y}`}
          className="absolute grid place-items-center border border-white/70 border-dashed bg-black/35 p-0.5 text-center text-small text-white leading-tight"
          style={{
            left: share(area.x),
            top: share(area.y),
            width: share(area.width),
            height: share(area.height),
          }}
        >
          {area.about}
        </span>
      ))}
    </div>
  );
}
