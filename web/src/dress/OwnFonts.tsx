/** Fonts of one's own: added from a file, which the server checks, and taken away. */
import { useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { api, type Piece, type Schemas, sendFile, take } from "../api/client";
import { edit } from "../state/commands";
import { Button } from "../ui/Button";
import { FilePick } from "../ui/FilePick";
import { say, sayWrong } from "../ui/notice";

export function OwnFonts(props: { piece: Piece; family: string; own: boolean }) {
  const { piece, family, own } = props;
  const client = useQueryClient();
  const picker = useRef<HTMLInputElement>(null);
  const fresh = () => client.invalidateQueries({ queryKey: ["fonts"] });
  const add = async (file: File | undefined) => {
    if (!file) return;
    try {
      const made = await sendFile<Schemas["FamilyView"]>("/api/fonts", file);
      await fresh();
      const weight = made.weights.at(-1) ?? 700;
      const changes = { font: made.name, weight };
      await edit({ kind: "change_finish", piece_id: piece.id, changes });
      say(`Added “${made.name}”.`);
    } catch (error) {
      sayWrong(error);
    }
  };
  const remove = () =>
    take(api.DELETE("/api/fonts", { params: { query: { family } } }))
      .then(fresh)
      .then(() => edit({ kind: "change_finish", piece_id: piece.id, changes: { font: "Rubik" } }))
      .catch(sayWrong);
  return (
    <div className="flex gap-1.5 pl-[94px]">
      <Button onClick={() => picker.current?.click()}>Add a font…</Button>
      {own && (
        <Button kind="quiet" onClick={() => void remove()}>
          Remove it
        </Button>
      )}
      <FilePick
        ref={picker}
        label="Font file"
        accept=".ttf,.otf,font/ttf,font/otf"
        onFiles={([chosen]) => void add(chosen)}
      />
    </div>
  );
}
