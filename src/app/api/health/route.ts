import { database } from "@/server/database";

/** Longest that the database may take to answer, ms: whoever asks has others to send people to. */
const LONGEST_MS = 2000;

/** For proxies and supervisors: 200 where this server and its database answer, 503 where they do not. Says nothing else. */
export async function GET(): Promise<Response> {
  const well = await Promise.race([
    database()
      .raw("SELECT 1")
      .then(
        () => true,
        () => false,
      ),
    new Promise<false>((resolve) => setTimeout(() => resolve(false), LONGEST_MS).unref()),
  ]);
  return Response.json({ ok: well }, { status: well ? 200 : 503, headers: { "cache-control": "no-store" } });
}
