/**
 * The address holds piece, stage and caption: Back, reload and a sent address lead there. A stage or
 * a piece that is gone to is a step back; a caption is not.
 */
import { goTo, STAGES, type Stage, useStage } from "../stages/stage";
import { showPiece } from "./server";
import { select } from "./session";
import { openPiece, useProject } from "./store";

export interface Place {
  piece: number | null;
  stage: Stage | null;
  caption: number | null;
}

const REST_MS = 300;

/** What an address says; nothing of what is none of ours. */
export function placeOf(query: string): Place {
  const asked = new URLSearchParams(query);
  const number = (name: string) => {
    const text = asked.get(name) ?? "";
    return /^\d{1,15}$/.test(text) ? Number(text) : null;
  };
  const stage = STAGES.find((one) => one.toLowerCase() === asked.get("stage")) ?? null;
  return { piece: number("piece"), stage, caption: number("caption") };
}

export function queryOf({ piece, stage, caption }: Place): string {
  const said = new URLSearchParams();
  if (piece !== null) said.set("piece", String(piece));
  if (stage) said.set("stage", stage.toLowerCase());
  if (caption !== null) said.set("caption", String(caption));
  return `?${said}`;
}

function here(): Place {
  const state = useProject.getState();
  return {
    piece: openPiece(state)?.id ?? null,
    stage: useStage.getState().stage,
    caption: state.selected,
  };
}

/** Go to what an address says, as far as it is there. */
export async function goToPlace({ piece, stage, caption }: Place): Promise<void> {
  const { project } = useProject.getState();
  if (project?.pieces.some((one) => one.id === piece) && piece !== null) await showPiece(piece);
  if (stage) goTo(stage);
  if (useProject.getState().cues.some((cue) => cue.id === caption)) select(caption);
}

/** Keep the address at what is looked at, and go where Back leads; the returned function ends it. */
export function followAddress(): () => void {
  const over = new AbortController();
  let going = false;
  let timer = 0;
  const write = (step: boolean) => {
    window.clearTimeout(timer);
    const query = queryOf(here());
    if (going || query === location.search) return;
    if (step) history.pushState(null, "", query);
    else history.replaceState(null, "", query);
  };
  write(false);
  const stops = [
    useStage.subscribe((now, before) => now.stage !== before.stage && write(true)),
    useProject.subscribe((now, before) => {
      if (now.pieceId !== before.pieceId) write(true);
      else if (now.selected !== before.selected) {
        window.clearTimeout(timer);
        timer = window.setTimeout(() => write(false), REST_MS);
      }
    }),
  ];
  const back = async () => {
    going = true;
    await goToPlace(placeOf(location.search)).finally(() => {
      going = false;
    });
  };
  window.addEventListener("popstate", () => void back(), { signal: over.signal });
  return () => {
    over.abort();
    window.clearTimeout(timer);
    for (const stop of stops) stop();
  };
}
