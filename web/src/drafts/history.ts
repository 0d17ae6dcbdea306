/** What was typed in a caption and not sent yet, step by step, to go back and forth in. */
export interface Typed {
  text: string;
  /** The caret, in letters from the start. */
  caret: number;
}

/** Letters typed without a longer rest are one step. */
const REST_MS = 1_000;

export class TypedHistory {
  private steps: Typed[];
  private at = 0;
  private last = { kind: "", time: 0 };

  constructor(start: Typed) {
    this.steps = [start];
  }

  get now(): Typed {
    return this.steps[this.at] as Typed;
  }

  /**
   * Take a new state. `kind` says how it came about (the input event's type); the same kind soon
   * after is the same step, but a new word is a new one.
   */
  record(next: Typed, kind: string, time: number): void {
    if (next.text === this.now.text) {
      this.now.caret = next.caret;
      return;
    }
    const same = kind === this.last.kind && time - this.last.time < REST_MS && this.at > 0;
    const word = kind === "insertText" && /\s$/.test(this.now.text.slice(0, this.now.caret));
    this.steps.length = this.at + 1;
    if (same && !word) this.steps[this.at] = next;
    else {
      this.steps.push(next);
      this.at += 1;
    }
    this.last = { kind, time };
  }

  back(): Typed | null {
    if (!this.at) return null;
    this.last = { kind: "", time: 0 };
    this.at -= 1;
    return this.now;
  }

  forth(): Typed | null {
    if (this.at + 1 >= this.steps.length) return null;
    this.at += 1;
    return this.now;
  }
}
