import { roleSchema, type Role } from "@/contract/people";
import { auth } from "./auth";

/** Who asks: a person, their workshop and what they are in it. */
export interface Who {
  personId: string;
  name: string;
  email: string;
  workshopId: string;
  role: Role;
}

/** How long an answer of the database is taken as it was, ms: a page asks many things at once. */
const REMEMBERED_MS = 2000;
const MOST_REMEMBERED = 5000;

const held = globalThis as { chillbankSessions?: Map<string, { until: number; who: Promise<Who | null> }> };
const remembered = () => (held.chillbankSessions ??= new Map());

/** Has every session asked for anew: somebody signed out, or may do something else from now on. */
export function forgetSessions(): void {
  remembered().clear();
}

const COOKIE = /(?:^|;\s*)((?:__Secure-)?chillbank\.session_token=[^;]+)/;

/**
 * Whoever a request's session cookie belongs to; null where nobody is signed in. What another server ended is taken for
 * ended within two seconds, what this one ended at once.
 */
export async function whoAsks(headers: Headers): Promise<Who | null> {
  // Without a cookie there is no session: the database need not be asked.
  const cookie = COOKIE.exec(headers.get("cookie") ?? "")?.[1];
  if (!cookie) return null;
  const known = remembered().get(cookie);
  if (known && known.until > Date.now()) return known.who;
  if (remembered().size >= MOST_REMEMBERED) forgetSessions();
  const who = sessionOf(headers);
  remembered().set(cookie, { until: Date.now() + REMEMBERED_MS, who });
  // A database that was away is asked again.
  who.catch(() => remembered().delete(cookie));
  return who;
}

async function sessionOf(headers: Headers): Promise<Who | null> {
  const session = await auth().api.getSession({ headers });
  const role = roleSchema.safeParse(session?.user.role);
  if (!session || !role.success) return null;
  const { id, name, email, workshopId } = session.user;
  return { personId: id, name, email, workshopId, role: role.data };
}
