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

process.stdout.on("error", (error: NodeJS.ErrnoException) => process.exit(error.code === "EPIPE" ? 0 : 1));

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
                                       and --forecast-low C, --start-charge PERCENT at the first reading
  chillbank options REQUIREMENT.json [--workers N] [--axis cost|mass|roof] [--csv]
                                       searches the designs that a requirement allows and prints the frontier: what each step of
                                       money, mass or roof buys in days satisfied; --workers 1 to 16 (2): the same result for any
  chillbank schema                     the JSON Schema of the job file
Exit status: 0 done, 2 the input or the call is at fault (one line a fault on standard error).
`;

function fail(...lines: string[]): never {
  for (const line of lines) process.stderr.write(`chillbank: ${line.replace(/\s+/g, " ")}\n`);
  process.exit(2);
}

function readText(file: string): string {
  try {
    return file === "-"
      ? readFileSync(0, "utf8")
      : readFileSync(resolve(process.env.CHILLBANK_CWD ?? ".", file), "utf8");
  } catch (error) {
    fail(`${file}: ${(error as Error).message}`);
  }
}

function readFile(file: string): Job {
  const read = readJobText(readText(file));
  if (!read.ok) fail(...read.faults.map(({ path, message }) => `${file}: ${path ? `${path}: ` : ""}${message}`));
  return read.job;
}

function assessFile(file: string, text: boolean): void {
  const job = readFile(file);
  const [assessment, day] = [assess(job), assessDay(job)];
  process.stdout.write(
    text ? assessmentAsText(job, assessment, day) : `${JSON.stringify(assessmentAsJson(assessment, day), null, 2)}\n`,
  );
}

/** A whole number of an option between two limits. */
function whole(name: string, text: string, low: number, high: number): number {
  const value = Number(text);
  if (!/^\d+$/.test(text) || value < low || value > high)
    fail(`--${name}: a whole number from ${low} to ${high}, not ${text}`);
  return value;
}

function call() {
  try {
    return parseArgs({
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
        help: { type: "boolean", short: "h" },
      },
    });
  } catch (error) {
    fail((error as Error).message, "see chillbank --help");
  }
}
/** Options of a forecast that say what no instrument tells. */
const CONDITIONS = ["people", "colour", "blinds", "shade", "forecast-high", "forecast-low", "start-charge"] as const;

/** The conditions of a run as they were given; what is not understood ends the call with the option's name. */
function conditions(): RunConditions {
  const number = (name: (typeof CONDITIONS)[number]) => {
    const text = values[name];
    if (text === undefined) return null;
    if (!/^[+-]?\d+(\.\d+)?$/.test(text)) fail(`--${name}: a number, not ${text}`);
    return Number(text);
  };
  const percent = number("start-charge");
  const read = runConditionsSchema.safeParse({
    people: number("people"),
    colour: values.colour ?? null,
    blinds: values.blinds ?? null,
    shade: values.shade ?? null,
    forecastHighC: number("forecast-high"),
    forecastLowC: number("forecast-low"),
    startShare: percent === null ? null : percent / 100,
  });
  if (read.success) return read.data;
  const option = { forecastHighC: "forecast-high", forecastLowC: "forecast-low", startShare: "start-charge" } as const;
  fail(
    ...read.error.issues.map(({ path, message }) => {
      const key = String(path[0]);
      return `--${key in option ? option[key as keyof typeof option] : key}: ${message}`;
    }),
  );
}

const { values, positionals } = call();
const [command, ...rest] = positionals;
const given = Object.keys(values).filter((name) => name !== "help");
const only = (...allowed: string[]) => {
  const odd = given.find((name) => !allowed.includes(name));
  if (odd) fail(`${command} has no option --${odd}`, "see chillbank --help");
};
if (values.help) process.stdout.write(USAGE);
else if (command === "schema" && rest.length === 0) {
  only();
  process.stdout.write(`${JSON.stringify(jobJsonSchema(), null, 2)}\n`);
} else if (command === "assess" && rest.length === 1) {
  only("text");
  assessFile(rest[0]!, values.text ?? false);
} else if (command === "day" && rest.length === 1) {
  only("days", "seed", "summary");
  const days = whole("days", values.days ?? "7", 1, 14);
  const seed = values.seed === undefined ? null : whole("seed", values.seed, 0, 999_999);
  process.stdout.write(dayOutput(readFile(rest[0]!), { days, seed, summary: values.summary ?? false }));
} else if (command === "forecast" && rest.length === 2) {
  only("minutes", "plan", ...CONDITIONS);
  const minutes = values.minutes === undefined ? null : whole("minutes", values.minutes, 1, 7200);
  const output = forecastOutput(readFile(rest[0]!), readText(rest[1]!), {
    minutes,
    plan: values.plan ?? null,
    conditions: conditions(),
  });
  if (!output.ok) fail(`${rest[1]}: ${output.message}`);
  process.stdout.write(output.text);
} else if (command === "options" && rest.length === 1) {
  only("workers", "axis", "csv");
  const axis = values.axis ?? "cost";
  if (!isAxis(axis)) fail(`--axis: cost, mass or roof, not ${axis}`);
  const workers = whole("workers", values.workers ?? "2", 1, 16);
  const loud = process.stderr.isTTY;
  const output = await optionsOutput(readText(rest[0]!), {
    workers,
    axis,
    csv: values.csv ?? false,
    onProgress: (words) => loud && process.stderr.write(`\r${words}    `),
  });
  if (loud) process.stderr.write("\r");
  if (!output.ok) fail(...output.faults.map(({ path, message }) => `${rest[0]}: ${path ? `${path}: ` : ""}${message}`));
  process.stdout.write(output.text);
} else fail(command ? `cannot ${[command, ...rest].join(" ").slice(0, 80)}` : "nothing to do", "see chillbank --help");
