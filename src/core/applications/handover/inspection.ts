import { openCircuitVoltage } from "../../models/battery/battery";
import type { Bench } from "../fault-finding/readings";
import { buildSystem } from "../../models/system/build";
import type { Circuit, WiringPart } from "../../models/wiring/circuits";
import { allCircuits } from "../../models/wiring/circuits";
import type { StepDone } from "../../document/schema";
import type { Dimension } from "../../units/dimension";
import { formatQuantity } from "../../units/format";
import { areaWords } from "../../document/defaults";
import { protectiveArea } from "../../reference/standards/protective-conductor";
import { CHEMISTRIES } from "../../reference/battery/chemistry";
import { guardOf } from "../../assessment/needs/guards";
import { say } from "../../messages/say";
import type { StepPart, Step, Target } from "./commissioning";

/*
 * The inspection sheet: what no calculation can know, by rule set and vehicle, looked at or measured at the system itself.
 * Each point is seen, measured against its limit, or not applicable for a reason. Limits are typical readings of the
 * standards named, from memory; common practice where none is.
 */

/** Insulation of a circuit that is under mains voltage, MΩ (IEC 60364-6, table 6A). */
const LEAST_INSULATION_MOHM = 1;
/** A protective conductor of a small installation from end to end, Ω (AS/NZS 3000; common practice elsewhere). */
const MOST_EARTH_OHM = 0.5;
/** Current at which a breaker's magnet is sure to open, as a multiple of its rating (IEC 60898-1). */
const OPENS_AT = { B: 5, C: 10, D: 20 } as const;
/** Of the loop that would just open a breaker, what may be measured on cold copper (IEC 60364-6, annex D). */
const COLD_LOOP = 0.8;
/** Millivolts of a part over what it should lose: half as much again, and two for the probes. */
const LOSS_SPARE = 1.5;
const PROBES_V = 0.002;
/** A ground-fault circuit interrupter of class A, by its rating, A (UL 943). */
const CLASS_A = { below: 0.01, opens: { low: 0.004, high: 0.006 } } as const;
/** Hottest that a joint may get, degC: common practice, no source. */
const HOTTEST_C = 70;

const point = (key: string, part: StepPart, title: string, how: string): Step => ({
  key: `inspect:${key}`,
  part,
  title,
  how,
  caution: null,
  fields: [],
  target: null,
  value: ([value]) => value ?? 0,
  reading: null,
  symptom: null,
});

/** Units that instruments show, where they are not the usual ones: a bare 25 is 25 ms. */
const SHOWN: Partial<Record<Dimension, string>> = { duration: "ms", current: "mA", voltage: "mV" };

function measured(from: Step, label: string, target: Target): Step {
  const { dimension } = target;
  const unit = SHOWN[dimension];
  return {
    ...from,
    fields: [{ key: "value", label: unit ? `${label}, ${unit}` : label, dimension, ...(unit ? { unit } : {}) }],
    target,
  };
}

const upTo = (high: number, dimension: Dimension, source: string, value = high): Target => ({
  value,
  low: null,
  high,
  dimension,
  source,
});

/** What tells a circuit from the others, whatever stands before it in the document. */
const keyOf = ({ branch, key, far }: Circuit): string => `${branch?.id ?? key}${far ? ":far" : ""}`;

/** The points of a job's inspection sheet. */
export function inspectionSheet(bench: Bench): Step[] {
  const { job, assessment } = bench;
  const converted = assessment.compartment !== null;
  const circuits = allCircuits(assessment.wiring, converted);
  const mains = circuits.filter((one) => one.mains && one.parts.length > 0);
  return [
    ...earthing(bench, mains),
    ...wiring(),
    ...battery(bench),
    ...surroundings(bench),
    ...(job.sources.panels.length > 0
      ? [
          point("panel-connectors", "Solar", "Plugs of the panels", say("inspection.panelConnectors")),
          point("panel-faults", "Solar", "Frames and faults of the array", say("inspection.panelFaults")),
        ]
      : []),
    ...mains.flatMap((circuit) => mainsTests(bench, circuit)),
    ...circuits.filter((one) => !one.mains).flatMap((circuit) => directTests(bench, circuit)),
  ];
}

function earthing({ job, assessment }: Bench, mains: Circuit[]): Step[] {
  const { rules } = assessment.wiring;
  const sizes = mains.flatMap((circuit) => {
    const cable = circuit.parts.find(({ part }) => part.kind === "cable");
    const guard = guardOf(assessment.wiring, circuit, circuit.parts.length);
    if (!cable || !guard) return [];
    const area = protectiveArea(rules.key, {
      deviceA: guard.values.rating!.value,
      lineMm2: cable.values.areaMm2!.value,
    });
    return [`${circuit.title} ${areaWords(job, area)}`];
  });
  return [
    ...(sizes.length > 0
      ? [
          point(
            "earth-sizes",
            "Earthing",
            "Protective conductors are thick enough",
            say("inspection.earthSizes", { sizes: sizes.join("; ") }),
          ),
        ]
      : []),
    point("inverter-case", "Earthing", "The inverter’s case is earthed", say("inspection.inverterCase")),
  ];
}

const wiring = (): Step[] => [
  point("fixing", "Cables and switches", "Cables are held, and nothing chafes", say("inspection.fixing")),
  point("cable-kind", "Cables and switches", "Kind and colour of the cables", say("inspection.cableKind")),
  point("lugs", "Cables and switches", "Lugs, torque and covers", say("inspection.lugs")),
  point("apart", "Cables and switches", "Mains and DC apart", say("inspection.apart")),
  point("disconnects", "Cables and switches", "Switches within reach", say("inspection.disconnects")),
  point("labels", "Cables and switches", "Labels", say("inspection.labels")),
  point("breaker-poles", "Cables and switches", "Poles of breakers and switches", say("inspection.breakerPoles")),
  point("discrimination", "Cables and switches", "The nearest device opens first", say("inspection.discrimination")),
  point("clearance", "Cables and switches", "Room to work", say("inspection.clearance")),
  point("surge-arc", "Cables and switches", "Surge and arc-fault protection", say("inspection.surgeArc")),
];

function battery({ job, assessment }: Bench): Step[] {
  const { lithium } = CHEMISTRIES[job.bank.chemistry];
  const { bank } = buildSystem(job);
  const volts = (value: number) => formatQuantity(value, "voltage", job.notation);
  const highest = Math.max(bank.chargeToVoltage, openCircuitVoltage(bank, 1));
  return [
    point("battery-place", "Battery and inverter", "Battery held and covered", say("inspection.batteryPlace")),
    ...(lithium
      ? [
          point("battery-apart", "Battery and inverter", "Lithium apart from beds", say("inspection.batteryApart")),
          point("bms", "Battery and inverter", "BMS tried", say("inspection.bms")),
        ]
      : [point("battery-vent", "Battery and inverter", "Battery’s space vented", say("inspection.batteryVent"))]),
    ...(job.bank.build === "cells"
      ? [point("cells", "Battery and inverter", "Cells sorted and watched", say("inspection.cells"))]
      : []),
    ...(assessment.compartment
      ? [
          point(
            "listing",
            "Battery and inverter",
            "Inverter approved, and made for this battery",
            say("inspection.listing", { low: volts(assessment.values.bank.stopVoltage.value), high: volts(highest) }),
          ),
        ]
      : []),
  ];
}

function surroundings({ job }: Bench): Step[] {
  const part = "Vehicle or boat";
  const boat = job.cabin.kind === "boat";
  const shore = job.wiring.branches.some(({ role }) => role === "shore");
  return [
    ...(boat && shore ? [point("galvanic", part, "Galvanic isolation", say("inspection.galvanic"))] : []),
    ...(boat
      ? [
          point("bonding", part, "Bonding", say("inspection.bonding")),
          point("ignition", part, "Ignition protection", say("inspection.ignition")),
        ]
      : []),
    ...(job.cabin.kind === "room" ? [] : [point("gas", part, "Distance to gas", say("inspection.gas"))]),
    point("alarms", part, "Alarms", say("inspection.alarms")),
    ...(shore ? [point("inlet", part, "Supply inlet", say("inspection.inlet"))] : []),
    ...(job.supplies.generatorAuto ? [point("generator", part, "Generator", say("inspection.generator"))] : []),
  ];
}

/** Test values of an AC circuit, and of each residual current device in it. */
function mainsTests(bench: Bench, circuit: Circuit): Step[] {
  const { wiring } = bench.assessment;
  const part = "AC circuits";
  const own = keyOf(circuit);
  const of = (what: string) => `${what}, ${circuit.title}`;
  const tests = [
    measured(
      point(`earth:${own}`, part, of("Earth continuity"), say("inspection.earthContinuity")),
      "Resistance",
      upTo(MOST_EARTH_OHM, "resistance", "AS/NZS 3000; common practice elsewhere"),
    ),
    measured(point(`insulation:${own}`, part, of("Insulation"), say("inspection.insulation")), "Resistance", {
      value: LEAST_INSULATION_MOHM,
      low: LEAST_INSULATION_MOHM,
      high: null,
      dimension: "insulation",
      source: "IEC 60364-6, at 500 V DC",
    }),
    point(`polarity:${own}`, part, of("Polarity"), say("inspection.polarity")),
    ...loopTest(bench, circuit),
  ];
  for (const one of circuit.parts) if (one.part.kind === "rcd") tests.push(...residualTests(bench, circuit, one));
  if (circuit.key === "mains" && wiring.rules.residual.asked === "receptacles")
    tests.push(point("receptacles", part, "Every receptacle by a tester", say("inspection.receptacles")));
  return tests;
}

/** The loop of a supply whose protection relies on it: not in the US, and not behind an inverter. */
function loopTest({ assessment: { wiring }, job }: Bench, circuit: Circuit): Step[] {
  const breaker = circuit.parts.find(({ part }) => part.kind === "breaker");
  if (circuit.branch?.role !== "shore" || wiring.rules.earth === "ground" || breaker?.part.kind !== "breaker")
    return [];
  const volts = buildSystem(job).mains;
  const most = (COLD_LOOP * volts) / (OPENS_AT[breaker.part.curve] * breaker.values.rating!.value);
  return [
    measured(
      point(`loop:${keyOf(circuit)}`, "AC circuits", `Loop impedance, ${circuit.title}`, say("inspection.loop")),
      "Impedance",
      upTo(
        most,
        "resistance",
        `IEC 60364-4-41, 411.4.4: type ${breaker.part.curve}, ${breaker.values.rating!.value} A`,
      ),
    ),
  ];
}

function residualTests(
  { assessment: { wiring } }: Bench,
  circuit: Circuit,
  { part, name, values }: WiringPart,
): Step[] {
  const { opensWithinS, opensBy } = wiring.rules.residual;
  const rated = values.residual!.value;
  const own = `${keyOf(circuit)}:${part.id}`;
  return [
    measured(
      point(`trip-time:${own}`, "AC circuits", `Trip time, ${name}`, say("inspection.tripTime")),
      "Time",
      upTo(opensWithinS, "duration", opensBy, Math.min(0.03, 0.1 * opensWithinS)),
    ),
    measured(
      point(`trip-current:${own}`, "AC circuits", `Trip current, ${name}`, say("inspection.tripCurrent")),
      "Current",
      rated < CLASS_A.below
        ? { value: rated, ...CLASS_A.opens, dimension: "current", source: "UL 943, class A" }
        : {
            value: 0.75 * rated,
            low: 0.5 * rated,
            high: rated,
            dimension: "current",
            source: "IEC 61008-1: half of its rating to its rating",
          },
    ),
  ];
}

/** Over each joint and part of a DC circuit at full draw: what it loses, and how hot it gets. */
function directTests({ assessment }: Bench, circuit: Circuit): Step[] {
  const whole = assessment.currents[circuit.path] ?? 0;
  const current = whole / Math.max(1, circuit.lanes);
  return circuit.parts.flatMap((one) => {
    if (one.part.kind === "cable" || one.resistance <= 0 || current <= 0) return [];
    const own = `${keyOf(circuit)}:${one.part.id}`;
    const loss = current * one.resistance;
    const where = `${one.name}, ${circuit.title}`;
    return [
      measured(
        point(`millivolts:${own}`, "DC joints at full draw", `Volts lost over ${where}`, say("inspection.millivolts")),
        "Volts",
        upTo(LOSS_SPARE * loss + PROBES_V, "voltage", "its resistance, half as much again, at the full current", loss),
      ),
      measured(
        point(`joint-heat:${own}`, "DC joints at full draw", `Temperature of ${where}`, say("inspection.jointHeat")),
        "Temperature",
        upTo(HOTTEST_C, "temperature", "60 to 70 °C and no more: common practice, no source"),
      ),
    ];
  });
}

/** How far an inspection is: points answered, those that were not passed, and those still open. */
export function inspectionProgress(points: readonly Step[], done: readonly StepDone[]) {
  const answers = new Map(done.map((one) => [one.step, one]));
  const answered = points.filter(({ key }) => {
    const one = answers.get(key);
    // That it does not apply is an answer with its reason only.
    return one !== undefined && (one.passed !== null || (one.notApplicable === true && one.reason.trim() !== ""));
  });
  const failed = points.filter(({ key }) => answers.get(key)?.passed === false);
  return { points: points.length, answered: answered.length, failed, open: points.length - answered.length };
}
