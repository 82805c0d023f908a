import { describe, expect, it } from "vitest";
import { Turns } from "./turns";

const full = () => new Error("full");
/** Work that ends when it is told to, in a list of what was begun. */
function bench(turns: Turns) {
  const begun: string[] = [];
  const ends = new Map<string, () => void>();
  const ask = (whose: string, name: string, more: { signal?: AbortSignal; told?: (ahead: number) => void } = {}) =>
    turns.take(
      whose,
      () => {
        begun.push(name);
        return new Promise<string>((resolve) => ends.set(name, () => resolve(name)));
      },
      { full, ...more },
    );
  const end = async (name: string) => {
    ends.get(name)!();
    await new Promise((resolve) => setTimeout(resolve));
  };
  return { begun, ask, end };
}

describe("turns", () => {
  it("go round the people who wait, each with their own in order", async () => {
    const { begun, ask, end } = bench(new Turns(1, 9));
    const all = [ask("a", "a1"), ask("a", "a2"), ask("a", "a3"), ask("b", "b1"), ask("c", "c1")];
    for (const name of ["a1", "a2", "b1", "c1", "a3"]) await end(name);
    expect(begun).toEqual(["a1", "a2", "b1", "c1", "a3"]);
    expect(await Promise.all(all)).toEqual(["a1", "a2", "a3", "b1", "c1"]);
  });
  it("tell how many go before, as they come to be fewer", async () => {
    const { ask, end } = bench(new Turns(1, 9));
    const told: number[] = [];
    void ask("a", "a1");
    void ask("a", "a2");
    void ask("b", "b1", { told: (ahead) => told.push(ahead) });
    await end("a1");
    await end("a2");
    expect(told).toEqual([2, 1]);
  });
  it("that are given up are passed over, and the rest goes on", async () => {
    const { begun, ask, end } = bench(new Turns(1, 9));
    const leave = new AbortController();
    void ask("a", "a1");
    const given = ask("b", "b1", { signal: leave.signal });
    const last = ask("c", "c1");
    leave.abort(new Error("left"));
    await expect(given).rejects.toThrow("left");
    await end("a1");
    await end("c1");
    expect([begun, await last]).toEqual([["a1", "c1"], "c1"]);
  });
  it("are refused to whoever has too many, and to nobody else", async () => {
    const { ask } = bench(new Turns(1, 2));
    void ask("a", "a1");
    void ask("a", "a2");
    void ask("a", "a3");
    await expect(ask("a", "a4")).rejects.toThrow("full");
    void ask("b", "b1");
  });
  it("go on after work that broke down", async () => {
    const turns = new Turns(1, 9);
    await expect(turns.take("a", () => Promise.reject(new Error("broke")), { full })).rejects.toThrow("broke");
    expect(await turns.take("b", () => Promise.resolve("done"), { full })).toBe("done");
  });
});
