import { usesInverter } from "../../document/resolve-wiring";
import type { Job, Unit } from "../../document/schema";
import { hardestOf, smallestMargin, startContext, traceStart, type StartTrace } from "../../simulation/start/start";
import { constant, traced } from "../../units/trace";
import { judge, verdictOf, type Check, type Verdict } from "../judge/judge";
import { USUAL_SPARE } from "../judge/word";
import { RULES } from "../rules/rules";
import { checksBeforeStart, checksOfStart } from "../rules/walk";
import { lowestSoc, type System } from "../../models/system/system";
import { fixedSpeed, hasStartAid, onBattery } from "../../document/unit-kinds";
import { laddersOf, type Ladder } from "./ladders";

export interface StartsResult {
  verdict: Verdict;
  own: StartTrace;
  bare: StartTrace | null;
  softStarter: { margin: number; peakApparent: number } | null;
  ladders: Ladder[];
}

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

  const checks = [...checksOfStart({ system, own, starter }), ...checksBeforeStart(system)];

  const verdict = verdictOf("Starts", checks);
  const mayBeAided = fixedSpeed(job.units[starter]!) && job.units[starter]!.startAid !== "soft-starter";
  const softened =
    mayBeAided && smallestMargin(own) < USUAL_SPARE
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
    ...(hardest ? checksOfStart({ system: left, own: hardest, starter: hardest.starting }) : []),
    ...startDevices(system).filter(({ by }) => by === "start-breaker"),
    ...checksBeforeStart(system).filter(({ by }) => by === "start-rest"),
  ];
  return checks.length > 0 ? verdictOf("Starts", checks) : null;
}

/** The unit of the hardest start where it runs on the battery and an inverter feeds others: none of that start is the inverter's. */
export function starterOnBattery(job: Job, { starting }: Pick<StartTrace, "starting">): Unit | null {
  const unit = job.units[starting];
  return unit && onBattery(unit) && usesInverter(job) ? unit : null;
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
    const rule = RULES[limit === "breaker" ? "start-breaker" : "start-fuse"];
    return [
      judge(rule, {
        name: device.name,
        demand: amps("need", at.need),
        limit: amps("has", at.has),
        remark: "at the start",
        holdsFrom: USUAL_SPARE,
        part: device.path,
      }),
    ];
  });
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
