import { createHash } from "node:crypto";
import { APIError } from "better-auth/api";
import { z } from "zod";
import { say } from "@/core/messages/say";
import type { SecondFactorBegun } from "@/contract/people";
import { isFirstUse } from "./attempts";
import { auth } from "./auth";
import { database } from "./database";
import { Refusal } from "./refusal";
import { withCookiesOf } from "./session";
import { forgetSessions } from "./who";

/*
 * One-time codes (TOTP, RFC 6238) beside the password, for each person who asks for them; and recovery codes for a telephone
 * that was lost, each of which opens once.
 */

const refused = (error: unknown) => error instanceof APIError && [400, 401].includes(error.statusCode);

/** Begins to ask for codes: the secret as an address for an authenticator, and the recovery codes. Nothing is asked until a code was typed. */
export async function beginSecondFactor(request: Request, password: string): Promise<SecondFactorBegun> {
  try {
    const begun = await auth().api.enableTwoFactor({ body: { password, method: "totp" }, headers: request.headers });
    if (begun.method !== "totp") throw new Error("no one-time codes");
    return { address: begun.totpURI, recoveryCodes: begun.backupCodes };
  } catch (error) {
    if (refused(error)) throw new Refusal(403, say("server.people.currentWrong"));
    throw error;
  }
}

/** Asks for codes from now on, once the first one is right. */
export async function confirmSecondFactor(request: Request, code: string): Promise<Response> {
  const answer = await auth().api.verifyTOTP({ body: { code }, headers: request.headers, asResponse: true });
  forgetSessions();
  if (!answer.ok) throw new Refusal(403, say("server.people.codeWrong"));
  return withCookiesOf(answer);
}

/** Asks for no codes any more. */
export async function endSecondFactor(request: Request, password: string): Promise<Response> {
  const answer = await auth().api.disableTwoFactor({ body: { password }, headers: request.headers, asResponse: true });
  forgetSessions();
  if (!answer.ok) throw new Refusal(403, say("server.people.currentWrong"));
  return withCookiesOf(answer);
}

/** How long a code is taken by its clock, with what it may be off, s: until then it is not taken again. */
const CODE_LASTS_S = 120;
const signedIn = z.object({ token: z.string(), user: z.object({ id: z.string() }) });

/** The second step of signing in: a one-time code, or one of the recovery codes. Throws a refusal where it is none. */
export async function signInByCode(request: Request, typed: string): Promise<Response> {
  const code = typed.replace(/\s/g, "");
  const asked = { body: { code }, headers: request.headers, asResponse: true as const };
  const oneTime = /^\d{6}$/.test(code);
  const answer = oneTime ? await auth().api.verifyTOTP(asked) : await auth().api.verifyBackupCode(asked);
  if (answer.status === 429) throw new Refusal(429, say("server.people.codesLocked"));
  if (!answer.ok) throw new Refusal(401, say("server.people.codeWrong"));
  const { token, user } = signedIn.parse(await answer.clone().json());
  // One that was read over a shoulder opens nothing (ASVS 4, 2.8.4).
  const once = createHash("sha256").update(`${user.id} ${code}`).digest("hex");
  if (oneTime && !(await isFirstUse(database(), once, CODE_LASTS_S))) {
    await database()("sessions").where({ token }).delete();
    throw new Refusal(401, say("server.people.codeUsed"));
  }
  return withCookiesOf(answer);
}
