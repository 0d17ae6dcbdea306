/** The finishes, moving on the user's own frame and words; saving and sharing one's own. */

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Download, Upload } from "lucide-react";
import { RadioGroup } from "radix-ui";
import { useRef, useState } from "react";
import { api, type FinishView, type Piece, sendFile, take, takeAs } from "../api/client";
import { FileButton } from "../api/download";
import type { Player } from "../playback/player";
import { edit } from "../state/commands";
import { Button } from "../ui/Button";
import { FilePick } from "../ui/FilePick";
import { FIELD } from "../ui/fields";
import { say, sayWrong } from "../ui/notice";
import { Tip } from "../ui/Tip";
import { TraySection } from "../ui/TraySection";
import { FinishCard } from "./FinishCard";

export function FinishTab({ piece, player }: { piece: Piece; player: Player | null }) {
  const finishes = useQuery({
    queryKey: ["finishes"],
    queryFn: () => takeAs<FinishView[]>(api.GET("/api/finishes")),
  });
  const all = finishes.data ?? [];
  const own = all.filter((one) => one.id !== null);
  const built = all.filter((one) => one.id === null);
  return (
    <>
      <Current piece={piece} all={all} />
      {own.length > 0 && (
        <TraySection title="Your finishes">
          <Gallery piece={piece} player={player} finishes={own} />
        </TraySection>
      )}
      <TraySection title="From the workshop">
        <Gallery piece={piece} player={player} finishes={built} />
      </TraySection>
      <Files own={own.length > 0} />
    </>
  );
}

/** What the piece has now, and where a changed look goes. */
function Current({ piece, all }: { piece: Piece; all: FinishView[] }) {
  const client = useQueryClient();
  const [name, setName] = useState<string | null>(null);
  const { finish } = piece;
  const kept = all.find((one) => one.finish.name === finish.name);
  const changed = kept !== undefined && !sameLook(kept.finish, finish);
  const fresh = () => client.invalidateQueries({ queryKey: ["finishes"] });
  const attempt = async (work: () => Promise<unknown>) => {
    try {
      await work();
      await fresh();
    } catch (error) {
      sayWrong(error);
    }
  };
  const saveNew = () =>
    attempt(async () => {
      const made = await takeAs<FinishView>(
        api.POST("/api/finishes", { body: { name: name ?? "", finish } }),
      );
      setName(null);
      await edit({ kind: "set_finish", piece_id: piece.id, finish: made.finish });
      say(`Saved as “${made.finish.name}”.`);
    });
  const isDefault = all.some((one) => one.default && sameLook(one.finish, finish));
  return (
    <section className="mb-5 rounded border border-line bg-card p-3">
      <p>
        <b>{finish.name}</b>
        {changed && <span className="text-link"> · changed for this piece</span>}
      </p>
      <p className="text-dim">{finish.about}</p>
      {name === null ? (
        <div className="mt-2 flex flex-wrap gap-1.5">
          <Button onClick={() => setName("")}>Save as new…</Button>
          {changed && kept.id !== null && (
            <Button
              onClick={() =>
                void attempt(() =>
                  takeAs(
                    api.PUT("/api/finishes/{finish_id}", {
                      params: { path: { finish_id: kept.id as number } },
                      body: { finish },
                    }),
                  ),
                )
              }
            >
              Update “{finish.name}”
            </Button>
          )}
          {changed && (
            <Button
              onClick={() =>
                void edit({ kind: "set_finish", piece_id: piece.id, finish: kept.finish })
              }
            >
              Back to {finish.name}
            </Button>
          )}
          <Tip text="New pieces begin with it; else with the finish that was used last.">
            <Button
              kind="quiet"
              onClick={() =>
                void attempt(async () => {
                  await take(
                    api.PUT("/api/default-finish", { body: { finish: isDefault ? null : finish } }),
                  );
                })
              }
            >
              {isDefault ? "✓ Used for new pieces" : "Use for new pieces"}
            </Button>
          </Tip>
        </div>
      ) : (
        <form
          className="mt-2 flex gap-1.5"
          onSubmit={(event) => {
            event.preventDefault();
            void saveNew();
          }}
        >
          <input
            // biome-ignore lint/a11y/noAutofocus: it was just asked for
            autoFocus
            aria-label="Name of the new finish"
            placeholder="Its name"
            dir="auto"
            className={FIELD}
            maxLength={40}
            value={name}
            onChange={(event) => setName(event.target.value)}
            onKeyDown={(event) => event.key === "Escape" && setName(null)}
          />
          <Button kind="main" type="submit" disabled={!name.trim()}>
            Save
          </Button>
        </form>
      )}
    </section>
  );
}

function sameLook(one: object, other: object): boolean {
  return JSON.stringify(one) === JSON.stringify(other);
}

function Gallery(props: { piece: Piece; player: Player | null; finishes: FinishView[] }) {
  const { piece, player, finishes } = props;
  const choose = (name: string) => {
    const found = finishes.find((one) => one.finish.name === name);
    if (!found) return;
    const finish = found.id === null ? name : found.finish;
    void edit({ kind: "set_finish", piece_id: piece.id, finish });
  };
  return (
    <RadioGroup.Root
      aria-label="Finishes"
      value={piece.finish.name}
      onValueChange={choose}
      className="grid grid-cols-2 gap-2"
    >
      {finishes.map((one) => (
        <FinishCard key={one.finish.name} piece={piece} player={player} view={one} />
      ))}
    </RadioGroup.Root>
  );
}

function Files({ own }: { own: boolean }) {
  const client = useQueryClient();
  const picker = useRef<HTMLInputElement>(null);
  const bring = async (file: File | undefined) => {
    if (!file) return;
    try {
      const found = await sendFile<FinishView[]>("/api/finishes/file", file);
      await client.invalidateQueries({ queryKey: ["finishes"] });
      say(`Brought in: ${found.map((one) => one.finish.name).join(", ")}.`);
    } catch (error) {
      sayWrong(error);
    }
  };
  return (
    <div className="flex flex-wrap gap-1.5 border-t border-line pt-3">
      <Button onClick={() => picker.current?.click()}>
        <Upload size={15} /> Bring in a file
      </Button>
      <FilePick
        ref={picker}
        label="File of finishes"
        accept=".json,application/json"
        onFiles={([chosen]) => void bring(chosen)}
      />
      {own && (
        <FileButton
          className="inline-flex h-8 items-center gap-2 rounded border border-line bg-card px-3 hover:border-dim"
          url="/api/finishes/file"
        >
          <Download size={15} /> Yours as a file
        </FileButton>
      )}
    </div>
  );
}
