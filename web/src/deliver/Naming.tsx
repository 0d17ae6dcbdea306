/** How the files are named. */
import { useEffect, useState } from "react";
import type { Piece } from "../api/client";
import { edit } from "../state/commands";
import { FIELD } from "../ui/fields";
import { TraySection } from "../ui/TraySection";
import type { Output } from "./outputs";

export function Naming(props: {
  piece: Piece;
  outputs: Output[];
  /** The name of the first file. */
  example: string | undefined;
}) {
  const { piece, outputs, example } = props;
  const [typed, setTyped] = useState(piece.naming);
  useEffect(() => setTyped(piece.naming), [piece.naming]);
  return (
    <TraySection title="Names">
      <input
        aria-label="Pattern of the names"
        placeholder="{project} {shape}"
        maxLength={120}
        className={FIELD}
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={() =>
          typed !== piece.naming &&
          void edit({
            kind: "set_outputs",
            piece_id: piece.id,
            outputs,
            naming: typed,
          })
        }
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
      />
      <p className="text-small text-dim">
        {"{project}, {piece}, {shape}, {date}, {number} and {part} are filled in."}
        {example && (
          <>
            {" "}
            Now: <span className="wrap-anywhere">{example}</span>
          </>
        )}
      </p>
    </TraySection>
  );
}
