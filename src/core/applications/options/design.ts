import { CABINS, MOST_DESIGNS, STARTS, type CabinChoice, type Panel, type StartKey, type Requirement } from "./target";
import { emptyBranch, emptyPanel, emptySpan, type PlanSpan, type Job, type Unit } from "../../document/schema";
import { mainUse, patternsOf } from "../../document/schedule";
import type { Quantity } from "../../units/known";
import { resolveJob } from "../../document/resolve";
import { newInverter, variableUnit } from "../start-aids/start-aids";
import { panelPlaces, type Place } from "./roof";
import { fixedSpeed } from "../../document/unit-kinds";
import type { JobValues } from "../../document/resolved";

/** One choice of everything that may vary. Indices are into the target's lists. */
export interface Design {
  battery: number;
  parallel: number;
  panels: number;
  inverter: number;
  start: StartKey;
  cabin: CabinChoice;
  engine: number;
  generator: boolean;
}

const plate = (value: number): Quantity => ({ value, origin: "plate" });
const once = <T>(list: readonly T[]): T[] => [...new Set(list)];

/** Every design of a target, in one order that does not hang on anything but the requirement. */
export function designsOf(job: Job, requirement: Requirement): Design[] {
  const { vary, limits } = requirement;
  const room = limits.roof ? placesOf(valuesOf(job), vary.panel).length : 30;
  const panels = once(vary.panels.map((count) => Math.min(count, room))).sort((a, b) => a - b);
  const generators = limits.generator ? once(vary.generator) : [false];
  const designs: Design[] = [];
  for (const battery of vary.batteries.keys())
    for (const parallel of once(vary.parallel).sort((a, b) => a - b))
      for (const count of panels)
        for (const inverter of vary.inverters.keys())
          for (const start of STARTS.filter((key) => vary.starts.includes(key)))
            for (const cabin of CABINS.filter((key) => vary.cabins.includes(key)))
              for (const engine of once(vary.engine).sort((a, b) => a - b))
                for (const generator of generators)
                  designs.push({ battery, parallel, panels: count, inverter, start, cabin, engine, generator });
  return designs;
}

/** How many designs a target comes to, and whether that is more than a search goes through. */
export function countDesigns(job: Job, requirement: Requirement): { count: number; tooMany: boolean } {
  const count = designsOf(job, requirement).length;
  return { count, tooMany: count > MOST_DESIGNS };
}

/** What a design is, in words: "2 × 100 Ah LFP, 12 V; 2 × 200 W; 3 kVA; soft starter". */
export function nameOf(requirement: Requirement, design: Design): string {
  const { vary } = requirement;
  const start: Record<StartKey, string> = {
    "as-is": "",
    "soft-starter": "soft starter",
    "variable-unit": "variable-speed unit",
  };
  const cabin: Record<CabinChoice, string> = {
    "as-is": "",
    "outside-blinds": "outside blinds",
    awning: "awning",
    insulated: "insulated",
    both: "insulated, outside blinds",
  };
  return [
    `${design.parallel} × ${vary.batteries[design.battery]!.name}`,
    design.panels > 0 ? `${design.panels} × ${vary.panel.power} W` : "no panels",
    vary.inverters[design.inverter]!.name,
    start[design.start],
    cabin[design.cabin],
    design.engine > 0 ? `engine ${design.engine} A` : "",
    design.generator ? "generator" : "",
  ]
    .filter(Boolean)
    .join("; ");
}

const BETTER_SKIN: Partial<Record<Job["cabin"]["insulation"], Job["cabin"]["insulation"]>> = {
  canvas: "grade2",
  bare: "lined",
  lined: "insulated",
  grade2: "grade3",
};

function cabinOf(cabin: Job["cabin"], choice: CabinChoice): Job["cabin"] {
  const blinds = choice === "outside-blinds" || choice === "both";
  const skin = choice === "insulated" || choice === "both";
  const better = skin ? (BETTER_SKIN[cabin.insulation] ?? cabin.insulation) : cabin.insulation;
  return {
    ...cabin,
    insulation: better,
    // What was entered for the old skin or the old blinds says nothing of the new ones.
    ...(better === cabin.insulation
      ? {}
      : { roofU: undefined, wallU: undefined, floorU: undefined, heatLoss: undefined }),
    ...(blinds && cabin.blinds !== "outside" ? { blinds: "outside" as const, solarGain: undefined } : {}),
  };
}

function startOf(unit: Unit, start: StartKey, values: JobValues["units"][number]): Unit {
  if (!fixedSpeed(unit) || start === "as-is") return unit;
  if (start === "soft-starter") return { ...unit, startAid: "soft-starter", learned: true };
  return variableUnit(unit, values);
}

/** Of a controller's rating over its panels' at the battery's nominal voltage: a cold clear noon gives more than the plate. */
const SOLAR_SPARE = 1.1;

/** The generator runs before the main use begins, minutes. */
const GENERATOR_MINUTES = 120;

const resolved = new WeakMap<Job, JobValues>();

/** Values of the system that a target is for: worked out once for all its designs. */
export function valuesOf(job: Job): JobValues {
  let values = resolved.get(job);
  if (!values) resolved.set(job, (values = resolveJob(job)));
  return values;
}

const roofs = new WeakMap<JobValues, { panel: Panel; places: Place[] }>();

function placesOf(values: JobValues, panel: Panel): Place[] {
  const kept = roofs.get(values);
  if (kept?.panel === panel) return kept.places;
  const places = panelPlaces(values, panel);
  roofs.set(values, { panel, places });
  return places;
}

/** Panels want a way to the battery that carries what they can give: what was fitted for others says nothing of it. */
function withSolarRun(
  branches: Job["wiring"]["branches"],
  watts: number,
  bankVoltage: number,
): Job["wiring"]["branches"] {
  const there = branches.filter(({ role }) => role === "solar").length;
  if (watts === 0) return branches;
  const current = plate(Math.ceil((SOLAR_SPARE * watts) / bankVoltage / Math.max(1, there)));
  return there > 0
    ? branches.map((branch) => (branch.role === "solar" ? { ...branch, current } : branch))
    : [...branches, { ...emptyBranch("solar", "added-solar"), current }];
}

/** The system with a design in it; its cables not yet chosen. */
export function jobOf(job: Job, requirement: Requirement, design: Design): Job {
  const values = valuesOf(job);
  const battery = requirement.vary.batteries[design.battery]!;
  const inverter = requirement.vary.inverters[design.inverter]!;
  const places = placesOf(values, requirement.vary.panel);
  const { chemistry, blockVoltage, capacityAh, series } = battery;
  const kept = job.bank.chemistry === chemistry ? job.bank : null;
  const fitted = newInverter(job, { rating: plate(inverter.rating) });
  const next: Job = {
    ...fitted,
    units: job.units.map((unit, i) => startOf(unit, design.start, values.units[i]!)),
    bank: {
      chemistry,
      build: "batteries",
      frostBlock: job.bank.frostBlock,
      blockVoltage: plate(blockVoltage),
      series: plate(series),
      parallel: plate(design.parallel),
      capacityAh: plate(capacityAh),
      ...(kept?.reserve ? { reserve: kept.reserve } : {}),
      ...(job.bank.temperatureC ? { temperatureC: job.bank.temperatureC } : {}),
    },
    wiring: {
      ...job.wiring,
      links: { ...job.wiring.links, paths: [] },
      measured: {},
      branches: withSolarRun(job.wiring.branches, design.panels * requirement.vary.panel.power, blockVoltage * series),
    },
    cabin: cabinOf(job.cabin, design.cabin),
    sources: {
      ...job.sources,
      controllers: [],
      panels: Array.from({ length: design.panels }, (_, i) => ({
        ...emptyPanel(`requirement-${i + 1}`, requirement.vary.panel.name),
        power: plate(requirement.vary.panel.power),
        count: plate(1),
        length: plate(places[i]?.length ?? requirement.vary.panel.length),
        width: plate(places[i]?.width ?? requirement.vary.panel.width),
        ...(places[i] ? { x: plate(places[i].x), y: plate(places[i].y) } : {}),
      })),
    },
  };
  const hours = values.brief.hoursWanted.value;
  const shaded = design.cabin === "awning" ? withAwning(next, hours) : next;
  return withGenerator(withEngine(shaded, design.engine), design.generator, hours);
}

/** An awning is out by day: it keeps the sun off a side. */
function withAwning(job: Job, hoursWanted: number): Job {
  const patterns = patternsOf(job, hoursWanted).map((pattern) => ({
    ...pattern,
    spans: [
      ...pattern.spans,
      { ...emptySpan("shade", "added-awning", 9 * 60, 10 * 60), over: "side" as const } as PlanSpan,
    ],
  }));
  return { ...job, plan: { ...job.plan, patterns } };
}

function withEngine(job: Job, amps: number): Job {
  const own = job.wiring.branches.find(({ role }) => role === "engine");
  // No engine asked for: what the system has stays.
  if (amps === 0) return job;
  const branch = {
    ...(own ?? emptyBranch("engine", "added-engine")),
    coupling: "dc-dc" as const,
    current: plate(amps),
  };
  return {
    ...job,
    sources: { ...job.sources, engineCurrent: undefined },
    wiring: {
      ...job.wiring,
      branches: own ? job.wiring.branches.map((one) => (one === own ? branch : one)) : [...job.wiring.branches, branch],
    },
  };
}

function withGenerator(job: Job, wanted: boolean, hoursWanted: number): Job {
  if (!wanted) return job;
  const patterns = patternsOf(job, hoursWanted).map((pattern) => {
    if (pattern.spans.some(({ kind }) => kind === "generator")) return pattern;
    const use = mainUse(pattern);
    if (!use) return pattern;
    const from = (use.from + 1440 - GENERATOR_MINUTES) % 1440;
    return {
      ...pattern,
      spans: [...pattern.spans, emptySpan("generator", "added-generator", from, GENERATOR_MINUTES)],
    };
  });
  const charges = job.wiring.branches.some(({ role }) => role === "charger");
  return {
    ...job,
    plan: { ...job.plan, patterns },
    wiring: charges
      ? job.wiring
      : {
          ...job.wiring,
          branches: [...job.wiring.branches, { ...emptyBranch("charger", "added-charger"), current: plate(50) }],
        },
  };
}
