/** Whom the frame follows: nobody, a face, whoever speaks, or what is in a box drawn by hand. */
import { SquareDashed, Target, Undo2 } from "lucide-react";
import type { Framing, Piece, Shape } from "../api/client";
import type { Player } from "../playback/player";
import { usePlayed } from "../playback/usePlayed";
import { edit } from "../state/commands";
import { useProject } from "../state/store";
import { Button } from "../ui/Button";
import { clock } from "../ui/format";
import { Segments } from "../ui/Segments";
import { type Changes, type Saying, useClips, useFrame } from "./shapes";

const SAID: Record<Saying["kind"], string> = {
  box: "Draw a box in the preview around what is to be followed.",
  place: "Press in the preview where the face really is at this moment.",
  seat: "Press the face in the preview that this voice belongs to.",
};

export function FaceSection(props: {
  framing: Framing;
  piece: Piece;
  shape: Shape;
  player: Player | null;
  set: (changes: Changes) => void;
}) {
  const { framing, piece, shape, player, set } = props;
  const clips = useClips(piece, shape);
  const saying = useFrame((state) => state.saying);
  const jobs = useProject((state) => state.project?.jobs);
  const looking = jobs?.find(
    (job) => (job.kind === "faces" || job.kind === "follow") && job.status === "running",
  );
  const failed = jobs?.findLast((job) => job.kind === "follow");
  const following = framing.follow !== "off";
  const known = clips?.faces;
  const ask = (what: Saying) => {
    player?.media.pause();
    useFrame.setState({ saying: saying?.kind === what.kind && what.kind !== "seat" ? null : what });
  };
  return (
    <div className="space-y-1.5">
      <div className="flex items-center gap-2">
        <span className="w-[86px] shrink-0">Face</span>
        <Segments
          label="Face"
          chosen={framing.follow}
          choices={[
            { value: "off", text: "Off", label: "Not followed" },
            { value: "calm", text: "Calm", label: "Followed calmly" },
            { value: "close", text: "Still", label: "Held still" },
          ]}
          onChoose={(follow) => set({ follow })}
        />
      </div>
      {following && (
        <>
          <Whose {...{ framing, piece, set, ask, saying }} />
          <p className="text-small text-dim" aria-live="polite">
            {saying
              ? SAID[saying.kind]
              : looking
                ? `Looking, ${Math.round(looking.progress * 100)} %.`
                : known
                  ? "Drag the picture: the face stays where you put it. Press a face to follow it."
                  : "No face was found. Draw a box around what is to be followed."}
          </p>
          {failed?.status === "failed" && !looking && (
            <p role="alert" className="text-small text-clay">
              {failed.error}
            </p>
          )}
          <div className="flex flex-wrap gap-1.5">
            <Button
              className="gap-1.5 px-2"
              aria-pressed={saying?.kind === "box"}
              onClick={() => ask({ kind: "box" })}
            >
              <SquareDashed size={14} /> Draw a box
            </Button>
            {known && (
              <Button
                className="gap-1.5 px-2"
                aria-pressed={saying?.kind === "place"}
                onClick={() => ask({ kind: "place" })}
              >
                <Target size={14} /> The face is here
              </Button>
            )}
            {framing.chosen.length > 0 && framing.who === "face" && (
              <Button className="gap-1.5 px-2" onClick={() => set({ chosen: "largest" })}>
                <Undo2 size={14} /> The largest face
              </Button>
            )}
          </div>
          <Holds piece={piece} shape={shape} player={player} />
        </>
      )}
    </div>
  );
}

/** One face, or whoever speaks: then each voice has its face. */
function Whose(props: {
  framing: Framing;
  piece: Piece;
  set: (changes: Changes) => void;
  ask: (what: Saying) => void;
  saying: Saying | null;
}) {
  const { framing, set, ask, saying } = props;
  const cues = useProject((state) => state.cues);
  const speakers = [
    ...new Set(cues.flatMap((cue) => cue.words.map((word) => word.speaker)).filter(Boolean)),
  ] as string[];
  if (speakers.length < 2) return null;
  return (
    <>
      <div className="flex items-center gap-2">
        <span className="w-[86px] shrink-0">Whose</span>
        <Segments
          label="Whose face"
          chosen={framing.who}
          choices={[
            { value: "face", text: "One face" },
            { value: "speaker", text: "Who speaks" },
          ]}
          onChoose={(who) => set({ who })}
        />
      </div>
      {framing.who === "speaker" && (
        <ul aria-label="Faces of speakers" className="space-y-1">
          {speakers.map((speaker) => {
            const seated = framing.seats.some((seat) => seat.speaker === speaker);
            return (
              <li key={speaker} className="flex items-center gap-2">
                <span className="min-w-0 flex-1 truncate">{speaker}</span>
                <span className="text-small text-dim">{seated ? "has a face" : "no face yet"}</span>
                <Button
                  kind="quiet"
                  aria-pressed={saying?.kind === "seat" && saying.speaker === speaker}
                  onClick={() => ask({ kind: "seat", speaker })}
                >
                  {seated ? "Another one" : "Choose"}
                </Button>
              </li>
            );
          })}
        </ul>
      )}
    </>
  );
}

/** Where somebody said the face to be, to go to and to take back. */
function Holds({ piece, shape, player }: { piece: Piece; shape: Shape; player: Player | null }) {
  const holds = useClips(piece, shape)?.holds ?? [];
  const { at } = usePlayed(player);
  if (!holds.length) return null;
  return (
    <ul aria-label="Where the face is by hand" className="space-y-0.5">
      {holds.map((one) => (
        <li key={`${one.point.source_id} ${one.point.at_us}`} className="flex items-center gap-2">
          <button
            type="button"
            className={`tabular flex-1 text-left hover:underline ${
              Math.abs(at - one.at_us) < 100_000 ? "font-bold" : ""
            }`}
            onClick={() => player?.seek(one.at_us)}
          >
            by hand at {clock(one.at_us)}
          </button>
          <Button
            kind="quiet"
            onClick={() =>
              void edit({
                kind: "let_face_go",
                piece_id: piece.id,
                shape_id: shape.id,
                source_id: one.point.source_id,
                at_us: one.point.at_us,
              })
            }
          >
            Take back
          </Button>
        </li>
      ))}
    </ul>
  );
}
