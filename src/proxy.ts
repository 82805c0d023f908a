import { NextResponse, type NextRequest } from "next/server";
import { say } from "@/core/messages/say";
import { databaseAnswers } from "@/server/database-answers";
import { foreignOrigin } from "@/server/origin";

/** What a page may load: scripts of this server that carry the request's own number, and nothing from anywhere else. */
const policyOf = (nonce: string): string =>
  [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}'`,
    // The component library writes its styles into the page.
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self' data:",
    "connect-src 'self'",
    "worker-src 'self' blob:",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join("; ");

/** Whether an address can be read at all: %ZZ stands for no byte, and some bytes for no character. */
function readable(pathname: string): boolean {
  try {
    decodeURIComponent(pathname);
    return true;
  } catch {
    return false;
  }
}

/**
 * Stands before every page: who asks, and what the answer may load. Routes under `/api` ask themselves (server/handler.ts), and
 * their policy is in next.config.ts: passing through here cost more than a quarter of what a reading takes.
 */
export async function proxy(request: NextRequest): Promise<NextResponse> {
  const refused = foreignOrigin(request.method, request.nextUrl.pathname, request.headers);
  if (refused !== null) return NextResponse.json({ error: refused, faults: [] }, { status: 403 });
  if (!readable(request.nextUrl.pathname))
    return NextResponse.json({ error: say("server.id.none"), faults: [] }, { status: 400 });
  // Routes say it themselves (server/handler.ts).
  if (!request.nextUrl.pathname.startsWith("/api/") && !(await databaseAnswers())) return away();
  const nonce = Buffer.from(crypto.randomUUID()).toString("base64");
  const policy = policyOf(nonce);
  const headers = new Headers(request.headers);
  headers.set("x-nonce", nonce);
  headers.set("content-security-policy", policy);
  const response = NextResponse.next({ request: { headers } });
  // A customer's page has a stricter one of its own.
  if (!request.nextUrl.pathname.startsWith("/c/")) response.headers.set("content-security-policy", policy);
  return response;
}

/** What is shown where the database does not answer: it looks again by itself. Pages that a browser keeps it shows instead. */
function away(): NextResponse {
  const words = say("server.databaseAway");
  const body = `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1"><meta http-equiv="refresh" content="${RETRY_S}"><title>Not now</title><style>body{max-width:34rem;margin:18vh auto;padding:0 1rem;font:17px/1.5 system-ui,sans-serif;background:#faf8f2;color:#14242e}@media(prefers-color-scheme:dark){body{background:#14242e;color:#f2efe6}}</style></head><body><main><h1>Not now</h1><p>${words}</p><p>${say("server.looksAgain")}</p></main></body></html>`;
  const headers = {
    "content-type": "text/html; charset=utf-8",
    "retry-after": String(RETRY_S),
    "cache-control": "no-store",
    "content-security-policy": "default-src 'none'; style-src 'unsafe-inline'; base-uri 'none'; frame-ancestors 'none'",
  };
  return new NextResponse(body, { status: 503, headers });
}
const RETRY_S = 5;

export const config = {
  // Files of the build carry no page: of all else it is asked who wants it.
  // Of routes only those with a percent sign, which may stand for no byte: the framework would break down over it.
  matcher: ["/((?!api/|_next/static|_next/image|favicon.ico|icon.svg|service-worker.js).*)", "/api/(.*%.*)"],
};
