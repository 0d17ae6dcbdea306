/** What is to be heard: language, sound track, range. Chosen before a recording comes, or after. */
import { useQuery } from "@tanstack/react-query";
import { api, type Schemas, take } from "../api/client";
import { FIELD } from "../ui/fields";
import { Select } from "../ui/Select";

export interface HearingChoice {
  language: string;
  track: number;
  /** As typed; the server says whether it can be used. */
  from: string;
  to: string;
}

/** Asks the server to find out which language is spoken. */
const FIND_OUT = "auto";
const SEVERAL = "mul";
/** Those that captions, grouping and fillers are made for stand first. */
const FIRST = ["en", "de", "es", "fr", "it", "pt", "nl", "pl", "tr", "ar", "hi", "ja", "zh"];

export const WHOLE: HearingChoice = { language: FIND_OUT, track: 0, from: "", to: "" };

export type HearingBody = Pick<
  Schemas["HearingChoices"],
  "language" | "audio_track" | "from_time" | "to_time"
>;

export function hearingBody(choice: HearingChoice): HearingBody {
  const { language, track, from, to } = choice;
  return { language, audio_track: track, from_time: from, to_time: to };
}

const names = new Intl.DisplayNames("en", { type: "language" });

export function languageName(code: string): string {
  if (code === FIND_OUT) return "Find it out";
  if (code === SEVERAL) return "Several languages";
  const said = names.of(code) ?? code;
  return said === code ? (RARE[code] ?? code) : said;
}

/** Languages that browsers have no name for. */
const RARE: Record<string, string> = {
  ba: "Bashkir",
  bo: "Tibetan",
  br: "Breton",
  fo: "Faroese",
  haw: "Hawaiian",
  jw: "Javanese",
  lb: "Luxembourgish",
  ln: "Lingala",
  mi: "Māori",
  nn: "Norwegian Nynorsk",
  oc: "Occitan",
  sa: "Sanskrit",
  sn: "Shona",
  tk: "Turkmen",
  tt: "Tatar",
};

/** What can be chosen, of the languages that engines know. */
export function languageOptions(known: readonly string[]): { value: string; text: string }[] {
  const first = FIRST.filter((code) => known.includes(code));
  const several = known.includes(SEVERAL) ? [SEVERAL] : [];
  const rest = known.filter((code) => ![...first, ...several].includes(code));
  rest.sort((a, b) => languageName(a).localeCompare(languageName(b)));
  const codes = [...new Set([FIND_OUT, ...first, ...several, ...rest])];
  return codes.map((code) => ({ value: code, text: languageName(code) }));
}

export function HearingFields(props: {
  choice: HearingChoice;
  tracks: readonly string[];
  onChange: (choice: HearingChoice) => void;
}) {
  const { choice, tracks, onChange } = props;
  const engines = useQuery({
    queryKey: ["engines"],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () => take(api.GET("/api/engines")),
  });
  const known = engines.data?.flatMap((engine) => engine.languages) ?? ["en"];
  const trouble = engines.data?.find((engine) => engine.trouble)?.trouble;
  const change = (part: Partial<HearingChoice>) => onChange({ ...choice, ...part });
  return (
    <div className="grid grid-cols-2 gap-x-3 gap-y-2 text-left">
      <div className="text-small text-dim">
        Language spoken
        <Select
          label="Language spoken"
          className="h-8 w-full text-[14px] text-ink"
          options={languageOptions(known)}
          chosen={choice.language}
          onChoose={(language) => change({ language })}
        />
      </div>
      <div className="text-small text-dim">
        Sound track
        <Select
          label="Sound track"
          className="h-8 w-full text-[14px] text-ink"
          options={tracks.map((text, value) => ({ value, text }))}
          chosen={choice.track}
          onChoose={(track) => change({ track })}
        />
      </div>
      <label className="text-small text-dim">
        From
        <input
          dir="auto"
          className={`${FIELD} tabular text-ink`}
          placeholder="start"
          value={choice.from}
          onChange={(event) => change({ from: event.target.value })}
        />
      </label>
      <label className="text-small text-dim">
        To
        <input
          dir="auto"
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
