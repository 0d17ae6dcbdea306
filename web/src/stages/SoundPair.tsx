/** Two sounds one above the other: a recording's own, and the one that is heard in its stead. */
import { useQuery } from "@tanstack/react-query";
import { api, type Schemas, type Source, take } from "../api/client";

const STEPS = 240;
const LONGEST_US = 20e6;

export function SoundPair(props: { source: Source; microphone: Schemas["MicrophoneView"] }) {
  const { source, microphone } = props;
  const to_us = Math.min(source.duration_us, LONGEST_US);
  const { data } = useQuery({
    queryKey: ["sound-pair", source.id, source.sound],
    queryFn: async () => {
      const of = (own: boolean) =>
        take(
          api.GET("/api/sources/{source_id}/peaks", {
            params: {
              path: { source_id: source.id },
              query: { from_us: 0, to_us, most: STEPS, own },
            },
          }),
        );
      return [await of(true), await of(false)] as const;
    },
    enabled: microphone.laid,
  });
  if (!data) return null;
  return (
    <figure
      className="rounded border border-line bg-birch px-1"
      aria-label="The recording's own sound, and below it the one that is heard"
    >
      {data.map((one, at) => (
        <Bars key={at === 0 ? "own" : "heard"} peaks={one.peaks} strong={at === 1} />
      ))}
    </figure>
  );
}

function Bars({ peaks, strong }: { peaks: number[]; strong: boolean }) {
  const most = Math.max(1, ...peaks);
  const path = peaks
    .map((peak, at) => `M${at + 0.5} ${14 - (peak / most) * 13}V${14 + (peak / most) * 13}`)
    .join("");
  return (
    <svg
      viewBox={`0 0 ${Math.max(1, peaks.length)} 28`}
      preserveAspectRatio="none"
      className={`block h-7 w-full ${strong ? "text-ink" : "text-dim"}`}
      aria-hidden
    >
      <path d={path} stroke="currentColor" strokeWidth="0.8" />
    </svg>
  );
}
