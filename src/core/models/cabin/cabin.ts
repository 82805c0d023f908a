import { AIR_HEAT, airDensity } from "../../reference/air/moist";
import type { OptionalCabinKey } from "../../document/day-defaults";
import type { Job } from "../../document/schema";
import type { JobValues } from "../../document/resolved";

/** A cabin as two nodes, air with its light lining and the slow mass behind it. W/K, J/K, m2, m3. */
export interface CabinModel {
  roofUA: number;
  wallUA: number;
  floorUA: number;
  glassUA: number;
  /** All four: what the cabin loses for each kelvin, shut and still. */
  heatLoss: number;
  roofArea: number;
  glassArea: number;
  solarGain: number;
  absorptance: number;
  volume: number;
  /** Share of walls and floor that lies against the sea. */
  inSea: number;
  airHeatCapacity: number;
  massHeatCapacity: number;
  coupling: number;
  airChanges: number;
  heatInside: number;
}

/**
 * Shares of walls and floor that have the weather on the other side. A room in a building has one outer wall and its
 * ceiling under the roof; the rooms around it are taken to be as warm.
 */
const VEHICLE_OUTER = { walls: 1, floor: 1 } as const;
const ROOM_OUTER = { walls: 0.25, floor: 0 } as const;

/**
 * A driver's cab: 1.5 to 2.5 m² of single windscreen and side glass behind whatever covers it, doors and bulkhead of bare metal
 * (common practice, no source; single glass 5.7 W/m²K, ASHRAE Fundamentals, from memory).
 */
const CAB = { glassArea: 2, glassU: 5.7, metalArea: 3, metalU: 4, volume: 3.5 } as const;
const CAB_SOLAR_GAIN = { none: 0.7, inside: 0.45, outside: 0.25 } as const;

/** What an open driver's cab adds to a cabin: nothing where a curtain or wall parts it, or there is none. W/K, m2, m3. */
function cabOf({ cabin }: Job) {
  const open = cabin.cab === "open" && HAS_CAB.includes(cabin.kind);
  return {
    glassUA: open ? CAB.glassArea * CAB.glassU : 0,
    metalUA: open ? CAB.metalArea * CAB.metalU : 0,
    glassArea: open ? CAB.glassArea : 0,
    solarGain: CAB_SOLAR_GAIN[cabin.cabCovers ?? "none"],
    volume: open ? CAB.volume : 0,
  };
}

/** Vehicles whose driver's cab may be a part of the room. */
export const HAS_CAB: readonly Job["cabin"]["kind"][] = ["van", "motorhome"];

/** Cabins of a boat have about half their hull below the water. */
const HULL_IN_SEA = 0.5;

/**
 * The cabin from its resolved values: areas times transmittances. A heat loss in W/K that was entered (a fitted one, or the
 * owner's), or `heatLoss` where none was, takes the place of their sum and keeps their proportions.
 */
export function cabinModel(values: JobValues, job: Job, heatLoss?: number): CabinModel {
  const v = (key: Exclude<keyof JobValues["cabin"], OptionalCabinKey>) => values.cabin[key].value;
  const [length, width, height] = [v("length"), v("width"), v("height")];
  const floor = length * width;
  const glassArea = v("glassArea");
  const outer = job.cabin.kind === "room" ? ROOM_OUTER : VEHICLE_OUTER;
  const walls = Math.max(0, outer.walls * 2 * (length + width) * height - glassArea);
  const cab = cabOf(job);
  const parts = {
    roofUA: v("roofU") * floor,
    wallUA: v("wallU") * walls + cab.metalUA,
    floorUA: v("floorU") * outer.floor * floor,
    glassUA: v("glassU") * glassArea + cab.glassUA,
  };
  const allGlass = glassArea + cab.glassArea;
  const sum = parts.roofUA + parts.wallUA + parts.floorUA + parts.glassUA;
  const scale = (values.cabin.heatLoss?.value ?? heatLoss ?? sum) / sum;
  return {
    roofUA: parts.roofUA * scale,
    wallUA: parts.wallUA * scale,
    floorUA: parts.floorUA * scale,
    glassUA: parts.glassUA * scale,
    heatLoss: sum * scale,
    roofArea: floor,
    glassArea: allGlass,
    solarGain: allGlass > 0 ? (v("solarGain") * glassArea + cab.solarGain * cab.glassArea) / allGlass : v("solarGain"),
    absorptance: v("absorptance"),
    volume: floor * height + cab.volume,
    inSea: job.cabin.kind === "boat" ? HULL_IN_SEA : 0,
    airHeatCapacity: v("lightMass"),
    massHeatCapacity: v("slowMass"),
    coupling: v("coupling"),
    airChanges: v("airChanges"),
    heatInside: v("heatInside"),
  };
}

/** Surface coefficient outside, W/m2K: 17 in light air to 23 in a breeze (ASHRAE's summer value at 3.4 m/s; memory). */
export function outsideCoefficient(wind: number): number {
  return Math.min(23, Math.max(17, 17 + 1.5 * (wind - 1)));
}

/** Kelvins that a roof which sees the sky loses to it: ASHRAE Fundamentals (memory). */
export const SKY_CORRECTION = 4;

/** Sol-air temperature in degC: outdoor + alpha G / h_o - correction. ASHRAE Fundamentals (memory). */
// oxlint-disable-next-line max-params -- called at every step of every run: an object for its numbers would be made each time
export function solAir(
  outdoorC: number,
  absorptance: number,
  sun: number,
  coefficient: number,
  correction = 0,
): number {
  return outdoorC + (absorptance * sun) / coefficient - correction;
}

/** Heat carried by an air change an hour, W/K. */
export function airChangeHeat(volume: number, pressurePa: number, temperatureC: number): number {
  return (volume / 3600) * airDensity(pressurePa, temperatureC) * AIR_HEAT;
}

/** Watts and kilograms of water a second that a person gives off: seated 70 W and 45 W, asleep 40 W and 30 W (ASHRAE; memory). */
export const PERSON = {
  awake: { sensible: 70, latent: 45 },
  asleep: { sensible: 40, latent: 30 },
} as const;

/** Lining, bedding and clothes hold several times the water that the air does: common practice, no source. */
const MOISTURE_BUFFER = 8;

/** kg of dry air that a cabin of a volume in m3 answers as where its moisture changes, lining and bedding in it. */
export const moistureHeld = (volume: number, pressurePa = 101_325): number =>
  ((volume * pressurePa) / (287.055 * 298)) * MOISTURE_BUFFER;
