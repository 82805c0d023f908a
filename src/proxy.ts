import { NextResponse, type NextRequest } from "next/server";
import { say } from "@/core/messages/say";
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
export function proxy(request: NextRequest): NextResponse {
  const refused = foreignOrigin(request.method, request.nextUrl.pathname, request.headers);
  if (refused !== null) return NextResponse.json({ error: refused, faults: [] }, { status: 403 });
  if (!readable(request.nextUrl.pathname))
    return NextResponse.json({ error: say("server.id.none"), faults: [] }, { status: 400 });
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

export const config = {
  // Files of the build carry no page: of all else it is asked who wants it.
  // Of routes only those with a percent sign, which may stand for no byte: the framework would break down over it.
  matcher: ["/((?!api/|_next/static|_next/image|favicon.ico|icon.svg|service-worker.js).*)", "/api/(.*%.*)"],
};
