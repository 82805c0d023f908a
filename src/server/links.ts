import { createHash, randomBytes } from "node:crypto";
import type { Knex } from "knex";
import { v4 as uuid } from "uuid";
import { z } from "zod";
import { transaction } from "./database";
import type { Author } from "./job-history";
import { needsMay } from "./rights";
import type { ListedLink } from "@/contract/links";
import type { CustomerPage } from "../core/applications/handover/customer-page";

interface Row {
  id: string;
  job_id: string;
  token_hash: string;
  page: unknown;
  created_at: Date;
  expires_at: Date;
  withdrawn_at: Date | null;
}

/** 192 random bits: not to be guessed. */
const TOKEN_BYTES = 24;
export const tokenSchema = z.string().regex(/^[A-Za-z0-9_-]{32}$/);
const hashOf = (token: string) => createHash("sha256").update(token).digest("hex");

/** Makes a link to a page and gives its token, which is kept nowhere. It is withdrawn with whoever made it. */
export async function makeLink(
  db: Knex,
  author: Author,
  { jobId, page, days }: { jobId: string; page: CustomerPage; days: number },
  now = new Date(),
): Promise<{ id: string; token: string }> {
  const token = randomBytes(TOKEN_BYTES).toString("base64url");
  const id = uuid();
  await transaction(db, async (tx) => {
    await needsMay(tx, author, "design");
    await tx("customer_links").insert({
      id,
      job_id: jobId,
      made_by: author.personId,
      token_hash: hashOf(token),
      page: JSON.stringify(page),
      created_at: now,
      expires_at: new Date(now.getTime() + days * 86_400_000),
      withdrawn_at: null,
    });
  });
  return { id, token };
}

/** Links of a job, the newest first. */
export async function listLinks(db: Knex, jobId: string): Promise<ListedLink[]> {
  const rows = await db<Row>("customer_links")
    .where({ job_id: jobId })
    .select("id", "created_at", "expires_at", "withdrawn_at")
    .orderBy([
      { column: "created_at", order: "desc" },
      { column: "id", order: "desc" },
    ]);
  return rows.map((row) => ({
    id: row.id,
    createdMs: row.created_at.getTime(),
    expiresMs: row.expires_at.getTime(),
    withdrawn: row.withdrawn_at !== null,
  }));
}

/** Withdraws a link for good; false where the job has none of that id. */
export async function withdrawLink(db: Knex, jobId: string, id: string, now = new Date()): Promise<boolean> {
  const own = db<Row>("customer_links").where({ job_id: jobId, id });
  await own.clone().whereNull("withdrawn_at").update({ withdrawn_at: now });
  return (await own.first("id")) !== undefined;
}

/** The page behind a token; null where there is none, it has run out, was withdrawn, or its job was deleted. */
export async function pageOfToken(db: Knex, token: string, now = new Date()): Promise<CustomerPage | null> {
  if (!tokenSchema.safeParse(token).success) return null;
  const row = await db<Row>("customer_links")
    .join("jobs", "jobs.id", "customer_links.job_id")
    .where({ token_hash: hashOf(token) })
    .whereNull("customer_links.withdrawn_at")
    .whereNull("jobs.deleted_at")
    .where("customer_links.expires_at", ">", now)
    .first("customer_links.page as page");
  if (!row) return null;
  return (typeof row.page === "string" ? JSON.parse(row.page) : row.page) as CustomerPage;
}
