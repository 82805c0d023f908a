import { call, json } from "@/contract/client";
import { nothing } from "@/contract/common";
import {
  invitedAnswer,
  peopleAnswer,
  secondFactorBegun,
  signedInAnswer,
  type NewPerson,
  type Role,
} from "@/contract/people";

/** Signs in; whether a one-time code is asked for besides. */
export const signIn = async (email: string, password: string): Promise<boolean> =>
  (await call(signedInAnswer, "/api/session", json("POST", { email, password }))) !== null;
export const signInByCode = (code: string): Promise<null> => call(nothing, "/api/session/code", json("POST", { code }));
export const beginSecondFactor = (password: string) =>
  call(secondFactorBegun, "/api/session/second-factor", json("POST", { password }));
export const confirmSecondFactor = (code: string): Promise<null> =>
  call(nothing, "/api/session/second-factor", json("PUT", { code }));
export const endSecondFactor = (password: string): Promise<null> =>
  call(nothing, "/api/session/second-factor", { ...json("PUT", { password }), method: "DELETE" });
export const signInToDemo = (role: Role): Promise<null> => call(nothing, "/api/session/demo", json("POST", { role }));
export const begin = (asked: NewPerson & { workshop: string; code: string }): Promise<null> =>
  call(nothing, "/api/begin", json("POST", asked));
export const join = (token: string, person: NewPerson): Promise<null> =>
  call(nothing, `/api/join/${token}`, json("POST", person));
export const changePassword = (current: string, next: string): Promise<null> =>
  call(nothing, "/api/session/password", json("PUT", { current, next }));
export const endSession = (everywhere: boolean): Promise<null> =>
  call(nothing, everywhere ? "/api/session/everywhere" : "/api/session", { method: "DELETE" });
export const fetchPeople = () => call(peopleAnswer, "/api/people");
export const invite = (role: Role) => call(invitedAnswer, "/api/invitations", json("POST", { role }));
export const withdrawInvitation = (id: string): Promise<null> =>
  call(nothing, `/api/invitations/${id}`, { method: "DELETE" });
export const changeRole = (id: string, role: Role): Promise<null> =>
  call(nothing, `/api/people/${id}`, json("PUT", { role }));
export const removePerson = (id: string): Promise<null> => call(nothing, `/api/people/${id}`, { method: "DELETE" });
