/**
 * Where a forecast's error comes from, on runs of the foreign simulators: what it would be if it were given the truth of one
 * thing at a time. `node … [first seed] [how many seeds] [particles]`; SECOND=1 for the second simulator, SAID=1 with what
 * somebody on board could have said.
 *
 * - draw: the true amps from the cut on, against the charge that the forecast takes to be left;
 * - charge: the amp-hours that were truly left, against the forecast's own mean draw;
 * - weather: the outdoor temperatures of the whole run instead of the month's usual day, everything else as it was.
 *
 * Beside it, the forecast's mean draw over the true one in the first hour after the cut and in the four after it.
 */
import type { ForeignRun } from "../foreign/simulator";
import { ahead } from "../../src/core/applications/test-run/inference/forecast";
import { fit, testRunOf, type TestRun } from "../../src/core/applications/test-run/inference/test-run";
import { logOf } from "../../src/core/applications/test-run/inference/likelihood";
import { priorOf } from "../../src/core/applications/test-run/inference/prior";
import { firstMinutes, type Readings } from "../../src/core/applications/test-run/log/readings";
import { segment } from "../../src/core/applications/test-run/segmentation/segment";
import { siteOf } from "../../src/core/applications/test-run/site/site";
import { openCircuitVoltage } from "../../src/core/models/battery/battery";
import { constantPower } from "../../src/core/models/battery/under-load";
import { settledResistance } from "../../src/core/simulation/kernel/battery";
import { secondRun } from "../foreign/second";
import { foreignRun } from "../foreign/simulator";
import { percent, quantile } from "../foreign/score";

const [first = 1, many = 60, particles = 200] = process.argv.slice(2).map(Number);
const makeRun = process.env.SECOND ? secondRun : foreignRun;
const CUTS = [30, 60, 120];
const HOURS = 48;
const GIVEN = ["nothing", "draw", "charge", "weather", "weather and draw"] as const;
type Given = (typeof GIVEN)[number];
/** Hours to the reserve over those that were left, less one, by what was given. */
type Off = Record<Given, number>;
/** Spans of hours after the cut in which the draw is compared. */
const SPANS = [
  [0, 1],
  [1, 5],
] as const;

const mean = (line: readonly number[]) => line.reduce((sum, one) => sum + one, 0) / line.length;

/** The means of a log's column over steps of so many seconds from a moment on; NaN where it was not read. */
function stepsOf(readings: Readings, column: "battery_current_a" | "outdoor_temp_c", fromMs: number, stepS: number) {
  const sums = new Map<number, [number, number]>();
  readings.timeMs.forEach((ms, i) => {
    const value = readings.values[column][i]!;
    if (ms < fromMs || Number.isNaN(value)) return;
    const at = Math.floor((ms - fromMs) / 1000 / stepS);
    const [sum, n] = sums.get(at) ?? [0, 0];
    sums.set(at, [sum + value, n + 1]);
  });
  const last = Math.max(0, ...sums.keys());
  return Array.from({ length: last + 1 }, (_, i) => {
    const [sum, n] = sums.get(i) ?? [NaN, 1];
    return sum / n;
  });
}

/** Steps that were not read hold the value of the one before. */
function held(line: readonly number[]): number[] {
  let before = line.find((one) => !Number.isNaN(one)) ?? 0;
  return line.map((one) => (before = Number.isNaN(one) ? before : one));
}

/** Hours in which amps by step come to so many amp-hours; the mean of the last two hours goes on beyond them. */
function hoursTo(amps: readonly number[], stepS: number, ampHours: number): number {
  const end = amps.slice(-Math.ceil(7200 / stepS));
  const beyond = end.reduce((sum, one) => sum + one, 0) / Math.max(1, end.length);
  let left = ampHours;
  for (let i = 0; (i * stepS) / 3600 < HOURS; i++) {
    const taken = ((i < amps.length ? amps[i]! : beyond) * stepS) / 3600;
    if (taken >= left) return ((i + left / taken) * stepS) / 3600;
    left -= taken;
  }
  return HOURS;
}

/** A test run whose outdoor temperatures are those of the whole run, or null where they were not read. */
function inTrueWeather(run: ForeignRun, log: Readings, said: ForeignRun["said"] | undefined, plain: TestRun) {
  const { startMs, stepS, steps } = plain.site;
  const true_ = stepsOf(run.readings, "outdoor_temp_c", startMs, stepS);
  if (true_.every(Number.isNaN)) return null;
  const seconds = steps * stepS;
  const site = siteOf(run.job, { startMs, seconds, stepS, conditions: said });
  // Beyond the run's own end the usual day goes on from where the true one was.
  let off = 0;
  site.outdoorC.forEach((usual, i) => {
    if (i < true_.length && !Number.isNaN(true_[i]!)) off = true_[i]! - usual;
    site.outdoorC[i] = usual + off;
  });
  const segments = segment(log, site);
  return {
    site,
    readings: log,
    segments,
    log: logOf(site, log, segments),
    prior: priorOf(site, log, segments),
    said: [],
  };
}

function offOf(run: ForeignRun, cut: number): { off: Off; draw: number[] } | null {
  const log = firstMinutes(run.readings, cut);
  if (log.timeMs.length < 3) return null;
  const lastMs = log.timeMs[log.timeMs.length - 1]!;
  const left = run.reserveH - (lastMs - run.readings.timeMs[0]!) / 3_600_000;
  if (left < 0.4) return null;
  const said = process.env.SAID ? run.said : undefined;
  const judge = (testRun: TestRun) => {
    const { hoursToReserve, socNow, means } = ahead(testRun, fit(testRun, { particles, seed: 1 })!);
    const { stepS, system } = testRun.site;
    const { bank } = system;
    // Half way from now to the reserve, as its volts are under the draw.
    const openVolts = openCircuitVoltage(bank, ((socNow.p50 ?? 1) + bank.reserveSoc) / 2);
    const ohm = settledResistance(bank);
    const amps = [...means.draw].map((watts, i) => constantPower(openVolts, ohm, watts - means.solar[i]!).current);
    const hours = hoursToReserve.p50 ?? HOURS;
    // The charge that the forecast takes to be left is what its mean draw takes until its median.
    const steps = Math.floor((hours * 3600) / stepS);
    const ampHours = amps.slice(0, steps).reduce((sum, one) => sum + (one * stepS) / 3600, 0);
    return { hours, amps, ampHours, stepS };
  };
  const plain = testRunOf(run.job, log, said);
  const own = judge(plain);
  const trueAmps = stepsOf(run.readings, "battery_current_a", lastMs, own.stepS).map((one) => -one);
  const within = held(trueAmps.slice(0, Math.floor((left * 3600) / own.stepS)));
  const trueAmpHours = within.reduce((sum, one) => sum + (one * own.stepS) / 3600, 0);
  const told = inTrueWeather(run, log, said, plain);
  const weathered = told && judge(told);
  const off = (hours: number) => hours / left - 1;
  const draw = SPANS.map(([from, to]) => {
    const part = (line: readonly number[]) => line.slice((from * 3600) / own.stepS, (to * 3600) / own.stepS);
    const length = part(within).length;
    return mean(part(own.amps).slice(0, length)) / mean(part(within));
  });
  const given: Off = {
    nothing: off(own.hours),
    draw: off(hoursTo(within, own.stepS, own.ampHours)),
    charge: off(hoursTo(own.amps, own.stepS, trueAmpHours)),
    weather: weathered ? off(weathered.hours) : NaN,
    "weather and draw": weathered ? off(hoursTo(within, own.stepS, weathered.ampHours)) : NaN,
  };
  return { off: given, draw };
}

const all: { group: string[]; off: Off; draw: number[] }[] = [];
for (let seed = first; seed < first + many; seed++) {
  const run = makeRun(seed);
  if (!run) continue;
  const { fixed, lead, sunny } = run.kind;
  const group = ["all", fixed ? "fixed" : "variable", lead ? "lead" : "lithium", sunny ? "sunny" : "no panels"];
  for (const cut of CUTS) {
    const found = offOf(run, cut);
    if (found) all.push({ group, ...found });
  }
}
for (const name of ["all", "fixed", "variable", "lithium", "lead", "sunny", "no panels"]) {
  const own = all.filter(({ group }) => group.includes(name));
  const columns = GIVEN.map((given) => {
    const off = own.map((one) => one.off[given]).filter((one) => !Number.isNaN(one));
    return `${given} ${percent(quantile(off.map(Math.abs), 0.5))} (lean ${percent(quantile(off, 0.5))}, n ${off.length})`;
  });
  const draws = SPANS.map(([from, to], i) => {
    const ratios = own.map(({ draw }) => draw[i]!).filter((one) => one > 0);
    return `hours ${from} to ${to} ${quantile(ratios, 0.5).toFixed(2)}`;
  });
  console.log(`${name.padEnd(10)} ${columns.join("  ")}  draw over the true one: ${draws.join(", ")}`);
}
