import type { Job } from "../../document/schema";
import { cellTemperature, facing, onSurface, type Facing } from "../../reference/sun/sky";
import type { Weather } from "../../reference/weather/weather";
import type { JobValues } from "../../document/resolved";
import { passedShares } from "./strings";
import { controllerOf } from "../../document/sides";

const RAD = Math.PI / 180;
/** A panel flat on a roof cannot breathe underneath: common practice, no source. */
const FLAT_RUNS_HOTTER = 5;

/** One panel group as the run needs it. */
export interface PanelGroup {
  /** W at 1000 W/m2 and 25 degC, times all factors that do not change. */
  power: number;
  perKelvin: number;
  nominalCellC: number;
  /** Null for level panels. */
  facing: Facing | null;
  onRoof: boolean;
  shadeByHour: readonly number[];
  controller: number;
}

/** Panel groups and the current limits of their controllers. */
export interface SolarModel {
  arrays: PanelGroup[];
  /** A of each controller. */
  limits: number[];
  /** m2 of roof that panels cover. */
  covered: number;
}

/** The solar side of a system from its values: each group of panels with what its strings pass. */
export function solarModel(values: JobValues, job: Job): SolarModel {
  const { panels, controllers, systemFactor } = values.sources;
  const passed = passedShares(job, values);
  const arrays = job.sources.panels.map((panel, i): PanelGroup => {
    const v = panels[i]!;
    const level = v.tilt.value === 0;
    return {
      power: passed[i]! * v.power.value * v.count.value * systemFactor.value,
      perKelvin: v.perKelvin.value,
      nominalCellC: v.nominalCellC.value + (panel.mount === "flat" ? FLAT_RUNS_HOTTER : 0),
      facing: level ? null : facing(v.tilt.value * RAD, v.azimuth.value * RAD),
      onRoof: panel.mount !== "portable",
      shadeByHour: panel.shadeByHour,
      controller: controllerOf(job, panel),
    };
  });
  const roof = job.sources.panels.reduce(
    (sum, panel, i) =>
      panel.mount === "portable"
        ? sum
        : sum + panels[i]!.length.value * panels[i]!.width.value * panels[i]!.count.value,
    0,
  );
  return {
    arrays,
    limits: controllers.length > 0 ? controllers.map(({ current }) => current.value) : [implicitLimit(values, job)],
    covered: roof,
  };
}

/** Current limit where no controller is listed: that of the solar runs of the path, or enough for all panels. */
function implicitLimit(values: JobValues, job: Job): number {
  const runs = job.wiring.branches.reduce(
    (sum, branch, i) => (branch.role === "solar" ? sum + values.wiring.branches[i]!.current.value : sum),
    0,
  );
  return runs > 0 ? runs : Infinity;
}

/** Watts of one group under `sun` W/m2 on its surface in air of `airC`. */
export function arrayPower({ power, perKelvin, nominalCellC }: PanelGroup, sun: number, airC: number): number {
  const cell = cellTemperature(airC, sun, nominalCellC);
  return Math.max(0, (sun / 1000) * power * (1 - perKelvin * (cell - 25)));
}

/**
 * Watts that the controllers could pass at each step, for a battery charging at `chargingVoltage`. `hours` is the local hour
 * of each step (0 to 24), `shade` the light kept off the roof by trees or a roof over all of it, 0 to 1.
 */
// oxlint-disable-next-line max-params -- called at every step of every run: an object for its numbers would be made each time
export function solarPower(
  model: SolarModel,
  weather: Weather,
  hours: Float64Array,
  shade: Float64Array,
  chargingVoltage: number,
): Float64Array {
  const out = new Float64Array(weather.steps);
  if (model.arrays.length === 0) return out;
  const { global, diffuse, beamTop, outdoorC } = weather;
  const { sinAltitude, cosAltitude, azimuth } = weather.track;
  const passed = new Float64Array(model.limits.length);
  for (let i = 0; i < weather.steps; i++) {
    if (global[i]! <= 0) continue;
    passed.fill(0);
    for (const array of model.arrays) {
      let sun = array.facing
        ? onSurface(array.facing, sinAltitude[i]!, cosAltitude[i]!, azimuth[i]!, global[i]!, diffuse[i]!, beamTop[i]!)
        : global[i]!;
      if (array.shadeByHour.length > 0) sun *= 1 - (array.shadeByHour[Math.floor(hours[i]!) % 24] ?? 0);
      if (array.onRoof) sun *= 1 - shade[i]!;
      passed[array.controller] = passed[array.controller]! + arrayPower(array, sun, outdoorC[i]!);
    }
    let sum = 0;
    for (let c = 0; c < passed.length; c++) sum += Math.min(passed[c]!, model.limits[c]! * chargingVoltage);
    out[i] = sum;
  }
  return out;
}
