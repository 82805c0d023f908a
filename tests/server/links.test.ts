import { afterAll, beforeAll, beforeEach, describe, expect, it } from "vitest";
import { customerPage, type CustomerPage } from "@/core/applications/handover/customer-page";
import { customerHtml, NO_PAGE } from "@/server/papers/customer-html";
import { connect } from "@/server/database";
import { listLinks, makeLink, pageOfToken, withdrawLink } from "@/server/links";
import { newLink } from "@/contract/links";
import { createJob, deleteJob } from "@/server/jobs";
import { q, jobOf } from "../jobs";
import { AUTHOR, ownDatabase } from "./own-database";

const db = connect(await ownDatabase());
afterAll(() => db.destroy());
const job = jobOf({
  brief: { wording: "secret requirement of the customer" },
  unit: { runningCurrent: q(6) },
  bank: { capacityAh: q(300) },
});
job.name = `Van <b>"&'`;
job.handover.document = { ...job.handover.document, switches: "Under the bench", leaveOut: ["card", "job"] };
let page: CustomerPage;
let jobId = "";
beforeAll(async () => {
  page = await customerPage(job, { revision: 4, date: "2026-05-04" });
});
beforeEach(async () => {
  jobId = (await createJob(db, AUTHOR, job)).id;
});
const DAY = 86_400_000;
const at = (days: number) => new Date(Date.UTC(2026, 4, 4) + days * DAY);

describe("a customer's link", () => {
  it("opens its page for whoever has the token", async () => {
    const { token } = await makeLink(db, AUTHOR, { jobId, page, days: 30 }, at(0));
    expect(await pageOfToken(db, token, at(1))).toEqual(page);
  });
  it("has a token of 192 random bits that is kept nowhere", async () => {
    const tokens = await Promise.all(
      Array.from({ length: 20 }, async () => (await makeLink(db, AUTHOR, { jobId, page, days: 30 })).token),
    );
    expect(new Set(tokens).size).toBe(20);
    for (const token of tokens) expect(token).toMatch(/^[A-Za-z0-9_-]{32}$/);
    const stored = JSON.stringify(await db("customer_links").where({ job_id: jobId }));
    for (const token of tokens) expect(stored).not.toContain(token);
  });
  it.each<[string, number, boolean]>([
    ["the day before it runs out", 29.9, true],
    ["the day after", 30.1, false],
  ])("%s opens: %s", async (_, days, opens) => {
    const { token } = await makeLink(db, AUTHOR, { jobId, page, days: 30 }, at(0));
    expect((await pageOfToken(db, token, at(days))) !== null).toBe(opens);
  });
  it("opens nothing once withdrawn, and others stay", async () => {
    const [one, two] = [
      await makeLink(db, AUTHOR, { jobId, page, days: 30 }),
      await makeLink(db, AUTHOR, { jobId, page, days: 30 }),
    ];
    expect(await withdrawLink(db, jobId, one.id)).toBe(true);
    expect(await pageOfToken(db, one.token)).toBeNull();
    expect(await pageOfToken(db, two.token)).toEqual(page);
    const listed = await listLinks(db, jobId);
    expect(listed.find(({ id }) => id === one.id)!.withdrawn).toBe(true);
    expect(listed.find(({ id }) => id === two.id)!.withdrawn).toBe(false);
  });
  it("cannot be withdrawn through another job", async () => {
    const { id, token } = await makeLink(db, AUTHOR, { jobId, page, days: 30 });
    const other = (await createJob(db, AUTHOR, job)).id;
    expect(await withdrawLink(db, other, id)).toBe(false);
    expect(await pageOfToken(db, token)).not.toBeNull();
  });
  it("opens nothing of a deleted job", async () => {
    const { token } = await makeLink(db, AUTHOR, { jobId, page, days: 30 });
    await deleteJob(db, AUTHOR, jobId);
    expect(await pageOfToken(db, token)).toBeNull();
  });
  it.each(["", "x", "a".repeat(31), "a".repeat(33), "' or 1=1 --".padEnd(32, "x"), "%".repeat(32), "A".repeat(32)])(
    "opens nothing for the token “%s”",
    async (token) => {
      await makeLink(db, AUTHOR, { jobId, page, days: 30 });
      expect(await pageOfToken(db, token)).toBeNull();
    },
  );
  it.each([0, 31, -1, "30", 36_500])("is not made for %s days", (days) => {
    expect(newLink.safeParse({ days }).success).toBe(false);
  });
});

describe("the page behind it", () => {
  it("shows what it is, card, map and cautions whatever is left off the print, and nothing else of the job", () => {
    const html = customerHtml(page);
    expect(page.sections.map(({ key }) => key).filter((key) => key !== "stops")).toEqual(["state", "card", "cautions"]);
    for (const words of ["Customer’s card", "How long, by heat and set point", "Cautions", "Under the bench"])
      expect(html).toContain(words);
    for (const hidden of ["secret requirement", "Parts list", "needs and has", "<script", "mm²"])
      expect(html).not.toContain(hidden);
  });
  it("is light, has no script and cannot be broken out of by a name", () => {
    const html = customerHtml(page);
    expect(html.length).toBeLessThan(20_000);
    expect(html).not.toContain("<b>");
    expect(html).toContain("Van &#60;b&#62;&#34;&#38;&#39;");
    expect(NO_PAGE).not.toContain("undefined");
  });
  it("has hours for nine days and five set points: fewer in more heat, more at a warmer set point", () => {
    expect(page.map.rows).toHaveLength(9);
    expect(page.map.rows.every((row) => row.length === page.map.head.length)).toBe(true);
    const hours = (words: string) => Number(/\d+(\.\d+)?/.exec(words)?.[0] ?? 0) * (words.includes("day") ? 24 : 1);
    const [cool, hot] = [page.map.rows[0]!, page.map.rows[8]!];
    expect(hours(hot[1]!)).toBeLessThanOrEqual(hours(cool[1]!));
    expect(hours(hot[5]!)).toBeGreaterThanOrEqual(hours(hot[1]!));
  });
});
