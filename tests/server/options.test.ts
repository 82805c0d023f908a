import { v4 as uuid } from "uuid";
import { afterAll, beforeEach, describe, expect, it } from "vitest";
import { usualWish } from "@/core/applications/options/target";
import { connect } from "@/server/database";
import { changeRevision, getWish, keepRevision, keepWish, listRevisions, revisionRig } from "@/server/options";
import { newRevision } from "@/contract/revisions";
import { createRig } from "@/server/rigs";
import { q, rigOf } from "../rigs";
import { ownDatabase } from "./own-database";

const db = connect(await ownDatabase());
afterAll(() => db.destroy());
let rigId = "";
beforeEach(async () => {
  rigId = (await createRig(db, rigOf())).id;
});
const rig = rigOf({ bank: { capacityAh: q(280) } });

describe("a job's wish", () => {
  it("is none until one is kept, then the last", async () => {
    expect(await getWish(db, rigId)).toBeNull();
    await keepWish(db, rigId, usualWish(rig));
    await keepWish(db, rigId, { ...usualWish(rig), share: 0.8 });
    expect(await getWish(db, rigId)).toEqual({ ...usualWish(rig), share: 0.8 });
  });
  it("that this Chillbank cannot read counts as none", async () => {
    await keepWish(db, rigId, usualWish(rig));
    await db("wishes")
      .where({ rig_id: rigId })
      .update({ wish: JSON.stringify({ share: "much" }) });
    expect(await getWish(db, rigId)).toBeNull();
  });
});

describe("a revision", () => {
  const keep = (name: string, id = uuid()) => keepRevision(db, rigId, { id, name, promise: "two nights" }, rig);
  it("keeps the document, the verdicts and what was promised", async () => {
    const id = uuid();
    await keep("as quoted", id);
    const [only] = await listRevisions(db, rigId);
    expect(only).toMatchObject({ id, name: "as quoted", promise: "two nights" });
    expect(only!.summary.starts.word).toMatch(/Holds|Tight|Fails|Stop/);
    expect(await revisionRig(db, rigId, id)).toEqual(rig);
  });
  it("sent twice with one id is kept once", async () => {
    const id = uuid();
    await keep("once", id);
    await keep("once", id);
    expect(await listRevisions(db, rigId)).toHaveLength(1);
  });
  it("stands newest first, off the list once deleted, and back again", async () => {
    const [first, second] = [uuid(), uuid()];
    await keep("first", first);
    await new Promise((resolve) => setTimeout(resolve, 5));
    await keep("second", second);
    expect((await listRevisions(db, rigId)).map(({ name }) => name)).toEqual(["second", "first"]);
    expect(await changeRevision(db, rigId, second, true)).toBe(true);
    expect((await listRevisions(db, rigId)).map(({ name }) => name)).toEqual(["first"]);
    expect(await revisionRig(db, rigId, second)).toBeNull();
    await changeRevision(db, rigId, second, false);
    expect(await listRevisions(db, rigId)).toHaveLength(2);
  });
  it("is no other job's", async () => {
    const id = uuid();
    await keep("mine", id);
    const other = (await createRig(db, rigOf())).id;
    expect(await revisionRig(db, other, id)).toBeNull();
    expect(await changeRevision(db, other, id, true)).toBe(false);
  });
  it.each([
    [{ id: "1", name: "a", promise: "" }, "id"],
    [{ id: uuid(), name: "  ", promise: "" }, "name"],
    [{ id: uuid(), name: "a", promise: "x".repeat(2001) }, "promise"],
  ])("%j is refused with its path", (value, path) =>
    expect(newRevision.safeParse(value).error?.issues[0]?.path).toEqual([path]),
  );
});
