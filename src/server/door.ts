import { z } from "zod";
import { readRig, type Fault, type Rig } from "../core/rig/document";

/** Largest request body taken: many times the largest rig. */
const LARGEST_BYTES = 512 * 1024;

export type Refusal = { status: number; message: string; faults?: Fault[] };

/** A refusal as the browser and scripts read it. */
export function refuse({ status, message, faults = [] }: Refusal): Response {
  return Response.json({ error: message, faults }, { status });
}

/**
 * Until there is sign-in the server answers this machine alone: a page of another site, or a name that was pointed
 * at loopback, must not drive it.
 */
export function foreign(request: Request): Refusal | null {
  const host = (request.headers.get("host") ?? "").replace(/:\d+$/, "");
  if (!["127.0.0.1", "localhost", "[::1]"].includes(host))
    return { status: 403, message: "This Chillbank answers this machine alone." };
  const site = request.headers.get("sec-fetch-site");
  if (site && site !== "same-origin" && site !== "none")
    return { status: 403, message: "Requests from other sites are refused." };
  return null;
}

/** Reads a JSON body of at most 512 kB. */
export async function readBody(
  request: Request,
): Promise<{ ok: true; body: unknown } | { ok: false; refusal: Refusal }> {
  const bad = (status: number, message: string) => ({ ok: false as const, refusal: { status, message } });
  if (!request.headers.get("content-type")?.startsWith("application/json"))
    return bad(415, "JSON expected (content-type application/json).");
  const declared = Number(request.headers.get("content-length") ?? 0);
  if (declared > LARGEST_BYTES) return bad(413, "Too large: at most 512 kB.");
  const text = await request.text();
  if (text.length > LARGEST_BYTES) return bad(413, "Too large: at most 512 kB.");
  try {
    return { ok: true, body: JSON.parse(text) };
  } catch (error) {
    return bad(400, `Not JSON: ${(error as Error).message}`);
  }
}

/** Reads a rig out of a body's `rig`, with paths as in the document. */
export function rigOfBody(body: unknown): { ok: true; rig: Rig } | { ok: false; refusal: Refusal } {
  const read = readRig((body as { rig?: unknown } | null)?.rig);
  if (read.ok) return read;
  const first = read.faults[0]!;
  return {
    ok: false,
    refusal: {
      status: 400,
      message: `Not a rig document: ${first.path || "the whole"}: ${first.message}`,
      faults: read.faults,
    },
  };
}

export const revisionSchema = z.object({ revision: z.int().min(1).max(4_000_000_000) });
