import { of, TracedValue, constant, given, stated, traced } from "../../units/trace";
import { check, type Check } from "./check";
import { type CheckedPart, hottest, FUSE_SPARE, ratingFigure } from "./checked-part";
import type { Circuit, WiringPart } from "../../models/wiring/circuits";
import { FUSE_KINDS } from "../../reference/conductors/fuse";
import type { System } from "../../models/system/system";
import { fullDraw, fullDrawWords } from "./full-draw";
import { guardOf } from "./guards";
import { interruptingCheck } from "./short-circuit";
import { isKind } from "../../models/wiring/part";
import { coldRise } from "../../document/sides";
import { openCircuitVoltage } from "../../models/battery/battery";

/** Terminals of a breaker at its rated current: kelvin over the air (product standards allow 60 to 70). */
const BREAKER_RISE_K = 50;

export function fuseChecks(at: CheckedPart): Check[] {
  const { system, circuit, one, load } = at;
  const { path, name, part } = one;
  const key = (rule: string) => `${path}:${rule}`;
  // A solar array's factor is in its current already, and a converter holds its own output.
  const spare = circuit.far?.limited ? 1 : FUSE_SPARE;
  const least = traced({
    key: key("least"),
    name: `${spare > 1 ? "125 % of the current" : "Current"}, ${name}`,
    dimension: "current",
    value: spare * load.current.value,
    relation: `I_m = ${spare} × I`,
    terms: () => [of("I", load.current)],
    source: "fuse at 125 % of continuous current: common practice, no source",
  });
  const rated = ratingFigure(one, key("rating"));
  // An assumed fuse follows its cable, which answers for it; without a cable nothing else would.
  const asked = one.values.rating!.entered || !circuit.parts.some((other) => isKind(other.part, "cable"));
  const checks = [
    ...(asked
      ? [
          check({
            by: "dc-fuse-load",
            key: key("size"),
            topic: "size",
            name: `${name} rating`,
            demand: least,
            limit: rated,
            remark: "125 % of the running current",
            rule: true,
            part: path,
          }),
        ]
      : []),
    voltageCheck(at),
    ...(circuit.far?.limited ? [] : [interruptingCheck(at)]),
  ];
  if (circuit.key === "main" && system.converted && asked) {
    const full = fullDraw(system);
    const wanted = traced({
      key: "carries.fullDraw.fuse",
      name: "125 % of the inverter's full DC draw",
      dimension: "current",
      value: FUSE_SPARE * full.value,
      relation: "I_m = 1.25 × I",
      terms: () => [of("I", full)],
    });
    checks.push(
      check({
        by: "inverter-full-draw",
        key: key("fullDraw"),
        topic: "fullDraw",
        name: `${name} at the inverter's full draw`,
        demand: wanted,
        limit: rated,
        remark: fullDrawWords(wanted, rated),
        rule: true,
        soft: 1 / FUSE_SPARE,
        part: path,
      }),
    );
  }
  if (isKind(part, "fuse") && part.fuseKind === "breaker") checks.push(breakerHeatCheck(system, one, load.current));
  return checks;
}

export function breakerChecks(at: CheckedPart): Check[] {
  const { system, circuit, one, load } = at;
  const { inverter, mains, legs } = system;
  const { path, name } = one;
  const rated = ratingFigure(one, `${path}:rating`);
  const shore = circuit.branch?.role === "shore";
  const checks = [
    check({
      by: "ac-breaker-load",
      key: `${path}:size`,
      topic: "size",
      name: `${name} rating`,
      demand: load.design,
      limit: rated,
      remark: "continuous",
      rule: true,
      ...(shore ? { soft: 0 } : {}),
      part: path,
    }),
  ];
  checks.push(acInterruptingCheck(system, one));
  if (circuit.key === "mains") {
    const share = legs.split ? 2 : 1;
    const output = traced({
      key: "carries.output",
      name: "Rated output current of the inverter",
      dimension: "current",
      value: inverter.rating / share / mains,
      relation: share === 2 ? "I = S_n ÷ 2 ÷ V" : "I = S_n ÷ V",
      terms: () => [
        constant("S_n", "Inverter rating", inverter.rating, "apparentPower", "all inverters"),
        constant("V", "AC voltage", mains, "voltage", "of one leg"),
      ],
    });
    checks.push(
      check({
        by: "ac-output-breaker",
        key: `${path}:output`,
        topic: "output",
        name: `${name} at the inverter's rating`,
        demand: output,
        limit: rated,
        remark: {
          met: "it carries the inverter at its rating",
          broken: "it opens before the inverter is at its rating",
        },
        rule: true,
        soft: 0,
        part: path,
      }),
    );
  }
  return checks;
}

/** A that the smallest breakers on sale interrupt: 3 kA by IEC 60898-1, 5 kA by UL (from memory). */
const LEAST_INTERRUPTING_A = { american: 5000, other: 3000 } as const;

/** A breaker that the short circuit of a supply, or of the inverter, reaches. */
function acInterruptingCheck({ wiring }: System, { path, name, values }: WiringPart): Check {
  const amps = wiring.rules.earth === "ground" ? LEAST_INTERRUPTING_A.american : LEAST_INTERRUPTING_A.other;
  const least = traced({
    key: `${path}:leastInterrupting`,
    name: `Least interrupting rating, ${name}`,
    dimension: "current",
    value: amps,
    relation: "I_k = I_s",
    terms: () => [constant("I_s", "Smallest on sale", amps, "current", wiring.rules.standards.protection)],
    source: "the supply's own short-circuit current is measured on site",
  });
  const breaks = stated(
    { key: `${path}:acBreaks`, name: `Interrupting rating, ${name}`, source: "stamped on it" },
    "I_b",
    given("I_1", values.interrupting!),
  );
  return check({
    by: "ac-interrupting",
    key: `${path}:acInterrupting`,
    name: `${name} interrupting rating`,
    demand: least,
    limit: breaks,
    remark: { met: "as breakers are sold", broken: "it may not put out the short circuit of the supply" },
    rule: true,
    part: path,
  });
}

/** Isolators, switches, transfer switches, RCDs, inlets, connectors, busbars, shunts: not under the device that protects them. */
export function seriesChecks(at: CheckedPart): Check[] {
  const { system, circuit, one, index, load } = at;
  const { path, name } = one;
  const rated = ratingFigure(one, `${path}:rating`);
  const guard = guardOf(system.wiring, circuit, index);
  const protectedBy = guard && !circuit.far?.limited ? ratingFigure(guard, `${path}:guard`) : load.current;
  // An inlet is protected by the breaker made for it, which its own rule holds.
  const need = isKind(one.part, "inlet")
    ? load.current
    : isKind(one.part, "busbar") && circuit.lanes > 1
      ? sumOfLanes(circuit, one, protectedBy)
      : isKind(one.part, "rcd") && system.wiring.rules.residual.asked === "receptacles"
        ? receptacleLoad(system, one)
        : protectedBy;
  const checks = [
    check({
      by: circuit.far && circuit.branch?.role === "solar" ? "solar-current" : "series-device",
      key: `${path}:size`,
      topic: "size",
      name: `${name} rating`,
      demand: need,
      limit: rated,
      remark: guard ? `${guard.name} protects it` : "the current that can flow",
      rule: true,
      part: path,
    }),
  ];
  if (one.values.voltage && !circuit.mains) checks.push(voltageCheck(at));
  return checks;
}

/** What a device for receptacles carries: the AC loads beside the hard-wired units. It has a breaker of its own. */
function receptacleLoad({ loads, mains, wiring }: System, { path, name }: WiringPart): TracedValue {
  const { continuous } = wiring.rules;
  return traced({
    key: `${path}:receptacles`,
    name: `Receptacles behind ${name}`,
    dimension: "current",
    value: (continuous * Math.max(...loads.byLeg)) / mains,
    relation: "I = 1.25 × P ÷ V",
    terms: () => [
      constant("P", "AC loads beside the units, of the fuller leg", Math.max(...loads.byLeg), "power", "brief"),
      constant("V", "AC voltage", mains, "voltage", "of one leg"),
    ],
    source: "continuous load",
  });
}

/** What a busbar carries that joins runs side by side: all of them. */
function sumOfLanes({ lanes }: Circuit, { path, name }: WiringPart, each: TracedValue): TracedValue {
  return traced({
    key: `${path}:sum`,
    name: `All that ${name} joins`,
    dimension: "current",
    value: lanes * each.value,
    relation: "I = m × I_1",
    terms: () => [
      constant("m", "Equal circuits in parallel", lanes, "count", "one for each inverter"),
      of("I_1", each),
    ],
  });
}

function voltageCheck(at: CheckedPart): Check {
  const { system, circuit, one } = at;
  const volts = stated(
    {
      key: `${one.path}:voltage`,
      name: `Voltage rating, ${one.name}`,
      source: isKind(one.part, "fuse") ? FUSE_KINDS[one.part.fuseKind].name : "label",
    },
    "V_f",
    given("V_1", one.values.voltage!),
  );
  const highest = highestVoltage(system, circuit);
  return check({
    by: "dc-voltage-rating",
    key: `${one.path}:volts`,
    topic: "volts",
    name: `${one.name} voltage rating`,
    demand: highest,
    limit: volts,
    remark: volts.value < highest.value ? "an arc would not go out" : "above the highest voltage of its side",
    rule: true,
    stop: true,
    part: one.path,
  });
}

/** The highest volts that parts of a run see. */
function highestVoltage(system: System, circuit: Circuit): TracedValue {
  const { bank, values, job } = system;
  const { far } = circuit;
  if (far) {
    const solar = circuit.branch!.role === "solar";
    return traced({
      key: `${circuit.path}.highest`,
      name: `Highest voltage, ${circuit.title}`,
      dimension: "voltage",
      value: far.highestVolts,
      relation: solar ? "V = V_oc × k" : "V = 1.25 × V_n",
      terms: () =>
        solar
          ? [
              constant("V_oc", "Open-circuit voltage of the string", far.volts, "voltage", "at 25 °C"),
              constant(
                "k",
                "Rise in the cold",
                coldRise(values.sources.lowestC.value),
                "number",
                "NEC table 690.7(A), IEC 62548 table 5",
              ),
              given("T", values.sources.lowestC),
            ]
          : [constant("V_n", "Nominal", far.volts, "voltage", far.source)],
      source: solar ? "open circuit on the coldest morning" : "while it is charged",
    });
  }
  const full = openCircuitVoltage(bank, 1);
  return traced({
    key: "carries.highest",
    name: "Highest voltage of the battery",
    dimension: "voltage",
    value: Math.max(bank.chargeToVoltage, full),
    relation: "V = max(V_h, V_r)",
    terms: () => [
      given("V_h", values.bank.chargeToVoltage),
      constant("V_r", "Full battery, open circuit", full, "voltage", "open-circuit voltage of its chemistry"),
    ],
    source: job.bank.chemistry === "agm" ? "absorption end" : "end of charge",
  });
}

/** A resettable breaker's own heat: its rise grows with the square of the current. */
function breakerHeatCheck(system: System, one: WiringPart, current: TracedValue): Check {
  const { values } = system;
  const rating = one.values.rating!;
  const heat = traced({
    key: `${one.path}:heat`,
    name: `Temperature of ${one.name}`,
    dimension: "temperature",
    value: values.wiring.ambientC.value + BREAKER_RISE_K * Math.pow(current.value / rating.value, 2),
    relation: "T = T_a + 50 × (I ÷ I_n)²",
    terms: () => [given("T_a", values.wiring.ambientC), of("I", current), given("I_n", rating)],
    source: "a rise of 50 K at its rating is usual for terminals",
  });
  return check({
    by: "breaker-heat",
    key: `${one.path}:hot`,
    name: `${one.name} heat`,
    demand: heat,
    limit: hottest(),
    remark: "breakers run hotter than their cable",
    tightBelow: 1.05,
    part: one.path,
  });
}
