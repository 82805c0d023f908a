import { timingSafeEqual, createHash } from "node:crypto";
import { metricsText } from "@/server/metrics";

const digest = (text: string) => createHash("sha256").update(text).digest();

/** For Prometheus, which says the word of CHILLBANK_METRICS; there is nothing here for anybody else, or where it is not set. */
export async function GET(request: Request): Promise<Response> {
  const word = process.env.CHILLBANK_METRICS;
  const said = request.headers.get("authorization") ?? "";
  if (!word || !timingSafeEqual(digest(said), digest(`Bearer ${word}`))) return new Response(null, { status: 404 });
  const { text, type } = await metricsText();
  return new Response(text, { headers: { "content-type": type, "cache-control": "no-store" } });
}
