import type { z } from "zod";
import { say } from "@/core/messages/say";
import { errorSchema, type issueSchema } from "./common";

/** An answer that was not the one asked for: its status, its words, each wrong place, and its body. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly issues: readonly z.infer<typeof issueSchema>[] = [],
    readonly body: unknown = null,
  ) {
    super(message);
    this.name = "ApiError";
  }
}

/** A request with a JSON body. */
export const json = (method: "POST" | "PUT", body: unknown): RequestInit => ({
  method,
  headers: { "content-type": "application/json" },
  body: JSON.stringify(body),
});

async function errorOf(response: Response): Promise<ApiError> {
  const body: unknown = await response.json().catch(() => null);
  const read = errorSchema.safeParse(body);
  return read.success
    ? new ApiError(response.status, read.data.error, read.data.faults, body)
    : new ApiError(response.status, say("interface.serverAnswered", { status: response.status }));
}

/** Event of the window after the server answered that nobody is signed in. */
export const SIGNED_OUT = "chillbank-signed-out";

/** Calls the server and returns the response where it is a good one; throws an ApiError otherwise. */
export async function send(path: string, init?: RequestInit): Promise<Response> {
  const response = await fetch(path, init).catch((error: Error) => {
    // What a browser says of a broken line is its own and for nobody to read; a call that was given up says so itself.
    throw error instanceof TypeError ? new Error(say("interface.serverNotReached"), { cause: error }) : error;
  });
  if (response.ok) return response;
  if (response.status === 401 && typeof window !== "undefined") window.dispatchEvent(new Event(SIGNED_OUT));
  throw await errorOf(response);
}

/**
 * Calls the server and reads its answer by a schema. Throws an ApiError where the server refuses or answers what the
 * schema does not know, and an Error that says so where the server cannot be reached.
 */
export async function call<T extends z.ZodType>(answer: T, path: string, init?: RequestInit): Promise<z.infer<T>> {
  const response = await send(path, init);
  const body: unknown = response.status === 204 ? null : await response.json().catch(() => undefined);
  const read = answer.safeParse(body);
  if (read.success) return read.data;
  throw new ApiError(response.status, say("interface.answerNotRead"), [], body);
}
