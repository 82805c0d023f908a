import { say } from "@/core/messages/say";

/*
 * Who may ask: the names that this Chillbank answers to, and pages of its own. A page of another site, or another name that
 * was pointed at this machine, must not drive it.
 */

const LOOPBACK = ["127.0.0.1", "localhost", "[::1]"];

/** Name that the installation is reached by beside loopback, from `CHILLBANK_URL`; null where it is not set. */
export function baseAddress(): URL | null {
  const text = process.env.CHILLBANK_URL;
  if (!text) return null;
  const url = new URL(text);
  if (url.protocol !== "https:" && url.protocol !== "http:")
    throw new Error("CHILLBANK_URL: an address with https expected");
  return url;
}

const nameOf = (host: string) => host.replace(/:\d+$/, "").toLowerCase();

/** Whether a request named this machine and nothing else. */
export const isLoopback = (host: string): boolean => LOOPBACK.includes(nameOf(host));

const answersTo = (host: string): boolean => {
  const name = nameOf(host);
  const base = baseAddress();
  return isLoopback(host) || (base !== null && name === nameOf(base.host));
};

/** Whether an `Origin` is one of this Chillbank's own: the name that was asked, over any scheme that a proxy may have changed. */
function ownOrigin(origin: string, host: string): boolean {
  try {
    const { host: from, protocol } = new URL(origin);
    return (protocol === "http:" || protocol === "https:") && from.toLowerCase() === host.toLowerCase();
  } catch {
    return false;
  }
}

const READS = ["GET", "HEAD"];

/**
 * Why a request is refused for where it comes from, or null. A customer's link may be opened from anywhere, as links in mails
 * are: by a person who goes there, and not by a page that asks in their name.
 */
export function foreignOrigin(
  method: string,
  path: string,
  headers: { get(name: string): string | null },
): string | null {
  const host = headers.get("host") ?? "";
  if (!answersTo(host)) return say("server.thisMachineOnly");
  const goesThere = headers.get("sec-fetch-mode") === "navigate" && READS.includes(method);
  const site = headers.get("sec-fetch-site");
  if (site && site !== "same-origin" && site !== "none" && !(goesThere && isPage(path))) return say("server.otherSite");
  // Browsers without fetch metadata still say which page sends.
  const origin = headers.get("origin");
  if (origin !== null && !ownOrigin(origin, host)) return say("server.otherSite");
  return null;
}

/** Pages may be gone to from anywhere: they change nothing by being looked at. */
const isPage = (path: string) => !path.startsWith("/api/");
