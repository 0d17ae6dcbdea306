/** How clips go over into each other: at every cut, where the recording changes, and at single cuts. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Piece, type Schemas, type Shape, takeAs } from "../api/client";
import { make } from "../dress/scope";
import type { Player } from "../playback/player";
import { edit } from "../state/commands";
import { ofPiece } from "../state/samePiece";
import { Button } from "../ui/Button";
import { clock } from "../ui/format";
import { Segments } from "../ui/Segments";
import { TraySection } from "../ui/TraySection";
import { TransitionChoice } from "./TransitionChoice";
import { nameOf, type Transition } from "./transitions";

type Where = Schemas["Joins"]["where"];
type Cut = Schemas["CutView"];

const WHERES: { value: Where; text: string }[] = [
  { value: "nowhere", text: "Plain cuts" },
  { value: "everywhere", text: "Every cut" },
  { value: "recordings", text: "New recording" },
];
const BEFORE_US = 1_200_000;

export function BetweenClips(props: { piece: Piece; shape: Shape; player: Player | null }) {
  const { piece, shape, player } = props;
  const { joins } = piece;
  const [open, setOpen] = useState<number | null>(null);
  const cuts = useQuery({
    queryKey: ["cuts", piece.id, piece.digest, shape.digest],
    placeholderData: ofPiece(piece.id),
    queryFn: () =>
      takeAs<Cut[]>(
        api.GET("/api/pieces/{piece_id}/cuts", { params: { path: { piece_id: piece.id } } }),
      ),
  }).data;
  const first = cuts?.[0];
  if (!cuts) return null;
  if (!first) {
    return (
      <TraySection
        title="Between clips"
        about="This piece has no cuts yet. Strike words in Trim; how one clip goes over into the next is set here."
      />
    );
  }
  const set = (where: Where, transition: Transition | null = null, dragged = false) =>
    make({ kind: "set_joins", piece_id: piece.id, where, transition, alike: false }, dragged);
  const own = cuts.filter((one) => one.own);
  const show = (cut: Cut) =>
    player?.playStretch(Math.max(0, cut.at_us - BEFORE_US), cut.at_us + BEFORE_US, false);
  return (
    <TraySection
      title="Between clips"
      about="The picture goes over; words, captions and length stay as they are."
    >
      <Segments
        label="Where clips go over into each other"
        choices={WHERES}
        chosen={joins.where}
        onChoose={(where) => set(where)}
      />
      {joins.where !== "nowhere" && (
        <TransitionChoice
          {...{ piece, shape, atUs: first.at_us, label: "Transition between clips" }}
          chosen={joins.transition}
          onChoose={(transition, dragged) => set(joins.where, transition, dragged)}
        />
      )}
      {own.length > 0 && (
        <Button
          className="w-full"
          onClick={() =>
            void edit({ kind: "set_joins", piece_id: piece.id, where: joins.where, alike: true })
          }
        >
          All cuts alike again
        </Button>
      )}
      <ul
        aria-label="Cuts"
        className="max-h-[420px] divide-y divide-line overflow-y-auto rounded border border-line bg-card"
      >
        {cuts.map((cut) => (
          <li key={cut.at_us}>
            <button
              type="button"
              aria-expanded={open === cut.at_us}
              className="flex w-full gap-2 px-2 py-1 text-left hover:underline"
              onClick={() => {
                setOpen(open === cut.at_us ? null : cut.at_us);
                show(cut);
              }}
            >
              <span className="tabular text-dim">{clock(cut.at_us, true)}</span>
              <span className={`min-w-0 flex-1 truncate ${cut.own ? "font-bold" : ""}`}>
                {cut.transition ? nameOf(cut.transition.kind) : "Plain cut"}
              </span>
              {cut.transition && <Lasts cut={cut} asked={cut.transition.length_us} />}
            </button>
            {open === cut.at_us && <OneCut {...{ piece, shape, cut }} />}
          </li>
        ))}
      </ul>
    </TraySection>
  );
}

function Lasts({ cut, asked }: { cut: Cut; asked: number }) {
  const shorter = cut.lasts_us < asked - 1_000;
  const text = cut.lasts_us ? `${(cut.lasts_us / 1e6).toFixed(2)} s` : "too short";
  return (
    <span
      className="tabular shrink-0 text-dim"
      title={shorter ? "Shorter than it was set: no more than half of a clip." : undefined}
    >
      {text}
    </span>
  );
}

function OneCut({ piece, shape, cut }: { piece: Piece; shape: Shape; cut: Cut }) {
  const ids = { piece_id: piece.id, at_us: cut.at_us };
  return (
    <div className="space-y-2 border-t border-line bg-page px-2 py-2">
      <TransitionChoice
        {...{ piece, shape, atUs: cut.at_us, none: "Plain cut" }}
        label="Transition at this cut"
        chosen={cut.transition}
        onChoose={(transition, dragged = false) =>
          make({ kind: "set_join", ...ids, transition, as_all: false }, dragged)
        }
      />
      {cut.own && (
        <Button
          className="w-full"
          onClick={() => void edit({ kind: "set_join", ...ids, as_all: true })}
        >
          As all other cuts
        </Button>
      )}
    </div>
  );
}
