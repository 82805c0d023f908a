import { afterEach, describe, expect, it, vi } from "vitest";
import { z } from "zod";
import { emptyJob } from "@/core/document/schema";
import { ApiError, call, json } from "./client";
import { documentSchema, nothing } from "./common";
import { storedJob } from "./jobs";

const answers = (response: Response) => vi.stubGlobal("fetch", vi.fn().mockResolvedValue(response));
afterEach(() => vi.unstubAllGlobals());
const caught = (promise: Promise<unknown>) =>
  promise.then(
    () => null,
    (error: unknown) => error as ApiError,
  );

describe("a call", () => {
  it("sends a JSON body and reads the answer by its schema", async () => {
    answers(Response.json({ id: 7, more: "is left out" }));
    expect(await call(z.object({ id: z.int() }), "/api/x", json("POST", { a: 1 }))).toEqual({ id: 7 });
    expect(fetch).toHaveBeenCalledWith("/api/x", {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: '{"a":1}',
    });
  });
  it("takes an answer without a body", async () => {
    answers(new Response(null, { status: 204 }));
    expect(await call(nothing, "/api/x")).toBeNull();
  });
  it("fails with the server's words, its status, each wrong place and the body", async () => {
    const body = { error: "name: missing", faults: [{ path: "name", message: "missing" }], current: 3 };
    answers(Response.json(body, { status: 409 }));
    expect(await caught(call(nothing, "/api/x"))).toMatchObject({
      name: "ApiError",
      status: 409,
      message: "name: missing",
      issues: body.faults,
      body,
    });
  });
  it("says the status where a proxy answered in words of its own", async () => {
    answers(new Response("<html>bad gateway</html>", { status: 502 }));
    expect(await caught(call(nothing, "/api/x"))).toMatchObject({ status: 502, message: "The server answered 502." });
  });
  it.each([
    ["nothing that is JSON", new Response("oops")],
    ["something else", Response.json({ id: "seven" })],
  ])("fails where the server answers %s", async (_, response) => {
    answers(response);
    const error = await caught(call(z.object({ id: z.int() }), "/api/x"));
    expect(error).toBeInstanceOf(ApiError);
    expect(error!.message).toMatch(/could not be read/);
  });
  it("says in words where the server cannot be reached", async () => {
    vi.stubGlobal("fetch", vi.fn().mockRejectedValue(new TypeError("Failed to fetch")));
    const error = await caught(call(nothing, "/api/x"));
    expect(error).not.toBeInstanceOf(ApiError);
    expect(error).toMatchObject({ message: "The server cannot be reached." });
  });
});

describe("a job's document in an answer", () => {
  it("is read as the application reads any, and refused by its place where it is none", () => {
    const job = emptyJob("A");
    expect(storedJob.parse({ revision: 1, job: JSON.parse(JSON.stringify(job)) }).job).toEqual(job);
    const read = documentSchema.safeParse({ ...job, name: 7 });
    expect(read.error?.issues[0]?.path).toEqual(["name"]);
  });
});
