import {
  emptyBranch,
  emptyController,
  emptyJob,
  emptyPanel,
  emptyPart,
  type Branch,
  type Job,
  type Part,
  type PartOf,
} from "../../document/schema";
import type { PartKind } from "../../document/fields";
import { gaugeAreaMm2 } from "../../units/gauge";
import type { Origin, Quantity } from "../../units/known";

/* Systems put together from their parts: what the rules' examples are made of. */

/** An entered quantity, from the plate unless said otherwise. */
export const q = (value: number, origin: Origin = "plate"): Quantity => ({ value, origin });

export interface JobParts {
  mains?: Job["brief"]["mains"];
  brief?: Partial<Job["brief"]>;
  /** Highest temperature of a design day of its own, degC; without it there is no place and 35 °C stands. */
  outdoorC?: number;
  unit?: Partial<Job["units"][number]>;
  bank?: Partial<Job["bank"]>;
  inverter?: Partial<Job["inverter"]>;
  wiring?: Partial<Job["wiring"]>;
  /** What the one cable and the one fuse between battery and inverter are; `fuse: null` for none. */
  cable?: Partial<PartOf<"cable">>;
  fuse?: Partial<PartOf<"fuse">> | null;
}

/** A system of one unit with some parts entered; everything else is assumed. */
export function jobOf({
  mains = "230V50Hz",
  brief,
  outdoorC,
  unit,
  bank,
  inverter,
  wiring,
  cable,
  fuse,
}: JobParts = {}): Job {
  const job = emptyJob("Test job", mains);
  const main = job.wiring.main.flatMap((part): Part[] => {
    if (part.kind === "cable") return [{ ...part, ...cable }];
    if (part.kind === "fuse") return fuse === null ? [] : [{ ...part, ...fuse }];
    return [part];
  });
  return {
    ...job,
    brief: { ...job.brief, ...brief },
    weather: {
      ...job.weather,
      kind: outdoorC === undefined ? "usual" : "own",
      ...(outdoorC === undefined ? {} : { highestC: q(outdoorC) }),
    },
    units: [{ ...job.units[0]!, ...unit }],
    bank: { ...job.bank, ...bank },
    inverter: { ...job.inverter, ...inverter },
    wiring: { ...job.wiring, main, ...wiring },
  };
}

export const part = <K extends PartKind>(kind: K, rest: Partial<PartOf<K>> = {}, id: string = kind): Part =>
  ({ ...emptyPart(kind, id), ...rest }) as Part;
export const cable = (areaMm2: number, metres = 2, rest: Partial<PartOf<"cable">> = {}) =>
  part("cable", { areaMm2: q(areaMm2), length: q(metres), ...rest });
export const awg = (gauge: number, metres = 2) => cable(gaugeAreaMm2(gauge), metres);
export const breaker = (amps: number, rest: Partial<PartOf<"breaker">> = {}) =>
  part("breaker", { rating: q(amps), ...rest });
export const fuse = (amps: number, rest: Partial<PartOf<"fuse">> = {}) => part("fuse", { rating: q(amps), ...rest });

export const edit = (job: Job, change: (job: Job) => void): Job => {
  const copy = structuredClone(job);
  change(copy);
  return copy;
};
export const withBranch = (role: Branch["role"], change: Partial<Branch> = {}, job = jobOf()): Job =>
  edit(job, (copy) => {
    copy.wiring.mains.unshift(emptyPart("changeover", "co"));
    copy.wiring.branches.push({ ...emptyBranch(role, role), ...change });
  });
export const bank48 = { blockVoltage: q(51.2), series: q(1), capacityAh: q(100) };

export const american = (rest: Parameters<typeof jobOf>[0] = {}) =>
  jobOf({ mains: "120V60Hz", unit: { runningCurrent: q(12.4) }, inverter: { rating: q(3000) }, ...rest });
export const circuit = (job: Job, parts: Part[], mains?: Part[]) =>
  edit(job, (copy) => {
    if (mains) copy.wiring.mains = mains;
    copy.wiring.branches.push({ ...emptyBranch("circuit", "own"), unitId: copy.units[0]!.id, parts });
  });
export const panels = (count: number, series: number, rest: object = {}, controller: object = {}) =>
  edit(jobOf(), (copy) => {
    copy.wiring.branches.push(emptyBranch("solar", "solar"));
    copy.sources.controllers = [{ ...emptyController("c"), maxVoltage: q(100), current: q(40), ...controller }];
    copy.sources.panels = [{ ...emptyPanel("p"), count: q(count), series: q(series), power: q(200), ...rest }];
  });
export const engine = (change: Partial<Branch>, bank: Partial<Job["bank"]> = {}) =>
  withBranch("engine", change, jobOf({ bank, inverter: { rating: q(2000) } }));
export const split = (change: (job: Job) => void = () => {}) =>
  edit(jobOf({ mains: "120V240V60Hz", inverter: { rating: q(3000), count: q(2) } }), (copy) => {
    copy.inverter.leads = "own";
    change(copy);
  });
export const rcd = (rest: Partial<PartOf<"rcd">>) => (copy: Job) => {
  copy.wiring.mains = copy.wiring.mains.map((one) => (one.kind === "rcd" ? { ...one, ...rest } : one));
};
export const bankOf = (parallel: number, fuses: Job["wiring"]["links"]["fuses"], rest = {}) =>
  edit(jobOf({ bank: { parallel: q(parallel) } }), (copy) => {
    copy.wiring.links = { ...copy.wiring.links, fuses, ...rest };
  });
export const linked = (job: Job, links: Partial<Job["wiring"]["links"]>) =>
  edit(job, (copy) => void Object.assign(copy.wiring.links, links));
export const four48 = (links: Partial<Job["wiring"]["links"]>, inverter: Partial<Job["inverter"]> = {}) =>
  linked(
    jobOf({
      bank: { blockVoltage: q(51.2), capacityAh: q(100), parallel: q(4) },
      inverter: { rating: q(10_000), ...inverter },
    }),
    { fuses: "each", ...links },
  );
export const inlets = (count: number, transfers: number) =>
  edit(jobOf(), (copy) => {
    copy.wiring.mains.unshift(part("changeover"));
    for (let i = 0; i < count; i++)
      copy.wiring.branches.push({
        ...emptyBranch("shore", `shore-${i}`),
        parts: [
          part("inlet", {}, `i${i}`),
          part("rcd", {}, `r${i}`),
          breaker(16, { id: `b${i}` }),
          ...(i < transfers ? [part("changeover", {}, `t${i}`)] : []),
          part("cable", { areaMm2: q(2.5) }, `c${i}`),
        ],
      });
  });
export const without = (kind: string, cabin: Job["cabin"]["kind"]) =>
  edit(jobOf(), (copy) => {
    copy.cabin.kind = cabin;
    copy.wiring.main = copy.wiring.main.filter((one) => one.kind !== kind);
  });
export const roofed = (wired: boolean, kind: "fixed" | "dc" = "fixed") =>
  edit(jobOf({ unit: { kind } }), (copy) => {
    copy.sources.panels = [emptyPanel("p")];
    copy.sources.controllers = [emptyController("c")];
    if (wired) copy.wiring.branches.push(emptyBranch("solar", "solar"));
  });
export const high = (wiring: Partial<Job["wiring"]>, cells = 30) =>
  edit(jobOf({ bank: { build: "cells", chemistry: "lfp", series: q(cells) } }), (copy) => {
    Object.assign(copy.wiring, wiring);
  });
export const panel = { power: q(300), openVoltage: q(40), shortCurrent: q(10) };
export const strung = (openVolts: number, series: number, count: number) =>
  panels(count, series, { ...panel, openVoltage: q(openVolts) }, { maxVoltage: q(150) });
export const loadRun = (job: Job, gauge: number, fuseA: number, current = 10) =>
  edit(job, (copy) => {
    copy.wiring.branches.push({
      ...emptyBranch("loads", "loads"),
      current: q(current),
      parts: [fuse(fuseA), awg(gauge, 1)],
    });
  });
export const moored = (metres: number) =>
  edit(
    withBranch("shore", {
      parts: [part("inlet"), part("cable", { areaMm2: q(2.5), length: q(metres) }), part("rcd"), breaker(16)],
    }),
    (copy) => void (copy.cabin.kind = "boat"),
  );
export const tapped = (metres: number, busbar: boolean) =>
  edit(jobOf(), (copy) => {
    if (busbar) copy.wiring.main.push(part("busbar"));
    copy.wiring.branches.push({
      ...emptyBranch("loads", "loads"),
      parts: [
        part("cable", { areaMm2: q(16), length: q(metres) }, "first"),
        fuse(40),
        part("cable", { areaMm2: q(16) }),
      ],
    });
  });
export const loadRunMm2 = (job: Job, areaMm2: number, fuseA: number) =>
  edit(job, (copy) => {
    copy.wiring.branches.push({
      ...emptyBranch("loads", "loads"),
      current: q(10),
      parts: [fuse(fuseA), cable(areaMm2, 1)],
    });
  });
/** A part of the circuit between battery and inverter, changed. */
export const inMain = (kind: PartKind, change: object, job: Job) =>
  edit(job, (copy) => {
    copy.wiring.main = copy.wiring.main.map((one) => (one.kind === kind ? ({ ...one, ...change } as Part) : one));
  });
export const sharedBms = (amps: number) =>
  jobOf({
    bank: { parallel: q(2), continuousCurrent: q(amps) },
    unit: { kind: "variable", dcRunningCurrent: q(105, "measured") },
  });
/** A refrigerator of 240 W on a 48 V battery. */
export const fridge = () =>
  jobOf({
    bank: bank48,
    brief: { loads: [{ id: "f", name: "Fridge", side: "dc", leg: "L1", atStart: true, power: q(240) }] },
  });
export const heavyLeg = (leg: "L1" | "L2") =>
  split((copy) => {
    copy.units[0]!.runningCurrent = q(15);
    copy.brief.loads = [{ id: "k", name: "Kettle", side: "mains", leg, atStart: false, power: q(1800) }];
  });
export const betweenLegs = (amps: number) =>
  split((copy) => {
    copy.units[0]!.leg = "both";
    copy.units[0]!.runningCurrent = q(amps);
  });
export const bothLegs = (change: (job: Job) => void) =>
  split((copy) => {
    copy.inverter.output = "both-legs";
    change(copy);
  });
export const generatorOf = (rating: number) =>
  edit(jobOf({ inverter: { neutralBond: "relay" } }), (copy) => {
    Object.assign(copy.supplies, { generatorAuto: true, generatorBond: "bonded", generatorRating: q(rating) });
  });
export const starting = (lockedRotorA: number, inverter: Partial<Job["inverter"]>) =>
  jobOf({ unit: { runningCurrent: q(5), lockedRotorCurrent: q(lockedRotorA) }, inverter });
export const measuredHot = (lugC: number) =>
  edit(jobOf(), (copy) => {
    Object.assign(copy.wiring.measured, {
      hotCurrent: q(60, "measured"),
      airC: q(25, "measured"),
      cableC: q(40, "measured"),
      lugC: q(lugC, "measured"),
    });
  });
