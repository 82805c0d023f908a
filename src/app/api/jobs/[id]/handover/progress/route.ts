import { makeHandover, pagesOf } from "@/server/papers/handover-making";
import { drawDiagram, documentHandler } from "../asked";

export const dynamic = "force-dynamic";

/**
 * Makes the handover document and tells how far it is, as server-sent events: `{ "share", "doing" }`, at the end `{ "pages", "bytes",
 * "revision" }`. The PDF is then ready under its own address. Leaving stops the making.
 */
export const GET = documentHandler((request, { found, personId, runs, photos, paper }) => {
  const encoder = new TextEncoder();
  const stop = new AbortController();
  request.signal.addEventListener("abort", () => stop.abort());
  const stream = new ReadableStream<Uint8Array>({
    async start(controller) {
      const send = (event: object) => controller.enqueue(encoder.encode(`data: ${JSON.stringify(event)}\n\n`));
      try {
        const pdf = await makeHandover(found, runs, paper, {
          personId,
          draw: drawDiagram,
          photos,
          signal: stop.signal,
          tell: (share, doing) => send({ share, doing }),
        });
        send({ pages: pagesOf(pdf), bytes: pdf.length, revision: found.revision });
      } catch (error) {
        if (stop.signal.aborted) return;
        send({ error: `The document could not be made: ${(error as Error).message}` });
      }
      controller.close();
    },
    cancel: () => stop.abort(),
  });
  return new Response(stream, { headers: { "content-type": "text/event-stream", "cache-control": "no-store" } });
});
