import { unzipSync } from "fflate";
import { describe, expect, it } from "vitest";
import { followUps } from "@/core/applications/handover/follow-ups";
import { partRows, partsList, PARTS_HEADER } from "@/core/applications/handover/parts-list";
import { assess } from "@/core/assessment/verdicts/assess";
import { calendarOf } from "@/server/papers/calendar";
import { makeHandover, pagesOf } from "@/server/papers/handover-making";
import { partsCsv, partsXlsx } from "@/server/papers/parts-table";
import { demoJob, q, jobOf } from "../jobs";

const job = jobOf({ unit: { runningCurrent: q(6), condenser: "sea" }, bank: { capacityAh: q(300) } });
job.units[0]!.name = "=1+1 <roof> & “co”";
const lines = partsList(job, assess(job));

describe("a parts list as a workbook", () => {
  /** Cells of the sheet, read by the format's own rules (ECMA-376: shared strings by number, else the number itself). */
  const cellsOf = (bytes: Uint8Array) => {
    const files = unzipSync(bytes);
    const text = (name: string) => new TextDecoder().decode(files[name]);
    const plain = (xml: string) =>
      xml.replace(
        /&(lt|gt|amp|quot|apos);/g,
        (_, name: string) => ({ lt: "<", gt: ">", amp: "&", quot: '"', apos: "'" })[name]!,
      );
    const strings = [...text("xl/sharedStrings.xml").matchAll(/<t[^>]*>([^<]*)<\/t>/g)].map(([, one]) => plain(one!));
    const sheet = text("xl/worksheets/sheet1.xml");
    expect(sheet).not.toContain("<f>");
    return [...sheet.matchAll(/<row[^>]*>(.*?)<\/row>/gs)].map(([, row]) => {
      const cells: (string | number)[] = PARTS_HEADER.map(() => "");
      for (const [, attributes, value] of row!.matchAll(/<c ([^>]*?)(?:\/>|>(?:<v>([^<]*)<\/v>)?<\/c>)/g)) {
        const column = /r="([A-Z])\d+"/.exec(attributes!)![1]!.charCodeAt(0) - 65;
        if (value !== undefined)
          cells[column] = attributes!.includes('t="s"') ? strings[Number(value)]! : Number(value);
      }
      return cells;
    });
  };
  it("holds the rows of the list: numbers as numbers, text as text that no spreadsheet runs", async () => {
    const [head, ...rows] = cellsOf(await partsXlsx(lines));
    expect(head).toEqual(PARTS_HEADER);
    expect(rows).toEqual(partRows(lines));
    expect(rows.some((row) => String(row[1]).startsWith("=1+1 <roof>"))).toBe(true);
  });
  it("is the same bytes whenever it is made", async () => {
    const one = await partsXlsx(lines);
    await new Promise((resolve) => setTimeout(resolve, 2100));
    expect(Buffer.compare(one, await partsXlsx(lines))).toBe(0);
  });
  it("has the same rows as the CSV", () => {
    expect(partsCsv(lines).trim().split("\n")).toHaveLength(lines.length + 1);
    expect(partsCsv(lines)).toContain("'=1+1");
  });
});

describe("follow-ups as a calendar", () => {
  const checks = followUps({ job, assessment: assess(job) }, "2026-05-04");
  const entry = {
    id: "0190c0de-0000-7000-8000-000000000001",
    name: "Van; “Folio”, one\nBEGIN:X",
    stamp: new Date(Date.UTC(2026, 4, 4, 9)),
  };
  const text = calendarOf(entry, checks);
  /** Content lines unfolded (RFC 5545 section 3.1). */
  const unfolded = text.replace(/\r\n[ \t]/g, "").split("\r\n");
  const events = unfolded.join("\n").split("BEGIN:VEVENT").slice(1);
  it("has an event for each check: whole day, id of its own, rule of its coming back (RFC 5545)", () => {
    expect(events).toHaveLength(checks.length);
    checks.forEach(({ key, first, every }, i) => {
      const event = events[i]!;
      expect(event).toContain(`UID:${key}.${entry.id}@chillbank`);
      expect(event).toContain(`DTSTART;VALUE=DATE:${first.replaceAll("-", "")}`);
      if (every === null) expect(event).not.toContain("RRULE");
      else expect(event).toMatch(new RegExp(`RRULE:FREQ=(WEEKLY|MONTHLY|YEARLY)(;INTERVAL=${every.count})?`));
    });
  });
  it.each([
    ["strainer", "RRULE:FREQ=WEEKLY"],
    ["leakage", "RRULE:FREQ=MONTHLY;INTERVAL=6"],
    ["capacity", "RRULE:FREQ=YEARLY"],
  ])("%s comes back by %s", (key, rule) => {
    expect(events.find((event) => event.includes(`UID:${key}.`))).toContain(rule);
  });
  it("keeps to 75 octets a line, CRLF, and lets no name break out of its field", () => {
    for (const line of text.split("\r\n")) expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75);
    expect(text).not.toMatch(/[^\r]\n/);
    expect(unfolded.filter((line) => line === "BEGIN:X")).toEqual([]);
    expect(text).toContain("\\; “Folio”\\, one\\n");
    expect(unfolded.some((line) => line.startsWith("X-"))).toBe(false);
  });
  it("is the same for the same job", () => {
    expect(calendarOf(entry, checks)).toBe(text);
  });
});

describe("the making of a handover document", () => {
  const stored = { id: "", revision: 3, job: demoJob("1-folio"), updatedAt: new Date(Date.UTC(2026, 4, 4)) };
  const draw = () => '<svg xmlns="http://www.w3.org/2000/svg" width="10" height="10"></svg>';
  it("tells how far it is, from nothing to setting the pages, and then has it ready", async () => {
    const told: [number, string][] = [];
    const pdf = await makeHandover(stored, [], "a4", {
      personId: "p",
      draw,
      tell: (share, doing) => told.push([share, doing]),
    });
    expect(told.length).toBeGreaterThan(10);
    expect(told[0]![0]).toBe(0);
    expect(told.map(([share]) => share)).toEqual([...told.map(([share]) => share)].sort((a, b) => a - b));
    expect(told[told.length - 1]![1]).toBe("Setting the pages");
    expect(pagesOf(pdf)).toBeGreaterThan(3);
    const again: number[] = [];
    expect(await makeHandover(stored, [], "a4", { personId: "p", draw, tell: (share) => again.push(share) })).toBe(pdf);
    expect(again).toEqual([]);
  });
  it("stops where it is told to", async () => {
    const stop = new AbortController();
    let steps = 0;
    const making = makeHandover({ ...stored, revision: 4 }, [], "a4", {
      personId: "p",
      draw,
      signal: stop.signal,
      tell: () => ++steps === 5 && stop.abort(),
    });
    await expect(making).rejects.toThrow(/abort/i);
    expect(steps).toBe(5);
  });
  it.each([
    ["another revision", { ...stored, revision: 5 }, []],
    [
      "another run",
      stored,
      [{ name: "Night", kind: "", startedMs: 0, finishedMs: null, snapshots: [], outcome: null }],
    ],
  ])("is another handover document for %s", async (_, other, runs) => {
    const [one, two] = [
      await makeHandover(stored, [], "a4", { personId: "p", draw }),
      await makeHandover(other, runs, "a4", { personId: "p", draw }),
    ];
    expect(Buffer.compare(one, two)).not.toBe(0);
  });
});
