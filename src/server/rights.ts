import type { Knex } from "knex";
import { say } from "@/core/messages/say";
import { roleMay, roleSchema, type Ability } from "@/contract/people";
import { database, transaction } from "./database";
import type { Author } from "./job-history";
import { Refusal } from "./refusal";

/*
 * What somebody may do is asked where it is done, in the transaction that writes: between the request's coming and its writing
 * their role may have been changed, or they may have been taken out.
 */

/**
 * Whether an author may do something now; their role is held until the transaction ends. The application itself may. Throws a
 * refusal where they are no longer of the workshop.
 */
export async function mayNow(
  tx: Knex,
  { personId, workshopId }: Omit<Author, "name">,
  ability: Ability,
): Promise<boolean> {
  if (personId === null) return true;
  const row = (await tx("people").where({ id: personId, workshop_id: workshopId }).forShare().first("role")) as
    | { role: string }
    | undefined;
  const role = roleSchema.safeParse(row?.role);
  if (!role.success) throw new Refusal(401, say("server.people.signIn"));
  return roleMay(role.data, ability);
}

/** Throws a refusal where an author may not do something now. */
export async function needsMay(tx: Knex, author: Omit<Author, "name">, ability: Ability): Promise<void> {
  if (!(await mayNow(tx, author, ability))) throw new Refusal(403, say("server.people.role"));
}

/**
 * Does what an author may do, in a transaction in which they may do it: what they write stands and falls with their role.
 * Throws a refusal where they may not.
 */
export const asAllowed = <T>(
  author: Omit<Author, "name">,
  ability: Ability,
  work: (tx: Knex) => Promise<T>,
): Promise<T> =>
  transaction(database(), async (tx) => {
    await needsMay(tx, author, ability);
    return work(tx);
  });
