/** Openings and closings: what plays before and behind the talk. */
import { Film, Trash2 } from "lucide-react";
import { useState } from "react";
import type { Piece, Schemas } from "../api/client";
import { FilmChoice } from "../frame/FilmChoice";
import type { Player } from "../playback/player";
import { edit } from "../state/commands";
import { useProject } from "../state/store";
import { clock } from "../ui/format";
import { IconButton } from "../ui/IconButton";
import { Segments } from "../ui/Segments";
import { Select } from "../ui/Select";
import { TraySection } from "../ui/TraySection";
import { useTalk } from "./talk";

type Side = "opening" | "closing";

const NO_SOURCES: Schemas["SourceView"][] = [];
const NONE = 0;
const SIDES: { value: Side; text: string }[] = [
  { value: "opening", text: "Before all" },
  { value: "closing", text: "Behind all" },
];

export function FilmsSection({ piece, player }: { piece: Piece; player: Player | null }) {
  const [side, setSide] = useState<Side>("opening");
  const sources = useProject((state) => state.project?.sources ?? NO_SOURCES);
  const projectId = useProject((state) => state.project?.id ?? 0);
  const { rows } = useTalk(piece);
  const films = rows.filter((row) => row.film !== null);
  const put = (source_id: number) =>
    void edit({ kind: "put_film", piece_id: piece.id, source_id, role: side, from_us: 0 });
  return (
    <TraySection
      title="Opening and closing"
      about="A film that plays before the talk or behind it; captions wait meanwhile."
    >
      <Segments label="Where it plays" choices={SIDES} chosen={side} onChoose={setSide} />
      <Select
        label={side === "opening" ? "A recording to open with" : "A recording to close with"}
        options={[
          { value: NONE, text: "A recording …" },
          ...sources.map((one) => ({ value: one.id, text: one.name })),
        ]}
        chosen={NONE}
        onChoose={(id) => id !== NONE && put(id)}
      />
      <FilmChoice projectId={projectId} onTaken={put} />
      {films.length > 0 && (
        <ul
          aria-label="Openings and closings"
          className="divide-y divide-line rounded border border-line bg-card"
        >
          {films.map((row) => {
            const at = row.items[0]?.at_us ?? 0;
            return (
              <li key={row.strand_id} className="flex items-center gap-2 px-2 py-1">
                <Film size={14} />
                <button
                  type="button"
                  className="flex min-w-0 flex-1 gap-2 text-left hover:underline"
                  onClick={() => player?.seek(at)}
                >
                  <span className="tabular shrink-0 text-dim">{clock(at, true)}</span>
                  <span className="truncate">{row.film}</span>
                </button>
                <IconButton
                  label={`Take ${row.film} out of the piece`}
                  onClick={() =>
                    void edit({
                      kind: "take_film_away",
                      piece_id: piece.id,
                      strand_id: row.strand_id,
                    })
                  }
                >
                  <Trash2 size={14} />
                </IconButton>
              </li>
            );
          })}
        </ul>
      )}
    </TraySection>
  );
}
