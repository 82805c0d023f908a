import { v4 as uuid } from "uuid";
import { afterAll, beforeEach, describe, expect, it } from "vitest";
import { usualRequirement } from "@/core/applications/options/target";
import { connect } from "@/server/database";
import {
  changeRevision,
  getRequirement,
  keepRevision,
  keepRequirement,
  listRevisions,
  revisionJob,
} from "@/server/options";
import { newRevision } from "@/contract/revisions";
import { createJob } from "@/server/jobs";
import { q, jobOf } from "../jobs";
import { AUTHOR, ownDatabase } from "./own-database";

const db = connect(await ownDatabase());
afterAll(() => db.destroy());
let jobId = "";
beforeEach(async () => {
  jobId = (await createJob(db, AUTHOR, jobOf())).id;
});
const job = jobOf({ bank: { capacityAh: q(280) } });

describe("a job's requirement", () => {
  it("is none until one is kept, then the last", async () => {
    expect(await getRequirement(db, jobId)).toBeNull();
    await keepRequirement(db, jobId, usualRequirement(job));
    await keepRequirement(db, jobId, { ...usualRequirement(job), share: 0.8 });
    expect(await getRequirement(db, jobId)).toEqual({ ...usualRequirement(job), share: 0.8 });
  });
  it("that this Chillbank cannot read counts as none", async () => {
    await keepRequirement(db, jobId, usualRequirement(job));
    await db("job_requirements")
      .where({ job_id: jobId })
      .update({ requirement: JSON.stringify({ share: "much" }) });
    expect(await getRequirement(db, jobId)).toBeNull();
  });
});

describe("a revision", () => {
  const keep = (name: string, id = uuid()) => keepRevision(db, jobId, { id, name, promise: "two nights" }, job);
  it("keeps the document, the verdicts and what was promised", async () => {
    const id = uuid();
    await keep("as quoted", id);
    const [only] = await listRevisions(db, jobId);
    expect(only).toMatchObject({ id, name: "as quoted", promise: "two nights" });
    expect(only!.summary.starts.word).toMatch(/Holds|Tight|Fails|Stop/);
    expect(await revisionJob(db, jobId, id)).toEqual(job);
  });
  it("sent twice with one id is kept once", async () => {
    const id = uuid();
    await keep("once", id);
    await keep("once", id);
    expect(await listRevisions(db, jobId)).toHaveLength(1);
  });
  it("stands newest first, off the list once deleted, and back again", async () => {
    const [first, second] = [uuid(), uuid()];
    await keep("first", first);
    await new Promise((resolve) => setTimeout(resolve, 5));
    await keep("second", second);
    expect((await listRevisions(db, jobId)).map(({ name }) => name)).toEqual(["second", "first"]);
    expect(await changeRevision(db, jobId, second, true)).toBe(true);
    expect((await listRevisions(db, jobId)).map(({ name }) => name)).toEqual(["first"]);
    expect(await revisionJob(db, jobId, second)).toBeNull();
    await changeRevision(db, jobId, second, false);
    expect(await listRevisions(db, jobId)).toHaveLength(2);
  });
  it("is no other job's", async () => {
    const id = uuid();
    await keep("mine", id);
    const other = (await createJob(db, AUTHOR, jobOf())).id;
    expect(await revisionJob(db, other, id)).toBeNull();
    expect(await changeRevision(db, other, id, true)).toBe(false);
    const again = keepRevision(db, other, { id, name: "theirs", promise: "" }, jobOf());
    await expect(again).rejects.toMatchObject({ status: 409 });
  });
  it.each([
    [{ id: "1", name: "a", promise: "" }, "id"],
    [{ id: uuid(), name: "  ", promise: "" }, "name"],
    [{ id: uuid(), name: "a", promise: "x".repeat(2001) }, "promise"],
  ])("%j is refused with its path", (value, path) =>
    expect(newRevision.safeParse(value).error?.issues[0]?.path).toEqual([path]),
  );
});
