/* Where to lead somebody after they signed in: to an address of this application, and nowhere else. */

/** Any origin: an address of this application stays on it, whatever a browser makes of tabs, backslashes and dots. */
const OWN = "http://own.invalid";
/** Control characters, which browsers drop from the middle of an address, and slashes in disguise. */
const DISGUISED = /[\p{Cc}\p{Cf}\\]|%(?:2f|5c|0[0-9a-f]|1[0-9a-f]|7f)/iu;
const LONGEST = 400;

/** The path that was asked to go on to, with its query; the list of jobs where it is none of this application. */
export function ownPath(to: unknown): string {
  if (typeof to !== "string" || to.length > LONGEST || !to.startsWith("/") || DISGUISED.test(to)) return "/";
  let url: URL;
  try {
    url = new URL(to, OWN);
  } catch {
    return "/";
  }
  if (url.origin !== OWN || url.pathname.startsWith("//") || url.username !== "") return "/";
  return `${url.pathname}${url.search}${url.hash}`;
}
