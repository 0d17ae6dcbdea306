/** The list of fillers of the piece's language, to be changed. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Piece, take } from "../api/client";
import { sayWrong } from "../ui/notice";
import { TraySection } from "../ui/TraySection";

export function FillerList({ piece }: { piece: Piece }) {
  const client = useQueryClient();
  const path = { piece_id: piece.id };
  const { data } = useQuery({
    queryKey: ["fillers", piece.id],
    queryFn: () => take(api.GET("/api/pieces/{piece_id}/fillers", { params: { path } })),
  });
  if (!data) return null;
  const change = async (text: string) => {
    const fillers = text
      .split(",")
      .map((one) => one.trim())
      .filter(Boolean);
    if (fillers.join() === data.fillers.join()) return;
    await take(
      api.PUT("/api/fillers/{language}", {
        params: { path: { language: data.language } },
        body: { fillers },
      }),
    ).catch(sayWrong);
    await client.invalidateQueries({ queryKey: ["fillers"] });
    await client.invalidateQueries({ queryKey: ["removals"] });
  };
  return (
    <TraySection
      title="What counts as a filler"
      about="With commas between; empty brings the usual ones back. For every recording in this language."
    >
      <textarea
        key={data.fillers.join()}
        aria-label="Fillers"
        rows={2}
        className="w-full rounded border border-line bg-card px-2 py-1"
        defaultValue={data.fillers.join(", ")}
        onBlur={(event) => void change(event.target.value)}
      />
    </TraySection>
  );
}
