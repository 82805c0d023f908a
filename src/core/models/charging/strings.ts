import { arrayOf } from "../../document/sides";
import type { Job } from "../../document/schema";
import type { JobValues } from "../../document/resolved";

/** How the panels on one controller stand against what it takes. Volts and amps. */
export interface StringCheck {
  name: string;
  /** Highest open-circuit volts of its strings, on the coldest morning, and the most that it takes. */
  coldVoltage: number;
  maxVoltage: number;
  /** Amps that its panels could push at the battery's volts, and its rated output. */
  current: number;
  limit: number;
  /** Strings in parallel, and A of their short circuit together. */
  strings: number;
  shortCurrent: number;
  power: number;
}

/** Each controller with the panels on it; the same array that Carries judges. */
export function stringChecks(job: Job, values: JobValues, chargeToVoltage: number): StringCheck[] {
  const { panels, controllers, lowestC } = values.sources;
  return controllers.map((controller, c) => {
    const array = arrayOf(job, panels, lowestC.value, c);
    return {
      name: job.sources.controllers[c]?.name ?? "Controller",
      coldVoltage: array.coldVolts,
      maxVoltage: controller.maxVoltage.value,
      current: array.power / chargeToVoltage,
      limit: controller.current.value,
      strings: array.strings,
      shortCurrent: array.shortCurrent,
      power: array.power,
    };
  });
}
