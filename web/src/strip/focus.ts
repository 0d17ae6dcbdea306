/** Put the caret into a caption's text once it is on the page, at a letter or with all of it marked. */
export function focusCue(cueId: number, letter?: number): void {
  window.setTimeout(() => {
    const box = document.querySelector<HTMLElement>(`[data-cue-text="${cueId}"]`);
    if (!box) return;
    box.focus();
    if (letter !== undefined) placeCaret(box, letter);
  }, 60);
}

function placeCaret(box: HTMLElement, letter: number): void {
  const texts = document.createTreeWalker(box, NodeFilter.SHOW_TEXT);
  let left = letter;
  let last: Node | null = null;
  for (let node = texts.nextNode(); node; node = texts.nextNode()) {
    last = node;
    const size = node.textContent?.length ?? 0;
    if (left <= size) {
      window.getSelection()?.collapse(node, left);
      return;
    }
    left -= size;
  }
  if (last) window.getSelection()?.collapse(last, last.textContent?.length ?? 0);
}
