/** Whether a cutaway covers the frame or is a picture in the picture, and where that stands. */
import type { Schemas } from "../api/client";
import { USUAL_CUTAWAY_PLACE } from "../api/values";
import { Swatch } from "../dress/ColourField";
import { Segments } from "../ui/Segments";
import type { Cutaway } from "./cutaways";
import { Amount } from "./PictureSection";

type Place = Schemas["CutawayPlace"];

const USUAL: Place = {
  ...USUAL_CUTAWAY_PLACE,
  border_colour: [...USUAL_CUTAWAY_PLACE.border_colour],
};
const SHARE = { step: 0.5, unit: "%", per: 100 };

export function PlaceFields(props: {
  cutaway: Cutaway;
  set: (changes: { place: Place | null }) => void;
}) {
  const { cutaway, set } = props;
  const { place } = cutaway;
  return (
    <>
      <div className="flex min-h-7 items-center gap-2">
        <span className="w-[86px] shrink-0">Seen</span>
        <Segments
          label="How much of the frame it takes"
          choices={[
            { value: "all", text: "All over" },
            { value: "part", text: "In a part" },
          ]}
          chosen={place ? "part" : "all"}
          onChoose={(value) => set({ place: value === "part" ? USUAL : null })}
        />
      </div>
      {place && <Part place={place} set={(changes) => set({ place: { ...place, ...changes } })} />}
    </>
  );
}

function Part({ place, set }: { place: Place; set: (changes: Partial<Place>) => void }) {
  return (
    <>
      <Amount
        {...{ label: "Across", min: 0, max: 100, ...SHARE }}
        stored={place.x}
        set={(x) => set({ x })}
      />
      <Amount
        {...{ label: "Down", min: 0, max: 100, ...SHARE }}
        stored={place.y}
        set={(y) => set({ y })}
      />
      <Amount
        {...{ label: "Width", min: 5, max: 100, ...SHARE }}
        stored={place.width}
        set={(width) => set({ width })}
      />
      <Amount
        {...{ label: "Wide to high", min: 0.2, max: 5, step: 0.05, unit: ": 1", per: 1 }}
        stored={place.aspect}
        set={(aspect) => set({ aspect })}
      />
      <Amount
        {...{ label: "Roundness", min: 0, max: 100, step: 1, unit: "%", per: 200 }}
        stored={place.corner}
        set={(corner) => set({ corner })}
      />
      <div className="flex min-h-7 items-center gap-2">
        <span className="w-[86px] shrink-0">Line</span>
        <Swatch
          label="Colour of the line around it"
          colour={place.border_colour}
          onChange={(border_colour) => set({ border_colour })}
        />
      </div>
      <Amount
        {...{ label: "Line’s width", min: 0, max: 5, step: 0.1, unit: "%", per: 100 }}
        stored={place.border}
        set={(border) => set({ border })}
      />
    </>
  );
}
