import { openCircuitVoltage, coldFactor } from "../../models/battery/battery";
import { bankUnderLoad } from "../../models/battery/under-load";
import { dcInput } from "../../models/inverter/inverter";
import { PART_NAMES } from "../../models/wiring/circuits";
import {
  curveWords,
  smallestMargin,
  traceStart,
  type Limit,
  type Nearest,
  type StartContext,
  type StartTrace,
} from "../../simulation/start/start";
import { constant, given, of, record, type TracedValue } from "../../units/trace";
import { formatQuantity } from "../../units/format";
import { METRIC } from "../../units/dimension";
import { check, verdictOf, type Check, type Verdict } from "../checks/check";
import {
  farEnd,
  largestShare,
  lowestShare,
  recordAllowed,
  recordBankCurrent,
  recordCurrent,
  type System,
} from "../../models/system/system";
import { driveOnMains, fixedSpeed, hasSoftStarter, hasStartAid } from "../../document/unit-kinds";

export interface Rung {
  name: string;
  /** Ohm, and the key of the figure of the volts lost. */
  resistance: number;
  figure: string;
  /** Volts lost in this part, and those left after it. */
  drop: number;
  left: number;
  /** W turned to heat in it while the peak lasts. */
  heat: number;
}

export interface Ladder {
  /** The state that it stands for, its state of charge and its name. */
  state: LadderState;
  share: number;
  title: string;
  rest: number;
  current: number;
  rungs: Rung[];
  /** Volts at the far end, and the cut-off there (0 where there is none). */
  end: number;
  cutOff: number;
  collapsed: boolean;
  figure: string;
}

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
  const { rig, values, loads } = system;
  const context: StartContext = { ...system, mainsLoad: loads.mainsAtStart, dcLoad: loads.dcAtStart };
  const share = lowestShare(system);
  const together = rig.inverter.startOrder === "together" && rig.units.length > 1;
  const candidates = together ? [-1] : rig.units.map((_, i) => i);
  const traces = candidates.map((i) => traceStart(context, i, "own", share, candidates.length === 1));
  const worst = traces.reduce((a, b) => (smallestMargin(b) < smallestMargin(a) ? b : a));
  const own = candidates.length === 1 ? worst : traceStart(context, worst.starting, "own", share);
  const starter = own.starting < 0 ? 0 : own.starting;
  const cured = rig.units.some((unit, i) => hasStartAid(unit) && (together || i === starter));
  const bare = cured ? traceStart(context, own.starting, "none", share, false) : null;

  const checks = limitChecks(system, own, starter);
  rig.units.forEach((unit, i) => {
    if (!fixedSpeed(unit)) return;
    const rested = record(
      system.figures,
      `starts.rested.${i}`,
      "Time since the last stop",
      "duration",
      values.units[i]!.sinceStop.value,
      "t = t_r",
      [given("t_r", values.units[i]!.sinceStop)],
      "entered or assumed",
    );
    const needed = record(
      system.figures,
      "starts.restNeeded",
      "Off time that pressures need",
      "duration",
      REST_NEEDED_S,
      "t = 3 min",
      [],
      "three to five minutes: common practice, no source",
    );
    const name = rig.units.length > 1 ? `restart too soon, ${unit.name}` : "restart too soon";
    checks.push(
      check(
        "start-rest",
        `rest.${i}`,
        name,
        needed,
        rested,
        {
          met: "the compressor stays off until its pressures are equal",
          broken: "against pressure the compressor stalls at locked-rotor current until its overload opens",
        },
        { rule: true },
      ),
    );
  });

  checks.push(...waveformChecks(system));

  const verdict = verdictOf("Starts", checks);
  const curable = fixedSpeed(rig.units[starter]!) && rig.units[starter]!.cure !== "soft-starter";
  const softened =
    curable && smallestMargin(own) < 1.15 ? traceStart(context, own.starting, "soft-starter", share, false) : null;
  return {
    verdict,
    own,
    bare,
    softStarter: softened && { margin: smallestMargin(softened), peakApparent: softened.peakApparent },
    ladders: ladders(system, own),
  };
}

/** The AC breakers and the fuse at the hardest start alone, without the rest of the verdict: for asking many times. */
export function startDevices(system: System): Check[] {
  const { rig, loads } = system;
  const context: StartContext = { ...system, mainsLoad: loads.mainsAtStart, dcLoad: loads.dcAtStart };
  const together = rig.inverter.startOrder === "together" && rig.units.length > 1;
  const share = lowestShare(system);
  const traces = (together ? [-1] : rig.units.map((_, i) => i)).map((i) => traceStart(context, i, "own", share, false));
  return (["breaker", "fuse"] as const).flatMap((limit) => {
    const hardest = traces.reduce((a, b) => {
      const [first, second] = [a.nearest[limit], b.nearest[limit]];
      return first && second && second.has * first.need < first.has * second.need ? b : a;
    });
    const at = hardest.nearest[limit];
    const device = limit === "breaker" ? hardest.breaker : system.path.fuse;
    if (!at || !device) return [];
    const amps = (which: string, value: number) =>
      record(system.figures, `starts.devices.${limit}.${which}`, which, "current", value, "I = I_1", [
        constant("I_1", which, value, "current", "at its nearest moment"),
      ]);
    const by = limit === "breaker" ? "start-breaker" : "start-fuse";
    return [
      check(by, limit, device.name, amps("need", at.need), amps("has", at.has), "at the start", { part: device.path }),
    ];
  });
}

/** Electronics on a modified sine: soft starters misfire, and the input stage of a variable-speed unit overheats. */
function waveformChecks({ rig, figures, converted }: System): Check[] {
  if (!converted) return [];
  const sensitive = rig.units.filter((unit) => driveOnMains(unit) || hasSoftStarter(unit));
  if (sensitive.length === 0) return [];
  const sine = rig.inverter.waveform === "sine" ? 1 : 0;
  const need = record(
    figures,
    "starts.sine.needed",
    "Sine wave needed",
    "count",
    1,
    "n = 1",
    [],
    "soft starter or variable-speed unit",
  );
  const has = record(figures, "starts.sine", "Sine wave from the inverter", "count", sine, "n = n_s", [
    constant("n_s", "Waveform of the inverter", sine, "count", sine ? "sine" : "modified sine"),
  ]);
  const named = sensitive.map(({ name }) => name).join(", ");
  return [
    check(
      "waveform",
      "waveform",
      sine ? `sine wave for ${named}` : `modified sine on ${named}`,
      need,
      has,
      sine ? "a sine wave" : "its electronics do not work on a modified sine",
      {
        rule: true,
        part: "inverter",
      },
    ),
  ];
}

/** The start's smallest margin alone, without figures: for asking many times. */
export function startMargin(system: System): number {
  const { rig, loads } = system;
  const context: StartContext = { ...system, mainsLoad: loads.mainsAtStart, dcLoad: loads.dcAtStart };
  const together = rig.inverter.startOrder === "together" && rig.units.length > 1;
  const candidates = together ? [-1] : rig.units.map((_, i) => i);
  return Math.min(...candidates.map((i) => smallestMargin(traceStart(context, i, "own", lowestShare(system), false))));
}

function limitChecks(system: System, own: StartTrace, starter: number): Check[] {
  const { figures, inverter, path, bank, values } = system;
  const unit = values.units[starter]!;
  const when = ({ seconds }: Nearest) =>
    seconds <= 0.01 ? "at once" : `at ${formatQuantity(seconds, "duration", METRIC, 2)}`;
  const soft = fixedSpeed(system.rig.units[starter]!) && system.rig.units[starter]!.cure === "soft-starter";
  const demand = (nearest: Nearest, limit: Limit): TracedValue[] => {
    const index = indexAt(own.seconds, nearest.seconds);
    const apparent = record(
      figures,
      `starts.${limit}.apparent`,
      "Apparent power at that moment",
      "apparentPower",
      own.apparent[index]!,
      "S = S_u + S_o",
      [
        constant(
          "S_u",
          "Start demand",
          own.apparent[index]! - othersApparent(system, own),
          "apparentPower",
          soft
            ? `(1 − ${formatQuantity(unit.softReduction.value, "ratio", METRIC)}) × ${formatQuantity(unit.lockedRotorCurrent.value, "current", METRIC)} × volts at its peak, soft starter ${system.rig.units[starter]!.learned ? "learned" : "not learned: 1.45 times"}`
            : `${formatQuantity(own.shape.peakCurrent, "current", METRIC)} × volts at its peak`,
        ),
        constant(
          "S_o",
          "Other loads on at the same time",
          othersApparent(system, own),
          "apparentPower",
          "other units and loads",
        ),
        given("I_lr", unit.lockedRotorCurrent),
        given("t_s", unit.startTime),
      ],
      "locked-rotor current for 80 % of the start time, then down to running; a soft starter ramps to its reduced peak",
    );
    const real = record(
      figures,
      `starts.${limit}.real`,
      "Real power at that moment",
      "power",
      own.real[index]!,
      "P = pf × S",
      [
        constant(
          "pf",
          "Power factor of all of it at that moment",
          own.apparent[index]! > 0 ? own.real[index]! / own.apparent[index]! : 1,
          "number",
          "locked rotor 0.5 to 0.8, running 0.9 to 0.98",
        ),
        of("S", apparent),
        given("pf_s", unit.startPowerFactor),
      ],
    );
    // What hangs straight on the bank is no part of the inverter's curve.
    const direct = own.pathPower[index]! - (system.converted ? dcInput(inverter, own.real[index]!) : 0);
    const straight = direct > 1e-6 * Math.max(1, own.pathPower[index]!);
    const onPath = record(
      figures,
      `starts.${limit}.path`,
      "Power along the main circuit at that moment",
      "power",
      own.pathPower[index]!,
      system.converted ? `P_d = P_0 + (1 + a) × P + b × P² ÷ S_n${straight ? " + P_u" : ""}` : "P_d = P_u",
      [
        ...(system.converted
          ? [
              of("P", real),
              constant("P_0", "Inverter idle", inverter.idlePower, "power", "all inverters"),
              constant("a", "Loss per watt", inverter.lossShare, "number", "inverter"),
              constant("b", "Additional loss at full load", inverter.lossRise, "number", "inverter"),
              constant("S_n", "Inverter rating", inverter.rating, "apparentPower", "all inverters"),
            ]
          : []),
        ...(straight || !system.converted
          ? [constant("P_u", "DC air conditioners", direct, "power", "at that moment of the start")]
          : []),
      ],
      "inverter loss curve; real watts, since the battery supplies no reactive power",
    );
    return [apparent, real, onPath];
  };
  const checks: Check[] = [];
  const { nearest } = own;
  if (nearest.inverter) {
    const at = nearest.inverter;
    const [whole] = demand(at, "inverter");
    const apparent = system.legs.split
      ? record(
          figures,
          "starts.inverter.leg",
          "Fuller leg at that moment, twice",
          "apparentPower",
          at.need,
          "S_w = 2 × S_l",
          [
            constant("S_l", "Fuller leg", at.need / 2, "apparentPower", "each leg has half of the inverter"),
            of("S", whole!),
          ],
        )
      : whole;
    const has = record(
      figures,
      "starts.inverter.has",
      "Inverter surge at that moment",
      "apparentPower",
      at.has,
      "S_s = n × S_1 × k_T",
      [
        given("n", values.inverter.count),
        constant(
          "S_1",
          "Each inverter, that long into a surge",
          at.has / values.inverter.count.value / Math.max(1e-9, inverter.heatShare),
          "apparentPower",
          "its surge points, over log time",
        ),
        constant(
          "k_T",
          "Derating factor at its temperature",
          inverter.heatShare,
          "ratio",
          "derated as the continuous rating is",
        ),
        given("S_a", values.inverter.surge1),
        given("t_a", values.inverter.surge1Time),
        given("S_b", values.inverter.surge2),
        given("t_b", values.inverter.surge2Time),
        given("S_c", values.inverter.surge3),
        given("t_c", values.inverter.surge3Time),
      ],
      "data sheet, or typical of the kind",
    );
    checks.push(check("start-inverter", "inverter", "inverter surge", apparent!, has, when(at)));
  }
  if (nearest.voltage) {
    const at = nearest.voltage;
    const onPath = demand(at, "voltage")[2]!;
    const lost = own.peak.collapsed
      ? "the voltage collapses"
      : `${formatQuantity(own.peak.inverterVoltage, "voltage", METRIC)} ${when(at)}`;
    const { figure: has, limit } = recordAllowed(
      system,
      "starts.voltage.has",
      "Power that the voltage allows",
      own.allowed,
    );
    checks.push(check("start-voltage", "voltage", limit, onPath, has, lost));
  }
  const currentCheck = (
    limit: "protection" | "fuse",
    name: string,
    hasName: string,
    relation: string,
    terms: Parameters<typeof record>[6],
    source: string,
  ) => {
    const at = nearest[limit];
    if (!at) return;
    const onPath = demand(at, limit)[2]!;
    const along = limit === "fuse" ? `starts.${limit}.need` : `starts.${limit}.along`;
    const { figure, state } = recordCurrent(
      system,
      along,
      limit === "fuse" ? "Fuse current at that moment" : "Main circuit current at that moment",
      onPath,
      system.loads.dcAtStart,
    );
    const need =
      limit === "fuse"
        ? figure
        : recordBankCurrent(system, `starts.${limit}.need`, "Battery current at that moment", figure, state);
    const has = record(figures, `starts.${limit}.has`, hasName, "current", at.has, relation, terms, source);
    checks.push(
      check(
        limit === "fuse" ? "start-fuse" : "start-protection",
        limit,
        name,
        need,
        has,
        when(at),
        limit === "fuse" ? { part: path.fuse!.path } : {},
      ),
    );
  };
  const lasting = nearest.protection && nearest.protection.seconds > bank.peakTime;
  currentCheck(
    "protection",
    system.rig.bank.chemistry === "agm" ? "battery current limit" : "battery protection",
    lasting ? "Limit, continuous" : "Limit, peak",
    "I_l = I_1 ÷ q",
    [
      largestShare(system),
      given("I_1", lasting ? values.bank.continuousCurrent : values.bank.peakCurrent),
      given("t_p", values.bank.peakTime),
    ],
    "data sheet",
  );
  if (nearest.breaker && own.breaker && own.breaker.part.kind === "breaker") {
    const at = nearest.breaker;
    const [apparent] = demand(at, "breaker");
    const { curve } = own.breaker.part;
    const need = record(
      figures,
      "starts.breaker.need",
      `Current through ${own.breaker.name} then`,
      "current",
      at.need,
      "I = S_b ÷ V",
      [
        of("S", apparent!),
        constant("S_b", "Part through this breaker", at.need * system.mains, "apparentPower", "its leg, or its unit"),
        constant("V", "AC voltage", system.mains, "voltage", "of the job"),
      ],
    );
    const has = record(
      figures,
      "starts.breaker.has",
      `${own.breaker.name} is sure to carry`,
      "current",
      at.has,
      "I_b = m × I_n",
      [
        constant(
          "m",
          "Multiple of its rating, for that long",
          at.has / own.breaker.values.rating!.value,
          "number",
          curveWords(curve),
        ),
        given("I_n", own.breaker.values.rating!),
      ],
      "IEC 60898-1: magnet B 3, C 5, D 10 times at least; thermal 2.55 times for a second",
    );
    checks.push(check("start-breaker", "breaker", own.breaker.name, need, has, when(at), { part: own.breaker.path }));
  }
  if (nearest.fuse && path.fuse) {
    currentCheck(
      "fuse",
      path.fuse.name,
      "Fuse is sure to carry",
      "I_f = m × I_n",
      [
        constant(
          "m",
          "Multiple of its rating, for that long",
          nearest.fuse.has / path.fuseRating,
          "number",
          "shortest opening times",
        ),
        given("I_n", path.fuse.values.rating!),
      ],
      "bolt-down strip fuses after ISO 8820-5",
    );
  }
  return checks;
}

function othersApparent(system: System, own: StartTrace): number {
  const others =
    own.starting < 0
      ? 0
      : system.units.reduce((sum, u, i) => (i === own.starting || u.direct ? sum : sum + u.runningApparent.value), 0);
  return system.converted ? others + system.loads.mainsAtStart : 0;
}

function indexAt(seconds: Float64Array, moment: number): number {
  const index = seconds.indexOf(moment);
  return index < 0 ? 0 : index;
}

interface Level {
  state: LadderState;
  share: number;
  title: string;
  cells: number;
}

/** Degrees Celsius of the cold that the third ladder stands for. */
const COLD_C = 0;

/** The voltage ladder at the start's largest draw: at the reserve, as charged, and at the reserve in the cold. */
function ladders(system: System, own: StartTrace): Ladder[] {
  const { bank, path, figures, values } = system;
  const low = lowestShare(system);
  const bankC = values.bank.temperatureC.value;
  const levels: Level[] = [{ state: "reserve", share: low, title: "at the reserve", cells: bank.cellResistance }];
  if (low < bank.startSoc)
    levels.push({ state: "charged", share: bank.startSoc, title: "as charged", cells: bank.cellResistance });
  if (bankC > COLD_C)
    levels.push({
      state: "cold",
      share: low,
      title: "reserve, at 0 °C",
      cells: (bank.cellResistance * coldFactor(COLD_C)) / coldFactor(bankC),
    });
  // What a measurement found beside the parts: shared out to none of them.
  const excess = path.excess ?? 0;
  return levels.map(({ state: standsFor, share, title, cells }, n) => {
    const rest = openCircuitVoltage(bank, share);
    const inner = bank.innerResistance - bank.cellResistance + cells;
    const state = bankUnderLoad(rest, inner, path.resistance, own.peakPathPower, system.loads.dcAtStart);
    const parts: [name: string, ohms: number, current: number, from: string][] = [
      ["cells", cells, state.bankCurrent, "of the battery, in the cold if it is cold"],
      ["BMS", bank.protectionResistance, state.bankCurrent, "half of a battery's own, or the board's"],
      ["links", bank.linkResistance, state.bankCurrent, "between the batteries, by their layout"],
      ...path.main.parts.map((one): [string, number, number, string] => [
        one.part.kind === "joints"
          ? `terminations ${one.mark}`
          : `${one.part.name.trim() || PART_NAMES[one.part.kind]} ${one.mark}`,
        one.resistance,
        state.pathCurrent,
        one.part.kind === "cable" ? "size, length, conductor temperature" : "entered, or typical of its kind",
      ]),
      ["unaccounted", excess, state.pathCurrent, "measured wiring, less its parts"],
    ];
    let left = rest;
    const rungs = parts
      .filter(([, ohms]) => ohms !== 0)
      .map(([name, ohms, current, from]): Rung => {
        const drop = ohms * current;
        left -= drop;
        const lost = record(
          figures,
          `starts.ladder.${n}.${name}`,
          `Lost in ${name}, ${title}`,
          "voltage",
          drop,
          "ΔV = I × R",
          [
            constant("I", "Current at the peak", current, "current", "constant power behind the resistances"),
            constant("R", "Resistance", ohms, "resistance", from),
          ],
          "Ohm",
        );
        return { name, resistance: ohms, figure: lost.key, drop, left, heat: drop * current };
      });
    const figure = record(
      figures,
      `starts.ladder.${n}`,
      `Volts at the ${farEnd(system)}, start peak, ${title}`,
      "voltage",
      left,
      "V = E − I_b × R_b − I × R",
      [
        constant("E", "Open-circuit voltage", rest, "voltage", title),
        constant("I", "Current at the peak", state.pathCurrent, "current", "constant power behind the resistances"),
        constant("I_b", "Battery current at that moment", state.bankCurrent, "current", "with the DC loads beside it"),
        constant("R_b", "Battery resistance", inner, "resistance", title),
        of("R", path.resistanceFigure),
      ],
      "constant power behind a resistance",
    );
    return {
      state: standsFor,
      share,
      title,
      rest,
      current: state.pathCurrent,
      rungs,
      end: left,
      cutOff: system.converted ? system.inverter.cutOffVoltage : bank.stopVoltage,
      collapsed: state.collapsed,
      figure: figure.key,
    };
  });
} /** The state of the battery that a ladder of voltages is made for. */
export type LadderState = "reserve" | "charged" | "cold";
