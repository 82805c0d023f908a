import { watch } from "@/server/instruments/live";
import { openStream } from "@/server/instruments/streams";
import { errorResponse } from "@/server/handler";
import { testRunHandler } from "@/server/test-run-handler";
import { say } from "@/core/messages/say";

export const dynamic = "force-dynamic";

/** Readings as the instrument tells them, as server-sent events. */
export const GET = testRunHandler("look", async (request, testRun, db, _, who) => {
  if (!testRun.source || testRun.finishedMs !== null)
    return errorResponse({ status: 404, message: say("server.instrument.none") });
  const close = openStream(who);
  const encoder = new TextEncoder();
  let leave: (() => void) | null = null;
  let beat: NodeJS.Timeout | null = null;
  const end = () => {
    if (beat) clearInterval(beat);
    leave?.();
    close();
  };
  const stream = new ReadableStream<Uint8Array>({
    start(controller) {
      const send = (text: string) => {
        try {
          controller.enqueue(encoder.encode(text));
        } catch {
          end();
        }
      };
      leave = watch(db, testRun.id, (event) => {
        send(`data: ${JSON.stringify(event)}\n\n`);
        if (event.kind === "ended") {
          end();
          controller.close();
        }
      });
      send(": watching\n\n");
      // Middle boxes drop a silent stream; a comment keeps it.
      beat = setInterval(() => send(": still\n\n"), 15_000);
      request.signal.addEventListener("abort", end);
    },
    cancel: end,
  });
  return new Response(stream, {
    headers: { "content-type": "text/event-stream", "cache-control": "no-store", connection: "keep-alive" },
  });
});
