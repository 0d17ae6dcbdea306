/** What is seen in place of the talk while words are said, and how more of it is put there. */
import { Film, Image, Library, Trash2 } from "lucide-react";
import { useState } from "react";
import type { Cue, Piece, Schemas, Shape } from "../api/client";
import { textOf } from "../drafts/draft";
import type { Player } from "../playback/player";
import { edit } from "../state/commands";
import { openPiece, useProject } from "../state/store";
import { Button } from "../ui/Button";
import { clock } from "../ui/format";
import { IconButton } from "../ui/IconButton";
import { say } from "../ui/notice";
import { Select } from "../ui/Select";
import { TraySection } from "../ui/TraySection";
import { CutawayFields } from "./CutawayFields";
import { CutawayIdeas } from "./CutawayIdeas";
import { inOrder, nameOf, type Seen } from "./cutaways";
import { Fetching } from "./Fetching";
import { FilmChoice } from "./FilmChoice";
import { lookFor } from "./looking";
import { PictureChoice } from "./PictureChoice";

const NO_SOURCES: Schemas["SourceView"][] = [];
const NONE = "";

export function CutawaysSection(props: { piece: Piece; shape: Shape; player: Player | null }) {
  const { piece, shape, player } = props;
  const [open, setOpen] = useState<number | null>(null);
  const picked = useProject((state) => state.picked);
  const cues = useProject((state) => state.cues);
  const sources = useProject((state) => state.project?.sources ?? NO_SOURCES);
  const projectId = useProject((state) => state.project?.id ?? 0);
  const chosen = cues.filter((cue) => picked.has(cue.id));
  const recordings = sources.filter((one) => one.width > 0);
  const add = async (seen: Seen, cue_ids = chosen.map((cue) => cue.id)) => {
    if (!cue_ids.length) {
      say("Choose the captions first that it is to be seen over.", "wrong");
      return;
    }
    const known = new Set(piece.cutaways.map((one) => one.cutaway.id));
    if (!(await edit({ kind: "add_cutaway", piece_id: piece.id, cue_ids, seen }))) return;
    const found = openPiece(useProject.getState())?.cutaways.find(
      (one) => !known.has(one.cutaway.id),
    );
    if (found) setOpen(found.cutaway.id);
  };
  return (
    <>
      <TraySection
        title="Cut away"
        about="Something else is seen while these words are said; the talk goes on."
      >
        <p className="truncate" aria-live="polite">
          {chosen.length ? (
            <>
              <span className="text-dim">Over </span>
              {quoted(chosen)}
            </>
          ) : (
            <span className="text-dim">Choose captions in the Strip first.</span>
          )}
        </p>
        <Button
          className="w-full"
          disabled={!chosen.length}
          onClick={() => lookFor(chosen.map((cue) => cue.id))}
        >
          <Library size={14} aria-hidden /> Look in the libraries
        </Button>
        <Fetching />
        {recordings.length > 0 && (
          <Select
            label="A recording to be seen"
            className="w-full"
            options={[
              { value: NONE, text: "A recording …" },
              ...recordings.map((one) => ({ value: String(one.id), text: one.name })),
            ]}
            chosen={NONE}
            onChoose={(id) =>
              id && void add({ kind: "recording", source_id: Number(id), from_us: 0 })
            }
          />
        )}
        <FilmChoice
          projectId={projectId}
          onTaken={(source_id) => void add({ kind: "recording", source_id, from_us: 0 })}
        />
        <PictureChoice
          chosen={null}
          onChoose={(picture) => void add({ kind: "picture", picture })}
        />
      </TraySection>
      <CutawayIdeas
        {...{ piece, shape, player }}
        onUse={(cueId, seen) => void add(seen, [cueId])}
      />
      {piece.cutaways.length > 0 && (
        <TraySection title="Cutaways">
          <ul
            aria-label="Cutaways"
            className="divide-y divide-line rounded border border-line bg-card"
          >
            {inOrder(piece.cutaways).map(({ cutaway, lies }) => {
              const name = nameOf(cutaway.seen, sources);
              const begins = lies[0]?.start_us;
              const whole = lies[0]?.whole_us;
              return (
                <li key={cutaway.id}>
                  <div className="flex items-center gap-2 px-2 py-1">
                    {cutaway.seen.kind === "picture" ? <Image size={14} /> : <Film size={14} />}
                    <button
                      type="button"
                      aria-expanded={open === cutaway.id}
                      className="flex min-w-0 flex-1 gap-2 text-left hover:underline"
                      onClick={() => {
                        setOpen(open === cutaway.id ? null : cutaway.id);
                        if (whole !== undefined) player?.seek(whole);
                      }}
                    >
                      <span className="tabular shrink-0 text-dim">
                        {begins === undefined ? "struck" : clock(begins, true)}
                      </span>
                      <span className="truncate">{name}</span>
                    </button>
                    <IconButton
                      label={`Take the cutaway to ${name} away`}
                      onClick={() =>
                        void edit({
                          kind: "drop_cutaway",
                          piece_id: piece.id,
                          cutaway_id: cutaway.id,
                        })
                      }
                    >
                      <Trash2 size={14} />
                    </IconButton>
                  </div>
                  {open === cutaway.id && (
                    <CutawayFields {...{ piece, shape, cutaway, sources }} atUs={begins ?? 0} />
                  )}
                </li>
              );
            })}
          </ul>
        </TraySection>
      )}
    </>
  );
}

const quoted = (cues: readonly Cue[]): string => `“${cues.map(textOf).join(" ")}”`;
