/** On the Strip beside the sound: where what is followed lies across the picture, and where that was said by hand. */
import { memo } from "react";
import { lastBy } from "../playback/player";
import { openPiece, useProject, useShape } from "../state/store";
import { useClips } from "./shapes";

export const PathLine = memo(function PathLine(props: {
  fromUs: number;
  toUs: number;
  width: number;
  height: number;
}) {
  const { fromUs, toUs, width, height } = props;
  const piece = useProject(openPiece);
  return piece ? <Line {...{ fromUs, toUs, width, height, piece }} /> : null;
});

function Line(props: {
  fromUs: number;
  toUs: number;
  width: number;
  height: number;
  piece: NonNullable<ReturnType<typeof openPiece>>;
}) {
  const { fromUs, toUs, width, height, piece } = props;
  const shape = useShape(piece);
  const found = useClips(piece, shape);
  if (!found?.path.length) return null;
  const y = (at: number) => ((at - fromUs) / (toUs - fromUs)) * height;
  const first = Math.max(
    0,
    lastBy(found.path, fromUs, (one) => one.at_us),
  );
  const last = lastBy(found.path, toUs, (one) => one.at_us) + 2;
  const points = found.path.slice(first, last);
  return (
    <svg
      aria-hidden="true"
      className="pointer-events-none absolute inset-0"
      width={width}
      height={height}
    >
      <polyline
        points={points
          .map((one) => `${(one.x * width).toFixed(1)},${y(one.at_us).toFixed(1)}`)
          .join(" ")}
        fill="none"
        stroke="var(--chalk)"
        strokeWidth={1.5}
      />
      {found.holds
        .filter((one) => one.at_us >= fromUs && one.at_us < toUs)
        .map((one) => (
          <circle
            key={one.at_us}
            cx={one.x * width}
            cy={y(one.at_us)}
            r={3.5}
            fill="var(--chalk)"
            stroke="white"
          />
        ))}
    </svg>
  );
}
