import { readFileSync } from "node:fs";
import { resolve } from "node:path";
import { parseArgs } from "node:util";
import { readJobText, jobJsonSchema, type Job } from "../core/document/schema";
import { assess } from "../core/assessment/verdicts/assess";
import { assessDay } from "../core/assessment/verdicts/day";
import { assessmentAsJson, assessmentAsText } from "../core/assessment/verdicts/report";
import { dayOutput } from "./day";
import { isAxis } from "../core/applications/options/report";
import { runConditionsSchema, type RunConditions } from "../core/applications/test-run/site/conditions";
import { forecastOutput } from "./forecast";
import { optionsOutput } from "./options";

const USAGE = `Usage:
  chillbank assess JOB.json [--text]   the assessment as JSON, or as a sheet to read (JOB.json may be - for standard input)
  chillbank day JOB.json [--days N] [--seed N] [--summary]
                                       the days of its plan from noon, a CSV line a minute, or their summary as JSON;
                                       --days 1 to 14 (7), --seed the simulated fortnight instead of the document's weather
  chillbank forecast JOB.json READINGS.csv [--minutes N] [--plan TEXT] [conditions]
                                       hours to the reserve and to the cut-off from a log of readings, as JSON: p10, p50
                                       and p90, what was found in it, and what a hand would say; --minutes uses the
                                       first N only; --plan changes the rest: "set 24", "+2", "low fan", "off at 00:00";
                                       conditions that no instrument tells: --people N, --colour white|grey|dark,
                                       --blinds none|inside|outside, --shade sun|part|shade, the day's --forecast-high C
                                       and --forecast-low C, --start-charge PERCENT at the first reading,
                                       --battery-age new|some-years|tired|not-known,
                                       --last-full now|days|weeks|not-known; --settings FILE says how the unit was set,
                                       a line each: 2026-07-01 21:10,set 24 (beside the log's notes that say so);
                                       --until 07:00 prints what to set so that it lasts until then in nine of ten
  chillbank options REQUIREMENT.json [--workers N] [--axis cost|mass|roof] [--csv]
                                       searches the designs that a requirement allows and prints the frontier: what each step of
                                       money, mass or roof buys in days satisfied; --workers 1 to 16 (2): the same result for any
  chillbank schema                     the JSON Schema of the job file
Exit status: 0 done, 2 the input or the call is at fault (one line a fault on standard error).
`;

/** What a call reads and writes. */
export interface Surroundings {
  /** Folder that relative names are of. */
  folder: string;
  stdin(): string;
  out(text: string): void;
  err(text: string): void;
  /** Whether somebody watches the lines of errors come. */
  watched: boolean;
}

/** Input or call at fault: a line for each fault. */
class CallFault extends Error {
  constructor(readonly lines: string[]) {
    super(lines.join("\n"));
  }
}

function fail(...lines: string[]): never {
  throw new CallFault(lines);
}

function readText(file: string, { folder, stdin }: Surroundings): string {
  try {
    return file === "-" ? stdin() : readFileSync(resolve(folder, file), "utf8");
  } catch (error) {
    fail(`${file}: ${(error as Error).message}`);
  }
}

function readFile(file: string, surroundings: Surroundings): Job {
  const read = readJobText(readText(file, surroundings));
  if (!read.ok) fail(...read.faults.map(({ path, message }) => `${file}: ${path ? `${path}: ` : ""}${message}`));
  return read.job;
}

function assessed(job: Job, text: boolean): string {
  const [assessment, day] = [assess(job), assessDay(job)];
  return text
    ? assessmentAsText(job, assessment, day)
    : `${JSON.stringify(assessmentAsJson(job, assessment, day), null, 2)}\n`;
}

/** A whole number of an option between two limits. */
function whole(name: string, text: string, low: number, high: number): number {
  const value = Number(text);
  if (!/^\d+$/.test(text) || value < low || value > high)
    fail(`--${name}: a whole number from ${low} to ${high}, not ${text}`);
  return value;
}

function parsed(args: string[]) {
  try {
    return parseArgs({
      args,
      allowPositionals: true,
      options: {
        text: { type: "boolean" },
        days: { type: "string" },
        seed: { type: "string" },
        summary: { type: "boolean" },
        minutes: { type: "string" },
        workers: { type: "string" },
        axis: { type: "string" },
        csv: { type: "boolean" },
        plan: { type: "string" },
        people: { type: "string" },
        colour: { type: "string" },
        blinds: { type: "string" },
        shade: { type: "string" },
        "forecast-high": { type: "string" },
        "forecast-low": { type: "string" },
        "start-charge": { type: "string" },
        "battery-age": { type: "string" },
        "last-full": { type: "string" },
        settings: { type: "string" },
        until: { type: "string" },
        help: { type: "boolean", short: "h" },
      },
    });
  } catch (error) {
    fail((error as Error).message, "see chillbank --help");
  }
}

type Given = ReturnType<typeof parsed>["values"];

/** Options of a forecast that say what no instrument tells. */
const CONDITIONS = [
  "people",
  "colour",
  "blinds",
  "shade",
  "forecast-high",
  "forecast-low",
  "start-charge",
  "battery-age",
  "last-full",
] as const;

/** The conditions of a run as they were given; what is not understood ends the call with the option's name. */
function conditions(values: Given): RunConditions {
  const number = (name: (typeof CONDITIONS)[number]) => {
    const text = values[name];
    if (text === undefined) return null;
    if (!/^[+-]?\d+(\.\d+)?$/.test(text)) fail(`--${name}: a number, not ${text}`);
    return Number(text);
  };
  /** What was said in a word; not known is an answer, too. */
  const word = (name: "battery-age" | "last-full") => (values[name] === "not-known" ? null : (values[name] ?? null));
  const percent = number("start-charge");
  const read = runConditionsSchema.safeParse({
    people: number("people"),
    colour: values.colour ?? null,
    blinds: values.blinds ?? null,
    shade: values.shade ?? null,
    forecastHighC: number("forecast-high"),
    forecastLowC: number("forecast-low"),
    startSoc: percent === null ? null : percent / 100,
    batteryAge: word("battery-age"),
    lastFull: word("last-full"),
  });
  if (read.success) return read.data;
  const option = {
    forecastHighC: "forecast-high",
    forecastLowC: "forecast-low",
    startSoc: "start-charge",
    batteryAge: "battery-age",
    lastFull: "last-full",
  } as const;
  fail(
    ...read.error.issues.map(({ path, message }) => {
      const key = String(path[0]);
      return `--${key in option ? option[key as keyof typeof option] : key}: ${message}`;
    }),
  );
}

/** Does what one call of the command line asks for, and returns its exit status: 0, or 2 where input or call are at fault. */
export async function callCommand(args: string[], surroundings: Surroundings): Promise<number> {
  try {
    surroundings.out(await answerTo(args, surroundings));
    return 0;
  } catch (error) {
    if (!(error instanceof CallFault)) throw error;
    for (const line of error.lines) surroundings.err(`chillbank: ${line.replace(/\s+/g, " ")}\n`);
    return 2;
  }
}

/** What is printed for a call; a fault of input or call is thrown. */
async function answerTo(args: string[], surroundings: Surroundings): Promise<string> {
  const { values, positionals } = parsed(args);
  if (values.help) return USAGE;
  const [command, ...rest] = positionals;
  const given = Object.keys(values);
  const only = (...allowed: string[]) => {
    const odd = given.find((name) => !allowed.includes(name));
    if (odd) fail(`${command} has no option --${odd}`, "see chillbank --help");
  };
  const file = rest[0] ?? "";
  if (command === "schema" && rest.length === 0) {
    only();
    return `${JSON.stringify(jobJsonSchema(), null, 2)}\n`;
  }
  if (command === "assess" && rest.length === 1) {
    only("text");
    return assessed(readFile(file, surroundings), values.text ?? false);
  }
  if (command === "day" && rest.length === 1) {
    only("days", "seed", "summary");
    const days = whole("days", values.days ?? "7", 1, 14);
    const seed = values.seed === undefined ? null : whole("seed", values.seed, 0, 999_999);
    return dayOutput(readFile(file, surroundings), { days, seed, summary: values.summary ?? false });
  }
  if (command === "forecast" && rest.length === 2) {
    only("minutes", "plan", "settings", "until", ...CONDITIONS);
    return forecast(rest as [string, string], values, surroundings);
  }
  if (command === "options" && rest.length === 1) {
    only("workers", "axis", "csv");
    return options(file, values, surroundings);
  }
  fail(command ? `cannot ${positionals.join(" ").slice(0, 80)}` : "nothing to do", "see chillbank --help");
}

function forecast([file, log]: [string, string], values: Given, surroundings: Surroundings): string {
  const minutes = values.minutes === undefined ? null : whole("minutes", values.minutes, 1, 7200);
  const output = forecastOutput(readFile(file, surroundings), readText(log, surroundings), {
    minutes,
    plan: values.plan ?? null,
    until: values.until ?? null,
    conditions: conditions(values),
    settings: values.settings === undefined ? null : readText(values.settings, surroundings),
  });
  if (!output.ok) fail(`${log}: ${output.message}`);
  return output.text;
}

async function options(file: string, values: Given, surroundings: Surroundings): Promise<string> {
  const axis = values.axis ?? "cost";
  if (!isAxis(axis)) fail(`--axis: cost, mass or roof, not ${axis}`);
  const workers = whole("workers", values.workers ?? "2", 1, 16);
  const { watched, err } = surroundings;
  const output = await optionsOutput(readText(file, surroundings), {
    workers,
    axis,
    csv: values.csv ?? false,
    onProgress: (words) => {
      if (watched) err(`\r${words}    `);
    },
  });
  if (watched) err("\r");
  if (!output.ok) fail(...output.faults.map(({ path, message }) => `${file}: ${path ? `${path}: ` : ""}${message}`));
  return output.text;
}
