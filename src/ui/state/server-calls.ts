import type { Rig } from "@/core/document/schema";
import { say } from "@/core/messages/say";

export type SaveAnswer =
  | { outcome: "saved"; revision: number; updatedAt: string }
  | { outcome: "elsewhere"; revision: number; rig: Rig }
  | { outcome: "gone" }
  | { outcome: "refused"; message: string }
  | { outcome: "unreachable" };

export const json = (method: string, body: unknown): RequestInit => ({
  method,
  headers: { "content-type": "application/json" },
  body: JSON.stringify(body),
});

export async function messageOf(response: Response): Promise<string> {
  const body = (await response.json().catch(() => null)) as { error?: string } | null;
  return body?.error ?? say("interface.serverAnswered", { status: response.status });
}

/** Sends a rig over the revision it was read at. Never throws. */
export async function sendRig(id: string, revision: number, rig: Rig, keepalive = false): Promise<SaveAnswer> {
  try {
    const response = await fetch(`/api/rigs/${id}`, {
      ...json("PUT", { revision, rig }),
      keepalive,
      signal: keepalive ? undefined : AbortSignal.timeout(15_000),
    });
    if (response.ok)
      return { outcome: "saved", ...((await response.json()) as { revision: number; updatedAt: string }) };
    if (response.status === 409) {
      const { current } = (await response.json()) as { current: { revision: number; rig: Rig } };
      return { outcome: "elsewhere", revision: current.revision, rig: current.rig };
    }
    if (response.status === 404) return { outcome: "gone" };
    if (response.status >= 500) return { outcome: "unreachable" };
    return { outcome: "refused", message: await messageOf(response) };
  } catch {
    return { outcome: "unreachable" };
  }
}

/** What the server holds now, or null where it cannot be asked or the job is gone. */
export async function fetchRig(id: string): Promise<{ revision: number; rig: Rig } | null> {
  try {
    const response = await fetch(`/api/rigs/${id}`, { signal: AbortSignal.timeout(15_000) });
    return response.ok ? ((await response.json()) as { revision: number; rig: Rig }) : null;
  } catch {
    return null;
  }
}

/** Makes a job of a rig and returns its id; throws with a message to show. */
export async function makeJob(rig: unknown): Promise<string> {
  const response = await fetch("/api/rigs", json("POST", { rig }));
  if (!response.ok) throw new Error(await messageOf(response));
  return ((await response.json()) as { id: string }).id;
}

/** Duplicates, deletes or restores a job; throws with a message to show. */
export async function jobCall(id: string, what: "duplicate" | "delete" | "restore"): Promise<{ id?: string }> {
  const response = await fetch(what === "delete" ? `/api/rigs/${id}` : `/api/rigs/${id}/${what}`, {
    method: what === "delete" ? "DELETE" : "POST",
  });
  if (!response.ok) throw new Error(await messageOf(response));
  return response.status === 204 ? {} : ((await response.json()) as { id: string });
}

/** Asks the server; its own words as an error where it refuses. Null where there is nothing to answer. */
export async function ask<T>(path: string, init?: RequestInit): Promise<T> {
  const response = await fetch(path, init);
  if (!response.ok) throw new Error(await messageOf(response));
  return (response.status === 204 ? null : await response.json()) as T;
}
