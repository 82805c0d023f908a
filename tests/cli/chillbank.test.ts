import { spawnSync } from "node:child_process";
import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { beforeAll, describe, expect, it } from "vitest";
import { callCommand } from "@/cli/call";
import { usualRequirement } from "@/core/applications/options/target";
import { emptyJob } from "@/core/document/schema";
import { assess } from "@/core/assessment/verdicts/assess";
import { assessDay } from "@/core/assessment/verdicts/day";
import { q, jobOf } from "../jobs";

const ROOT = join(import.meta.dirname, "../..");
const folder = mkdtempSync(join(tmpdir(), "chillbank-cli-"));
/** The program itself. */
const spawned = (args: string[], input?: string) => {
  // Neither a database nor a browser: the environment names none, and the working folder is elsewhere.
  const { status, stdout, stderr } = spawnSync(join(ROOT, "bin/chillbank"), args, {
    cwd: folder,
    input,
    encoding: "utf8",
    env: { NODE_ENV: "production", PATH: process.env.PATH, HOME: process.env.HOME },
  });
  return { status, stdout, stderr };
};
/** The same without a process of its own, which takes seconds to start. */
const run = async (args: string[], input = "") => {
  const printed = { stdout: "", stderr: "" };
  const status = await callCommand(args, {
    folder,
    stdin: () => input,
    out: (text) => void (printed.stdout += text),
    err: (text) => void (printed.stderr += text),
    watched: false,
  });
  return { status, ...printed };
};
const file = (name: string, content: string) => {
  writeFileSync(join(folder, name), content);
  return name;
};

describe("chillbank assess", () => {
  const job = jobOf({ unit: { runningCurrent: q(6) }, bank: { capacityAh: q(300) } });
  it("prints the core's assessment as JSON, for a file named from where it is called", async () => {
    const { status, stdout } = await run(["assess", file("job.json", JSON.stringify(job))]);
    const printed = JSON.parse(stdout) as { verdicts: unknown; hours: unknown };
    const { verdicts, hours } = assess(job);
    const day = assessDay(job);
    expect(status).toBe(0);
    expect(printed.verdicts).toEqual(JSON.parse(JSON.stringify({ ...verdicts, ...day.verdicts })));
    expect(printed.hours).toEqual(JSON.parse(JSON.stringify([...hours, day.handHolding])));
  });
  it("prints a sheet to read with --text, working and cautions included", async () => {
    const { status, stdout } = await run(["assess", "-", "--text"], JSON.stringify(job));
    expect(status).toBe(0);
    expect(stdout).toMatch(/^Test job\n=+\n\nStarts +(Holds|Tight|Fails|Stop)/);
    expect(stdout).toMatch(/Hand method[\s\S]*lethal charge[\s\S]*Working[\s\S]*Source:/);
  });
  it.each<[string, string[], string, RegExp[]]>([
    ["a file that is not there", ["assess", "nowhere.json"], "", [/nowhere\.json: .*no such file/i]],
    ["text that is not JSON", ["assess", "-"], "not\njson", [/not JSON/]],
    [
      "two faults, a line each",
      ["assess", "-"],
      JSON.stringify({
        ...emptyJob("x"),
        name: "",
        bank: { chemistry: "lfp", build: "batteries", frostBlock: true, reserve: { value: 2, origin: "plate" } },
      }),
      [/: name: /, /: bank\.reserve\.value: Reserve: at most/],
    ],
    ["an unknown command", ["dance"], "", [/cannot dance/, /--help/]],
    ["an unknown option", ["assess", "--loud"], "", [/--loud/, /--help/]],
    ["nothing", [], "", [/nothing to do/, /--help/]],
  ])("ends with status 2 on %s", async (_, args, input, expected) => {
    const { status, stdout, stderr } = await run(args, input);
    expect([status, stdout]).toEqual([2, ""]);
    const lines = stderr.trim().split("\n");
    expect(lines).toHaveLength(expected.length);
    expected.forEach((pattern, i) => expect(lines[i]).toMatch(pattern));
  });
});

it("the program itself ends with status 2 and a line on standard error where the call is at fault", () => {
  const { status, stdout, stderr } = spawned(["dance"]);
  expect({ status, stdout }).toEqual({ status: 2, stdout: "" });
  expect(stderr).toMatch(/^chillbank: cannot dance$/m);
});

describe("chillbank day", () => {
  const job = jobOf({ unit: { runningCurrent: q(4) }, bank: { capacityAh: q(300) } });
  const name = file("day.json", JSON.stringify(job));
  it("writes a CSV line a minute for the days asked", async () => {
    const { status, stdout } = await run(["day", name, "--days", "2", "--seed", "1"]);
    const lines = stdout.trimEnd().split("\r\n");
    expect(status).toBe(0);
    expect(lines).toHaveLength(1 + 2 * 1440);
    expect(lines[0]).toMatch(/^time,state_of_charge,bank_V,.*losses_W$/);
    expect(lines[1440]).toMatch(/^\d{4}-\d\d-\d\dT11:59[+-]\d\d:\d\d,[01](\.\d+)?,/);
  });
  it("gives the same days for a seed, others for another", async () => {
    const out = async (seed: string) => (await run(["day", name, "--days", "1", "--seed", seed])).stdout;
    const three = await out("3");
    expect(await out("3")).toBe(three);
    expect(await out("4")).not.toBe(three);
  });
  it("prints the summary as JSON with --summary", async () => {
    const { status, stdout } = await run(["day", "-", "--days", "7", "--seed", "1", "--summary"], JSON.stringify(job));
    expect(status).toBe(0);
    const summary = JSON.parse(stdout) as { sunrises: unknown[] };
    expect(summary).toMatchObject({
      days: 7,
      seed: 1,
      verdicts: { lasts: { name: "Lasts" }, recovers: { name: "Recovers" } },
      totals: { units_J: expect.any(Number) as number },
    });
    expect(summary.sunrises).toHaveLength(7);
  });
  it.each([
    ["days beyond a fortnight", ["--days", "15"], /--days: a whole number from 1 to 14/],
    ["a seed that is no number", ["--seed", "x"], /--seed/],
    ["an option of another command", ["--text"], /no option --text/],
  ])("ends with status 2 on %s", async (_, options, message) => {
    const { status, stdout, stderr } = await run(["day", name, ...options]);
    expect([status, stdout]).toEqual([2, ""]);
    expect(stderr).toMatch(message);
  });
});

it("chillbank schema prints the JSON Schema of the document", async () => {
  const { status, stdout } = await run(["schema"]);
  expect(status).toBe(0);
  expect(JSON.parse(stdout)).toMatchObject({
    $schema: expect.stringContaining("2020-12"),
    properties: { format: { const: "chillbank-document" } },
  });
});

describe("chillbank forecast", () => {
  const job = jobOf({ unit: { ratedPower: q(700) }, bank: { capacityAh: q(300) } });
  const rows = Array.from({ length: 120 }, (_, i) => {
    const amps = i < 30 || i % 12 < 6 ? 60 : 9;
    return `${new Date(Date.UTC(2026, 6, 14, 13, i)).toISOString()},${-amps}`;
  });
  const readings = ["time,battery_current_a", ...rows].join("\n");
  const at = async (...more: string[]) =>
    JSON.parse((await run(["forecast", "job.json", "log.csv", ...more])).stdout) as {
      hours_logged: number;
      hours_to_reserve: { p50: number };
      conditions: Record<string, unknown>;
      decides: string;
    };
  let plain = 0;
  beforeAll(async () => {
    file("job.json", JSON.stringify(job));
    file("log.csv", readings);
    plain = (await at()).hours_to_reserve.p50;
  });
  it("prints quantiles to the reserve and the cut-off, what was found, and the hand answers", async () => {
    const { status, stdout } = await run(["forecast", "job.json", "log.csv"]);
    expect(status).toBe(0);
    const printed = JSON.parse(stdout) as {
      hours_logged: number;
      hours_to_reserve: Record<"p10" | "p50" | "p90", number>;
      hours_to_cutoff: Record<"p10" | "p50" | "p90", number>;
      by_hand: Record<string, number>;
      states: { cycles: unknown[] };
      found: { key: string }[];
    };
    const { p10, p50, p90 } = printed.hours_to_reserve;
    expect(p10).toBeLessThan(p50);
    expect(p50).toBeLessThan(p90);
    expect(printed.hours_to_cutoff.p50).toBeGreaterThan(p50);
    expect(Object.keys(printed.by_hand)).toEqual(["amps_now", "average_so_far", "last_half_hour"]);
    expect(printed.states.cycles.length).toBeGreaterThan(5);
    expect(printed.found.map(({ key }) => key)).toContain("running");
  });
  it("uses the first minutes only where told, and takes a change of plan", async () => {
    expect((await at("--minutes", "30")).hours_logged).toBeCloseTo(0.5, 6);
    expect((await at("--plan", "fan only")).hours_to_reserve.p50).toBeGreaterThan(plain);
  });
  it("prints what to set to last until a time, or the nearest to it", async () => {
    const { stdout } = await run(["forecast", "job.json", "log.csv", "--until", "07:00"]);
    const { until } = JSON.parse(stdout) as {
      until: Record<"as_it_is" | "settings" | "nearest", { chance: number; warmer_kh: number } | null> & { at: string };
    };
    expect(until.at).toMatch(/^2026-07-1[45]T\d\d:00:00.000Z$/);
    expect(until.as_it_is!.chance).toBeLessThan(0.9);
    expect((until.settings ?? until.nearest)!.chance).toBeGreaterThanOrEqual(until.as_it_is!.chance);
    expect(until.settings === null).toBe(until.nearest !== null);
  });
  it("takes the conditions of the run, and says them again", async () => {
    const hot = await at("--people", "3", "--forecast-high", "39", "--forecast-low", "24", "--colour", "dark");
    expect(hot.conditions).toMatchObject({ people: 3, colour: "dark", forecastHighC: 39, forecastLowC: 24 });
    expect(hot.hours_to_reserve.p50).not.toBe(plain);
    expect(hot.decides).toMatch(/\d A/);
  });
  it("takes the battery's age, settings from a file and from the note column, and lists what it does not understand", async () => {
    const [first, ...rest] = rows;
    const noted = rest.map((row, i) => `${row},${i === 40 ? "turned down to 72" : i === 50 ? "fan noisy" : ""}`);
    file("noted.csv", ["time,battery_current_a,note", `${first},`, ...noted].join("\n"));
    file("settings.csv", "2026-07-14T13:20:00Z,set 25\n2026-07-14T14:50:00Z,low fan\n");
    const args = ["forecast", "job.json", "noted.csv", "--settings", "settings.csv", "--battery-age", "tired"];
    const { status, stdout } = await run(args);
    expect(status).toBe(0);
    const printed = JSON.parse(stdout) as {
      settings: { set_c: number | null; mode: string | null }[];
      notes_not_understood: { note: string }[];
      conditions: { batteryAge: string };
      hours_to_reserve: { p50: number };
    };
    expect(printed.settings.map(({ set_c, mode }) => [set_c, mode])).toEqual([
      [25, null],
      [22.22, null],
      [null, "low"],
    ]);
    expect(printed.notes_not_understood.map(({ note }) => note)).toEqual(["fan noisy"]);
    expect(printed.conditions.batteryAge).toBe("tired");
    expect((await at("--battery-age", "tired")).hours_to_reserve.p50).toBeLessThan(0.9 * plain);
    expect((await at("--battery-age", "not-known")).hours_to_reserve.p50).toBe(plain);
  });
  it.each<[string, string[], RegExp]>([
    ["an age that is none", ["--battery-age", "ancient"], /--battery-age: /],
    ["a last full charge that is none", ["--last-full", "yesteryear"], /--last-full: /],
    ["a time that is none", ["--until", "dawn"], /--until: “dawn” is no time of day/],
    ["settings that are none", ["--settings", "log.csv"], /--settings, line 2: /],
    ["a number that is none", ["--people", "two"], /--people: a number, not two/],
    ["a word that it does not know", ["--shade", "dim"], /--shade: /],
    ["a low above the high", ["--forecast-high", "20", "--forecast-low", "25"], /--forecast-low: the lowest/],
    ["a charge over full", ["--start-charge", "120"], /--start-charge: /],
  ])("refuses %s in the conditions, by its option", async (_, args, words) => {
    const { status, stderr } = await run(["forecast", "job.json", "log.csv", ...args]);
    expect(status).toBe(2);
    expect(stderr).toMatch(words);
  });
  it.each<[string, string[], RegExp]>([
    ["no readings", ["forecast", "job.json", "job.json"], /job\.json/],
    ["too few of them", ["forecast", "job.json", "log.csv", "--minutes", "1"], /needs 3 readings/],
    ["a plan that is none", ["forecast", "job.json", "log.csv", "--plan", "dance"], /not understood/],
    ["no log", ["forecast", "job.json"], /cannot forecast/],
  ])("refuses %s with a line of words", async (_, args, words) => {
    const { status, stderr } = await run(args);
    expect(status).toBe(2);
    expect(stderr).toMatch(words);
  });
});

describe("chillbank options", () => {
  const job = jobOf({ unit: { runningCurrent: q(4) }, bank: { capacityAh: q(100) } });
  const { batteries, inverters } = usualRequirement(job).vary;
  const requirement = {
    format: "chillbank-requirement",
    version: 2,
    job,
    requirement: {
      weeks: 1,
      confirmWeeks: 1,
      vary: {
        batteries: batteries.slice(1, 2),
        inverters: inverters.slice(2, 3),
        parallel: [1, 2],
        panels: [0, 2],
        starts: ["as-is"],
        cabins: ["as-is"],
      },
    },
  };
  it("prints one frontier for any number of workers, dearest last", async () => {
    const name = file("requirement.json", JSON.stringify(requirement));
    const [one, two] = [spawned(["options", name, "--workers", "2"]), await run(["options", name, "--workers", "1"])];
    expect(one!.status).toBe(0);
    expect(two!.stdout).toBe(one!.stdout);
    const { frontier, rulesOfThumb } = JSON.parse(one!.stdout) as {
      frontier: { cost: number }[];
      rulesOfThumb: unknown[];
    };
    expect(frontier.length).toBeGreaterThan(1);
    expect(frontier.map(({ cost }) => cost)).toEqual(frontier.map(({ cost }) => cost).sort((a, b) => a - b));
    expect(rulesOfThumb).toHaveLength(3);
  });
  it("prints it as a table with --csv, along another axis", async () => {
    const one = structuredClone(requirement);
    Object.assign(one.requirement.vary, { parallel: [1], panels: [0] });
    const { status, stdout } = await run(["options", "-", "--csv", "--axis", "mass"], JSON.stringify(one));
    expect(status).toBe(0);
    expect(stdout.split("\n")[0]).toMatch(/^name,cost,mass_kg/);
  });
  it.each([
    [["options", "-", "--axis", "colour"], JSON.stringify(requirement), /--axis: cost, mass or roof/],
    [["options", "-"], JSON.stringify({ ...requirement, version: 9 }), /-: version: this Chillbank reads version 2/],
    [["options", "-", "--workers", "0"], "", /--workers: a whole number from 1 to 16/],
  ])("%j is refused with its reason", async (args, input, reason) => {
    const { status, stderr } = await run(args, input);
    expect(status).toBe(2);
    expect(stderr).toMatch(reason);
  });
});
