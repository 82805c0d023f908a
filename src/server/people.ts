import { createHash, randomBytes } from "node:crypto";
import { hashPassword } from "better-auth/crypto";
import type { Knex } from "knex";
import { v7 as uuid } from "uuid";
import { say } from "@/core/messages/say";
import {
  roleMay,
  type ListedInvitation,
  type ListedPerson,
  type Me,
  type NewPerson,
  type Role,
} from "@/contract/people";
import { genericParts } from "../../db/generic-parts";
import { transaction } from "./database";
import { baseAddress } from "./origin";
import { importParts } from "./parts";
import { needRoom } from "./quotas";
import { Refusal } from "./refusal";
import { needsMay } from "./rights";
import { refuseWeakPassword } from "./weak-password";
import { forgetSessions, type Who } from "./who";

const INVITATION_DAYS = 7;
const CODE_HOURS = 24;
const DAY_MS = 86_400_000;

const hashOf = (secret: string) => createHash("sha256").update(secret).digest("hex");

/** Makes a workshop with a parts shelf of its own, filled with the generic parts. Returns its id. */
export async function createWorkshop(db: Knex, name: string, { id = uuid(), now = new Date() } = {}): Promise<string> {
  await db("workshops").insert({ id, name, created_at: now });
  await importParts(db, id, genericParts());
  return id;
}

/**
 * Adds somebody to a workshop, with a password. Throws a refusal where the e-mail address is taken or the password would be
 * guessed soon. Returns the person's id.
 */
export async function createPerson(
  db: Knex,
  workshopId: string,
  { name, email, password, role }: NewPerson & { role: Role },
): Promise<string> {
  refuseWeakPassword(password, [name, email, await workshopName(db, workshopId)]);
  const id = uuid();
  const stamps = { created_at: new Date(), updated_at: new Date() };
  const hash = await hashPassword(password);
  try {
    await db("people").insert({ id, workshop_id: workshopId, role, name, email: email.toLowerCase(), ...stamps });
  } catch (error) {
    if ((error as { code?: string }).code === "ER_DUP_ENTRY") throw new Refusal(409, say("server.people.emailTaken"));
    throw error;
  }
  await db("credentials").insert({
    id: uuid(),
    person_id: id,
    account_id: id,
    provider_id: "credential",
    password: hash,
    ...stamps,
  });
  return id;
}

/** Whether nobody has an account yet: the installation begins with its owner. */
export async function nobodyYet(db: Knex): Promise<boolean> {
  return (await db("people").first("id")) === undefined;
}

/** Makes a code for the console by which the first owner is let in, once and within a day. */
export async function beginningCode(db: Knex, now = Date.now()): Promise<string> {
  const code = randomBytes(10).toString("hex");
  await db("beginning_codes").where("expires_at", "<", new Date(now)).delete();
  await db("beginning_codes").insert({ code_hash: hashOf(code), expires_at: new Date(now + CODE_HOURS * 3_600_000) });
  return code;
}

/** Makes the first owner by the code from the console, in a workshop of that name. Throws a refusal for any other code. */
export async function begin(
  db: Knex,
  { code, workshop, ...person }: NewPerson & { code: string; workshop: string },
): Promise<void> {
  await transaction(db, async (tx) => {
    const known: unknown = await tx("beginning_codes")
      .where({ code_hash: hashOf(code.trim().toLowerCase()) })
      .andWhere("expires_at", ">", new Date())
      .forUpdate()
      .first("code_hash");
    if (!known || !(await nobodyYet(tx))) throw new Refusal(403, say("server.people.code"));
    // What was here before there were accounts belongs to whoever begins.
    const standing = (await tx("workshops").orderBy("created_at").first("id")) as { id: string } | undefined;
    if (standing) await tx("workshops").where(standing).update({ name: workshop });
    await createPerson(tx, standing?.id ?? (await createWorkshop(tx, workshop)), { ...person, role: "owner" });
    await tx("beginning_codes").delete();
  });
}

/** Holds a workshop until the transaction ends: its people and invitations are counted and changed by one at a time. */
async function holdPeople(tx: Knex, workshopId: string): Promise<void> {
  await tx("workshops").where({ id: workshopId }).forUpdate().first("id");
}

const open = (db: Knex) => db("invitations").whereNull("used_at").andWhere("expires_at", ">", new Date());

/** Makes an invitation into a workshop, for one person within a week. Its token is told once. */
export async function invite(db: Knex, who: Who, role: Role, now = new Date()): Promise<string> {
  const token = randomBytes(24).toString("base64url");
  await transaction(db, async (tx) => {
    await holdPeople(tx, who.workshopId);
    await needsMay(tx, who, "manage");
    const [{ n }] = (await open(tx).where({ workshop_id: who.workshopId }).count({ n: "*" })) as [{ n: number }];
    await needRoom(tx, who.workshopId, "people", Number(n) + 1);
    await tx("invitations").insert({
      id: uuid(),
      workshop_id: who.workshopId,
      role,
      invited_by: who.personId,
      token_hash: hashOf(token),
      created_at: now,
      expires_at: new Date(now.getTime() + INVITATION_DAYS * DAY_MS),
    });
  });
  return token;
}

/** What an invitation is to, and who invites. */
interface Invitation {
  id: string;
  workshopId: string;
  workshop: string;
  role: Role;
  invitedBy: string;
}

/** The invitation of a token; null where it is none, used up, out of date, or whoever invited is gone. */
export async function invitationOf(db: Knex, token: string): Promise<Invitation | null> {
  const row = (await open(db)
    .where({ token_hash: hashOf(token) })
    .join("workshops", "workshops.id", "invitations.workshop_id")
    .join("people", "people.id", "invitations.invited_by")
    .first(
      "invitations.id",
      "invitations.workshop_id as workshopId",
      "workshops.name as workshop",
      "invitations.role",
      "people.name as invitedBy",
    )) as Invitation | undefined;
  return row ?? null;
}

/** Takes somebody in by an invitation, which is used up by it. */
export async function join(db: Knex, token: string, person: NewPerson): Promise<void> {
  await transaction(db, async (tx) => {
    const invitation = await invitationOf(tx, token);
    if (invitation) await holdPeople(tx, invitation.workshopId);
    const used = invitation && (await open(tx).where({ id: invitation.id }).update({ used_at: new Date() }));
    if (!invitation || used !== 1) throw new Refusal(404, say("server.people.invitation"));
    await needRoom(tx, invitation.workshopId, "people");
    await createPerson(tx, invitation.workshopId, { ...person, role: invitation.role });
  });
}

export async function withdrawInvitation(db: Knex, who: Who, id: string): Promise<boolean> {
  return transaction(db, async (tx) => {
    await needsMay(tx, who, "manage");
    return (await open(tx).where({ id, workshop_id: who.workshopId }).delete()) === 1;
  });
}

/** The people of a workshop and the invitations into it that are open. */
export async function peopleOf(
  db: Knex,
  who: Who,
): Promise<{ people: ListedPerson[]; invitations: ListedInvitation[] }> {
  const people = (await db("people")
    .where({ workshop_id: who.workshopId })
    .orderBy(["name", "id"])
    .select("id", "name", "email", "role")) as Omit<ListedPerson, "me">[];
  const invitations = (await open(db)
    .where({ "invitations.workshop_id": who.workshopId })
    .leftJoin("people", "people.id", "invitations.invited_by")
    .orderBy("invitations.created_at")
    .select("invitations.id", "invitations.role", "people.name as invitedBy", "expires_at as expiresAt")) as {
    id: string;
    role: Role;
    invitedBy: string | null;
    expiresAt: Date;
  }[];
  return {
    people: people.map((one) => ({ ...one, me: one.id === who.personId })),
    invitations: invitations.map((one) => ({
      ...one,
      invitedBy: one.invitedBy ?? "",
      expiresAt: one.expiresAt.toISOString(),
    })),
  };
}

/** The owners of a workshop beside this person, held until the transaction ends: one has to stay. */
async function keepAnOwner(tx: Knex, who: Who, personId: string): Promise<void> {
  const owners = (await tx("people")
    .where({ workshop_id: who.workshopId, role: "owner" })
    .forUpdate()
    .select("id")) as { id: string }[];
  if (owners.every(({ id }) => id === personId)) throw new Refusal(409, say("server.people.lastOwner"));
}

/** Gives somebody of the workshop another role; signed in anew they are shown what it lets them do. Returns whether there is one. */
export async function changeRole(db: Knex, who: Who, personId: string, role: Role): Promise<boolean> {
  return transaction(db, async (tx) => {
    await holdPeople(tx, who.workshopId);
    await needsMay(tx, who, "manage");
    if (role !== "owner") await keepAnOwner(tx, who, personId);
    const found = (await tx("people").where({ id: personId, workshop_id: who.workshopId }).first("role")) as
      | { role: Role }
      | undefined;
    if (!found) return false;
    await tx("people").where({ id: personId }).update({ role, updated_at: new Date() });
    if (roleMay(found.role, "manage") && !roleMay(role, "manage")) await withdrawInvitationsOf(tx, personId);
    if (roleMay(found.role, "design") && !roleMay(role, "design")) await withdrawLinksOf(tx, personId);
    return true;
  }).finally(forgetSessions);
}

/** Withdraws the invitations of somebody that nobody has used: who may not invite lets nobody in, themselves neither. */
const withdrawInvitationsOf = (tx: Knex, personId: string) => open(tx).where({ invited_by: personId }).delete();

/** Withdraws the customers' links that somebody made. */
const withdrawLinksOf = (tx: Knex, personId: string) =>
  tx("customer_links").where({ made_by: personId }).whereNull("withdrawn_at").update({ withdrawn_at: new Date() });

/**
 * Takes somebody out of the workshop: their sessions end, their invitations and the customers' links that they made are
 * withdrawn, and their name stays in the record of what they changed.
 */
export async function removePerson(db: Knex, who: Who, personId: string): Promise<boolean> {
  return transaction(db, async (tx) => {
    await holdPeople(tx, who.workshopId);
    await needsMay(tx, who, "manage");
    await keepAnOwner(tx, who, personId);
    const gone = await tx("people").where({ id: personId, workshop_id: who.workshopId }).delete();
    if (gone !== 1) return false;
    for (const name of ["sessions", "credentials", "second_factors"])
      await tx(name).where({ person_id: personId }).delete();
    await withdrawInvitationsOf(tx, personId);
    await withdrawLinksOf(tx, personId);
    return true;
  }).finally(forgetSessions);
}

/** The name of a workshop; nothing where it is gone. */
export async function workshopName(db: Knex, id: string): Promise<string> {
  const row = (await db("workshops").where({ id }).first("name")) as { name: string } | undefined;
  return row?.name ?? "";
}

/** Whether somebody is asked for one-time codes at their sign-in. */
async function asksForCodes(db: Knex, personId: string): Promise<boolean> {
  const row = (await db("people").where({ id: personId }).first("second_factor")) as
    | { second_factor: number }
    | undefined;
  return Boolean(row?.second_factor);
}

/** Whoever is signed in, as a screen names them. */
export async function meOf(db: Knex, who: Who): Promise<Me> {
  return {
    name: who.name,
    email: who.email,
    role: who.role,
    workshop: await workshopName(db, who.workshopId),
    base: baseAddress()?.origin ?? null,
    secondFactor: await asksForCodes(db, who.personId),
  };
}
