import type { FieldSpec } from "../units/known";

/*
 * The quantities of place and weather, cabin, sources and the plan of the day: like fields.ts, one table a group.
 * Ranges without a source are common practice.
 */

type Rest = Pick<FieldSpec, "measure" | "note">;
type Span = [number, number];
// oxlint-disable-next-line max-params -- one line of a table: its columns in order
const spec = (
  label: string,
  dimension: FieldSpec["dimension"],
  [low, high]: Span,
  [min, max]: Span,
  rest: Rest = {},
): FieldSpec => ({
  label,
  dimension,
  low,
  high,
  min,
  max,
  ...rest,
});

export const PLACE_FIELDS = {
  latitude: spec("Latitude", "angle", [-66, 66], [-90, 90], { note: "North is positive." }),
  longitude: spec("Longitude", "angle", [-180, 180], [-180, 180], { note: "East is positive." }),
  maxC: spec("Mean daily maximum", "temperature", [15, 45], [-60, 60], { note: "Of the month." }),
  minC: spec("Mean daily minimum", "temperature", [0, 32], [-70, 50], { note: "Of the month." }),
  dewPointC: spec("Dew point", "temperature", [-5, 26], [-60, 35]),
  clearness: spec("Clearness", "ratio", [0.35, 0.72], [0.02, 0.85], {
    note: "Sun on the ground over sun above the air, mean of the month.",
  }),
  spread: spec("Day-to-day temperature spread", "kelvin", [1, 5], [0, 15], {
    note: "Spread of the days' mean temperature about the month's.",
  }),
  wind: spec("Wind", "speed", [1, 8], [0, 40]),
  seaC: spec("Sea", "temperature", [8, 31], [-2, 38], { measure: "Thermometer in the sea-water strainer." }),
} satisfies Record<string, FieldSpec>;

/** The design day. Entered ones belong to a day of the customer's own; of a ready day all of them are assumed. */
export const WEATHER_FIELDS = {
  highestC: spec("Highest outdoor temperature", "temperature", [20, 42], [-60, 60], {
    note: "In the afternoon of the design day, in the shade, at the height of the condenser's air inlet.",
  }),
  lowestC: spec("Lowest outdoor temperature", "temperature", [0, 32], [-70, 50], {
    note: "At sunrise of the design day.",
  }),
  humidity: spec("Humidity at the highest temperature", "ratio", [0.15, 0.75], [0.02, 1], {
    note: "Relative humidity in the hottest hour.",
  }),
  sunHours: spec("Peak sun hours", "duration", [2 * 3600, 8 * 3600], [0, 14 * 3600], {
    note: "Sun on the level over the day: 1 h is 1 kWh/m².",
  }),
} satisfies Record<string, FieldSpec>;

export const CABIN_FIELDS = {
  vehicleLength: spec("Length of the vehicle", "length", [4, 12], [1, 60], {
    note: "Overall, as its papers say; the inside follows from it.",
  }),
  length: spec("Length inside", "length", [2, 10], [0.5, 40]),
  width: spec("Width inside", "length", [1.6, 2.5], [0.5, 10]),
  height: spec("Height inside", "length", [1.3, 2.3], [0.5, 5]),
  roofU: spec("Roof", "transmittance", [0.7, 6], [0.05, 12]),
  wallU: spec("Walls", "transmittance", [0.7, 6], [0.05, 12]),
  floorU: spec("Floor", "transmittance", [0.6, 4], [0.05, 12]),
  glassArea: spec("Glass", "surface", [0.5, 6], [0, 60]),
  glassU: spec("Glass U-value", "transmittance", [2.5, 6], [0.3, 12]),
  solarGain: spec("Solar heat gain coefficient of the glass", "ratio", [0.2, 0.8], [0, 1]),
  absorptance: spec("Solar absorptance of the outside", "ratio", [0.2, 0.95], [0, 1]),
  heatLoss: spec("Heat loss, whole cabin", "conductance", [15, 150], [0.5, 5000], {
    note: "In place of the sum of roof, walls, floor and glass; without air changes.",
    measure: "Fitted from a logged run.",
  }),
  airChanges: spec("Air changes an hour, shut", "number", [0.3, 3], [0, 60]),
  openAirChanges: spec("Air changes an hour, open", "number", [5, 20], [0, 200]),
  lightMass: spec("Heat capacity of air and lining", "heatCapacity", [50_000, 500_000], [1000, 50_000_000]),
  slowMass: spec("Heat capacity of furniture and structure", "heatCapacity", [200_000, 3_000_000], [1000, 500_000_000]),
  coupling: spec("Coupling between the two", "conductance", [50, 400], [1, 100_000]),
  heatInside: spec("Heat from equipment inside", "power", [0, 300], [0, 20_000], {
    note: "On average, from the loads on board.",
  }),
} satisfies Record<string, FieldSpec>;

export const PANEL_FIELDS = {
  power: spec("Rating, each", "power", [50, 450], [1, 2000], { note: "At 1000 W/m² and 25 °C: on the label." }),
  count: spec("Number", "count", [1, 6], [1, 60]),
  length: spec("Length", "length", [0.6, 2.2], [0.1, 5]),
  width: spec("Width", "length", [0.5, 1.2], [0.1, 5]),
  x: spec("From the front", "length", [0, 10], [0, 60]),
  y: spec("From the left", "length", [0, 2.5], [0, 20]),
  tilt: spec("Tilt", "angle", [0, 60], [0, 90]),
  azimuth: spec("Faces", "angle", [0, 360], [0, 360], { note: "From north through east; 180° is south." }),
  openVoltage: spec("Voc, each", "voltage", [20, 50], [1, 200]),
  shortCurrent: spec("Isc, each", "current", [5, 15], [0.1, 100], { note: "Isc on the label." }),
  perKelvin: spec("Power loss with temperature, per K", "ratio", [0.0025, 0.0045], [0, 0.01]),
  nominalCellC: spec("Nominal cell temperature", "temperature", [42, 48], [20, 80], {
    note: "NOCT on the data sheet.",
  }),
  shaded: spec("Loss to roof shade", "ratio", [0, 0.3], [0, 1], {
    note: "By vents, boxes and units beside it; the mean over the day.",
  }),
  series: spec("In series", "count", [1, 4], [1, 30]),
} satisfies Record<string, FieldSpec>;

export const CONTROLLER_FIELDS = {
  current: spec("Rated output current", "current", [10, 100], [0.5, 2000]),
  maxVoltage: spec("Max PV voltage", "voltage", [50, 250], [5, 1500]),
  maxArrayCurrent: spec("Max array current", "current", [10, 100], [0.5, 2000], {
    note: "On the controller's data sheet.",
  }),
  stringFuse: spec("Fuse of each string", "current", [10, 20], [1, 200]),
} satisfies Record<string, FieldSpec>;

export const SOURCE_FIELDS = {
  roofLength: spec("Roof length", "length", [2.5, 11], [0.5, 60]),
  roofWidth: spec("Roof width", "length", [1.4, 2.5], [0.3, 20]),
  systemFactor: spec("System efficiency", "ratio", [0.75, 0.95], [0.2, 1]),
  alternatorCurrent: spec("Alternator rating", "current", [60, 250], [1, 2000]),
  hotFactor: spec("Alternator output when hot", "ratio", [0.6, 0.85], [0.1, 1]),
  idleFactor: spec("Alternator output at idle", "ratio", [0.3, 0.6], [0, 1]),
  vehicleCurrent: spec("Vehicle loads", "current", [15, 60], [0, 500]),
  engineCurrent: spec("Max charging current, driving", "current", [20, 120], [0, 2000]),
  chargerCurrent: spec("Shore charger", "current", [10, 120], [0, 2000]),
  inletCurrent: spec("Shore inlet", "current", [6, 50], [0.5, 400]),
  lowestC: spec("Lowest temperature of the panels", "temperature", [-25, 5], [-60, 30], {
    note: "At sunrise on the coldest morning that the panels will see: their volts are highest then.",
  }),
  acceptance: spec("Charge acceptance, C-rate", "ratio", [0.1, 0.5], [0.01, 3], {
    note: "Charging current divided by capacity, before it nears full.",
  }),
} satisfies Record<string, FieldSpec>;

export const OBSTACLE_FIELDS = {
  x: PANEL_FIELDS.x,
  y: PANEL_FIELDS.y,
  length: spec("Length", "length", [0.2, 1.2], [0.02, 20]),
  width: spec("Width", "length", [0.2, 1.2], [0.02, 20]),
} satisfies Record<string, FieldSpec>;

export const PLAN_FIELDS = {
  storageDays: spec("Days of storage", "number", [1, 4], [0.25, 14], { note: "Without any sun, at normal use." }),
  startCabinC: spec("Cabin temperature at switch-on", "temperature", [20, 50], [-20, 80], {
    measure: "Thermometer in the middle of the cabin, out of the sun.",
    note: "Air and furniture; as the hours before leave them where it is not entered.",
  }),
  cycleLife: spec("Cycle life", "number", [400, 6000], [10, 100_000], { note: "Full equivalent cycles." }),
  bankCost: spec("Battery price", "money", [300, 8000], [0, 1_000_000]),
} satisfies Record<string, FieldSpec>;

/** What a span of the plan may set. */
export const SPAN_FIELDS = {
  setPointC: spec("Set point", "temperature", [20, 28], [5, 40]),
  people: spec("People on board", "count", [1, 4], [0, 100]),
  airChanges: spec("Air changes an hour", "number", [3, 20], [0, 200]),
  shade: spec("Shading", "ratio", [0.3, 1], [0, 1]),
  power: spec("Power", "power", [20, 2000], [0, 50_000]),
} satisfies Record<string, FieldSpec>;

export type PlaceKey = keyof typeof PLACE_FIELDS;
export type WeatherKey = keyof typeof WEATHER_FIELDS;
export type CabinKey = keyof typeof CABIN_FIELDS;
export type PanelKey = keyof typeof PANEL_FIELDS;
export type ControllerKey = keyof typeof CONTROLLER_FIELDS;
export type SourceKey = keyof typeof SOURCE_FIELDS;
export type ObstacleKey = keyof typeof OBSTACLE_FIELDS;
export type PlanKey = keyof typeof PLAN_FIELDS;
export type SpanKey = keyof typeof SPAN_FIELDS;
