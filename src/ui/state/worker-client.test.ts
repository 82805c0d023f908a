import { describe, expect, it } from "vitest";
import { askWorker, createWorkerClient } from "./worker-client";

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
  return { worker, start: () => worker as unknown as Worker };
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
