import { describe, expect, it } from "vitest";
import { createQueue, type Port } from "./queue";

class Late extends Error {}

interface Answer {
  revision: number;
  about: string;
}

function port(): Port<Answer> & { known: number; open: number; log: string[] } {
  return {
    known: 0,
    open: 1,
    log: [],
    opening() {
      return this.open;
    },
    revision() {
      return this.known;
    },
    merge(answer) {
      this.known = answer.revision;
      this.log.push(answer.about);
    },
    async catchUp() {
      this.log.push("caught up");
      this.known = 9;
    },
    isLate: (error) => error instanceof Late,
    refuse(error) {
      this.log.push(`refused ${String(error)}`);
    },
  };
}

/** An answer that comes when it is told to. */
function pending(answer: Answer) {
  let come: (found: Answer) => void = () => undefined;
  const promise = new Promise<Answer>((resolve) => {
    come = resolve;
  });
  return { work: () => promise, come: () => come(answer) };
}

describe("the queue", () => {
  it("works one after another, each over the revision before", async () => {
    const on = port();
    const queue = createQueue(on);
    const first = pending({ revision: 1, about: "first" });
    const seen: number[] = [];
    const done = [
      queue.run(first.work),
      queue.run(async () => {
        seen.push(on.known);
        return { revision: on.known + 1, about: "second" };
      }),
    ];
    first.come();
    expect(await Promise.all(done)).toEqual([true, true]);
    expect(seen).toEqual([1]);
    expect(on.log).toEqual(["first", "second"]);
  });

  it("leaves out what was asked for a project that is not open any more", async () => {
    const on = port();
    const queue = createQueue(on);
    const slow = pending({ revision: 1, about: "of the old project" });
    const asked = queue.run(slow.work);
    let made = false;
    const behind = queue.run(async () => {
      made = true;
      return null;
    });
    await Promise.resolve();
    on.open = 2;
    slow.come();
    expect(await asked).toBe(true);
    expect(await behind).toBe(false);
    expect(made).toBe(false);
    expect(on.log).toEqual([]);
  });

  it("catches up where something came between, and never goes back", async () => {
    const on = port();
    const queue = createQueue(on);
    await queue.run(async () => ({ revision: 3, about: "later" }));
    expect(on.log).toEqual(["caught up"]);
    await queue.run(async () => ({ revision: 2, about: "older" }));
    expect(on.log).toEqual(["caught up"]);
  });

  it("catches up and says so when it came too late; it does not try again by itself", async () => {
    const on = port();
    const queue = createQueue(on);
    let tries = 0;
    const late = async () => {
      tries += 1;
      throw new Late("late");
    };
    expect(await queue.run(late)).toBe(false);
    expect(tries).toBe(1);
    expect(on.log).toEqual(["caught up", "refused Error: late"]);
    expect(await queue.run(late, true)).toBe(false);
    expect(on.log.at(-1)).toBe("caught up");
  });

  it("goes on after a failure", async () => {
    const on = port();
    const queue = createQueue(on);
    await expect(
      queue.between(async () => {
        throw new Error("no answer");
      }),
    ).rejects.toThrow("no answer");
    expect(await queue.run(async () => ({ revision: 1, about: "next" }))).toBe(true);
  });
});
