import { APIError } from "better-auth/api";
import { z } from "zod";
import { say } from "@/core/messages/say";
import { auth } from "./auth";
import { database } from "./database";
import { workshopName } from "./people";
import { Refusal } from "./refusal";
import { refuseWeakPassword } from "./weak-password";
import { forgetSessions, whoAsks } from "./who";

/** An answer without a body that carries the cookies of another. */
export function withCookiesOf(response: Response): Response {
  const headers = new Headers({ "cache-control": "no-store" });
  for (const cookie of response.headers.getSetCookie()) headers.append("set-cookie", cookie);
  return new Response(null, { status: 204, headers });
}

const unauthorised = (error: unknown) => error instanceof APIError && [400, 401].includes(error.statusCode);

const asksForCode = z.object({ twoFactorRedirect: z.literal(true) });

/** Signs somebody in; the answer carries the session's cookie, or says that a one-time code is asked for. Throws a refusal that does not say which of the two was wrong. */
export async function signInWith(request: Request, person: { email: string; password: string }): Promise<Response> {
  const answer = await auth().api.signInEmail({ body: person, headers: request.headers, asResponse: true });
  if (answer.status === 401 || answer.status === 400) throw new Refusal(401, say("server.people.wrong"));
  if (!answer.ok) throw new Error(`signing in was answered ${answer.status}`);
  const needsCode = asksForCode.safeParse(await answer.clone().json()).success;
  const cookies = withCookiesOf(answer);
  return needsCode ? Response.json({ secondFactor: true }, { headers: cookies.headers }) : cookies;
}

/** Ends the session of a request. */
export async function signOutOf(request: Request): Promise<Response> {
  const answer = await auth().api.signOut({ headers: request.headers, asResponse: true });
  forgetSessions();
  return withCookiesOf(answer);
}

/** Ends every session of whoever asks, this one too. */
export async function signOutEverywhere(request: Request): Promise<Response> {
  try {
    await auth().api.revokeSessions({ headers: request.headers });
  } catch (error) {
    // It ended while it was asked for.
    if (unauthorised(error)) throw new Refusal(401, say("server.people.signIn"));
    throw error;
  }
  return signOutOf(request);
}

/** Changes the password of whoever asks; their other sessions end. Throws a refusal where the current one is wrong or the next would be guessed soon. */
export async function changePassword(
  request: Request,
  { current, next }: { current: string; next: string },
): Promise<Response> {
  const who = await whoAsks(request.headers);
  refuseWeakPassword(next, who ? [who.name, who.email, await workshopName(database(), who.workshopId)] : []);
  const body = { currentPassword: current, newPassword: next, revokeOtherSessions: true };
  const answer = await auth().api.changePassword({ body, headers: request.headers, asResponse: true });
  if (!answer.ok) throw new Refusal(403, say("server.people.currentWrong"));
  forgetSessions();
  return withCookiesOf(answer);
}

/** The demo's password, where this is the demo: it is made anew at each start and told to nobody. */
export const demoPassword = (): string | null => process.env.CHILLBANK_DEMO || null;
