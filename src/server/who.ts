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

/** Whoever a request's session cookie belongs to; null where nobody is signed in. */
export async function whoAsks(headers: Headers): Promise<Who | null> {
  // Without a cookie there is no session: the database need not be asked.
  if (!headers.get("cookie")?.includes("chillbank.session_token")) return null;
  const session = await auth().api.getSession({ headers });
  const role = roleSchema.safeParse(session?.user.role);
  if (!session || !role.success) return null;
  const { id, name, email, workshopId } = session.user;
  return { personId: id, name, email, workshopId, role: role.data };
}
