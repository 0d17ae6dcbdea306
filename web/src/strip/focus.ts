/** Put the caret into a caption's text, wherever on the Strip it stands. */
import { wentElsewhere } from "../focus/held";
import { useStage } from "../stages/stage";
import { select } from "../state/session";
import { useProject } from "../state/store";
import { selectLetters } from "./cueDom";

const MOST_TRIES = 30;

/**
 * At a letter, or where the browser puts it. A caption out of view is scrolled to first. Who has
 * pressed somewhere else meanwhile stays there.
 */
export async function focusCue(cueId: number, letter?: number, upTo = letter): Promise<void> {
  if (wentElsewhere()) return;
  select(cueId);
  // At time scale only the caption that is typed in has a text box.
  if (useStage.getState().stage === "Pace") useProject.setState({ typing: cueId });
  for (let tries = 0; tries < MOST_TRIES; tries += 1) {
    const box = document.querySelector<HTMLElement>(`[data-cue-text="${cueId}"]`);
    if (box?.isContentEditable) {
      box.focus({ preventScroll: true });
      if (letter !== undefined) selectLetters(box, letter, upTo ?? letter);
      return;
    }
    await new Promise((next) => requestAnimationFrame(next));
    if (wentElsewhere()) return;
  }
}
