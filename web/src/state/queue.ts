/** Work on a project, one thing after another, each with the newest revision known by then. */

/** What the queue works for. */
export interface Port<Answer> {
  /** Changes whenever another project is opened. */
  opening(): number;
  revision(): number;
  merge(answer: Answer): void;
  /** Fetch what was changed since the revision that is known. */
  catchUp(): Promise<void>;
  /** Whether an error says that work came too late. */
  isLate(error: unknown): boolean;
  refuse(error: unknown): void;
}

export interface Queue<Answer> {
  /** Do work in turn; resolves to whether it was taken. A refusal is told unless it is `quiet`. */
  run(work: () => Promise<Answer | null>, quiet?: boolean): Promise<boolean>;
  /** Do something between two works, for the same project. */
  between(work: () => Promise<void>): Promise<void>;
}

export function createQueue<Answer extends { revision: number }>(
  port: Port<Answer>,
): Queue<Answer> {
  let tail: Promise<unknown> = Promise.resolve();

  function inTurn<T>(work: (stillOpen: () => boolean) => Promise<T>, other: T): Promise<T> {
    const asked = port.opening();
    const stillOpen = () => port.opening() === asked;
    const next = tail.then(() => (stillOpen() ? work(stillOpen) : other));
    tail = next.catch(() => undefined);
    return next;
  }

  async function take(answer: Answer): Promise<void> {
    // Where something came between, this answer alone would leave it out.
    if (answer.revision === port.revision() + 1) port.merge(answer);
    else if (answer.revision > port.revision()) await port.catchUp();
  }

  return {
    run: (work, quiet = false) =>
      inTurn(async (stillOpen) => {
        try {
          const answer = await work();
          if (answer && stillOpen()) await take(answer);
          return true;
        } catch (error) {
          if (!stillOpen()) return false;
          if (port.isLate(error)) await port.catchUp();
          if (!quiet) port.refuse(error);
          return false;
        }
      }, false),
    between: (work) => inTurn(work, undefined),
  };
}
