/** Accents: mark the word at the playhead, or take its mark away. */
import { Toggle } from "radix-ui";
import { useMemo } from "react";
import { hintOf } from "../actions/action";
import { action } from "../actions/index";
import type { Finish, Piece } from "../api/client";
import type { Player } from "../playback/player";
import { edit } from "../state/commands";
import { mark } from "../state/marks";
import { useProject } from "../state/store";
import { Button } from "../ui/Button";
import { Tip } from "../ui/Tip";
import { TraySection } from "../ui/TraySection";
import { AccentEditor } from "./AccentEditor";
import { EmojiPicker } from "./EmojiPicker";
import { useLiveWord } from "./liveWord";
import { Patterns } from "./Patterns";
import { Suggestions } from "./Suggestions";
import { WordSection } from "./WordSection";

export function AccentsTab({ piece, player }: { piece: Piece; player: Player | null }) {
  const { finish } = piece;
  const word = useLiveWord(player);
  const cues = useProject((state) => state.cues);
  const takeBack = (what: "marks" | "word" | "overrides", text = "") =>
    void edit({ kind: "take_back", piece_id: piece.id, what, text });
  const overridden = useMemo(
    () =>
      Object.keys(piece.speaker_looks).length > 0 ||
      cues.some(
        (cue) =>
          Object.keys(cue.look).length > 0 ||
          cue.words.some((one) => Object.keys(one.own).length > 0),
      ),
    [cues, piece.speaker_looks],
  );
  const marked = useMemo(
    () => cues.reduce((n, cue) => n + cue.words.filter((w) => w.accent > 0).length, 0),
    [cues],
  );
  return (
    <>
      <TraySection
        title="Accents"
        about={
          word ? (
            <>
              For the word “<b className="text-ink">{word.text}</b>”. Click another in the Strip.
            </>
          ) : (
            "Click a word in the Strip, then choose how it stands out."
          )
        }
      >
        <ul className="grid grid-cols-2 gap-1.5">
          {finish.accents.map((accent, index) => (
            <li key={accent.name}>
              <AccentButton
                name={accent.name}
                about={accent.about}
                hint={String(index + 1)}
                colour={firstColour(accent.plate?.colour ?? accent.past ?? finish.past)}
                chosen={word?.accent === index + 1}
                disabled={!word}
                onChoose={() => mark(player, index + 1)}
              />
            </li>
          ))}
          <li>
            <AccentButton
              name="None"
              about="As the finish has it."
              hint="0"
              colour={null}
              chosen={word?.accent === 0}
              disabled={!word}
              onChoose={() => mark(player, 0)}
            />
          </li>
        </ul>
        {word && (
          <div className="flex flex-wrap gap-1.5">
            <Tip text={hintOf(action("mark-everywhere"))}>
              <Button onClick={() => action("mark-everywhere").run(player)}>
                {word.accent ? "Everywhere it occurs" : "Mark everywhere"}
              </Button>
            </Tip>
            {(word.accent > 0 || Object.keys(word.own).length > 0) && (
              <Button kind="quiet" onClick={() => takeBack("word", word.text)}>
                Take back all of “{word.text}”
              </Button>
            )}
          </div>
        )}
        <p className="text-small text-dim">
          {marked
            ? `${marked} marked word${marked > 1 ? "s" : ""} in the piece. Another finish keeps them.`
            : "Nothing is marked yet."}
        </p>
        <div className="flex flex-wrap gap-1.5">
          {marked > 0 && (
            <Button kind="quiet" onClick={() => takeBack("marks")}>
              Take back all marks
            </Button>
          )}
          {overridden && (
            <Button kind="quiet" onClick={() => takeBack("overrides")}>
              Take back all overrides
            </Button>
          )}
        </div>
      </TraySection>
      <AccentEditor piece={piece} chosen={word?.accent ?? 0} />
      <WordSection piece={piece} player={player} />
      <Suggestions piece={piece} player={player} />
      <Patterns piece={piece} />
      <EmojiPicker piece={piece} player={player} />
    </>
  );
}

/** What stands for a paint where there is room for one colour. */
function firstColour(paint: Finish["past"]): readonly number[] {
  return Array.isArray(paint) ? paint : paint.last;
}

function AccentButton(props: {
  name: string;
  about: string;
  hint: string;
  colour: readonly number[] | null;
  chosen: boolean;
  disabled: boolean;
  onChoose: () => void;
}) {
  const { name, about, hint, colour, chosen, disabled, onChoose } = props;
  return (
    <Toggle.Root
      pressed={chosen}
      disabled={disabled}
      aria-description={about}
      className={`flex w-full items-center gap-2 rounded border bg-card px-2.5 py-1.5 text-left disabled:opacity-45 ${
        chosen ? "border-chalk" : "border-line hover:border-dim"
      }`}
      onPressedChange={onChoose}
    >
      <span
        aria-hidden
        className="size-3.5 rounded-full border border-line"
        style={colour ? { background: `rgb(${colour.slice(0, 3).join(" ")})` } : undefined}
      />
      <span className="flex-1 truncate">{name}</span>
      <kbd className="tabular text-[11px] text-dim">{hint}</kbd>
    </Toggle.Root>
  );
}
