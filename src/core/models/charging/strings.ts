import type { JobPath } from "../../document/path";
import { arrayOf, controllerOf } from "../../document/sides";
import type { Job } from "../../document/schema";
import type { JobValues } from "../../document/resolved";

/** At work a panel has four fifths of its open-circuit voltage, hot a tenth less; a tracker needs a volt over the bank. */
const AT_WORK = 0.72;
const TRACKER_HEADROOM_V = 1;

/** Open-circuit volts that a string needs to charge at so many volts, hot and at work. */
export const stringVoltsWanted = (chargeToVoltage: number): number => (chargeToVoltage + TRACKER_HEADROOM_V) / AT_WORK;

/** Panels of a group that stand in whole strings: those of a short one beside them give nothing. */
const panelsAtWork = (count: number, series: number): number =>
  count < series ? count : Math.floor(count / series) * series;

/** Whether strings of so many open-circuit volts pass a battery's charging volts at work, hot, by what a tracker needs. */
const stringCharges = (openVolts: number, chargeToVoltage: number): boolean =>
  openVolts >= stringVoltsWanted(chargeToVoltage);

/** Panels of up to this open-circuit voltage have two groups of cells with a bypass diode each; larger ones three. */
const TWO_GROUPS_UP_TO_V = 30;
/** A shadow takes about half of a group's light and with it the whole group: twice the light that is lost. */
const SHADE_IMPACT = 2;
/** Light that reaches a shaded cell all the same. */
const DIFFUSE_SHARE = 0.25;

/**
 * Share of its power that a string keeps where its panels lose `shaded` (0 to 1) of their light to shade on the roof.
 *
 * A shaded group of cells is bypassed: a string whose other groups still pass the battery's volts loses that group alone,
 * about twice the light. One that would fall under the battery's volts passes no more than what diffuse light gives the shaded
 * cells, as long as any of its groups is in shade: so a single 12 V panel on a 12 V bank. Common practice, no source.
 */
export function shadeFactor(shaded: number, series: number, openVoltage: number, chargeToVoltage: number): number {
  const groups = (openVoltage <= TWO_GROUPS_UP_TO_V ? 2 : 3) * series;
  const left = (AT_WORK * openVoltage * series * (groups - 1)) / groups;
  const keeps = left >= chargeToVoltage + TRACKER_HEADROOM_V;
  const limited = 1 - (1 - DIFFUSE_SHARE) * Math.min(1, SHADE_IMPACT * groups * shaded);
  return keeps ? Math.max(limited, 1 - SHADE_IMPACT * shaded) : limited;
}

/** Working volts over those open circuit, and what the current falls by from the one to the other: to nothing. */
const WORKING_SHARE = 0.8;

/**
 * Share of its power that a string gives where its controller works at `volts` and it would work best at `best`: below, its
 * current with fewer volts; above, a current that falls to nothing at its open-circuit volts.
 */
function atVoltsOf(volts: number, best: number): number {
  const ratio = volts / best;
  return ratio <= 1 ? ratio : Math.max(0, ratio * (1 - (ratio - 1) / (1 / WORKING_SHARE - 1)));
}

/**
 * Share of the power on its labels that each group of panels passes to its controller, 0 to 1: nothing of a string too low to
 * charge, nor of panels that make no whole string; less where the roof shades them; and where strings of unlike volts lie in
 * parallel on one controller, what each gives at the one voltage that gets most out of all of them. Panels without a listed
 * controller are taken to suit.
 */
export function passedShares(job: Job, values: JobValues): number[] {
  const { panels, controllers } = values.sources;
  const chargeTo = values.bank.chargeToVoltage.value;
  const strings = job.sources.panels.map((panel, i) => {
    const { power, count, series, openVoltage, shaded } = panels[i]!;
    const openVolts = openVoltage.value * Math.min(series.value, count.value);
    const charges = controllers.length === 0 || stringCharges(openVolts, chargeTo);
    const whole = panelsAtWork(count.value, series.value) / count.value;
    const share = charges ? whole * shadeFactor(shaded.value, series.value, openVoltage.value, chargeTo) : 0;
    return { controller: controllerOf(job, panel), openVolts, share, watts: share * power.value * count.value };
  });
  const volts = controllers.map((_, c) => bestVolts(strings.filter(({ controller }) => controller === c)));
  return strings.map(
    ({ controller, openVolts, share }) => share * atVoltsOf(volts[controller] ?? openVolts, openVolts),
  );
}

/** Open-circuit volts of the strings at whose working volts all of them together give most; null where none charges. */
function bestVolts(strings: readonly { openVolts: number; watts: number }[]): number | null {
  const charging = strings.filter(({ watts }) => watts > 0);
  const given = (volts: number) => charging.reduce((sum, one) => sum + one.watts * atVoltsOf(volts, one.openVolts), 0);
  // One of theirs: what lies between them is at most a few per cent better.
  return charging.reduce<number | null>(
    (best, { openVolts }) => (best === null || given(openVolts) > given(best) ? openVolts : best),
    null,
  );
}

/** Share of the power on the labels of the panels on controller number `c` that its strings pass, 0 to 1. */
export function passedOf(job: Job, values: JobValues, c: number): number {
  const { panels } = values.sources;
  const shares = passedShares(job, values);
  let [passed, all] = [0, 0];
  job.sources.panels.forEach((panel, i) => {
    if (controllerOf(job, panel) !== c) return;
    const watts = panels[i]!.power.value * panels[i]!.count.value;
    all += watts;
    passed += shares[i]! * watts;
  });
  return all > 0 ? passed / all : 1;
}

/** How the panels on one controller stand against what it takes. Volts and amps. */
export interface StringCheck {
  name: string;
  /** Where in the document the controller is; its checks are about this place. */
  at: JobPath;
  /** Highest open-circuit volts of its strings, on the coldest morning, and the most that it takes. */
  coldVoltage: number;
  maxVoltage: number;
  /** Share of the power on the labels that its strings pass, 0 to 1. */
  passes: number;
  /** Amps that its strings could push at the battery's volts, and its rated output. */
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
    const passes = passedOf(job, values, c);
    return {
      name: job.sources.controllers[c]?.name ?? "Controller",
      at: `sources.controllers.${c}`,
      passes,
      coldVoltage: array.coldVolts,
      maxVoltage: controller.maxVoltage.value,
      current: (passes * array.power) / chargeToVoltage,
      limit: controller.current.value,
      strings: array.strings,
      shortCurrent: array.shortCurrent,
      power: array.power,
    };
  });
}
