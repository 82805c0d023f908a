import type { Job } from "../../document/schema";
import { buildSystem } from "../../models/system/build";
import { wordOf, type Word } from "../judge/word";
import { lowestSoc, type System } from "../../models/system/system";
import { bankModel } from "../../models/battery/battery";
import {
  limitName,
  hardestOf,
  smallestMargin,
  startContext,
  traceStart,
  type Limit,
  type StartContext,
  type StartTrace,
} from "../../simulation/start/start";
import { fixedSpeed, hasSoftStarter } from "../../document/unit-kinds";

/** One way in which a start may come about, and how it goes. */
export interface StartCondition {
  key: string;
  name: string;
  margin: number;
  word: Word;
  by: string;
  /** Plain words where the margin alone does not say it. */
  note: string;
}

/** Kelvin below which nobody cools; the cold start is that of a heat pump, or of a cool night's fridge-cold bank. */
const COLD_C = 0;

/** A stalled compressor holds locked rotor until its overload opens: taken as this many seconds. */
const STALL_S = 5;

/** The ways a system's start may come about: full, at reserve, cold, unlearned, too soon, together. */
export function startConditions(job: Job, system: System = buildSystem(job)): StartCondition[] {
  const { values, bank } = system;
  const context = startContext(system);
  const low = lowestSoc(system);
  const worstOf = (over: StartContext, share: number): StartTrace =>
    hardestOf(job.units.map((_, i) => traceStart(over, { starting: i, startAid: "own", share, drawn: false })));
  const conditions: StartCondition[] = [];
  const add = (key: string, name: string, trace: StartTrace, note = "") => {
    const [by] = (Object.entries(trace.nearest) as [Limit, { need: number; has: number }][]).reduce((a, b) =>
      b[1].has * a[1].need < a[1].has * b[1].need ? b : a,
    );
    const margin = Math.min(99, smallestMargin(trace));
    conditions.push({ key, name, margin, word: wordOf(margin), by: limitName(by, trace), note });
  };
  const several = job.units.length > 1;
  add("reserve", several ? "One after another, at the reserve" : "At the reserve", worstOf(context, low));
  if (bank.startSoc > low) add("full", "As charged", worstOf(context, bank.startSoc));
  if (values.bank.temperatureC.value > COLD_C)
    add("cold", "At the reserve, battery at 0 °C", worstOf({ ...context, bank: bankModel(values, job, COLD_C) }, low));
  if (several)
    add(
      "together",
      "All units at once",
      traceStart(context, { starting: -1, startAid: "own", share: low, drawn: false }),
    );
  const soft = job.units.some(hasSoftStarter);
  if (soft) {
    const taught = (learned: boolean): StartContext => ({
      ...context,
      job: { ...job, units: job.units.map((unit) => ({ ...unit, learned })) },
    });
    add("learned", "Soft starter learned", worstOf(taught(true), low));
    add(
      "unlearned",
      "Soft starter not learned",
      worstOf(taught(false), low),
      "the first five starts or so: on shore or a generator",
    );
  }
  if (job.units.some(fixedSpeed)) {
    const stalled: StartContext = {
      ...context,
      values: {
        ...values,
        units: values.units.map((unit) => ({
          ...unit,
          startTime: { ...unit.startTime, value: STALL_S },
          softRamp: { ...unit.softRamp, value: STALL_S },
          softReduction: { ...unit.softReduction, value: 0 },
        })),
      },
    };
    add(
      "stalled",
      "Restarted within three minutes (stalled rotor)",
      worstOf(stalled, low),
      "it stalls at locked-rotor current until its overload opens",
    );
  }
  return conditions;
}
