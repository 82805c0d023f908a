import { describe, expect, it, vi } from "vitest";
import { askWorker, borrowWorker, createWorkerClient, questionLine } from "./worker-client";

/** A worker that answers nothing by itself. */
class SilentWorker extends EventTarget {
  terminated = false;
  postMessage(): void {}
  terminate(): void {
    this.terminated = true;
  }
}
interface Clock {
  now(): number;
}
const silent = () => {
  const worker = new SilentWorker();
  const start = vi.fn(() => worker as unknown as Worker);
  return { worker, start };
};

describe("a worker that breaks down", () => {
  it.each(["error", "messageerror"])("fails the calls that wait for it, on %s", async (event) => {
    const { worker, start } = silent();
    const client = createWorkerClient<Clock>(start);
    const answer = client.call((remote) => remote.now());
    worker.dispatchEvent(new Event(event));
    await expect(answer).rejects.toThrow(/calculation has stopped/);
  });
  it("fails the calls that come after, at once", async () => {
    const { worker, start } = silent();
    const client = createWorkerClient<Clock>(start);
    worker.dispatchEvent(new Event("error"));
    await expect(client.call((remote) => remote.now())).rejects.toThrow(/calculation has stopped/);
  });
  it("is ended when its one question has failed", async () => {
    const { worker, start } = silent();
    const answer = askWorker<Clock, Promise<number>>(start, (remote) => remote.now());
    worker.dispatchEvent(new Event("error"));
    await expect(answer).rejects.toThrow();
    expect(worker.terminated).toBe(true);
  });
});

describe("a worker that was given back", () => {
  it("is the next one's, without a new start", () => {
    const { worker, start } = silent();
    borrowWorker<Clock>(start).terminate();
    expect(worker.terminated).toBe(false);
    borrowWorker<Clock>(start);
    expect(start).toHaveBeenCalledTimes(1);
  });
  it("is no second one's at the same time", () => {
    const { start } = silent();
    borrowWorker<Clock>(start).terminate();
    borrowWorker<Clock>(start);
    borrowWorker<Clock>(start);
    expect(start).toHaveBeenCalledTimes(2);
  });
  it("is ended where a call is under way", () => {
    const { worker, start } = silent();
    const client = borrowWorker<Clock>(start);
    void client.call((remote) => remote.now());
    client.terminate();
    expect(worker.terminated).toBe(true);
  });
  it("is ended where it broke down", async () => {
    const { worker, start } = silent();
    const client = borrowWorker<Clock>(start);
    const answer = client.call((remote) => remote.now());
    worker.dispatchEvent(new Event("error"));
    await expect(answer).rejects.toThrow();
    client.terminate();
    expect(worker.terminated).toBe(true);
  });
  it("is ended when nobody has asked for it for a minute", () => {
    vi.useFakeTimers();
    const { worker, start } = silent();
    borrowWorker<Clock>(start).terminate();
    vi.advanceTimersByTime(59_000);
    expect(worker.terminated).toBe(false);
    vi.advanceTimersByTime(2_000);
    expect(worker.terminated).toBe(true);
    vi.useRealTimers();
  });
});

describe("questions in a line", () => {
  it("are not put where a newer one replaced them before their turn", async () => {
    const inTurn = questionLine();
    const put = vi.fn(async (what: string) => what);
    let newest = "";
    const ask = (what: string) => {
      newest = what;
      return inTurn(
        () => newest === what,
        () => put(what),
      );
    };
    await Promise.all([ask("first"), ask("second"), ask("third")]);
    expect(put.mock.calls).toEqual([["third"]]);
  });
  it("are put after one that failed", async () => {
    const inTurn = questionLine();
    const failed = inTurn(
      () => true,
      () => Promise.reject(new Error("stopped")),
    );
    const next = inTurn(
      () => true,
      async () => 7,
    );
    await expect(failed).rejects.toThrow("stopped");
    expect(await next).toBe(7);
  });
});
