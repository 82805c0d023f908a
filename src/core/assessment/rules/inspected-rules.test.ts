/*
 * What an inspector showed of the rules beside their own examples, and the worked checks of the trade. Common practice where
 * no clause is named.
 */
import { noticesShown } from "../../../../tests/notices";
import { describe, expect, it } from "vitest";
import { gaugeAreaMm2 } from "../../units/gauge";
import { q, jobOf } from "../../../../tests/jobs";
import {
  part,
  cable,
  awg,
  breaker,
  fuse,
  edit,
  withBranch,
  bank48,
  worst,
  type Row,
  american,
  circuit,
  panels,
  engine,
  split,
  rcd,
  bankOf,
} from "../../../../tests/systems";
import { emptyBranch, emptyController, emptyPanel, type Job } from "../../document/schema";
import { assess } from "../verdicts/assess";
import { MAINS_KEYS } from "../../reference/standards/mains";
import { RULE_SET_KEYS } from "../../reference/standards/rule-set";

/** An inlet of 16 A and an inverter of 8 kVA, whose breaker of 40 A stands behind the RCD and a cable. */
const onBothSources = (rcdA: number, areaMm2 = 10): Job =>
  edit(withBranch("shore", { current: q(16) }, jobOf({ inverter: { rating: q(8000) } })), (copy) => {
    copy.wiring.mains = [
      part("changeover", { rating: q(63) }),
      cable(areaMm2, 1, { id: "first" }),
      part("rcd", { rating: q(rcdA) }),
      breaker(40),
      cable(10),
    ];
  });

describe("a rule that passed unsafe work, and what now breaks it", () => {
  it.each<Row>([
    [
      "30 A shore on 12 AWG (NEC 551.46: 10 AWG)",
      "supply-lead",
      withBranch("shore", { current: q(30), parts: [part("inlet"), part("rcd"), breaker(30), awg(12)] }, american()),
      "Fails",
      withBranch("shore", { current: q(30), parts: [part("inlet"), part("rcd"), breaker(30), awg(10)] }, american()),
    ],
    [
      "50 A on 10 AWG",
      "ac-overcurrent",
      withBranch("shore", { current: q(50), parts: [part("inlet"), part("rcd"), breaker(50), awg(10)] }, american()),
      "Stop",
      withBranch("shore", { current: q(50), parts: [part("inlet"), part("rcd"), breaker(50), awg(6)] }, american()),
    ],
    [
      "1 mm² circuit behind a 25 A breaker of the output",
      "ac-overcurrent",
      circuit(jobOf(), [cable(1)], [part("rcd"), breaker(25), cable(4)]),
      "Stop",
      circuit(jobOf(), [cable(4)], [part("rcd"), breaker(25), cable(4)]),
    ],
    [
      "isolator that overcharges: 12.6 V lithium-ion on an alternator's 13.9 V",
      "isolator-banks",
      engine({ coupling: "isolator", far: [] }, { chemistry: "nmc", blockVoltage: q(11), series: q(1) }),
      "Stop",
      engine({ coupling: "isolator", far: [] }),
    ],
    [
      "300 mA as the only protection against current to earth (IEC 60364-7-721)",
      "residual",
      edit(jobOf(), rcd({ residual: q(0.3) })),
      "Fails",
      edit(jobOf(), rcd({ residual: q(0.03) })),
    ],
    [
      "panels over the volts of a controller that nobody listed",
      "solar-voltage",
      edit(panels(4, 4, { openVoltage: q(49) }), (copy) => void (copy.sources.controllers = [])),
      "Stop",
      edit(panels(2, 2, { openVoltage: q(23) }), (copy) => void (copy.sources.controllers = [])),
    ],
    [
      "an RCD of 16 A that the inlet's 16 A protect, and 40 A of the inverter flow through",
      "series-device",
      onBothSources(16),
      "Fails",
      onBothSources(40),
    ],
    [
      "cable of 2.5 mm² before the output's breaker of 40 A, behind a transfer switch",
      "ac-overcurrent",
      onBothSources(40, 2.5),
      "Stop",
      onBothSources(40, 10),
    ],
    [
      "a GFCI of 15 A in the line of a 50 A inlet",
      "series-device",
      withBranch(
        "shore",
        {
          current: q(50),
          parts: [part("inlet", { rating: q(50) }), part("rcd", { rating: q(15) }), breaker(50), awg(6)],
        },
        american(),
      ),
      "Fails",
      withBranch(
        "shore",
        {
          current: q(50),
          parts: [part("inlet", { rating: q(50) }), part("rcd", { rating: q(50) }), breaker(50), awg(6)],
        },
        american(),
      ),
    ],
    [
      "shunt of 300 A behind a 400 A fuse",
      "series-device",
      edit(jobOf({ fuse: { rating: q(400) } }), (copy) => {
        copy.wiring.main = copy.wiring.main.map((one) => (one.kind === "shunt" ? { ...one, rating: q(300) } : one));
      }),
      "Fails",
      jobOf({ fuse: { rating: q(400) }, cable: { areaMm2: q(70), count: q(2) } }),
    ],
    [
      "busbar of 150 A behind a 400 A fuse",
      "series-device",
      edit(
        jobOf({ fuse: { rating: q(400) } }),
        (copy) => void copy.wiring.main.push(part("busbar", { rating: q(150) })),
      ),
      "Fails",
      edit(
        jobOf({ fuse: { rating: q(400) } }),
        (copy) => void copy.wiring.main.push(part("busbar", { rating: q(500) })),
      ),
    ],
    [
      "bolt-down strip fuse on a 48 V battery, its volts not known: 32 V is taken",
      "dc-voltage-rating",
      jobOf({ bank: bank48, fuse: { fuseKind: "bolted-strip", interrupting: q(50_000) } }),
      "Stop",
      jobOf({ bank: bank48, fuse: { fuseKind: "bolted-strip", interrupting: q(50_000), voltage: q(80) } }),
    ],
    [
      "RCD of 25 A behind a 32 A breaker",
      "series-device",
      edit(jobOf(), (copy) => void (copy.wiring.mains = [breaker(32), part("rcd", { rating: q(25) }), cable(6)])),
      "Fails",
      edit(jobOf(), (copy) => void (copy.wiring.mains = [breaker(32), part("rcd", { rating: q(40) }), cable(6)])),
    ],
    [
      "type AC in Australia (AS/NZS 3000, 2.6.2.2)",
      "residual-type",
      edit(jobOf({ brief: { ruleSet: "au-nz" } }), rcd({ residualType: "AC" })),
      "Fails",
      edit(jobOf({ brief: { ruleSet: "au-nz" } }), rcd({ residualType: "A" })),
    ],
    [
      "type AC in Europe",
      "residual-type",
      edit(jobOf(), rcd({ residualType: "AC" })),
      "Tight",
      edit(jobOf(), rcd({ residualType: "A" })),
    ],
    [
      "two bonds of neutral and earth on shore",
      "neutral-bond",
      withBranch("shore", {}, jobOf({ inverter: { neutralBond: "fixed", combined: true } })),
      "Stop",
      withBranch("shore", {}, jobOf({ inverter: { neutralBond: "relay", combined: true } })),
    ],
    [
      "a transfer switch that leaves the neutrals joined",
      "sources-apart",
      edit(withBranch("shore"), (copy) => void (copy.wiring.mains[0] = part("changeover", { poles: "live" }))),
      "Fails",
      withBranch("shore"),
    ],
    [
      "a unit's own breaker that opens at its start",
      "start-breaker",
      circuit(
        jobOf({ unit: { runningCurrent: q(7), lockedRotorCurrent: q(60) } }),
        [breaker(6), cable(2.5)],
        [part("rcd"), breaker(40, { curve: "D" }), cable(16)],
      ),
      "Fails",
      circuit(
        jobOf({ unit: { runningCurrent: q(5), lockedRotorCurrent: q(25) } }),
        [breaker(10), cable(2.5)],
        [part("rcd"), breaker(40, { curve: "D" }), cable(16)],
      ),
    ],
    [
      "leads of two inverters not stated",
      "inverter-leads",
      split((copy) => void (copy.inverter.leads = "unsaid")),
      "Tight",
      split(),
    ],
    ["fuses of the batteries not stated", "battery-fuses", bankOf(2, "unsaid"), "Tight", bankOf(2, "each")],
    [
      "a battery's fuse over its lead",
      "battery-fuses",
      bankOf(2, "each", { fuseRating: q(300), areaMm2: q(25) }),
      "Stop",
      bankOf(2, "each", { fuseRating: q(250), areaMm2: q(95) }),
    ],
    [
      "charging a battery at 58 °C whose maker allows 55",
      "charge-current",
      withBranch(
        "charger",
        { current: q(40) },
        jobOf({ bank: { chargeCurrent: q(100), temperatureC: q(58), highestChargeC: q(55) } }),
      ),
      "Fails",
      withBranch("charger", { current: q(40) }, jobOf({ bank: { chargeCurrent: q(100), temperatureC: q(30) } })),
    ],
    ["three strings, fuses not stated", "solar-string-fuse", panels(3, 1), "Tight", panels(2, 1)],
    [
      "array cable under 1.25 × the short-circuit current",
      "dc-ampacity",
      edit(panels(4, 1, { shortCurrent: q(12) }, { stringFuses: "each" }), (copy) => {
        copy.wiring.branches[0]!.far = [part("isolator", { rating: q(100) }), cable(6, 2)];
      }),
      "Fails",
      edit(panels(4, 1, { shortCurrent: q(12) }, { stringFuses: "each" }), (copy) => {
        copy.wiring.branches[0]!.far = [part("isolator", { rating: q(100) }), cable(16, 2)];
      }),
    ],
    [
      "a converter of 60 A at 12 V judged by less than it draws from the battery (31 A at 24 V: P ÷ (V × η))",
      "dc-fuse-load",
      withBranch(
        "loads",
        { converter: true, converterRating: q(60), current: q(10), parts: [fuse(15), cable(10)] },
        jobOf({ bank: { blockVoltage: q(25.6) } }),
      ),
      "Fails",
      withBranch(
        "loads",
        { converter: true, converterRating: q(60), current: q(10), parts: [fuse(40), cable(10)] },
        jobOf({ bank: { blockVoltage: q(25.6) } }),
      ),
    ],
    [
      "variable-speed unit on a modified sine",
      "waveform",
      jobOf({ unit: { kind: "variable" }, inverter: { waveform: "modified" } }),
      "Fails",
      jobOf({ unit: { kind: "variable" } }),
    ],
  ])("%s", (_, by, broken, word, met) => {
    expect(worst(broken, by)?.word).toBe(word);
    expect(["Holds", undefined]).toContain(
      worst(met, by)?.word === "Tight" && word !== "Tight" ? "Holds" : worst(met, by)?.word,
    );
  });
});

describe("worked checks of the trade", () => {
  const sized = (job: Job, path: "main" | "mains") => assess(job).values.wiring[path];
  it("3 kVA inverter, 120 V, 30 A breaker: 10 AWG", () => {
    const job = edit(american(), (copy) => void (copy.wiring.mains = [part("rcd"), breaker(30), part("cable")]));
    expect(sized(job, "mains")[2]!.areaMm2!.value).toBeCloseTo(gaugeAreaMm2(10), 6);
  });
  it("5 kVA at 12.8 V, cut-off 11 V, about 90 %: 505 A, two runs of 95 mm² or more, fuse to match", () => {
    const job = jobOf({ inverter: { rating: q(5000), cutOffVoltage: q(11) }, bank: { parallel: q(4) } });
    const { figures, values } = assess(job);
    expect(figures["carries.fullDraw"]!.value).toBeGreaterThan(495);
    expect(figures["carries.fullDraw"]!.value).toBeLessThan(515);
    const made = values.wiring.main.find(({ areaMm2 }) => areaMm2)!;
    expect(made.count!.value).toBeGreaterThanOrEqual(2);
    expect(made.areaMm2!.value).toBeGreaterThanOrEqual(95);
    expect(values.wiring.main[0]!.rating!.value).toBeGreaterThanOrEqual(1.25 * 495);
  });
  it("50 A into a 51.2 V battery charged at 56 V is 231 A from 13 V at 93 %", () => {
    const job = engine({ current: q(50), efficiency: q(0.93) }, { ...bank48, chargeToVoltage: q(56) });
    expect(assess(job).currents["wiring.branches.0.far"]).toBeCloseTo((50 * 56) / (13 * 0.93), 3);
    expect(assess(job).currents["wiring.branches.0.far"]).toBeGreaterThan(231);
  });
  it("a battery of unknown resistance is taken at half of it for its short circuit, without the BMS", () => {
    // 12.8 V 200 Ah: 4 mΩ assumed, half of it cells, half of that: 1 mΩ behind 13.6 V.
    const { figures } = assess(jobOf({ bank: { capacityAh: q(200) } }));
    expect(figures["wiring.main.0:fault"]!.value).toBeCloseTo(13.6 / 0.001, -2);
  });
  it("inverter idle: a 10 kVA transformer machine 60 to 110 W", () => {
    const idle = assess(jobOf({ inverter: { type: "transformer", rating: q(10_000) } })).values.inverter.idlePower
      .value;
    expect(idle).toBeGreaterThanOrEqual(60);
    expect(idle).toBeLessThanOrEqual(110);
  });
  it.each([
    [12.8, 11],
    [12, 11],
    [25.6, 22],
    [51.2, 44],
    [51.1, 44],
  ])("the cut-off of an inverter for %f V is %i V, whatever the chemistry", (volts, cutOff) =>
    expect(assess(jobOf({ bank: { blockVoltage: q(volts) } })).values.inverter.cutOffVoltage.value).toBeCloseTo(
      cutOff,
      9,
    ),
  );
  it("surge is derated by heat as the continuous rating is", () => {
    const surge = (compartment: number) =>
      assess(jobOf({ inverter: { compartmentC: q(compartment) } })).figures["starts.inverter.has"]!.value;
    expect(surge(60) / surge(25)).toBeCloseTo(0.7, 6);
  });
  it("a small window unit of 5,000 BTU/h is not outside the usual", () => {
    const job = jobOf({
      mains: "120V60Hz",
      unit: { coolingPower: q(5000 * 0.29307107), ratedPower: q(450), runningCurrent: q(4), lockedRotorCurrent: q(22) },
    });
    expect(noticesShown(job).filter(({ text }) => /outside the usual/.test(text))).toEqual([]);
  });
});

describe("what all charging together may be", () => {
  // A tenth over an equal share goes into one of them: common practice, no source.
  it.each([
    [1, 100],
    [2, 200 / 1.1],
    [4, 400 / 1.1],
  ])("of %i batteries in parallel is what the one that takes most may take", (parallel, amps) => {
    const job = withBranch("charger", {}, jobOf({ bank: { parallel: q(parallel), chargeCurrent: q(100) } }));
    const limit = assess(job).figures["bank.chargeLimit"]!;
    expect(limit.value).toBeCloseTo(amps, 6);
    const share = limit.terms.find(({ symbol }) => symbol === "q")!;
    expect(share.value).toBeCloseTo(100 / amps, 9);
  });
});

describe("what nobody entered", () => {
  it.each(MAINS_KEYS.flatMap((mains) => (["auto", ...RULE_SET_KEYS] as const).map((set) => [mains, set] as const)))(
    "%s by %s: no assumed part of any run fails, at any voltage, with every kind of run",
    (mains, ruleSet) => {
      for (const volts of [12.8, 25.6, 51.2])
        for (const kind of ["fixed", "variable"] as const) {
          const job = withBranch("shore", {}, jobOf({ mains, bank: { blockVoltage: q(volts) }, unit: { kind } }));
          job.brief.ruleSet = ruleSet;
          for (const role of ["solar", "engine", "charger", "loads", "circuit"] as const)
            job.wiring.branches.push({ ...emptyBranch(role, role), unitId: "unit-1", converter: volts > 20 });
          job.sources.panels = [emptyPanel("p")];
          job.sources.controllers = [emptyController("c")];
          job.inverter.combined = kind === "fixed";
          const failing = assess(job).verdicts.carries.checks.filter(
            ({ word, by }) => (word === "Fails" || word === "Stop") && by !== "bms-discharge" && by !== "bank-voltage",
          );
          expect(failing.map(({ name }) => `${volts} V, ${kind}: ${name}`)).toEqual([]);
        }
    },
  );
  it("is a fuse at 125 % of what a clamp read of a DC unit, where its plate says less", () => {
    const job = edit(jobOf({ brief: { ruleSet: "au-nz" } }), (copy) => {
      copy.units.push({ ...copy.units[0]!, id: "dc", kind: "dc", dcRunningCurrent: q(20, "measured") });
      copy.wiring.branches.push({ ...emptyBranch("dc-unit", "dc"), unitId: "dc" });
    });
    const { values, currents } = assess(job);
    const fused = values.wiring.branches[0]!.parts.find(({ rating }) => rating)!;
    expect(fused.rating!.value).toBeGreaterThanOrEqual(1.25 * currents["wiring.branches.0.parts"]!);
  });
  it.each([2, 4])("%i equal batteries in parallel fail on nothing", (parallel) => {
    const { carries } = assess(jobOf({ bank: { parallel: q(parallel) } })).verdicts;
    expect(carries.checks.filter(({ word }) => word === "Fails" || word === "Stop")).toEqual([]);
  });
  it.each(["solar", "engine", "charger", "loads", "shore"] as const)(
    "a new %s run fails on nothing, drop among it",
    (role) => {
      const job = withBranch(role);
      if (role === "solar") job.sources.panels = [emptyPanel("p")];
      const { carries } = assess(job).verdicts;
      expect(carries.checks.filter(({ word }) => word === "Fails" || word === "Stop").map(({ name }) => name)).toEqual(
        [],
      );
    },
  );
});
