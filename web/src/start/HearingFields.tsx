/** What is to be heard: language, sound track, range. Chosen before a recording comes, or after. */
import { useQuery } from "@tanstack/react-query";
import { api, type Schemas, take } from "../api/client";
import { FIELD } from "../ui/fields";

export interface HearingChoice {
  language: string;
  track: number;
  /** As typed; the server says whether it can be used. */
  from: string;
  to: string;
}

export const WHOLE: HearingChoice = { language: "en", track: 0, from: "", to: "" };

export type HearingBody = Pick<
  Schemas["HearingChoices"],
  "language" | "audio_track" | "from_time" | "to_time"
>;

export function hearingBody(choice: HearingChoice): HearingBody {
  const { language, track, from, to } = choice;
  return { language, audio_track: track, from_time: from, to_time: to };
}

const languageName = (code: string): string =>
  new Intl.DisplayNames("en", { type: "language" }).of(code) ?? code;

export function HearingFields(props: {
  choice: HearingChoice;
  tracks: number;
  onChange: (choice: HearingChoice) => void;
}) {
  const { choice, tracks, onChange } = props;
  const engines = useQuery({
    queryKey: ["engines"],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () => take(api.GET("/api/engines")),
  });
  const languages = [...new Set(engines.data?.flatMap((engine) => engine.languages) ?? ["en"])];
  const trouble = engines.data?.find((engine) => engine.trouble)?.trouble;
  const change = (part: Partial<HearingChoice>) => onChange({ ...choice, ...part });
  return (
    <div className="grid grid-cols-2 gap-x-3 gap-y-2 text-left">
      <label className="text-small text-dim">
        Language spoken
        <select
          className={`${FIELD} text-[14px] text-ink`}
          value={choice.language}
          onChange={(event) => change({ language: event.target.value })}
        >
          {languages.map((code) => (
            <option key={code} value={code}>
              {languageName(code)}
            </option>
          ))}
        </select>
      </label>
      <label className="text-small text-dim">
        Sound track
        <select
          className={`${FIELD} text-[14px] text-ink`}
          value={choice.track}
          onChange={(event) => change({ track: Number(event.target.value) })}
        >
          {Array.from({ length: tracks }, (_, index) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: tracks have no other name
            <option key={index} value={index}>
              {index + 1}
            </option>
          ))}
        </select>
      </label>
      <label className="text-small text-dim">
        From
        <input
          className={`${FIELD} tabular text-ink`}
          placeholder="start"
          value={choice.from}
          onChange={(event) => change({ from: event.target.value })}
        />
      </label>
      <label className="text-small text-dim">
        To
        <input
          className={`${FIELD} tabular text-ink`}
          placeholder="end"
          value={choice.to}
          onChange={(event) => change({ to: event.target.value })}
        />
      </label>
      {trouble && <p className="col-span-2 text-small text-clay">{trouble}</p>}
    </div>
  );
}
