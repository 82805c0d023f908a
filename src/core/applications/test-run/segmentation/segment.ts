import { fanSaved } from "../../../simulation/kernel/control";
import { heatFactor } from "../../../models/air-conditioner/air-conditioner";
import { has, type Readings } from "../log/readings";
import { dcAdded } from "../../../models/inverter/inverter";
import { condenserC } from "../../../simulation/kernel/unit";
import { blurredOf, type Blurred } from "./blurred";
import { levelOf, percentile, type Level } from "./levels";
import { chargedIn, meanwhile } from "./charged";
import { AT_LEVEL, severalOf, type Several } from "./several";
import { OFF, ON, RESTING, type Cycle, type Segments } from "./segments";
import { SETTLES_S, windowsOf } from "./windows";
import { UNTOLD_W, type Site } from "../site/site";

/** What a level that was told from means may be off by, of its size. */
const MEANS_OFF = 0.1;
const levelOfMeans = (value: number, count: number): Level => ({ value, spread: MEANS_OFF * Math.abs(value), count });

/** Half the width of the look-around in which on and off levels are told apart, s. */
const AROUND_S = 45 * 60;
/** Usual seconds between readings: their median. */
export function samplingInterval(seconds: Float64Array): number {
  if (seconds.length < 2) return 60;
  const gaps = Array.from(seconds.subarray(1), (s, i) => s - seconds[i]!).sort((a, b) => a - b);
  return Math.max(1, percentile(gaps, 0.5));
}

/** W at the battery that the running unit is expected to add, over the fan, on that day. */
export function expectedStep(site: Site, outdoorC: number): number {
  const { unit } = site;
  const at = condenserC(unit, outdoorC, site.parameters.seaC);
  const running = unit.power * heatFactor(unit.powerPerKelvin, at, unit.knownAtC) + unit.pump;
  return Math.max(
    20,
    unit.fixed ? running - fanSaved(unit.lowFanSaving, site.usualMode) - site.rest : running - unit.fan,
  );
}

/**
 * Finds what the unit does in a repaired log: states by the two levels that its draw goes between, cycles from edge to
 * edge, and the windows that a forecast compares. Readings in order, at least two.
 */
export function segment(readings: Readings, site: Site): Segments {
  const draw = drawOf(readings, site);
  const { seconds, watts, pace, several, blurred, mainsApart, charged } = draw;
  const { state, firstOn } = statesOf(draw);
  const firstOnS = firstOn < 0 ? null : seconds[firstOn]!;
  const lastOn = state.lastIndexOf(ON);
  const lastOnS = lastOn < 0 ? null : seconds[lastOn]!;
  // Before its first run a unit is off, but where it rests with its fan on; one that never ran in the log is taken to wait.
  const restedFirst = firstOn > 0 && restsAtFirst(draw, state, firstOn);
  if (!restedFirst) for (let i = 0; i < firstOn; i++) if (state[i] === RESTING) state[i] = OFF;
  const cycles = firstOn < 0 ? [] : cyclesOf(draw, state, firstOn);
  const segments: Segments = {
    seconds,
    watts,
    volts: draw.volts,
    state,
    sunApart: draw.sunApart,
    mainsApart,
    ofMeans: blurred !== null,
    several: several !== null,
    pace,
    firstOnS,
    restedFirst,
    lastOnS,
    pullDown: null,
    cycles,
    windows: [],
    levels: levelsOf(draw, state),
    charged,
    chargedAt: draw.chargedAt,
    switchedOff: lastOnS !== null && switchedOff(draw, cycles, lastOnS),
  };
  if (firstOn >= 0) {
    const rested = site.unit.fixed ? (cycles[0]?.offS ?? null) : slowedAt(segments);
    segments.pullDown = { fromS: firstOnS!, toS: several ? oneRests(several, seconds, firstOn) : rested };
  }
  segments.windows = windowsOf(segments, { readings, site, gapLimit: Math.max(3 * pace, 600), blurred, several });
  // What the unit did meanwhile is told by its mains watts alone.
  if (!mainsApart && charged.length > 0)
    segments.cycles = cycles.filter(
      ({ onS, offS, nextS }) => !meanwhile(charged, onS, Number.isNaN(nextS) ? offS : nextS),
    );
  return segments;
}

/** A log's power at the battery, with what tells the unit's states apart in it. */
interface Draw {
  readings: Readings;
  site: Site;
  seconds: Float64Array;
  /** Usual seconds between readings. */
  pace: number;
  volts: Float64Array;
  /** W out of the battery, what sun and charging gave added back where they were read. */
  watts: Float64Array;
  sunApart: boolean;
  /** W at the socket, and whether they tell the states. */
  mains: Float64Array;
  mainsApart: boolean;
  /** W at the battery that the running unit adds over its fan. */
  step: number;
  charged: Segments["charged"];
  /** By reading: 1 while something charged the battery. */
  chargedAt: Uint8Array;
  /** By reading: 1 where panels that were not read may give. */
  litAt: Uint8Array;
  several: Several | null;
  blurred: Blurred | null;
}

function drawOf(readings: Readings, site: Site): Draw {
  const { timeMs, values } = readings;
  const seconds = Float64Array.from(timeMs, (ms) => (ms - timeMs[0]!) / 1000);
  const pace = samplingInterval(seconds);
  const sunApart = !site.panels || has(readings, "solar_power_w");
  const { volts, net } = powerAtBattery(readings, site);
  const mains = values.ac_power_w;
  const readApart = site.parameters.units.every(({ direct }) => !direct) && mainsRead(mains);
  const step = expectedStep(site, site.outdoorC[0]!);
  const litAt = sunApart ? new Uint8Array(seconds.length) : litBy(site, seconds);
  const look = { site, step, pace, mains: readApart ? mains : null, litAt };
  const { spans: charged, mask: chargedAt, watts } = chargedIn({ ...look, watts: net }, seconds, sunApart);
  const several = severalOf({ ...look, watts });
  const uncharged = look.mains?.map((value, i) => (chargedAt[i] === 1 ? NaN : value)) ?? null;
  const blurred = site.unit.fixed && !several ? blurredOf({ ...look, watts, mains: uncharged }) : null;
  return {
    readings,
    site,
    seconds,
    pace,
    volts,
    watts,
    sunApart,
    mains,
    mainsApart: readApart && !blurred,
    step,
    charged,
    chargedAt,
    litAt,
    several,
    blurred,
  };
}

/** Share of what the panels are rated for from which their usual day counts as giving. */
const LIT = 0.01;

/** By reading: 1 where the usual day has sun on the panels. */
function litBy({ solar, steps, stepS, plateW }: Site, seconds: Float64Array): Uint8Array {
  return Uint8Array.from(seconds, (s) => (solar[Math.min(steps - 1, Math.floor(s / stepS))]! > LIT * plateW ? 1 : 0));
}

/** V of the battery, and W out of it with the sun's added back; what was not read is taken from the reading before. */
function powerAtBattery({ timeMs, values }: Readings, site: Site): { volts: Float64Array; net: Float64Array } {
  const { bank } = site.system;
  const nominal = bank.nominalVoltage * (bank.chemistry === "lfp" ? 1.03 : bank.chemistry === "agm" ? 1.03 : 1);
  const volts = new Float64Array(timeMs.length);
  const net = new Float64Array(timeMs.length);
  let lastVolts = NaN;
  let lastSun = NaN;
  for (let i = 0; i < timeMs.length; i++) {
    const read = values.battery_voltage_v[i]!;
    if (!Number.isNaN(read)) lastVolts = read;
    if (!Number.isNaN(values.solar_power_w[i]!)) lastSun = values.solar_power_w[i]!;
    volts[i] = Number.isNaN(lastVolts) ? nominal : lastVolts;
    net[i] = -values.battery_current_a[i]! * volts[i]! + (Number.isNaN(lastSun) ? 0 : lastSun);
  }
  return { volts, net };
}

function statesOf({ site, seconds, watts, mains, mainsApart, step, several }: Draw): States {
  if (several) return statesOfSeveral(several);
  if (site.unit.fixed)
    return statesOfFixed(seconds, { watts, mains: mainsApart ? mains : NO_LINE, step, base: site.base });
  return mainsApart
    ? statesOfVariable(mains, step, 0, site.unit.fan)
    : statesOfVariable(watts, step, site.base, site.unit.fan);
}

const NO_LINE = new Float64Array(0);

/** The unit's runs, each from edge to edge. */
function cyclesOf({ seconds, watts }: Draw, state: Uint8Array, firstOn: number): Cycle[] {
  const edge = (i: number) => (seconds[i]! + seconds[i - 1]!) / 2;
  const cycles: Cycle[] = [];
  let onS = seconds[firstOn]!;
  let from = firstOn;
  for (let i = firstOn + 1; i < seconds.length; i++) {
    if (state[i] === ON && state[i - 1] !== ON) {
      const last = cycles[cycles.length - 1];
      onS = edge(i);
      from = i;
      if (last && Number.isNaN(last.nextS)) {
        last.nextS = onS;
        last.share = (last.offS - last.onS) / Math.max(1, onS - last.onS);
      }
    } else if (state[i] !== ON && state[i - 1] === ON) {
      const level = levelOf(Array.from(watts.subarray(from, i)));
      cycles.push({ onS, offS: edge(i), nextS: NaN, share: NaN, watts: level?.value ?? NaN });
    }
  }
  return cycles;
}

/** Whether the watts of a reading are what the system takes: nothing charged, and no panel gave that was not read. */
const own = ({ chargedAt, litAt }: Draw, i: number): boolean => chargedAt[i] === 0 && litAt[i] === 0;

/** W of the readings in a state; `settled` leaves out those soon after a change. */
function wattsIn(draw: Draw, state: Uint8Array, wanted: number, settled: boolean): number[] {
  const { seconds, watts } = draw;
  const out: number[] = [];
  let changed = -Infinity;
  for (let i = 0; i < seconds.length; i++) {
    if (i > 0 && (state[i] === ON) !== (state[i - 1] === ON)) changed = seconds[i]!;
    if (state[i] === wanted && own(draw, i) && (!settled || seconds[i]! - changed >= SETTLES_S)) out.push(watts[i]!);
  }
  return out;
}

/** Readings on either side of a stop whose mean is compared. */
const BESIDE_STOP = 3;

/**
 * W that the running compressor adds over its rest, by what the draw falls at each stop: what panels give that were not
 * read is the same on either side of it. Null for a log without a stop.
 */
function stepAtStops(draw: Draw, state: Uint8Array): Level | null {
  const { watts, chargedAt } = draw;
  const falls: number[] = [];
  const meanOf = (from: number, to: number) => watts.subarray(from, to).reduce((sum, w) => sum + w, 0) / (to - from);
  for (let i = 1; i < state.length; i++) {
    if (state[i - 1] !== ON || state[i] === ON || chargedAt[i] !== 0) continue;
    let from = i;
    while (from > 0 && i - from < BESIDE_STOP && state[from - 1] === ON) from--;
    let to = i;
    while (to < state.length && to - i < BESIDE_STOP && state[to] !== ON) to++;
    // The reading at the stop may see both: it counts where it is the only one.
    const after = to - i > 1 ? i + 1 : i;
    falls.push(meanOf(from, i) - meanOf(after, to));
  }
  return levelOf(falls);
}

/** The levels that the draw goes between. */
function levelsOf(draw: Draw, state: Uint8Array): Segments["levels"] {
  const { watts, several, blurred } = draw;
  /** Readings at one of the levels of several units. */
  const near = ({ line, part }: Several, level: number) =>
    Array.from(watts).filter((_, i) => own(draw, i) && Math.abs(line[i]! - level) < AT_LEVEL * part);
  const base = levelOf(wattsIn(draw, state, OFF, false));
  const apart = { ...apartLevels(draw, state), step: several || blurred ? null : stepAtStops(draw, state) };
  if (several)
    return {
      base,
      between: levelOf(near(several, several.off)),
      running: levelOf(near(several, several.on)),
      ...apart,
    };
  if (blurred)
    return {
      base,
      between: levelOfMeans(blurred.off, blurred.offCount),
      running: levelOfMeans(blurred.on, blurred.onCount),
      ...apart,
    };
  const settledOn = wattsIn(draw, state, ON, true);
  return {
    base,
    between: levelOf(wattsIn(draw, state, RESTING, false)),
    running: levelOf(settledOn.length > 0 ? settledOn : wattsIn(draw, state, ON, false)),
    ...apart,
  };
}

/** What is not the unit's, and the unit's own fan: told apart by the watts at its socket. */
function apartLevels(draw: Draw, state: Uint8Array): Pick<Segments["levels"], "house" | "fan"> {
  const { site, mains, mainsApart, watts, chargedAt } = draw;
  const house: number[] = [];
  const houseRunning: number[] = [];
  const fan: number[] = [];
  const added = (value: number) => dcAdded(site.system.inverter, Math.max(0, value));
  if (mainsApart)
    for (let i = 0; i < watts.length; i++) {
      if (Number.isNaN(mains[i]!) || chargedAt[i] !== 0) continue;
      // A reading at an edge sees the unit on one side of it only.
      if (own(draw, i) && (i === 0 || state[i] === state[i - 1]))
        (state[i] === ON ? houseRunning : house).push(watts[i]! - added(mains[i]!));
      if (state[i] !== ON) fan.push(added(mains[i]!));
    }
  // While it runs the path's own loss is in it: readings at rest say more.
  return { house: levelOf(house.length >= 5 ? house : [...house, ...houseRunning]), fan: levelOf(fan) };
}

/** Whether the rest at the end of the log is longer than the thermostat's, and made by hand. */
function switchedOff(draw: Draw, cycles: Cycle[], lastOnS: number): boolean {
  const { seconds } = draw;
  const resting = seconds[seconds.length - 1]! - lastOnS;
  const longestRest = cycles.reduce(
    (most, { offS, nextS }) => (Number.isNaN(nextS) ? most : Math.max(most, nextS - offS)),
    0,
  );
  return resting > Math.max(RESTED_S, 2.2 * longestRest) && offByHand(draw, lastOnS, resting);
}

const mainsRead = (line: Float64Array): boolean =>
  line.length > 0 && line.reduce((n, value) => n + (Number.isNaN(value) ? 0 : 1), 0) > 0.6 * line.length;

/** A line with its gaps filled by what was read last. */
function filled(line: Float64Array): Float64Array {
  let last = 0;
  return Float64Array.from(line, (value) => {
    if (!Number.isNaN(value)) last = value;
    return last;
  });
}

/** Readings of a later rest that a first one is held against. */
const LEAST_RESTS = 3;
/**
 * A unit that is set to cool turns its fan at once and starts its compressor within so many seconds: a log that begins at
 * the switch sees the fan first (common practice, no source).
 */
const STARTS_WITHIN_S = 240;
/** Of its fan's watts, from which a unit's own draw is taken for the fan. */
const FAN_SEEN = 0.3;

/**
 * Whether a unit rested before the first run of a log with its fan on: it drew what it draws in later rests. Where the log
 * has none, its own mains watts tell; else, where the log began as it was switched on, whether more was drawn than a house
 * alone; else whether its cabin was as cold as its thermostat asks. `firstOn` is the first run's reading.
 */
function restsAtFirst(
  { site, readings: { values }, mains, mainsApart, watts, seconds }: Draw,
  state: Uint8Array,
  firstOn: number,
): boolean {
  const line = mainsApart ? mains : watts;
  const { fan, fanBetween, band } = site.unit;
  if (!fanBetween || fan <= 0) return false;
  const early: number[] = [];
  const later: number[] = [];
  for (let i = 0; i < line.length; i++)
    if (state[i] === 1 && !Number.isNaN(line[i]!)) (i < firstOn ? early : later).push(line[i]!);
  const level = (list: number[]) =>
    percentile(
      list.sort((a, b) => a - b),
      0.5,
    );
  if (early.length === 0) return false;
  if (later.length >= LEAST_RESTS) return level(early) > level(later) - 0.5 * fan;
  if (mainsApart) return level(early) > FAN_SEEN * fan;
  if (seconds[firstOn]! <= STARTS_WITHIN_S) return level(early) > site.base + UNTOLD_W + 0.5 * fan;
  const cabinC = values.cabin_temp_c.find((value) => !Number.isNaN(value));
  return cabinC !== undefined && cabinC < site.setPointC + band;
}

/** A rest this long may be one by hand, or by a cool night. */
const RESTED_S = 2700;
const UNTOLD_S = 3 * 3600;

/**
 * Whether a long rest was made by hand: the cabin has warmed past what the thermostat allows, or the fan has stopped too.
 * Where neither can be seen, only a very long rest says so.
 */
function offByHand({ site, readings: { values }, seconds, watts }: Draw, lastOnS: number, resting: number): boolean {
  const end = seconds[seconds.length - 1]!;
  const mean = (line: Float64Array, fromS: number, toS: number): number => {
    let sum = 0;
    let n = 0;
    for (let i = 0; i < line.length; i++)
      if (seconds[i]! >= fromS && seconds[i]! <= toS && !Number.isNaN(line[i]!)) {
        sum += line[i]!;
        n++;
      }
    return n > 0 ? sum / n : NaN;
  };
  const cabin = mean(values.cabin_temp_c, end - 900, end);
  const before = mean(values.cabin_temp_c, lastOnS - 1800, lastOnS);
  if (!Number.isNaN(cabin) && !Number.isNaN(before)) return cabin > before + Math.max(2, site.unit.band + 1);
  const { fan, fanBetween } = site.unit;
  if (fanBetween && fan > 25) {
    const early = mean(watts, lastOnS + 120, lastOnS + 900);
    const late = mean(watts, end - 900, end);
    return early - late > 0.6 * fan;
  }
  return resting > UNTOLD_S;
}

/** The state at each reading, and the first that is on: -1 where none is. */
interface States {
  state: Uint8Array;
  firstOn: number;
}

/** On and off of a fixed-speed unit by the levels about each reading; by its mains watts where they were read. */
function statesOfFixed(
  seconds: Float64Array,
  { watts, mains, step, base }: { watts: Float64Array; mains: Float64Array; step: number; base: number },
): States {
  const count = seconds.length;
  const state = new Uint8Array(count).fill(1);
  const byMains = mainsRead(mains);
  const line = byMains ? filled(mains) : watts;
  const whole = [...line].sort((a, b) => a - b);
  const low = percentile(whole, 0.04);
  const high = percentile(whole, 0.96);
  const twoLevels = high - low > 0.45 * step;
  // Where the whole log stays at one level, which one it is, is read off the system's own base and draw.
  const lowest = twoLevels ? low : low > (byMains ? 0 : base) + 0.5 * step ? low - step : low;
  let from = 0;
  let to = 0;
  let firstOn = -1;
  for (let i = 0; i < count; i++) {
    while (seconds[i]! - seconds[from]! > AROUND_S) from++;
    while (to < count && seconds[to]! - seconds[i]! <= AROUND_S) to++;
    // A window's percentiles, from a thinned copy: enough to tell two levels apart.
    const stride = Math.max(1, Math.floor((to - from) / 60));
    const around: number[] = [];
    for (let k = from; k < to; k += stride) around.push(line[k]!);
    around.sort((a, b) => a - b);
    const nearLow = percentile(around, 0.06);
    const nearHigh = percentile(around, 0.94);
    const middle = nearHigh - nearLow > 0.45 * step ? (nearLow + nearHigh) / 2 : Math.min(nearLow, lowest) + 0.5 * step;
    if (line[i]! > Math.min(middle, lowest + 0.9 * step)) state[i] = 2;
    if (state[i] === 2 && firstOn < 0) firstOn = i;
  }
  return { state, firstOn };
}

/** On where any of several units runs. */
function statesOfSeveral({ line, off, part }: Several): States {
  const state = Uint8Array.from(line, (w) => (w > off + 0.5 * part ? 2 : 1));
  return { state, firstOn: state.indexOf(2) };
}

/** When the first of several units came to rest after all ran, s: the end of their pull-down. */
function oneRests({ line, on, part }: Several, seconds: Float64Array, firstOn: number): number | null {
  let all = false;
  for (let i = firstOn; i < line.length; i++) {
    const resting = line[i]! < on - 0.5 * part;
    if (all && resting) return seconds[i]!;
    all ||= !resting;
  }
  return null;
}

/** On and off of a variable-speed unit: over base and fan by a tenth of its full draw. */
function statesOfVariable(line: Float64Array, step: number, base: number, fan: number): States {
  const count = line.length;
  const state = new Uint8Array(count).fill(1);
  const watts = filled(line);
  const low = percentile(
    [...watts].sort((a, b) => a - b),
    0.03,
  );
  // The system's base is only an estimate: a log that goes lower has its own.
  const floor = Math.min(Math.max(low, 0), base + fan);
  const threshold = floor + Math.max(0.09 * step, low > base + fan + 0.12 * step ? 0 : 0.09 * step);
  let firstOn = -1;
  for (let i = 0; i < count; i++)
    if (watts[i]! > threshold) {
      state[i] = 2;
      if (firstOn < 0) firstOn = i;
    }
  return { state, firstOn };
}

/** When a variable unit first fell clearly below its highest draw: the end of its pull-down. */
function slowedAt({ seconds, watts, firstOnS }: Segments): number | null {
  let high = -Infinity;
  let lower = 0;
  const smooth = smoothed(seconds, watts, 180);
  for (let i = 0; i < seconds.length; i++) {
    if (seconds[i]! < firstOnS! + 120) continue;
    high = Math.max(high, smooth[i]!);
    lower = smooth[i]! < 0.88 * high ? lower + 1 : 0;
    if (lower >= 3) return seconds[i - 2]!;
  }
  return null;
}

/** Means over the last `span` seconds. */
export function smoothed(seconds: Float64Array, line: Float64Array, span: number): Float64Array {
  const out = new Float64Array(line.length);
  let from = 0;
  let sum = 0;
  for (let i = 0; i < line.length; i++) {
    sum += line[i]!;
    while (seconds[i]! - seconds[from]! > span) sum -= line[from++]!;
    out[i] = sum / (i - from + 1);
  }
  return out;
}
