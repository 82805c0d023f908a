import { CHEMISTRIES } from "../reference/battery/chemistry";
import { MAINS_SYSTEMS } from "../reference/standards/mains";
import { ofMonth, seaOfMonth } from "../reference/weather/places";
import { monthOfJob, placeOfJob, type Placed } from "./place";
import { formatQuantity } from "../units/format";
import type {
  CabinKey,
  ControllerKey,
  ObstacleKey,
  PanelKey,
  PlaceKey,
  PlanKey,
  SourceKey,
  SpanKey,
} from "./day-fields";
import type { Panel, PlanSpan, Job } from "./schema";
import type { DefaultValue } from "../units/known";
import type { Need } from "./defaults";

type Typicals<K extends string> = { [P in K]: (need: Need<K>) => DefaultValue };
const is = (value: number, why: string): DefaultValue => ({ value, why });

export function placeDefaults(job: Job): Typicals<PlaceKey> {
  const { place, why } = placeOfJob(job);
  const month = (need: Need<PlaceKey>) => monthOfJob(job, need("latitude"));
  const typical = `typical of ${why}`;
  return {
    latitude: () => is(place.latitude, why),
    longitude: () => is(place.longitude, why),
    maxC: (need) => is(ofMonth(place.maxC, month(need)), typical),
    minC: (need) => is(ofMonth(place.minC, month(need)), typical),
    dewPointC: (need) => is(Math.min(ofMonth(place.dewPointC, month(need)), need("minC") + 2), typical),
    clearness: (need) => is(Math.min(0.78, Math.max(0.02, ofMonth(place.clearness, month(need)))), typical),
    spread: (need) => {
      const latitude = Math.abs(need("latitude"));
      return latitude < 15
        ? is(1.2, "tropics: one day is much like the next")
        : latitude < 26
          ? is(1.8, "edge of the tropics")
          : is(2.6, "usual for the latitude");
    },
    wind: () => is(place.wind, typical),
    seaC: (need) =>
      place.seaC
        ? is(seaOfMonth(place.seaC, month(need)), typical)
        : is(Math.min(30, Math.max(2, (need("maxC") + need("minC")) / 2)), "the month's mean air temperature"),
  };
}

const SIZES: Record<
  Job["cabin"]["kind"],
  [length: number, width: number, height: number, glass: number, word: string]
> = {
  van: [3.2, 1.75, 1.85, 1.6, "van"],
  caravan: [4.8, 2.2, 1.95, 3, "caravan"],
  motorhome: [5.5, 2.2, 2, 3.2, "motorhome"],
  bus: [7.5, 2.3, 2, 7, "bus"],
  truck: [2.9, 1.9, 1.6, 1.2, "truck camper"],
  boat: [4, 2.2, 1.8, 1.4, "boat's cabin"],
  room: [4, 3.5, 2.5, 1.8, "room"],
};

/** Heat transmittance of roof and walls, W/m2K: middles of the usual ranges; grades after EN 1645-1 (memory). */
const TRANSMITTANCES: Record<Job["cabin"]["insulation"], [value: number, why: string]> = {
  canvas: [4, "canvas: 3 to 5"],
  bare: [5, "bare metal: 4 to 6"],
  lined: [2, "lined metal: 1.5 to 2.5"],
  grade2: [1.7, "grade II, EN 1645-1"],
  grade3: [1.2, "grade III, EN 1645-1"],
  insulated: [1, "insulated van: 0.8 to 1.2"],
  grp: [2.7, "GRP hull and deck: 2.0 to 3.5"],
  masonry: [1.5, "brick or block without insulation: 1.2 to 2.0"],
  house: [0.5, "insulated house wall: 0.3 to 0.7"],
};
/** Sun that a skin takes up: white paint 0.2 to 0.3 when new, 0.3 to 0.5 weathered and dirty (ASHRAE Fundamentals; from memory). */
const COLOURS = { white: 0.35, grey: 0.6, dark: 0.9 } as const;
const GLASS = { single: 5.7, double: 2.8 } as const;
const BLINDS = { none: 0.7, inside: 0.5, outside: 0.3 } as const;

/** J/K for each square metre of floor of air with its light lining, and of the slow mass; W/K for each from one to the other. */
const VEHICLE_MASS = {
  light: 18_000,
  lightRange: "10 to 25",
  slow: 100_000,
  slowRange: "50 to 150",
  film: 18,
  filmWhy: "5 W/m²K over surfaces of three to four times the floor",
};
/** A room of medium weight: 165 kJ/K over 2.5 times the floor at 9.1 W/m²K (ISO 13790:2008, table 12; from memory). */
const ROOM_MASS = {
  light: 25_000,
  lightRange: "15 to 40",
  slow: 165_000,
  slowRange: "110 to 260",
  film: 22.7,
  filmWhy: "9.1 W/m²K over 2.5 times the floor",
};

/**
 * Air changes an hour of a shut cabin in still air, and more for each m/s of wind. Leisure vehicles have vents that cannot be
 * shut (EN 721); parked cars with shut windows were measured at 0.5 to 4 an hour, by wind (both from memory; common practice).
 */
const LEAKS = {
  vehicle: { still: 0.5, byWind: 0.2 },
  boat: { still: 0.5, byWind: 0.15 },
  room: { still: 0.5, byWind: 0 },
} as const;

/** What other groups say that a cabin's typical values follow: W of the brief's other loads on average, and m/s of wind. */
interface CabinSetting {
  loadsAverage: number;
  wind: number;
}

/** Shortest room that a vehicle's length is taken to leave, m. */
const SHORTEST_ROOM_M = 1.5;

/** Quantities of a cabin that are left out where nobody entered them. */
export type OptionalCabinKey = "heatLoss" | "vehicleLength";

/** Of a vehicle's length the room inside: less its engine and cab, a coupling, or bow and stern (common practice, no source). */
const INSIDE: Partial<Record<Job["cabin"]["kind"], (vehicle: number) => number>> = {
  van: (m) => m - 1.8,
  motorhome: (m) => m - 1.2,
  caravan: (m) => m,
  bus: (m) => m - 1.5,
  boat: (m) => 0.5 * m,
};

export function cabinDefaults(
  job: Pick<Job, "cabin">,
  { loadsAverage, wind }: CabinSetting,
): Typicals<Exclude<CabinKey, OptionalCabinKey>> {
  const { kind, insulation, colour, glazing, blinds } = job.cabin;
  const [length, width, height, glass, word] = SIZES[kind];
  const [u, why] = TRANSMITTANCES[insulation];
  const floor = (need: Need<Exclude<CabinKey, OptionalCabinKey>>) => need("length") * need("width");
  const usual = `usual for a ${word}`;
  const { light, lightRange, slow, slowRange, film, filmWhy } = kind === "room" ? ROOM_MASS : VEHICLE_MASS;
  return {
    length: () => {
      const inside = INSIDE[kind];
      const vehicle = job.cabin.vehicleLength?.value;
      return inside && vehicle !== undefined
        ? is(Math.max(SHORTEST_ROOM_M, inside(vehicle)), `by the length of the ${word}`)
        : is(length, usual);
    },
    width: () => is(width, usual),
    height: () => is(height, usual),
    roofU: () => is(u, why),
    wallU: () => is(u, why),
    floorU: () => is(Math.min(2.5, 0.8 * u), "four fifths of the walls, 2.5 at most"),
    glassArea: () => is(glass, usual),
    glassU: () => is(GLASS[glazing], glazing === "single" ? "single glass" : "double glass or acrylic"),
    solarGain: () =>
      is(BLINDS[blinds], { none: "bare glass", inside: "blind inside", outside: "shade outside" }[blinds]),
    absorptance: () => is(COLOURS[colour], `${colour} skin`),
    airChanges: () => {
      const leaks = LEAKS[kind === "boat" || kind === "room" ? kind : "vehicle"];
      return is(
        leaks.still + leaks.byWind * wind,
        kind === "room" ? "a shut room" : "shut, with its fixed vents, in the wind of the place",
      );
    },
    openAirChanges: () => is(12, "5 to 20 an hour with a door or hatch open"),
    lightMass: (need) => is(light * floor(need), `${lightRange} kJ/K for each m² of floor`),
    slowMass: (need) => is(slow * floor(need), `${slowRange} kJ/K for each m² of floor`),
    coupling: (need) => is(film * floor(need), filmWhy),
    heatInside: () => is(0.7 * loadsAverage, "seven tenths of the other loads' average"),
  };
}

/** W to a square metre of panel: mono cells. */
const PANEL_DENSITY = 205;

export function panelDefaults(panel: Panel, latitude: number, at: { x: number; y: number }): Typicals<PanelKey> {
  const flat = panel.mount === "flat";
  return {
    power: () => is(175, "a usual panel"),
    count: () => is(1, "one"),
    length: (need) =>
      is(Math.sqrt((need("power") / PANEL_DENSITY) * 2), "by its rating: 205 W/m², twice as long as wide"),
    width: (need) => is(need("power") / PANEL_DENSITY / need("length"), "by its rating and length"),
    x: () => is(at.x, "placed one behind the other"),
    y: () => is(at.y, "placed one behind the other"),
    tilt: () =>
      flat ? is(0, "flat on the roof") : panel.mount === "tilted" ? is(20, "a usual bracket") : is(35, "on its legs"),
    azimuth: () => is(latitude >= 0 ? 180 : 0, flat ? "flat: no matter" : "towards the equator"),
    openVoltage: (need) => {
      const power = need("power");
      return power <= 220 ? is(23, "36 cells") : power <= 340 ? is(40, "60 cells") : is(49, "72 cells");
    },
    shortCurrent: (need) =>
      is(
        (1.06 * need("power")) / (0.82 * need("openVoltage")),
        "by its rating: 1.06 times the current at full power, at 82 % of Voc",
      ),
    perKelvin: () => is(0.0035, "0.30 to 0.40 % is usual"),
    nominalCellC: () => is(45, "usual"),
    shaded: () => is(0, "stands clear"),
    series: () => is(1, "all in parallel"),
  };
}

/** Least fuse of a string over its short-circuit current (IEC 62548, 6.5.3); NEC 690.9 asks for 1.56. */
export const LEAST_STRING_FUSE = 1.5;
/** Fuses of strings as they are sold, A. */
const STRING_FUSES = [2, 4, 6, 8, 10, 12, 15, 16, 20, 25, 30, 40, 50, 60, 80, 100, 125, 160, 200] as const;

/** The smallest fuse on sale of a string, by the rule set's factor. */
export function nextStringFuse(factor: number, shortA: number): number {
  const least = Math.max(LEAST_STRING_FUSE, factor) * shortA;
  return STRING_FUSES.find((amps) => amps >= least - 1e-9) ?? STRING_FUSES.at(-1)!;
}

export function controllerDefaults(
  current: number,
  stringShortA: number,
): Typicals<Exclude<ControllerKey, "maxArrayCurrent">> {
  return {
    current: () => is(current, "its circuit's largest current, or its panels' at the battery's volts"),
    maxVoltage: () => is(100, "a usual controller"),
    stringFuse: () =>
      is(nextStringFuse(1.56, stringShortA), "1.56 times the short-circuit current of a string, next size up"),
  };
}

export const OBSTACLE_DEFAULTS: Typicals<ObstacleKey> = {
  x: () => is(0.5, "not entered"),
  y: () => is(0.3, "not entered"),
  length: () => is(0.4, "a roof vent"),
  width: () => is(0.4, "a roof vent"),
};

/** A vehicle travels: its panels see at least this cold, degC. */
const ROAD_COLD_C = -10;
/** Coldest morning under the mean minimum of the place's coldest month, K (common practice, no source). */
const COLDER_THAN_MEAN_K = 10;

/** Lowest temperature that a system's panels are taken to see: the place's coldest month, and on the road no milder than frost. */
function lowestOf(job: Placed & Pick<Job, "cabin">): DefaultValue {
  const { place } = placeOfJob(job);
  const coldest = Math.min(...Array.from({ length: 12 }, (_, m) => ofMonth(place.minC, m + 1))) - COLDER_THAN_MEAN_K;
  return job.cabin.kind === "boat" || coldest < ROAD_COLD_C
    ? is(coldest, `10 K under the coldest month's mean minimum at ${place.name}`)
    : is(ROAD_COLD_C, "a vehicle may be taken where it freezes");
}

export function sourceDefaults(
  job: Placed & Pick<Job, "cabin" | "bank">,
  cabin: { length: number; width: number },
  charging: { engine: number; charger: number; shore: number },
): Typicals<SourceKey> {
  const american = MAINS_SYSTEMS[job.brief.mains].american;
  const lithium = CHEMISTRIES[job.bank.chemistry].lithium;
  return {
    roofLength: () => is(cabin.length, "as the cabin"),
    roofWidth: () => is(cabin.width, "as the cabin"),
    systemFactor: () => is(0.86, "dirt, mismatch, wiring and tracking together"),
    alternatorCurrent: () => is(120, "a usual alternator"),
    hotFactor: () => is(0.7, "hot under the bonnet"),
    idleFactor: () => is(0.5, "at idle"),
    vehicleCurrent: () => is(30, "fans, pumps, lights of the vehicle"),
    engineCurrent: () =>
      charging.engine > 0
        ? is(charging.engine, "the engine's charging circuits")
        : is(0, "no circuit from the engine on the Wiring stage"),
    chargerCurrent: () =>
      charging.charger > 0
        ? is(charging.charger, "the charger's circuit")
        : is(0, "no charger's circuit on the Wiring stage"),
    inletCurrent: () =>
      charging.shore > 0
        ? is(charging.shore, "the inlet's circuit")
        : american
          ? is(30, "a usual inlet")
          : is(16, "a usual inlet"),
    lowestC: () => lowestOf(job),
    acceptance: () => (lithium ? is(0.5, "half its capacity in amps") : is(0.2, "a fifth of its capacity in amps")),
  };
}

/** Cycles a battery lives and its price by the kilowatt-hour: middling figures of the trade, from memory. */
const AGEING = { lfp: [3500, 330], nmc: [1200, 280], agm: [450, 190] } as const;

export function planDefaults(
  job: Pick<Job, "bank" | "notation">,
  bankWh: number,
): Typicals<Exclude<PlanKey, "startCabinC">> {
  const { chemistry } = job.bank;
  const [cycles, price] = AGEING[chemistry];
  const name = CHEMISTRIES[chemistry].name;
  return {
    storageDays: () => is(3, "three days of normal use without sun, a cautious common choice"),
    cycleLife: () => is(cycles, `usual for ${name}`),
    bankCost: () =>
      is(
        Math.round((bankWh / 1000) * price),
        `${formatQuantity(price, "money", job.notation)} a kWh, usual for ${name}`,
      ),
  };
}

export function spanDefaults(
  span: PlanSpan,
  setPointC: number,
  openAirChanges: number,
): Partial<Record<SpanKey, () => DefaultValue>> {
  switch (span.kind) {
    case "unit":
      return { setPointC: () => is(setPointC, "the brief's set point") };
    case "people":
      return { people: () => is(2, "two on board") };
    case "open":
      return { airChanges: () => is(openAirChanges, "the cabin's with a door open") };
    case "shade":
      return { shade: () => is(0.8, "an awning, or thick trees") };
    case "load":
      return { power: () => is(100, "no power given") };
    default:
      return {};
  }
}
