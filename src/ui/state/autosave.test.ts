/* Saving without a browser: its clock, storage and events are stood in for, and the server by its answers. */
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { emptyJob, type Job } from "@/core/document/schema";
import { startAutosave } from "./autosave";
import { createSheetStore } from "./sheet-store";

class Page extends EventTarget {
  visibilityState = "visible";
}
let page: Page;
let shelf: Map<string, string>;
let answers: (() => Promise<Response>)[];
let stop: (() => void) | null = null;

const ok =
  (body: unknown, status = 200) =>
  () =>
    Promise.resolve(Response.json(body, { status }));
const saved = (revision: number) => ok({ revision, updatedAt: "now" });
const away = () => Promise.reject(new TypeError("Failed to fetch"));
const sent = () =>
  vi.mocked(fetch).mock.calls.map(([, init]) => JSON.parse(init?.body as string) as { revision: number; job: Job });

beforeEach(() => {
  vi.useFakeTimers({ now: Date.UTC(2026, 6, 1) });
  page = new Page();
  shelf = new Map();
  answers = [];
  vi.stubGlobal("document", page);
  vi.stubGlobal("window", page);
  vi.stubGlobal("localStorage", {
    getItem: (key: string) => shelf.get(key) ?? null,
    setItem: (key: string, text: string) => shelf.set(key, text),
    removeItem: (key: string) => shelf.delete(key),
  });
  vi.stubGlobal(
    "fetch",
    vi.fn(() => answers.shift()!()),
  );
});
afterEach(() => {
  stop?.();
  stop = null;
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

function open(onRecovered = () => {}) {
  const store = createSheetStore({ id: "job", revision: 1, job: emptyJob("Job") });
  stop = startAutosave(store, onRecovered);
  return store;
}
const name = (store: ReturnType<typeof open>, text: string) => store.getState().put("name", text);
const settle = () => vi.advanceTimersByTimeAsync(1000);

describe("an edit", () => {
  it("is sent once it has settled, with all that was typed meanwhile", async () => {
    answers = [saved(2)];
    const store = open();
    name(store, "A");
    await vi.advanceTimersByTimeAsync(500);
    name(store, "AB");
    expect(store.getState().save.kind).toBe("unsaved");
    await settle();
    expect(sent().map(({ revision, job }) => [revision, job.name])).toEqual([[1, "AB"]]);
    expect(store.getState()).toMatchObject({ save: { kind: "saved" }, base: { revision: 2 } });
  });
  it("that is undone to what is stored is not sent", async () => {
    const store = open();
    name(store, "A");
    store.temporal.getState().undo();
    await settle();
    expect(fetch).not.toHaveBeenCalled();
    expect(store.getState().save.kind).toBe("saved");
  });
  it("made while another is under way is sent after it, over the new revision", async () => {
    let answer: (response: Response) => void = () => {};
    answers = [() => new Promise((resolve) => (answer = resolve)), saved(3)];
    const store = open();
    name(store, "A");
    await settle();
    name(store, "B");
    answer(Response.json({ revision: 2, updatedAt: "now" }));
    await settle();
    expect(sent().map(({ revision, job }) => [revision, job.name])).toEqual([
      [1, "A"],
      [2, "B"],
    ]);
  });
});

describe("where the server is away", () => {
  it("the edit is kept as a draft, said to be unsaved, and sent when the server is back", async () => {
    answers = [away, saved(2)];
    const store = open();
    name(store, "A");
    await settle();
    expect(store.getState().save).toEqual({ kind: "offline", reason: "Not saved: no connection, trying again" });
    expect(JSON.parse(shelf.get("chillbank.draft.job")!)).toMatchObject({ revision: 1, job: { name: "A" } });
    await vi.advanceTimersByTimeAsync(5000);
    expect(store.getState().save.kind).toBe("saved");
    expect(shelf.has("chillbank.draft.job")).toBe(false);
  });
  it("a connection that comes back sends at once", async () => {
    answers = [away, saved(2)];
    const store = open();
    name(store, "A");
    await settle();
    page.dispatchEvent(new Event("online"));
    await vi.advanceTimersByTimeAsync(10);
    expect(store.getState().save.kind).toBe("saved");
  });
  it("a refusal is told in the server's words and not sent again by itself", async () => {
    answers = [ok({ error: "name: too long" }, 400)];
    const store = open();
    name(store, "A");
    await vi.advanceTimersByTimeAsync(20_000);
    expect(store.getState().save).toEqual({ kind: "offline", reason: "Not saved: name: too long" });
    expect(fetch).toHaveBeenCalledTimes(1);
  });
});

describe("where another window saved", () => {
  const theirs = { revision: 4, job: emptyJob("Theirs") };
  it("the save stops and shows what stands there", async () => {
    answers = [ok({ error: "changed", current: theirs }, 409)];
    const store = open();
    name(store, "Mine");
    await settle();
    expect(store.getState()).toMatchObject({ save: { kind: "conflict" }, elsewhere: theirs });
  });
  it("a window without edits takes it over when it is looked at again", async () => {
    answers = [ok(theirs)];
    const store = open();
    page.dispatchEvent(new Event("focus"));
    await settle();
    expect(store.getState()).toMatchObject({ job: { name: "Theirs" }, base: { revision: 4 }, save: { kind: "saved" } });
  });
  it("a deleted job is said to be gone", async () => {
    answers = [ok({ error: "gone" }, 404)];
    const store = open();
    name(store, "A");
    await settle();
    expect(store.getState().save.kind).toBe("gone");
  });
});

describe("a draft that a window was closed with", () => {
  const draft = (revision: number, at: number) =>
    shelf.set("chillbank.draft.job", JSON.stringify({ revision, job: emptyJob("Draft"), base: emptyJob("Job"), at }));
  it("is brought back and told of", async () => {
    draft(1, Date.now() - 60_000);
    answers = [saved(2)];
    const recovered = vi.fn();
    // The edit is made as the sheet opens: whoever looks at the store sees it at once.
    const store = open(recovered);
    expect(recovered).toHaveBeenCalledOnce();
    expect(store.getState().job.name).toBe("Draft");
    await settle();
    expect(sent()[0]!.job.name).toBe("Draft");
  });
  it("asks where the server has gone on since", () => {
    draft(0, Date.now() - 60_000);
    const store = open();
    expect(store.getState()).toMatchObject({ save: { kind: "conflict" }, elsewhere: { revision: 1 } });
  });
  it("is left alone while the window that wrote it may still be open", () => {
    draft(1, Date.now() - 1000);
    expect(open().getState().job.name).toBe("Job");
  });
  it("is no draft where it is broken", () => {
    shelf.set("chillbank.draft.job", '{"revision":1,"job":{"name":3}');
    expect(open().getState().job.name).toBe("Job");
  });
});
