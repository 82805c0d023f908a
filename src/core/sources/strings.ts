import type { Rig } from "../rig/document";
import type { RigValues } from "../rig/resolve";

/** How the panels on one controller stand against what it bears. Volts and amps. */
export interface StringCheck {
  name: string;
  /** Highest open-circuit volts of its strings, on the coldest morning, and what it bears. */
  coldVoltage: number;
  maxVoltage: number;
  /** Amps that its panels could push at the bank's volts, and its limit. */
  current: number;
  limit: number;
  /** Whether a string's volts, hot, pass the bank's charging volts by the few that a tracker needs. */
  highEnough: boolean;
  /** Panels that do not divide into whole strings. */
  uneven: boolean;
  power: number;
}

/** Open-circuit volts rise by this for each kelvin under 25 degC: 0.25 to 0.35 % for silicon (common practice, no source). */
const VOLTS_PER_KELVIN = 0.003;
/** Coldest morning that a string must bear, against the month's minimum. */
const COLDER_THAN_MINIMUM = 15;
/** Volts over the bank that a tracker needs to go on charging. */
const HEADROOM = 1;

/** Each controller with the panels on it; one implied where none is listed. */
export function stringChecks(rig: Rig, values: RigValues, chargeToVoltage: number): StringCheck[] {
  const { panels, controllers } = values.sources;
  const coldest = values.place.minC.value - COLDER_THAN_MINIMUM;
  return controllers.map((controller, c) => {
    const own = rig.sources.panels.flatMap((panel, i) => {
      const index = rig.sources.controllers.findIndex(({ id }) => id === panel.controllerId);
      return Math.max(0, index) === c ? [panels[i]!] : [];
    });
    const open = own.map(({ openVoltage, series }) => openVoltage.value * series.value);
    const power = own.reduce((sum, panel) => sum + panel.power.value * panel.count.value, 0);
    return {
      name: rig.sources.controllers[c]?.name ?? "Controller",
      coldVoltage: Math.max(0, ...open) * (1 + VOLTS_PER_KELVIN * Math.max(0, 25 - coldest)),
      maxVoltage: controller.maxVoltage.value,
      current: power / chargeToVoltage,
      limit: controller.current.value,
      // At work a panel gives four fifths of its open volts, hot a tenth less.
      highEnough: open.every((volts) => volts * 0.8 * 0.9 >= chargeToVoltage + HEADROOM),
      uneven: own.some(({ count, series }) => count.value % series.value !== 0),
      power,
    };
  });
}
