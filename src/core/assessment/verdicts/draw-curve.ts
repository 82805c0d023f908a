import { inverterModel } from "../../models/inverter/inverter";
import type { Job } from "../../document/schema";
import { resolveJob } from "../../document/resolve";
import { mainsVoltage } from "../../document/defaults";
import type { Assessment } from "./assess";
import { unitDraws } from "../../models/air-conditioner/air-conditioner";

export interface PowerCurve {
  outdoorC: number[];
  /** W on the unit's own supply. */
  running: number[];
  fan: number[];
}

/** A unit's draws over outdoor temperatures, at the job's set point; the rest of the system as assessed. */
export function powerOverOutdoor(job: Job, assessment: Assessment, index: number, outdoorC: number[]): PowerCurve {
  const values = resolveJob(job);
  const { figures } = assessment;
  const inverter = inverterModel(values.inverter);
  const curve: PowerCurve = { outdoorC, running: [], fan: [] };
  for (const temperature of outdoorC) {
    const draws = unitDraws({
      unit: job.units[index]!,
      values: values.units[index]!,
      drawn: values.drawn[index]!,
      index,
      mains: mainsVoltage(job),
      inverter,
      bankVoltage: values.bank.blockVoltage.value * values.bank.series.value,
      restHalf: figures["bank.restHalf"]!.value,
      sourceResistance: figures["bank.resistance"]!.value + assessment.wiring.resistance,
      pathResistance: assessment.wiring.resistance,
      outdoor: { ...values.weather.highestC, value: temperature },
      sea: values.place.seaC,
    });
    curve.running.push(draws.running.value);
    curve.fan.push(draws.fan.value);
  }
  return curve;
}
