import { arrayOf } from "../../document/sides";
import type { Job } from "../../document/schema";
import { stringCharges } from "./solar";
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
  /** Whether a string's volts, hot, pass the battery's charging volts by the few that a tracker needs. */
  highEnough: boolean;
  /** Panels that do not divide into whole strings. */
  uneven: boolean;
  power: number;
}

/** Each controller with the panels on it; the same array that Carries judges. */
export function stringChecks(job: Job, values: JobValues, chargeToVoltage: number): StringCheck[] {
  const { panels, controllers, lowestC } = values.sources;
  return controllers.map((controller, c) => {
    const array = arrayOf(job, panels, lowestC.value, c);
    const open = job.sources.panels.flatMap((panel, i) => {
      const index = job.sources.controllers.findIndex(({ id }) => id === panel.controllerId);
      return Math.max(0, index) === c ? [panels[i]!.openVoltage.value * panels[i]!.series.value] : [];
    });
    return {
      name: job.sources.controllers[c]?.name ?? "Controller",
      coldVoltage: array.coldVolts,
      maxVoltage: controller.maxVoltage.value,
      current: array.power / chargeToVoltage,
      limit: controller.current.value,
      strings: array.strings,
      shortCurrent: array.shortCurrent,
      highEnough: open.every((volts) => stringCharges(volts, chargeToVoltage)),
      uneven: array.uneven,
      power: array.power,
    };
  });
}
