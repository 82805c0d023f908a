import { describe, expect, it } from "vitest";
import { demoJob, q, jobOf } from "../../../../tests/jobs";
import { readingSpec } from "../fault-finding/readings";
import { formatQuantity } from "../../units/format";
import { emptyHandover, type Job } from "../../document/schema";
import { assess } from "../../assessment/verdicts/assess";
import { dayOfFollowUps, everyWords, followUps } from "./follow-ups";

const of = (job: Job, from = "2026-05-04") => followUps({ job, assessment: assess(job) }, from);
const keys = (job: Job) => of(job).map(({ key }) => key);
const van = jobOf({ unit: { runningCurrent: q(6) }, bank: { capacityAh: q(300) } });
const boat = jobOf({ unit: { condenser: "sea" } });

describe("follow-up checks", () => {
  it.each<[string, string, string | null]>([
    ["re-torque", "2026-06-04", null],
    ["air-filter", "2026-06-04", "every month"],
    ["leakage", "2026-11-04", "every 6 months"],
    ["capacity", "2027-05-04", "every year"],
    ["torque-yearly", "2027-05-04", "every year"],
  ])("“%s” is due on %s, then %s", (key, first, every) => {
    const own = of(van).find((one) => one.key === key)!;
    expect(own.first).toBe(first);
    expect(everyWords(own.every)).toBe(every ?? "once");
  });
  it("has the strainer for sea water alone, every week", () => {
    expect(keys(van)).not.toContain("strainer");
    const own = of(boat).find(({ key }) => key === "strainer")!;
    expect([own.first, everyWords(own.every)]).toEqual(["2026-05-11", "every week"]);
  });
  it("asks for panels only where there are some", () => {
    expect(keys(van)).not.toContain("panels");
    expect(keys(demoJob("1-folio"))).toContain("panels");
  });
  it("tells what the core expects", () => {
    const bench = { job: van, assessment: assess(van) };
    const capacity = readingSpec("capacity").expected(bench)!;
    expect(of(van).find(({ key }) => key === "capacity")!.what).toContain(
      formatQuantity(capacity, "charge", van.notation),
    );
  });
  it("comes the soonest first", () => {
    const days = of(boat).map(({ first }) => first);
    expect(days).toEqual([...days].sort());
  });
  it.each([
    ["2026-01-31", "re-torque", "2026-02-28"],
    ["2028-01-31", "re-torque", "2028-02-29"],
    ["2028-02-29", "capacity", "2029-02-28"],
    ["2026-12-31", "air-filter", "2027-01-31"],
  ])("from %s the first “%s” is on %s: never a day that is none", (from, key, first) => {
    expect(of(van, from).find((one) => one.key === key)!.first).toBe(first);
  });
  it.each<[string, Partial<Job["handover"]>, string]>([
    ["nothing: the day given", {}, "2026-05-04"],
    [
      "the last step that passed",
      {
        steps: [
          { step: "dead", fields: [0], passed: true, reason: "", by: "MT", at: "2026-03-02T09:00:00.000Z" },
          { step: "alarms", fields: [], passed: false, reason: "none", by: "MT", at: "2026-04-02T09:00:00.000Z" },
        ],
      },
      "2026-03-02",
    ],
    ["the signature", { document: { ...emptyHandover().document, signedOn: "2026-02-01" } }, "2026-02-01"],
  ])("counts from %s", (_, handover, day) => {
    expect(dayOfFollowUps({ ...van, handover: { ...emptyHandover(), ...handover } }, "2026-05-04")).toBe(day);
  });
});
