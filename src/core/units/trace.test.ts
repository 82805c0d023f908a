import fc from "fast-check";
import { readdirSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { emptyBranch, emptyJob, type Job } from "../document/schema";
import { cases } from "../../../tests/cases";
import { randomJob } from "../../../tests/random-jobs";
import { demoJob, q, jobOf } from "../../../tests/jobs";
import { AMERICAN, METRIC } from "./dimension";
import { assess } from "../assessment/verdicts/assess";
import { assessDay } from "../assessment/verdicts/day";
import { workingAsText, withNumbers } from "./trace";

const { figures } = assess(jobOf({ unit: { runningCurrent: q(6, "measured") }, bank: { capacityAh: q(300) } }));

describe("a figure's working", () => {
  it("puts numbers for the symbols of its relation", () => {
    expect(withNumbers(figures["bank.capacity"]!)).toBe("300 Ah × 1 × 100 % × 100 % = 300 Ah");
  });
  it("keeps the relation's own units, whatever the job is written in", () => {
    expect(withNumbers(figures["unit.0.heat"]!)).toBe("(1 + 1.3 % × (35 °C − 35)) ÷ (1 + 1.3 % × (35 °C − 35)) = 1");
    expect(workingAsText(figures, "unit.0.heat", AMERICAN)).toContain("Highest outdoor temperature: 95 °F");
  });
  it("as text says relation, numbers, origins and source, and goes into the figures beneath", () => {
    const text = workingAsText(figures, "unit.0.running", METRIC, 1);
    expect(text).toMatch(/^Running power on the design day: 1\.31 kW\n {2}P = P_0 × k\n/);
    expect(text).toContain("[measured]");
    expect(text).toContain("Source: ");
    expect(text.split("\n").length).toBeGreaterThan(12);
  });
  it("is written once, however often it is asked for", () => {
    const assessment = assess(jobOf({}));
    expect(assessment.figures).toBe(assessment.figures);
  });
  it("of a key that is not there is empty", () => {
    expect(workingAsText(figures, "nothing", METRIC)).toBe("");
  });
});

/** Ah are the one unit in which charge over current is not seconds. */
const coherent = ({ value, dimension }: { value: number; dimension: string }) =>
  dimension === "charge" ? value * 3600 : value;

/** Evaluates the right-hand side of a relation with the terms' values, or NaN where it is not plain arithmetic. */
function evaluate(relation: string, terms: { symbol: string; value: number; dimension: string }[]): number {
  const right = relation.slice(relation.indexOf("=") + 1);
  const bySymbol = new Map(terms.map((term) => [term.symbol, coherent(term)]));
  const code = right
    .replace(/\p{L}[\p{L}\p{Nd}_′]*/gu, (symbol) =>
      symbol === "min" || symbol === "max" ? `Math.${symbol}` : `(${bySymbol.get(symbol) ?? "NaN"})`,
    )
    .replaceAll("×", "*")
    .replaceAll("÷", "/")
    .replaceAll("−", "-")
    .replaceAll("²", "**2")
    .replaceAll(/√\(/g, "Math.sqrt(")
    .replaceAll("^", "**");
  try {
    return Number(new Function(`return ${code}`)());
  } catch {
    return NaN;
  }
}

describe("what the working says is what the core computed", () => {
  // Relations that stand for a step-by-step result, or solve for themselves, cannot be put in and worked out.
  const STEPPED =
    /^lasts\.\w+\.current$|^lasts\.\w+\.power$|^column\.|\.(known|fan|low|average|duty)$|volts$|restNeeded$/;
  it("for every figure whose relation is plain arithmetic, within 0.1 %", () => {
    const dc = { id: "b", name: "Fridge", side: "dc" as const, leg: "L1" as const, atStart: true, power: q(60) };
    const job = jobOf({
      unit: { runningCurrent: q(6), startAid: "soft-starter" },
      brief: { loads: [{ id: "a", name: "Kettle", side: "mains", leg: "L1", atStart: true, power: q(500) }, dc] },
      inverter: { compartmentC: q(48) },
    });
    job.bank.parallel = q(2);
    job.wiring.links = { layout: "own-leads", fuses: "unsaid", paths: [{ length: q(0.4) }, { length: q(1) }] };
    job.wiring.branches = (["solar", "engine", "charger", "loads", "shore"] as const).map((role) =>
      emptyBranch(role, role),
    );
    job.wiring.measured = {
      ...{ current: q(80), bankVoltage: q(13.1), inverterVoltage: q(12.6) },
      ...{ hotCurrent: q(60), airC: q(25), cableC: q(35), lugC: q(42), protectionC: q(50) },
    };
    expect(wrongSums(job)).toEqual([]);
    expect(sumsOf(job).length).toBeGreaterThan(150);
  });
  it.each(readdirSync("db/demo").map((file) => file.replace(".json", "")))("for every figure of %s", (file) => {
    expect(wrongSums(demoJob(file))).toEqual([]);
  });
  it("for a unit on battery DC, with an inverter beside it and without", () => {
    for (const units of [1, 2]) {
      const job = jobOf({ unit: { kind: "dc", runningCurrent: q(30) } });
      if (units === 2) job.units.push({ ...emptyJob("two", "230V50Hz").units[0]!, id: "mains", name: "On mains" });
      expect(wrongSums(job)).toEqual([]);
    }
  });

  it("for every figure of systems made at random", () => {
    fc.assert(
      fc.property(randomJob(false), (job) => {
        expect(wrongSums(job)).toEqual([]);
      }),
      { numRuns: Number(process.env.RUNS ?? cases(6, 30)), seed: 7, endOnFailure: Boolean(process.env.RUNS) },
    );
  });

  function sumsOf(job: Job) {
    return [...Object.values(assess(job).figures), ...Object.values(assessDay(job).figures)].filter(
      ({ key }) => !STEPPED.test(key),
    );
  }
  function wrongSums(job: Job) {
    return (
      sumsOf(job)
        .filter(({ relation }) => !/[Σ∫]/.test(relation))
        .map(({ key, relation, terms, value, dimension }) => ({
          key,
          relation,
          value: coherent({ value, dimension }),
          worked: evaluate(relation, terms),
        }))
        // Nothing over nothing: an empty bank that nobody draws from.
        .filter(({ relation, value, worked }) => !(relation === "t = Q ÷ I" && value === 0 && Number.isNaN(worked)))
        .filter(({ value, worked }) => !(Math.abs(worked - value) <= 0.001 * Math.max(1e-9, Math.abs(value))))
    );
  }
});
