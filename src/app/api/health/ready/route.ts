import { readiness } from "@/server/readiness";

/**
 * For proxies and supervisors: 200 where a visitor would be served, 503 with which of the two would not. A proxy sends people
 * elsewhere; whoever watches this server starts it again where it is the server.
 */
export async function GET(): Promise<Response> {
  const found = await readiness();
  const ok = found.server && found.database;
  const headers = { "cache-control": "no-store", ...(ok ? {} : { "retry-after": "5" }) };
  return Response.json({ ok, ...found }, { status: ok ? 200 : 503, headers });
}
