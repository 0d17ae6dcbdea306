/** What an accent, or a single word, has in place of the finish's own: one control a setting. */
import { useQuery } from "@tanstack/react-query";
import { api, take } from "../api/client";
import { PaintField } from "./ColourField";
import { PartField, PickField, SliderField } from "./fields";
import type { Changes, Target } from "./scope";

const AS_FINISH = { value: "", text: "As the finish" };
const EMPHASES = [
  AS_FINISH,
  { value: "none", text: "Nothing" },
  { value: "grow", text: "Grow" },
  { value: "lift", text: "Lift" },
  { value: "tilt", text: "Tilt" },
  { value: "pulse", text: "Pulse" },
];
/** What a word, or the emoji by it, does for as long as it stands. */
export const LOOPS = [
  { value: "bob", text: "Bob" },
  { value: "sway", text: "Sway" },
  { value: "breathe", text: "Breathe" },
  { value: "none", text: "Still" },
];
const LOOPS_OR_NOT = [AS_FINISH, ...LOOPS];
const CASES = [
  AS_FINISH,
  { value: "as_written", text: "As written" },
  { value: "upper", text: "CAPITALS" },
  { value: "lower", text: "small letters" },
  { value: "title", text: "First Letters" },
];
const WEIGHTS = [
  AS_FINISH,
  { value: "400", text: "Regular" },
  { value: "600", text: "Half bold" },
  { value: "700", text: "Bold" },
  { value: "900", text: "Heavy" },
];

/** `at` is where the settings lie: empty for a word, `accents.N.` for an accent of the finish. */
export function AccentLooks({ target: plain, at = "" }: { target: Target; at?: string }) {
  const target = colouredThrough(plain, at);
  const share = { per: 100, unit: " %" };
  const families = useQuery({
    queryKey: ["fonts"],
    queryFn: () => take(api.GET("/api/fonts")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const fonts = [
    AS_FINISH,
    ...(families.data ?? []).map(({ name }) => ({ value: name, text: name })),
  ];
  const plated = target.given?.(`${at}plate`) ?? false;
  const plate = (
    <>
      <PaintField target={target} path={`${at}plate.colour`} of="Plate" label="Colour" />
      <SliderField
        {...{
          target,
          path: `${at}plate.radius`,
          of: "Plate",
          label: "Corners",
          min: 0,
          max: 60,
          step: 1,
        }}
        {...share}
      />
    </>
  );
  return (
    <>
      <PaintField target={target} path={`${at}live`} label="Colour" gradient />
      <SliderField
        {...{ target, path: `${at}scale`, label: "Size", min: 50, max: 200, step: 2, fallback: 1 }}
        {...share}
      />
      <Pick target={target} path={`${at}weight`} label="Weight" choices={WEIGHTS} whole />
      <SliderField
        {...{ target, path: `${at}tilt`, label: "Tilt", min: -45, max: 45, step: 1, unit: "°" }}
      />
      <SliderField
        {...{ target, path: `${at}lift`, label: "Lift", min: -100, max: 100, step: 2 }}
        {...share}
      />
      <SliderField
        {...{ target, path: `${at}dx`, label: "Across", min: -100, max: 100, step: 2 }}
        {...share}
      />
      {plated ? (
        plate
      ) : (
        <PartField
          target={target}
          path={`${at}plate`}
          label="Plate"
          make={{ [`${at}plate.radius`]: 0.15 }}
        >
          {plate}
        </PartField>
      )}
      <Pick target={target} path={`${at}font`} label="Font" choices={fonts} whole />
      <Pick target={target} path={`${at}case`} label="Case" choices={CASES} whole />
      <Pick target={target} path={`${at}emphasis`} label="Emphasis" choices={EMPHASES} />
      <Pick target={target} path={`${at}loop`} label="Loop" choices={LOOPS_OR_NOT} />
    </>
  );
}

/** One of several, or what the finish has; `whole` where the value has no kinds. */
function Pick(props: {
  target: Target;
  path: string;
  label: string;
  choices: { value: string; text: string }[];
  /** The value has no kinds, it is the choice itself; numbers are kept as such. */
  whole?: boolean;
}) {
  const { target, path, label, choices, whole = false } = props;
  const at = whole ? path : `${path}.kind`;
  const picked: Target = {
    ...target,
    value: () => String(target.value(at) ?? ""),
    set: ({ [path]: value }) => {
      if (value === "") target.back(path);
      else target.set({ [at]: whole && /^\d+$/.test(String(value)) ? Number(value) : value });
    },
  };
  return <PickField target={picked} path={path} label={label} choices={choices} />;
}

/** A word that has been said keeps the colour it was said in. */
function colouredThrough(target: Target, at: string): Target {
  const [live, past] = [`${at}live`, `${at}past`];
  return {
    ...target,
    set: (changes: Changes, dragged) =>
      target.set(
        live in changes ? { ...changes, [past]: changes[live] ?? null } : changes,
        dragged,
      ),
    back: (path) => {
      target.back(path, ...(path === live ? [past] : []));
    },
  };
}
