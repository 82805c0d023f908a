import { say } from "@/core/messages/say";
import { Refusal } from "../refusal";

/* Live streams stay open for hours: one person, or one workshop, must not hold all that a server can. */

/** Streams that one person, and one workshop, may have open on a server. */
const MOST_OF = { person: 12, workshop: 120 } as const;

const held = globalThis as { chillbankStreams?: Map<string, number> };
const open = (held.chillbankStreams ??= new Map());

/** Counts a stream as open; what is returned closes it, once. Throws a refusal where there are too many. */
export function openStream({ personId, workshopId }: { personId: string; workshopId: string }): () => void {
  const counted = [
    [`person ${personId}`, MOST_OF.person],
    [`workshop ${workshopId}`, MOST_OF.workshop],
  ] as const;
  for (const [whose, most] of counted)
    if ((open.get(whose) ?? 0) >= most) throw new Refusal(429, say("server.stream.tooMany", { most }));
  for (const [whose] of counted) open.set(whose, (open.get(whose) ?? 0) + 1);
  let closed = false;
  return () => {
    if (closed) return;
    closed = true;
    for (const [whose] of counted) {
      const left = open.get(whose)! - 1;
      if (left > 0) open.set(whose, left);
      else open.delete(whose);
    }
  };
}
