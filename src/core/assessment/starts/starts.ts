import { usesInverter } from "../../document/resolve-wiring";
import type { Job, Unit } from "../../document/schema";
import { hardestOf, smallestMargin, startContext, traceStart, type StartTrace } from "../../simulation/start/start";
import { constant, given, traced } from "../../units/trace";
import { check, verdictOf, type Check, type Verdict } from "../checks/check";
import { lowestSoc, type System } from "../../models/system/system";
import { driveOnMains, fixedSpeed, hasSoftStarter, hasStartAid, onBattery } from "../../document/unit-kinds";
import { laddersOf, type Ladder } from "./ladders";
import { limitChecks } from "./start-limits";

export interface StartsResult {
  verdict: Verdict;
  own: StartTrace;
  bare: StartTrace | null;
  softStarter: { margin: number; peakApparent: number } | null;
  ladders: Ladder[];
}

/** Rest between stop and start below which a compressor may stall against pressure: common practice, no source. */
const REST_NEEDED_S = 180;

/** Whether the compressor gets through its start: inverter, voltage, protection, fuse and rest between starts. */
export function assessStarts(system: System): StartsResult {
  const { job } = system;
  const context = startContext(system);
  const share = lowestSoc(system);
  const together = job.inverter.startOrder === "together" && job.units.length > 1;
  const candidates = together ? [-1] : job.units.map((_, i) => i);
  const traces = candidates.map((i) =>
    traceStart(context, { starting: i, startAid: "own", share, drawn: candidates.length === 1 }),
  );
  const worst = hardestOf(traces);
  const own =
    candidates.length === 1 ? worst : traceStart(context, { starting: worst.starting, startAid: "own", share });
  const starter = own.starting < 0 ? 0 : own.starting;
  const aided = job.units.some((unit, i) => hasStartAid(unit) && (together || i === starter));
  const bare = aided ? traceStart(context, { starting: own.starting, startAid: "none", share, drawn: false }) : null;

  const checks = limitChecks(system, own, starter);
  checks.push(...restChecks(system), ...waveformChecks(system));

  const verdict = verdictOf("Starts", checks);
  const mayBeAided = fixedSpeed(job.units[starter]!) && job.units[starter]!.startAid !== "soft-starter";
  const softened =
    mayBeAided && smallestMargin(own) < 1.15
      ? traceStart(context, { starting: own.starting, startAid: "soft-starter", share, drawn: false })
      : null;
  return {
    verdict,
    own,
    bare,
    softStarter: softened && { margin: smallestMargin(softened), peakApparent: softened.peakApparent },
    ladders: laddersOf(system, own),
  };
}

/** What a unit that is fed from elsewhere draws here. */
const NOTHING = traced({
  key: "starts.fedElsewhere",
  name: "Drawn by a unit that is fed from elsewhere",
  dimension: "power",
  value: 0,
  relation: "P = 0",
});

/** Starts where something else feeds the units on mains: their breakers and rests stay, and so do the units on the battery. */
export function startsFedElsewhere(system: System): StartsResult["verdict"] | null {
  const units = system.units.map((one) => (one.direct ? one : { ...one, running: NOTHING, runningApparent: NOTHING }));
  const left = { ...system, units };
  const question = { startAid: "own", share: lowestSoc(system), drawn: false } as const;
  const traces = units.flatMap(({ direct }, i) =>
    direct ? [traceStart(startContext(left), { starting: i, ...question })] : [],
  );
  const hardest = traces.length > 0 ? hardestOf(traces) : null;
  const checks = [
    ...(hardest ? limitChecks(left, hardest, hardest.starting) : []),
    ...startDevices(system).filter(({ by }) => by === "start-breaker"),
    ...restChecks(system),
  ];
  return checks.length > 0 ? verdictOf("Starts", checks) : null;
}

/** The unit of the hardest start where it runs on the battery and an inverter feeds others: none of that start is the inverter's. */
export function starterOnBattery(job: Job, { starting }: Pick<StartTrace, "starting">): Unit | null {
  const unit = job.units[starting];
  return unit && onBattery(unit) && usesInverter(job) ? unit : null;
}

/** The rest of each fixed-speed unit since its last stop. */
function restChecks({ job, values }: System): Check[] {
  return job.units.flatMap((unit, i) => {
    if (!fixedSpeed(unit)) return [];
    const rested = traced({
      key: `starts.rested.${i}`,
      name: "Time since the last stop",
      dimension: "duration",
      value: values.units[i]!.sinceStop.value,
      relation: "t = t_r",
      terms: () => [given("t_r", values.units[i]!.sinceStop)],
      source: "entered or assumed",
    });
    const needed = traced({
      key: "starts.restNeeded",
      name: "Off time that pressures need",
      dimension: "duration",
      value: REST_NEEDED_S,
      relation: "t = 3 min",
      source: "three to five minutes: common practice, no source",
    });
    const name = job.units.length > 1 ? `restart too soon, ${unit.name}` : "restart too soon";
    return [
      check({
        by: "start-rest",
        key: `rest.${i}`,
        name,
        demand: needed,
        limit: rested,
        remark: {
          met: "the compressor stays off until its pressures are equal",
          broken: "against pressure the compressor stalls at locked-rotor current until its overload opens",
        },
        rule: true,
      }),
    ];
  });
}

/** The AC breakers and the fuse at the hardest start alone, without the rest of the verdict: for asking many times. */
export function startDevices(system: System): Check[] {
  const { job } = system;
  const context = startContext(system);
  const together = job.inverter.startOrder === "together" && job.units.length > 1;
  const share = lowestSoc(system);
  const traces = (together ? [-1] : job.units.map((_, i) => i)).map((i) =>
    traceStart(context, { starting: i, startAid: "own", share, drawn: false }),
  );
  return (["breaker", "fuse"] as const).flatMap((limit) => {
    const hardest = traces.reduce((a, b) => {
      const [first, second] = [a.nearest[limit], b.nearest[limit]];
      return first && second && second.has * first.need < first.has * second.need ? b : a;
    });
    const at = hardest.nearest[limit];
    const device = limit === "breaker" ? hardest.breaker : system.wiring.fuse;
    if (!at || !device) return [];
    const amps = (which: string, value: number) =>
      traced({
        key: `starts.devices.${limit}.${which}`,
        name: which,
        dimension: "current",
        value,
        relation: "I = I_1",
        terms: () => [constant("I_1", which, value, "current", "at its nearest moment")],
      });
    const by = limit === "breaker" ? "start-breaker" : "start-fuse";
    return [
      check({
        by,
        key: limit,
        name: device.name,
        demand: amps("need", at.need),
        limit: amps("has", at.has),
        remark: "at the start",
        part: device.path,
      }),
    ];
  });
}

/** Electronics on a modified sine: soft starters misfire, and the input stage of a variable-speed unit overheats. */
function waveformChecks({ job, converted }: System): Check[] {
  if (!converted) return [];
  const sensitive = job.units.filter((unit) => driveOnMains(unit) || hasSoftStarter(unit));
  if (sensitive.length === 0) return [];
  const sine = job.inverter.waveform === "sine" ? 1 : 0;
  const need = traced({
    key: "starts.sine.needed",
    name: "Sine wave needed",
    dimension: "count",
    value: 1,
    relation: "n = 1",
    source: "soft starter or variable-speed unit",
  });
  const has = traced({
    key: "starts.sine",
    name: "Sine wave from the inverter",
    dimension: "count",
    value: sine,
    relation: "n = n_s",
    terms: () => [constant("n_s", "Waveform of the inverter", sine, "count", sine ? "sine" : "modified sine")],
  });
  const named = sensitive.map(({ name }) => name).join(", ");
  return [
    check({
      by: "waveform",
      key: "waveform",
      name: sine ? `sine wave for ${named}` : `modified sine on ${named}`,
      demand: need,
      limit: has,
      remark: sine ? "a sine wave" : "its electronics do not work on a modified sine",
      rule: true,
      part: "inverter",
    }),
  ];
}

/** The start's smallest margin alone, without figures: for asking many times. */
export function startMargin(system: System): number {
  const { job } = system;
  const context = startContext(system);
  const together = job.inverter.startOrder === "together" && job.units.length > 1;
  const candidates = together ? [-1] : job.units.map((_, i) => i);
  return Math.min(
    ...candidates.map((i) =>
      smallestMargin(traceStart(context, { starting: i, startAid: "own", share: lowestSoc(system), drawn: false })),
    ),
  );
}
