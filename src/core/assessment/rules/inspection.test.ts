/*
 * What a second inspection found: unsafe work that passed, and sound work that was stopped. Clauses are quoted from memory;
 * common practice where none is named.
 */
import { describe, expect, it } from "vitest";
import { jobOf, q } from "../../../../tests/jobs";
import {
  american,
  four48,
  high,
  inlets,
  linked,
  loadRun,
  moored,
  panel,
  roofed,
  strung,
  tapped,
  without,
  awg,
  bankOf,
  breaker,
  circuit,
  edit,
  fuse,
  panels,
  part,
  rcd,
  withBranch,
  worst,
  type Row,
} from "../../../../tests/systems";
import type { Job } from "../../document/schema";
import { singleLineDiagram } from "../../applications/diagram/single-line-diagram";
import type { RuleId } from "../judge/rule-ids";
import { assess } from "../verdicts/assess";

const plugged = (job: Job) =>
  edit(job, (copy) => {
    copy.brief.loads.push({
      id: "kettle",
      name: "Sockets",
      side: "mains",
      leg: "L1",
      atStart: false,
      power: q(300),
    });
  });
const twoCircuits = (protectedOnes: number) =>
  edit(
    circuit(
      jobOf(),
      [...(protectedOnes > 0 ? [part("rcd", {}, "r1")] : []), breaker(16), part("cable", { areaMm2: q(2.5) })],
      [breaker(16, {}), part("cable", { areaMm2: q(2.5) }, "m")],
    ),
    (copy) => {
      const [own] = copy.wiring.branches.slice(-1);
      copy.units.push({ ...copy.units[0]!, id: "unit-2", name: "Second" });
      copy.wiring.branches.push({
        ...structuredClone(own!),
        id: "own-2",
        unitId: "unit-2",
        parts: [
          ...(protectedOnes > 1 ? [part("rcd", {}, "r2")] : []),
          breaker(16, { id: "b2" }),
          part("cable", { areaMm2: q(2.5) }, "c2"),
        ],
      });
    },
  );

const joined = (rating: number, inverters = 2) =>
  edit(jobOf({ inverter: { rating: q(2000), count: q(inverters), leads: "own" } }), (copy) => {
    copy.wiring.main = copy.wiring.main.map((one) => (one.kind === "fuse" ? { ...one, rating: q(400) } : one));
    copy.wiring.main.push(part("busbar", { rating: q(rating) }));
  });
const generator = (generatorBond: Job["supplies"]["generatorBond"]) =>
  edit(jobOf({ inverter: { neutralBond: "relay" } }), (copy) => {
    Object.assign(copy.supplies, { generatorAuto: true, generatorBond });
  });
const leadAcid = (parallel: number, rest: Parameters<typeof jobOf>[0] = {}) =>
  edit(
    jobOf({
      bank: { chemistry: "agm", parallel: q(parallel), capacityAh: q(220) },
      inverter: { rating: q(1500) },
      ...rest,
    }),
    (copy) => void Object.assign(copy.wiring.links, { fuses: "none", areaMm2: q(70) }),
  );

const fused = (amps: number) =>
  panels(4, 1, panel, { stringFuses: "each", stringFuse: q(amps), maxArrayCurrent: q(100) });
const controlled = (amps: number, branch: object) =>
  edit(panels(2, 1, panel, { current: q(amps) }), (copy) => {
    const [solar] = copy.wiring.branches.slice(-1);
    Object.assign(solar!, branch, { parts: [fuse(40), part("cable", { areaMm2: q(6) })] });
  });
const cold = (openVolts: number, lowestC: number) =>
  edit(panels(2, 2, { ...panel, openVoltage: q(openVolts) }), (copy) => void (copy.sources.lowestC = q(lowestC)));
const unlike = (one: number, other: number) =>
  edit(panels(1, 1, { ...panel, openVoltage: q(one) }), (copy) => {
    copy.sources.panels.push({ ...copy.sources.panels[0]!, id: "p-2", openVoltage: q(other) });
  });

/** A main circuit of these parts, with DC loads of so many amps on its busbar. */
const onBusbar = (main: Job["wiring"]["main"], amps: number, rest: Partial<Job["wiring"]["branches"][number]> = {}) =>
  edit(loadRun(jobOf({ inverter: { rating: q(1500) } }), 4, 100, amps), (copy) => {
    copy.wiring.main = main;
    Object.assign(copy.wiring.branches.at(-1)!, rest);
  });
const isolator = (amps: number) => part("isolator", { rating: q(amps) });
const busbar = (amps: number) => part("busbar", { rating: q(amps) });
const lead = part("cable", { areaMm2: q(70), length: q(1), count: q(2) }, "lead");
const solarOf = (amps: number, busbarA: number) =>
  edit(withBranch("engine", { current: q(amps) }), (copy) => {
    copy.wiring.main = [isolator(busbarA), busbar(busbarA), fuse(200), lead];
  });

const UNSAFE: Row[] = [
  [
    "a busbar for the inverter alone that feeds DC loads as well",
    "series-device",
    onBusbar([busbar(250), fuse(200), lead], 80),
    "Fails",
    onBusbar([busbar(300), fuse(200), lead], 80),
  ],
  [
    "an isolator before such a busbar",
    "series-device",
    onBusbar([isolator(250), busbar(400), fuse(200), lead], 80),
    "Fails",
    onBusbar([isolator(300), busbar(400), fuse(200), lead], 80),
  ],
  ["one that all charging goes through", "series-device", solarOf(260, 250), "Fails", solarOf(200, 250)],
  [
    "a fuse before a busbar that is large enough for the inverter, and not for the loads beside it",
    "inverter-full-draw",
    onBusbar([fuse(275), busbar(400), lead], 80),
    "Tight",
    onBusbar([fuse(400), busbar(400), lead], 80),
  ],
  [
    "one too small for what runs today and the loads beside it",
    "dc-fuse-load",
    onBusbar([fuse(125), busbar(400), lead], 80),
    "Fails",
    onBusbar([fuse(400), busbar(400), lead], 80),
  ],
  [
    "DC loads on a busbar before the battery's switch",
    "battery-switch",
    onBusbar([fuse(300), busbar(400), isolator(300), lead], 40),
    "Fails",
    onBusbar([fuse(300), isolator(300), busbar(400), lead], 40),
  ],
  [
    "the same, with a switch in every circuit but one",
    "battery-switch",
    edit(
      onBusbar([fuse(300), busbar(400), isolator(300), lead], 20, { parts: [fuse(40), isolator(63), awg(6, 1)] }),
      (copy) =>
        void copy.wiring.branches.push({ ...copy.wiring.branches.at(-1)!, id: "more", parts: [fuse(40), awg(6, 1)] }),
    ),
    "Fails",
    onBusbar([fuse(300), busbar(400), isolator(300), lead], 20, { parts: [fuse(40), isolator(63), awg(6, 1)] }),
  ],
  [
    "40 A fuses on four batteries that give 69 A each at the inverter's full draw",
    "battery-fuses",
    four48({ fuseRating: q(40), areaMm2: q(16) }),
    "Fails",
    four48({ fuseRating: q(100), areaMm2: q(25) }),
  ],
  [
    "leads that carry the draw and not 400 A of charging",
    "battery-leads",
    edit(bankOf(2, "each", { fuseRating: q(100), areaMm2: q(25) }), (copy) => {
      copy.inverter.rating = q(500);
      copy.inverter.combined = true;
      copy.inverter.chargeCurrent = q(400);
    }),
    "Fails",
    edit(bankOf(2, "each", { fuseRating: q(300), areaMm2: q(150) }), (copy) => {
      copy.inverter.rating = q(500);
      copy.inverter.combined = true;
      copy.inverter.chargeCurrent = q(400);
    }),
  ],
  [
    "a fuse of one and a half times its lead, two standard sizes over it",
    "battery-fuses",
    edit(american({ bank: { parallel: q(2) }, inverter: { rating: q(1000) } }), (copy) => {
      Object.assign(copy.wiring.links, { fuses: "each", fuseRating: q(250), areaMm2: q(33.6) });
    }),
    "Stop",
    edit(american({ bank: { parallel: q(2) }, inverter: { rating: q(1000) } }), (copy) => {
      Object.assign(copy.wiring.links, { fuses: "each", fuseRating: q(200), areaMm2: q(53.5) });
    }),
  ],
  [
    "thin links in a chain of three",
    "battery-leads",
    linked(jobOf({ bank: { parallel: q(3) } }), { layout: "chain-diagonal", areaMm2: q(16) }),
    "Fails",
    linked(jobOf({ bank: { parallel: q(3) } }), { layout: "chain-diagonal", areaMm2: q(150) }),
  ],
  [
    "links of a chain that the main fuse does not protect",
    "battery-fuses",
    linked(jobOf({ bank: { parallel: q(2) }, fuse: { rating: q(400) } }), {
      layout: "chain-one-end",
      fuses: "each",
      areaMm2: q(70),
    }),
    "Stop",
    linked(jobOf({ bank: { parallel: q(2) }, fuse: { rating: q(400) } }), {
      layout: "chain-one-end",
      fuses: "each",
      areaMm2: q(150),
    }),
  ],
  [
    "receptacles behind a US device of 30 mA (UL 943: class A, 4 to 6 mA)",
    "residual",
    edit(plugged(american()), rcd({ residual: q(0.03) })),
    "Fails",
    edit(plugged(american()), rcd({ residual: q(0.005) })),
  ],
  [
    "receptacles behind 10 mA",
    "residual",
    edit(plugged(american()), rcd({ residual: q(0.01) })),
    "Fails",
    plugged(american()),
  ],
  ["an RCD on one of two circuits (721.415.1)", "residual", twoCircuits(1), "Stop", twoCircuits(2)],
  [
    "sockets on the output run, whose two circuits alone have an RCD",
    "residual",
    plugged(twoCircuits(2)),
    "Stop",
    twoCircuits(2),
  ],
  [
    "an RCD of 30 mA on one of two circuits and 300 mA on the other",
    "residual",
    edit(twoCircuits(2), (copy) => {
      const [last] = copy.wiring.branches.slice(-1);
      last!.parts = last!.parts.map((one) => (one.kind === "rcd" ? { ...one, residual: q(0.3) } : one));
    }),
    "Fails",
    twoCircuits(2),
  ],
  ["a busbar for one of two inverters on both (its sum)", "series-device", joined(500), "Fails", joined(800)],
  ["a busbar for two of three", "series-device", joined(800, 3), "Fails", joined(1200, 3)],
  [
    "frost on one that charges NMC",
    "frost",
    edit(
      jobOf({ bank: { chemistry: "nmc" }, inverter: { combined: true } }),
      (copy) => void (copy.bank.frostBlock = false),
    ),
    "Stop",
    edit(
      jobOf({ bank: { chemistry: "agm" }, inverter: { combined: true } }),
      (copy) => void (copy.bank.frostBlock = false),
    ),
  ],
  ["three with one", "sources-apart", inlets(3, 1), "Stop", inlets(3, 2)],
  ["a generator with a floating neutral (551.4)", "neutral-bond", generator("floating"), "Fails", generator("bonded")],
  ["a generator whose bond nobody stated", "neutral-bond", generator("unsaid"), "Tight", generator("bonded")],
  [
    "an inverter whose bond nobody stated",
    "neutral-bond",
    jobOf({ inverter: { neutralBond: "unsaid" } }),
    "Tight",
    jobOf({ inverter: { neutralBond: "relay" } }),
  ],
  [
    "one on a US boat",
    "neutral-bond",
    american({ brief: { ruleSet: "us-boat" }, inverter: { neutralBond: "unsaid" } }),
    "Tight",
    american({ brief: { ruleSet: "us-boat" }, inverter: { neutralBond: "fixed" } }),
  ],
  ...(
    [
      ["LFP charged to 3.9 V a cell", "lfp", 12.8, 15.6, 14.6],
      ["LFP charged to 3.7 V a cell at 48 V", "lfp", 51.2, 59.2, 58.4],
      ["NMC charged to 4.3 V a cell", "nmc", 51.1, 60.2, 58.8],
      ["AGM charged to 2.6 V a cell", "agm", 12, 15.6, 14.8],
    ] as const
  ).map(([name, chemistry, volts, over, within]): Row => {
    const bank = { chemistry, blockVoltage: q(volts) };
    return [
      name,
      "charge-voltage",
      jobOf({ bank: { ...bank, chargeToVoltage: q(over) } }),
      "Stop",
      jobOf({ bank: { ...bank, chargeToVoltage: q(within) } }),
    ];
  }),
  ["a van without a battery switch", "battery-switch", without("isolator", "van"), "Fails", jobOf()],
  ["a boat without one", "battery-switch", without("isolator", "boat"), "Fails", without("isolator", "room")],
  ["panels without a solar circuit", "solar-circuit", roofed(false), "Tight", roofed(true)],
  ["a DC job's", "solar-circuit", roofed(false, "dc"), "Tight", roofed(true, "dc")],
  [
    "a bank of 96 V without touch protection",
    "dc-above-60",
    high({ above60: "none" }),
    "Stop",
    high({ above60: "covered" }),
  ],
  ["one whose protection nobody stated", "dc-above-60", high({}, 20), "Tight", high({}, 16)],
  ["string fuses of 60 A on strings of 10 A (2.4 × at most)", "solar-string-fuse", fused(60), "Fails", fused(20)],
  ["string fuses of 13 A on them (1.5 × at least, IEC 62548)", "solar-string-fuse", fused(13), "Fails", fused(16)],
  [
    "the cable of an 85 A controller, its circuit's current left as it was",
    "dc-ampacity",
    controlled(85, {}),
    "Fails",
    controlled(30, {}),
  ],
  [
    "the same with 30 A typed into the circuit",
    "dc-ampacity",
    controlled(85, { current: q(30) }),
    "Fails",
    controlled(30, { current: q(30) }),
  ],
  [
    "88 V of strings on a controller of 100 V at -10 °C (NEC table 690.7(A): 1.14)",
    "solar-voltage",
    cold(44, -10),
    "Stop",
    cold(43.5, -10),
  ],
  ["80 V at -40 °C (1.25)", "solar-voltage", cold(40.1, -40), "Stop", cold(39.9, -40)],
  ["12 AWG behind 30 A", "dc-overcurrent", loadRun(american(), 12, 30), "Stop", loadRun(american(), 10, 30)],
  [
    "6 AWG for 65 A of a US vehicle at 48 V by the boat's table (NEC 310.16: 55 A)",
    "dc-ampacity",
    loadRun(american({ bank: { blockVoltage: q(51.2) } }), 6, 80, 65),
    "Fails",
    loadRun(american({ brief: { ruleSet: "us-boat" }, bank: { blockVoltage: q(51.2) } }), 6, 80, 65),
  ],
  [
    "4 AWG for 90 A",
    "dc-ampacity",
    loadRun(american({ bank: { blockVoltage: q(51.2) } }), 4, 125, 90),
    "Fails",
    loadRun(american({ bank: { blockVoltage: q(25.6) } }), 4, 125, 90),
  ],
  ["one 3.5 m behind it", "inlet-breaker", moored(3.5), "Fails", moored(2)],
  [
    "1.2 m from busbars of parallel batteries",
    "fuse-at-source",
    edit(tapped(1.2, false), (copy) => void (copy.bank.parallel = q(2))),
    "Stop",
    tapped(1.2, false),
  ],
  ["five panels in strings of two", "solar-strings", strung(22, 2, 5), "Fails", strung(22, 2, 4)],
  ["24 V of two groups on one controller, one half as high", "solar-strings", unlike(24, 48), "Tight", unlike(24, 23)],
];

describe("unsafe work that passed", () => {
  it.each(UNSAFE)("%s", (_, by, broken, word, met) => {
    expect(worst(broken, by)?.word).toBe(word);
    expect(["Holds", "Tight", undefined]).toContain(worst(met, by)?.word);
  });
});

const onShore = (parts: Parameters<typeof circuit>[1], job = american()) =>
  withBranch("shore", { current: q(30), parts }, job);
const SOUND: [name: string, by: RuleId, job: Job][] = [
  [
    "a hard-wired US roof unit of 30 A without a GFCI at the inlet (551.41(C) speaks of receptacles)",
    "residual",
    edit(onShore([part("inlet"), breaker(30), awg(10)]), (copy) => {
      copy.wiring.mains = copy.wiring.mains.filter(({ kind }) => kind !== "rcd");
    }),
  ],
  [
    "two of them on 50 A",
    "residual",
    edit(onShore([part("inlet"), breaker(50), awg(6)], american({ mains: "120V240V60Hz" })), (copy) => {
      copy.wiring.mains = copy.wiring.mains.filter(({ kind }) => kind !== "rcd");
    }),
  ],
  [
    "an RCD of 300 mA before two circuits of 30 mA each",
    "residual",
    edit(twoCircuits(2), (copy) => void copy.wiring.mains.unshift(part("rcd", { residual: q(0.3) }, "slow"))),
  ],
  [
    "a single-pole GFCI breaker",
    "residual-poles",
    edit(plugged(american()), rcd({ residual: q(0.005), poles: "live" })),
  ],
  [
    "one on a US boat's output, behind an inlet with an ELCI of two poles",
    "residual-poles",
    edit(plugged(american({ brief: { ruleSet: "us-boat" } })), rcd({ residual: q(0.005), poles: "live" })),
  ],
  ["two AGM in parallel behind one fuse", "battery-fuses", leadAcid(2)],
  [
    "two of 24 V",
    "battery-fuses",
    leadAcid(2, { bank: { chemistry: "agm", parallel: q(2), series: q(2), capacityAh: q(220) } }),
  ],
  [
    "440 A h of AGM behind a fuse that breaks 5 kA",
    "dc-interrupting",
    leadAcid(2, { fuse: { interrupting: q(5000) } }),
  ],
  ["880 A h of it", "dc-interrupting", leadAcid(4, { fuse: { interrupting: q(5000) } })],
];

describe("sound work that was stopped", () => {
  it.each(SOUND)("%s", (_, by, job) => expect(["Holds", undefined]).toContain(worst(job, by)?.word));
});

describe("what a busbar joins", () => {
  const [near, far] = [part("cable", { areaMm2: q(25), length: q(1) }, "near"), lead];
  it("is what the diagram says that the parts before it carry", () => {
    const job = onBusbar([near, busbar(400), fuse(200), far], 81);
    const assessment = assess(job);
    expect(assessment.shared!.upTo).toBe(1);
    expect(assessment.shared!.current - assessment.currents["wiring.main"]!).toBeCloseTo(81, 3);
    const lines = (at: string) =>
      singleLineDiagram(job, assessment)
        .items.find(({ path }) => path === at)!
        .lines.join(" ");
    const [before, after] = [lines("wiring.main.0"), lines("wiring.main.3")];
    expect(before).toContain(`${Math.round(assessment.shared!.current)} A of`);
    expect(after).toContain(`${Math.round(assessment.currents["wiring.main"]!)} A of`);
  });
});
