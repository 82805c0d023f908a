import { gaugeAreaMm2 } from "@/core/units/gauge";
import {
  emptyBranch,
  emptyController,
  emptyPanel,
  emptyPart,
  type Branch,
  type Part,
  type PartOf,
  type Job,
} from "@/core/document/schema";
import type { PartKind } from "@/core/document/fields";
import { assess } from "@/core/assessment/verdicts/assess";
import type { Check, Word } from "@/core/assessment/checks/check";
import type { RuleId } from "@/core/assessment/rules/catalogue";
import { jobOf, q } from "./jobs";

/* Systems that break a rule or meet it, put together from their parts. */

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

/** The gravest check of a rule in Starts and Carries; undefined where the rule is not asked. */
export function worst(job: Job, by: RuleId): Check | undefined {
  const { starts, carries } = assess(job).verdicts;
  const gravity: Record<Word, number> = { Holds: 0, Tight: 1, Fails: 2, Stop: 3 };
  return [...starts.checks, ...carries.checks]
    .filter((one) => one.by === by)
    .reduce<Check | undefined>((a, b) => (!a || gravity[b.word] > gravity[a.word] ? b : a), undefined);
}

export type Row = [name: string, by: RuleId, broken: Job, word: Word, met: Job];

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
