import { describe, expect, it } from "vitest";
import { summaryOf } from "@/core/assessment/verdicts/summary";
import { summaryInThread } from "@/server/summaries";
import { demoJob, jobOf } from "../jobs";

describe("the summary of a job, computed in a thread of its own", () => {
  it.each(["1-folio", "4-skep"])("is that of the core, to the digit: %s", async (file) => {
    expect(await summaryInThread(demoJob(file))).toEqual(summaryOf(demoJob(file)));
  });
  it("leaves the server free to answer meanwhile", async () => {
    await summaryInThread(jobOf());
    let turns = 0;
    const turn = setInterval(() => turns++, 1);
    await Promise.all(Array.from({ length: 6 }, () => summaryInThread(demoJob("2-marionette"))));
    clearInterval(turn);
    expect(turns).toBeGreaterThan(10);
  });
  it("fails with the reason where a document is none, and goes on with the next", async () => {
    await expect(summaryInThread({} as never)).rejects.toThrow();
    expect(await summaryInThread(jobOf())).toEqual(summaryOf(jobOf()));
  });
});
