import { LATENT_HEAT, moistAir, saturationRatio, wetBulbOf } from "../../reference/air/moist";
import { bankRestVoltage, type BankModel } from "../../models/battery/battery";
import {
  heatFactor,
  LOWEST_SPEED,
  PART_LOAD_LOSS,
  variablePowerShare,
} from "../../models/air-conditioner/air-conditioner";
import { moistureHeld, type CabinModel } from "../../models/cabin/cabin";
import { CHARGER_EFFICIENCY } from "../../models/charging/supply";
import type { Weather } from "../../reference/weather/weather";
import type { Schedule, Surroundings } from "./prepare";

/** A unit as the run needs it: watts on its own supply, degC. */
export interface RunUnit {
  direct: boolean;
  /** Straight from the bank on a branch of its own, beside the inverter's run; V at which it switches itself off. */
  beside: boolean;
  cutOffVoltage: number;
  fixed: boolean;
  capacity: number;
  capacityPerKelvin: number;
  sensibleShare: number;
  /** Running power as known, high fan included, and the condenser air it is known at. */
  power: number;
  knownAtC: number;
  powerPerKelvin: number;
  /** A fouled or starved sea-water condenser: 1 where it is clean. */
  foulingPower: number;
  foulingCapacity: number;
  fan: number;
  fanLow: number;
  /** W of the sea-water pump, on while the compressor runs. */
  pump: number;
  fanBetween: boolean;
  band: number;
  minimumOff: number;
  rampTime: number;
  /** K of the condenser's air over outdoors; or over the sea, with `sea`. */
  condenserRise: number;
  sea: boolean;
  /** Air that a single-duct unit throws out while it runs, as air changes of heat: W/K and kg/s. */
  thrownHeat: number;
  thrownFlow: number;
}

/** Everything a run holds constant. Powers in W, charge in Ah, resistances in ohm. */
export interface RunRig {
  cabin: CabinModel;
  units: RunUnit[];
  bank: BankModel;
  lithium: boolean;
  /** False where nothing may charge it: frost. */
  mayCharge: boolean;
  /** Charge it takes, as A for each Ah, before it nears full. */
  acceptance: number;
  /** A that the protection boards let in, and let out for hours; Infinity where only the cells are asked. */
  chargeLimit: number;
  dischargeLimit: number;
  pathResistance: number;
  converted: boolean;
  inverter: {
    idlePower: number;
    lossShare: number;
    lossRise: number;
    rating: number;
    /** W at which it gives up; Infinity where only the bank is asked. */
    overload: number;
    cutOffVoltage: number;
    inside: boolean;
  };
  /** W of the brief's other loads on average. */
  mainsLoad: number;
  dcLoad: number;
  /** W from the bank for each W of the plan's DC loads. */
  converterLoss: number;
  /** W that each mains source can give at most, and A of the charger behind it. */
  shoreLimit: number;
  /** An inverter-charger adds from the bank what the supply's limit leaves short. */
  assist: boolean;
  /** A generator that starts and stops by itself at these states of charge; null where it does not. */
  autoStart: { startAt: number; stopAt: number } | null;
  /** Litres an hour at full load, and W of full load. */
  fuel: { atFull: number; full: number };
  chargerCurrent: number;
  /** W from the engine driving, and idling. */
  drivingPower: number;
  idlingPower: number;
  seaC: number;
}

export interface RunInput {
  rig: RunRig;
  weather: Weather;
  schedule: Schedule;
  surroundings: Surroundings;
  /** W that the solar controllers could pass, and W that the generator can give, at each step. */
  solar: Float64Array;
  generator: Float64Array;
  /** Steps before the first that counts: the cabin takes on the day's heat, the bank waits, the units rest. */
  prime: number;
  startShare: number;
  neverResting: boolean;
  /** Ends the run at the reserve, or where supply from the bank ends. */
  untilReserve: boolean;
  /** Ends the run where supply from the bank ends. */
  untilCut: boolean;
  /** Air and furniture of the cabin when the run begins, degC; as the hours before it leave them where it is null. */
  startCabinC: number | null;
}

/** Why supply from the bank ended. */
export type StopCause = "inverter" | "bank" | "empty" | "overload" | "protection" | "unit";
const CAUSES: StopCause[] = ["inverter", "bank", "empty", "overload", "protection", "unit"];
const [OVERLOAD, PROTECTION, UNIT_CUT_OFF] = [3, 4, 5];
/** Of its fuel at full load, what a generator burns at none (common practice, no source). */
const IDLE_FUEL = 0.3;

/** A run's record by step, and its totals. Arrays begin after the priming steps; powers are means over the step. */
export interface Run {
  stepS: number;
  steps: number;
  /** State of charge at the end of each step, cabin and slow-mass temperature, humidity ratio. */
  share: Float32Array;
  cabinC: Float32Array;
  massC: Float32Array;
  humidity: Float32Array;
  outdoorC: Float32Array;
  /** Share of the step that compressors ran, weighed by speed. */
  compressor: Float32Array;
  bankVolts: Float32Array;
  inverterVolts: Float32Array;
  bankCurrent: Float32Array;
  unitPower: Float32Array;
  loadPower: Float32Array;
  lossPower: Float32Array;
  solarUsed: Float32Array;
  solarLost: Float32Array;
  enginePower: Float32Array;
  shorePower: Float32Array;
  generatorPower: Float32Array;
  totals: RunTotals;
  /** Seconds from the first counted step. */
  reserveAt: number | null;
  stop: { at: number; cause: StopCause } | null;
  /** Seconds of each supply cut: from the first cut to the last. */
  secondsCut: number;
}

/** Sums of a run: J unless said. */
export interface RunTotals {
  solarUsed: number;
  solarLost: number;
  engine: number;
  shore: number;
  generator: number;
  units: number;
  loads: number;
  inverterLoss: number;
  pathLoss: number;
  bankLoss: number;
  chargerLoss: number;
  /** Out of the bank's store over the run; negative where it filled. */
  fromStore: number;
  /** Heat taken out of the cabin's air and out of its moisture. */
  cooledSensible: number;
  cooledLatent: number;
  /** Heat that came in, and what air and mass hold more than at the start. */
  heatIn: number;
  heatStored: number;
  /** Seconds that a unit was asked to cool, that the cabin was at its set point meanwhile, K h that it was missed by. */
  secondsAsked: number;
  secondsMet: number;
  degreeHoursMissed: number;
  secondsCompressor: number;
  /** Seconds that the generator ran, and litres that it burnt. */
  secondsGenerator: number;
  fuelLitres: number;
  /** A h through the bank, out. */
  ampHoursOut: number;
}

/** Seconds that a started compressor takes to cool in full: AHRI 210/240's Cd at three starts an hour is C_d / (4 × 3/h). */
export const COOLING_LAG_S = (PART_LOAD_LOSS * 3600) / 12;
/** Humidity ratio at the rating point, 27 °C and 19 °C wet bulb, and of a coil at 9 °C. */
const RATED_HUMIDITY = 0.0111;
const COIL_HUMIDITY = 0.0072;
/** The slow half of a cell's voltage drop: as much again as half the ten-second resistance, settling in five minutes. */
const SLOW_RESISTANCE = 0.5;
const SLOW_SECONDS = 300;
/** Charge put back over charge taken: LFP and NMC, and AGM (common practice, no source). */
const CHARGE_EFFICIENCY = { lithium: 0.99, lead: 0.9 };
/** A cut supply comes back when the bank has this much more than when it was cut. */
const COMES_BACK = 0.1;
/** A thermostat's level counts as met within this, K. */
const MET_K = 0.002;
const PIECES = 1000;

/** Cooling gained for each kelvin of wet bulb in the room, and wet bulb for each kelvin of air at the same moisture. */
const WET_BULB_GAIN = 0.015;
const WET_BULB_PER_KELVIN = 0.32;

/** Fan caps: capacity that a variable-speed unit keeps, and that a fixed-speed one keeps with less air over its coil. */
const CAPS_VARIABLE = [0, 0, 0.5, 0.75, 1.1];
const CAPS_FIXED = [0, 0, 0.88, 0.94, 1];
/** Cooling that a variable-speed unit asks beyond the load: enough to close the gap to the set point in this time. */
const CLOSES_IN_S = 600;

/**
 * The coupled run: cabin, units, bank, sources, stepped through weather and plan.
 *
 * Within a step the surroundings are constant and the two nodes move by their exact solution; where a thermostat turns
 * over inside it the step is cut there, so that a switch is never smeared. The bank is a rest voltage by state of charge
 * behind a resistance and a slow RC pair; loads are constant power along the path and at the terminals; solar serves
 * first, then engine and charger, then the bank; what the bank will not take is cut back, solar last. No allocation
 * inside the loop.
 */
export function coupledRun(input: RunInput): Run {
  const { rig, weather, schedule, surroundings, prime } = input;
  const { cabin, bank, inverter, units } = rig;
  const stepS = weather.stepS;
  const counted = Math.max(0, weather.steps - prime);
  const line = () => new Float32Array(counted);
  const share = line();
  const cabinC = line();
  const massC = line();
  const humidity = line();
  const outdoorOut = line();
  const compressor = line();
  const bankVolts = line();
  const inverterVolts = line();
  const bankCurrent = line();
  const unitPowerOut = line();
  const loadPowerOut = line();
  const lossPowerOut = line();
  const solarUsedOut = line();
  const solarLostOut = line();
  const engineOut = line();
  const shoreOut = line();
  const generatorOut = line();

  // Bank: rest volts by thousandths of charge, and the energy beneath each level.
  const rest = new Float64Array(PIECES + 2);
  for (let p = 0; p <= PIECES; p++) rest[p] = bankRestVoltage(bank, p / PIECES);
  rest[PIECES + 1] = rest[PIECES]!;
  const coulombs = bank.capacityAh * 3600;
  const slowResistance = SLOW_RESISTANCE * bank.cellResistance;
  const R = bank.innerResistance;
  const Rp = rig.pathResistance;
  const efficiency = rig.lithium ? CHARGE_EFFICIENCY.lithium : CHARGE_EFFICIENCY.lead;
  const bulk = rig.mayCharge ? Math.min(rig.acceptance * bank.capacityAh, rig.chargeLimit) : 0;

  // Cabin.
  const Ca = cabin.lightMass;
  const Cm = cabin.slowMass;
  const Gm = cabin.coupling;
  const UA = cabin.heatLoss;
  const air = moistAir(weather.pressurePa);
  const holdsWater = moistureHeld(cabin.volume, weather.pressurePa);

  // Units.
  const lowestOf = (list: RunUnit[]) => list.reduce((least, one) => Math.max(least, one.cutOffVoltage), 0);
  const besideCutOff = lowestOf(units.filter(({ beside }) => beside));
  const directCutOff = lowestOf(units.filter(({ direct, beside }) => direct && !beside));
  const count = units.length;
  const on = new Uint8Array(count);
  const speed = new Float64Array(count);
  const sinceSwitch = new Float64Array(count).fill(3600);
  const full = new Float64Array(count);
  const watts = new Float64Array(count);
  /** Cooling at this piece's speed once it is reached, and the share of it that dries. */
  const strength = new Float64Array(count);
  const dryShare = new Float64Array(count);
  const lowest = new Float64Array(count);
  const highest = new Float64Array(count);

  const totals: RunTotals = {
    solarUsed: 0,
    solarLost: 0,
    engine: 0,
    shore: 0,
    generator: 0,
    units: 0,
    loads: 0,
    inverterLoss: 0,
    pathLoss: 0,
    bankLoss: 0,
    chargerLoss: 0,
    fromStore: 0,
    cooledSensible: 0,
    cooledLatent: 0,
    heatIn: 0,
    heatStored: 0,
    secondsAsked: 0,
    secondsMet: 0,
    degreeHoursMissed: 0,
    secondsCompressor: 0,
    secondsGenerator: 0,
    fuelLitres: 0,
    ampHoursOut: 0,
  };

  let Ta = weather.outdoorC[0]!;
  let Tm = Ta;
  let w = weather.humidity[0]!;
  let s = Math.min(1, Math.max(0, input.startShare));
  let slowVolts = 0;
  let V = rest[Math.floor(s * PIECES)]!;
  let inverterLossBefore = 0;
  let startTa = Ta;
  let startTm = Tm;
  let reserveAt: number | null = null;
  let stopAt = -1;
  let stopCause = 0;
  let cut = 0;
  let cutShare = 0;
  let secondsCut = 0;
  // A DC unit on a branch of its own that its own cut-off has switched off, and the charge that it was at.
  let besideOff = false;
  let besideShare = 0;
  let generatorOn = false;
  let done = counted;
  const reserve = bank.reserveShare;

  // Exponentials of a whole step are kept while the air changes stay the same.
  let keptG = NaN;
  let keptH = NaN;
  let even = 0;
  let odd = 0;
  let drift = 0;
  let a11 = 0;
  const a12 = Gm / Ca;
  const a22 = Gm / Cm;
  const slowKept = Math.exp(-stepS / SLOW_SECONDS);

  for (let i = 0; i < weather.steps; i++) {
    const priming = i < prime;
    const k = i - prime;
    if (k === 0) {
      if (input.startCabinC !== null) Ta = Tm = input.startCabinC;
      startTa = Ta;
      startTm = Tm;
    }
    const outdoor = weather.outdoorC[i]!;
    const wo = weather.humidity[i]!;
    const skin = surroundings.skin[i]!;
    const massHeat = surroundings.massHeat[i]!;
    const shoreOn = schedule.shore[i] === 1;
    if (rig.autoStart && !priming) {
      if (s <= rig.autoStart.startAt) generatorOn = true;
      else if (s >= rig.autoStart.stopAt) generatorOn = false;
    }
    const generatorLimit = schedule.generator[i] === 1 || generatorOn ? input.generator[i]! : 0;
    const solarAvailable = input.solar[i]!;
    const driving = schedule.driving[i]!;
    const engineAvailable = driving === 1 ? rig.drivingPower : driving === 2 ? rig.idlingPower : 0;
    const mainsLoad = rig.mainsLoad + schedule.mainsLoad[i]!;
    const dcLoad = rig.dcLoad + rig.converterLoss * schedule.dcLoad[i]!;

    // Where each thermostat turns over.
    for (let u = 0; u < count; u++) {
      const half = units[u]!.band / 2;
      // Units at one set point are set a little apart, as fitters do, so that they do not start together.
      const set = schedule.setPointC[u]![i]! + 0.3 * u;
      lowest[u] = set - half;
      highest[u] = set + half;
    }

    let left = stepS;
    let tooMuch = false;
    let stepUnit = 0;
    let stepLoad = 0;
    let stepLoss = 0;
    let stepSolar = 0;
    let stepLost = 0;
    let stepEngine = 0;
    let stepShore = 0;
    let stepGenerator = 0;
    let stepCompressor = 0;
    let stepCurrent = 0;
    let endV = V;
    let endVi = V;

    for (let piece = 0; left > 1e-9; piece++) {
      let h = left;
      // What each unit could do now.
      const wetBulb = priming ? 19 : wetBulbOf(air, Ta, w);
      const wet = Math.min(1.3, Math.max(0.6, 1 + WET_BULB_GAIN * (wetBulb - 19)));
      const wetDraw = Math.min(1.1, Math.max(0.9, 1 + 0.005 * (wetBulb - 19)));
      for (let u = 0; u < count; u++) {
        const unit = units[u]!;
        const at = unit.sea ? rig.seaC + unit.condenserRise : outdoor + unit.condenserRise;
        full[u] = unit.capacity * unit.foulingCapacity * Math.max(0.3, 1 - unit.capacityPerKelvin * (at - 35)) * wet;
        watts[u] = unit.power * unit.foulingPower * heatFactor(unit.powerPerKelvin, at, unit.knownAtC) * wetDraw;
      }
      // Switches that are due now, and how far this piece may go before another is.
      let mains = 0;
      let direct = 0;
      let beside = 0;
      let cooling = 0;
      let drying = 0;
      let thrownHeat = 0;
      let thrownFlow = 0;
      let running = 0;
      for (let u = 0; u < count; u++) {
        const unit = units[u]!;
        const supplied = unit.direct
          ? cut < 2 && !tooMuch && !(unit.beside && besideOff)
          : !tooMuch && (cut === 0 || shoreOn || generatorLimit > 0);
        const mode = supplied && !priming ? schedule.mode[u]![i]! : 0;
        if (mode < 2) {
          if (on[u] === 1) {
            on[u] = 0;
            sinceSwitch[u] = 0;
          }
          speed[u] = 0;
        } else if (input.neverResting) {
          if (on[u] === 0) {
            on[u] = 1;
            sinceSwitch[u] = 0;
          }
        } else if (on[u] === 1 && Ta <= lowest[u]! + MET_K) {
          on[u] = 0;
          sinceSwitch[u] = 0;
          speed[u] = 0;
        } else if (on[u] === 0 && Ta >= highest[u]! - MET_K) {
          const due = unit.minimumOff - sinceSwitch[u]!;
          if (due <= 1e-9) {
            on[u] = 1;
            sinceSwitch[u] = 0;
          } else if (due < h) h = due;
        }
        strength[u] = 0;
        if (mode === 0) continue;
        let draw = 0;
        if (on[u] === 1) {
          dryShare[u] =
            Math.max(0, 1 - unit.sensibleShare) *
            Math.min(1.6, Math.max(0, (w - COIL_HUMIDITY) / (RATED_HUMIDITY - COIL_HUMIDITY)));
          const cap = (unit.fixed ? CAPS_FIXED : CAPS_VARIABLE)[mode]!;
          let f = cap;
          if (!unit.fixed && !input.neverResting) {
            const sensible = full[u]! * (1 - dryShare[u]!);
            const changes = surroundings.changes[i]!;
            const load =
              skin +
              changes * outdoor -
              (UA + changes) * Ta +
              Gm * (Tm - Ta) +
              surroundings.airHeat[i]! +
              (inverter.inside ? inverterLossBefore : 0);
            const aim = (lowest[u]! + highest[u]!) / 2;
            const asked = (load / count + (Ca * (Ta - aim)) / CLOSES_IN_S) / sensible;
            const reach = speed[u]! + (h / Math.max(1, unit.rampTime)) * 1.1;
            f = Math.min(cap, Math.max(LOWEST_SPEED, asked), Math.max(LOWEST_SPEED, reach));
          }
          speed[u] = f;
          strength[u] = full[u]! * f;
          draw = unit.fixed
            ? Math.max(
                unit.fan,
                watts[u]! - (mode === 2 ? unit.fan - unit.fanLow : mode === 3 ? (unit.fan - unit.fanLow) / 2 : 0),
              )
            : Math.max(unit.fan, watts[u]! * variablePowerShare(f));
          draw += unit.pump;
          thrownHeat += unit.thrownHeat * f;
          thrownFlow += unit.thrownFlow * f;
          running += unit.fixed ? 1 : f;
        } else if (mode === 1 || unit.fanBetween) {
          draw = mode === 2 ? unit.fanLow : unit.fan;
        }
        if (unit.beside) beside += draw;
        else if (unit.direct) direct += draw;
        else mains += draw;
      }

      // What is too much for its supply is not started on it: the loads stay, the units do not.
      const limit = shoreOn ? rig.shoreLimit : generatorLimit;
      let demand = mains + mainsLoad;
      const fed = limit > 0 && demand <= limit;
      // An inverter-charger takes what the supply gives and adds the rest from the bank.
      const helped = !fed && rig.assist && limit > 0 && cut === 0 ? limit : 0;
      if (!fed && !priming && mains > 0 && (cut > 0 || demand - helped > inverter.overload)) {
        if (cut === 0 && stopAt < 0) {
          stopAt = k * stepS;
          stopCause = OVERLOAD;
        }
        tooMuch = true;
        continue;
      }
      if (!fed && cut > 0) demand = 0;
      else if (!fed && demand - helped > inverter.overload) demand = inverter.overload + helped;

      // Cabin over the piece.
      const gains = surroundings.airHeat[i]! + (inverter.inside ? inverterLossBefore : 0);
      const changes = surroundings.changes[i]! + thrownHeat;
      const G = UA + changes;
      let nextTa = 0;
      let nextTm = 0;
      let slope = 0;
      let crossed = -1;
      for (let attempt = 0; attempt < 5; attempt++) {
        // A cooler coil does less: by the air in the middle of the piece, once the first go has shown it.
        const lean =
          attempt === 0 ? 1 : 1 + WET_BULB_GAIN * WET_BULB_PER_KELVIN * Math.min(10, Math.max(-10, (nextTa - Ta) / 2));
        // The share of full cooling reached, averaged over the piece as long as it now is: the lag of a started circuit.
        cooling = drying = 0;
        for (let u = 0; u < count; u++) {
          if (strength[u] === 0) continue;
          const t0 = sinceSwitch[u]!;
          const reached =
            t0 > 12 * COOLING_LAG_S
              ? 1
              : 1 - (COOLING_LAG_S / h) * (Math.exp(-t0 / COOLING_LAG_S) - Math.exp(-(t0 + h) / COOLING_LAG_S));
          drying += strength[u]! * lean * reached * dryShare[u]!;
          cooling += strength[u]! * lean * reached * (1 - dryShare[u]!);
        }
        if (G !== keptG || h !== keptH) {
          keptG = G;
          keptH = h;
          a11 = (G + Gm) / Ca;
          drift = -(a11 + a22) / 2;
          const half = Math.sqrt(((a11 - a22) / 2) * ((a11 - a22) / 2) + a12 * a22);
          const slow = Math.exp((drift + half) * h);
          const fast = Math.exp((drift - half) * h);
          even = (slow + fast) / 2;
          odd = (slow - fast) / (2 * half);
        }
        const restTa = (skin + changes * outdoor + gains - cooling + massHeat) / G;
        const restTm = restTa + massHeat / Gm;
        const x = Ta - restTa;
        const y = Tm - restTm;
        nextTa = restTa + even * x + odd * ((-a11 - drift) * x + a12 * y);
        nextTm = restTm + even * y + odd * (a22 * x + (-a22 - drift) * y);
        // How the air's slope changes over the piece, for its mean.
        slope = a12 * (nextTm - restTm - y) - a11 * (nextTa - restTa - x);
        if (crossed >= 0) {
          // Two secant steps bring the switch to within a thousandth of a kelvin.
          const level = on[crossed] === 1 ? lowest[crossed]! : highest[crossed]!;
          const off = nextTa - level;
          if (attempt > 3 || (off < 0.001 && off > -0.001)) break;
          h = Math.min(left, Math.max(0.05, (h * (level - Ta)) / (nextTa - Ta)));
          continue;
        }
        if (attempt === 0 && cooling > 0) continue;
        if (input.neverResting || piece > 9) break;
        // The first thermostat that turns over within the piece ends it.
        let first = 1;
        for (let u = 0; u < count; u++) {
          if (schedule.mode[u]![i]! < 2 || priming) continue;
          const level = on[u] === 1 ? lowest[u]! : highest[u]!;
          const towards = on[u] === 1 ? nextTa < level && Ta > level + MET_K : nextTa > level && Ta < level - MET_K;
          if (!towards) continue;
          const fraction = (level - Ta) / (nextTa - Ta);
          if (fraction < first) {
            first = fraction;
            crossed = u;
          }
        }
        if (crossed < 0 || first * h > h - 0.05) break;
        h = Math.max(0.05, first * h);
      }
      // Moisture over the piece, held at saturation where windows run wet.
      const flow = surroundings.changesFlow[i]! + thrownFlow;
      const rate = flow / holdsWater;
      let nextW = (w + h * (rate * wo + (schedule.moisture[i]! - drying / LATENT_HEAT) / holdsWater)) / (1 + rate * h);
      if (nextW < 0.0005) nextW = 0.0005;
      const wettest = saturationRatio(air, nextTa);
      if (nextW > wettest) nextW = wettest;

      if (!priming) {
        // Bank over the piece.
        const at = s * PIECES;
        const cell = at < PIECES ? Math.floor(at) : PIECES;
        const E = rest[cell]! + (rest[cell + 1]! - rest[cell]!) * (at - cell) - slowVolts;
        const loadDc = cut < 2 ? dcLoad + beside : 0;
        const made = fed ? 0 : demand - helped;
        const lossInverter =
          fed || !rig.converted || cut > 0
            ? 0
            : inverter.idlePower + inverter.lossShare * made + (inverter.lossRise * made * made) / inverter.rating;
        const onPath = made + lossInverter + direct;
        const spare = limit > 0 ? (fed ? limit - demand : limit - helped) : 0;
        const volts0 = V > 1 ? V : rest[cell]!;
        const chargerWanted = Math.min(spare * CHARGER_EFFICIENCY, rig.chargerCurrent * volts0);
        const sources = solarAvailable + engineAvailable + chargerWanted;
        // What the bank takes: bulk, then less as it nears full, and nothing that lifts it past its charging volts.
        const nearFull = rig.lithium
          ? s > 0.97
            ? Math.max(0.02, (1 - s) / 0.03)
            : 1
          : s > 0.8
            ? Math.max(0.03, Math.exp(-(s - 0.8) * 14))
            : 1;
        let takes = bulk * nearFull;
        const byVolts = (bank.chargeToVoltage - E) / R;
        if (byVolts < takes) takes = byVolts > 0 ? byVolts : 0;
        if (s >= 1) takes = 0;
        const roomAh = ((1 - s) * coulombs) / (h * efficiency);
        if (roomAh < takes) takes = roomAh;

        let sideCurrent = (loadDc - sources) / volts0;
        let pathCurrent = 0;
        let collapsed = false;
        let sunk = false;
        let bus = volts0;
        let used = sources;
        for (let round = 0; round < 3; round++) {
          const seen = E - sideCurrent * R;
          const inner = seen * seen - 4 * (R + Rp) * onPath;
          if (inner < 0 || seen <= 0) {
            collapsed = true;
            pathCurrent = seen > 0 ? seen / (2 * (R + Rp)) : 0;
          } else pathCurrent = onPath > 0 ? (2 * onPath) / (seen + Math.sqrt(inner)) : 0;
          // What hangs at the bank's terminals draws or brings a power: its current there in closed form, which a bank of
          // much resistance would not come to by going round.
          const open = E - pathCurrent * R;
          const under = open * open - 4 * (loadDc - sources) * R;
          bus = under > 0 ? (open + Math.sqrt(under)) / 2 : 0;
          if (bus < E / 4) {
            bus = E / 4;
            sunk = true;
          } else sunk = false;
          sideCurrent = (loadDc - sources) / bus;
        }
        let current = pathCurrent + sideCurrent;
        if (-current > takes) {
          current = -takes;
          bus = E + takes * R;
          const inner = bus * bus - 4 * Rp * onPath;
          if (inner < 0) collapsed = true;
          pathCurrent = onPath > 0 ? (bus - Math.sqrt(Math.max(0, inner))) / (2 * Rp) : 0;
          if (Rp * onPath < 1e-6 * bus * bus) pathCurrent = onPath / bus;
          used = Math.min(sources, Math.max(0, (takes + pathCurrent) * bus + loadDc));
        }
        const solarUsed = Math.min(solarAvailable, used);
        const engineUsed = Math.min(engineAvailable, Math.max(0, used - solarUsed));
        const chargerUsed = Math.max(0, used - solarUsed - engineUsed);
        const chargerDrawn = chargerUsed / CHARGER_EFFICIENCY;
        const seenBy = bus - pathCurrent * Rp;

        // A protection board that opens at once would open again at every start: the units stay off.
        if (cut === 0 && current > rig.dischargeLimit && mains + direct + beside > 0 && !tooMuch) {
          if (stopAt < 0) {
            stopAt = k * stepS + (stepS - left);
            stopCause = PROTECTION;
          }
          tooMuch = true;
          continue;
        }
        // A DC unit's own cut-off, at the bank's volts less what its branch loses.
        if (beside > 0 && !besideOff && current > 0 && bus < besideCutOff) {
          if (stopAt < 0) {
            stopAt = k * stepS + (stepS - left);
            stopCause = UNIT_CUT_OFF;
          }
          besideOff = true;
          besideShare = s;
          continue;
        }
        if (besideOff && s >= Math.min(0.98, besideShare + COMES_BACK)) besideOff = false;
        // Cut-offs end the supply at once: what would follow is not run.
        if (cut === 0 || (cut === 1 && (loadDc > 0 || direct > 0 || beside > 0))) {
          let cause = -1;
          if (sunk) cause = 1;
          else if (collapsed && onPath > 0) cause = rig.converted && cut === 0 ? 0 : 1;
          if (current > 0) {
            if (
              cut === 0 &&
              onPath > 0 &&
              (collapsed || (rig.converted && made > 0 && seenBy < inverter.cutOffVoltage))
            )
              cause = 0;
            if (cut === 0 && !rig.converted && direct > 0 && seenBy < directCutOff) cause = UNIT_CUT_OFF;
            if (bus < bank.stopVoltage || (collapsed && !rig.converted)) cause = 1;
            if (s <= 1e-6) cause = 2;
          }
          if (cause >= 0) {
            if (stopAt < 0 || stopCause === OVERLOAD) {
              stopAt = k * stepS + (stepS - left);
              stopCause = cause;
            }
            cut = cause === 0 ? 1 : 2;
            cutShare = s;
            for (let u = 0; u < count; u++) {
              if (on[u] === 1) {
                on[u] = 0;
                sinceSwitch[u] = 0;
                speed[u] = 0;
              }
            }
            continue;
          }
        }

        // Charge over the piece: Peukert where the chemistry asks for it, some lost on the way in.
        const outOf =
          current > 0
            ? bank.peukert === 1 || current <= bank.ratedCurrent
              ? current
              : current * Math.pow(current / bank.ratedCurrent, bank.peukert - 1)
            : current * efficiency;
        let nextS = s - (outOf * h) / coulombs;
        if (nextS > 1) nextS = 1;
        if (nextS < 0) nextS = 0;
        // Energy out of the store by the rest voltage in the middle of the piece.
        const mid = ((s + nextS) / 2) * PIECES;
        const midCell = mid < PIECES ? Math.floor(mid) : PIECES;
        const Emid = rest[midCell]! + (rest[midCell + 1]! - rest[midCell]!) * (mid - midCell);
        const stored = Emid * (s - nextS) * coulombs;
        const busPower = bus * current;
        const pathLoss = pathCurrent * pathCurrent * Rp;
        const bankLoss = stored - busPower * h;
        if (reserveAt === null && nextS <= reserve && s > reserve)
          reserveAt = k * stepS + (stepS - left) + (h * (s - reserve)) / (s - nextS);
        if (reserveAt === null && s <= reserve) reserveAt = k * stepS + (stepS - left);
        s = nextS;
        const decay = h === stepS ? slowKept : Math.exp(-h / SLOW_SECONDS);
        slowVolts = slowVolts * decay + current * slowResistance * (1 - decay);
        V = bus;
        endV = bus;
        endVi = seenBy;

        const shoreDrawn = shoreOn ? (fed ? demand : helped) + chargerDrawn : 0;
        const generatorDrawn = !shoreOn && limit > 0 ? (fed ? demand : helped) + chargerDrawn : 0;
        const unitDraw = mains + direct + (cut < 2 ? beside : 0);
        if (!shoreOn && limit > 0) {
          totals.secondsGenerator += h;
          totals.fuelLitres +=
            (h / 3600) * rig.fuel.atFull * (IDLE_FUEL + (1 - IDLE_FUEL) * Math.min(1, generatorDrawn / rig.fuel.full));
        }
        totals.solarUsed += solarUsed * h;
        totals.solarLost += (solarAvailable - solarUsed) * h;
        totals.engine += engineUsed * h;
        totals.shore += shoreDrawn * h;
        totals.generator += generatorDrawn * h;
        totals.units += unitDraw * h;
        totals.loads += (demand - mains + loadDc - (cut < 2 ? beside : 0)) * h;
        totals.inverterLoss += lossInverter * h;
        totals.pathLoss += pathLoss * h;
        totals.bankLoss += bankLoss;
        totals.chargerLoss += (chargerDrawn - chargerUsed) * h;
        totals.fromStore += stored;
        if (current > 0) totals.ampHoursOut += (current * h) / 3600;
        totals.cooledSensible += cooling * h;
        totals.cooledLatent += drying * h;
        // By the trapezium with its slopes, beside the exact solution: that the two agree is the check on both.
        const meanTa = (Ta + nextTa) / 2 - (h * slope) / 12;
        totals.heatIn += (skin + changes * outdoor - G * meanTa + gains + massHeat) * h;
        stepUnit += unitDraw * h;
        stepLoad += (demand - mains + loadDc - (cut < 2 ? beside : 0)) * h;
        stepLoss += (lossInverter + pathLoss + chargerDrawn - chargerUsed) * h + bankLoss;
        stepSolar += solarUsed * h;
        stepLost += (solarAvailable - solarUsed) * h;
        stepEngine += engineUsed * h;
        stepShore += shoreDrawn * h;
        stepGenerator += generatorDrawn * h;
        stepCompressor += (running / Math.max(1, count)) * h;
        stepCurrent += current * h;
        inverterLossBefore = lossInverter;
        if (cut > 0) {
          secondsCut += h;
          const back = s >= Math.min(0.98, cutShare + COMES_BACK);
          if (back) cut = 0;
          else if (cut === 2 && current < 0 && s >= cutShare + 0.02) cut = 1;
        }
        if (running > 0) totals.secondsCompressor += h;
      }
      for (let u = 0; u < count; u++) sinceSwitch[u] = sinceSwitch[u]! + h;
      Ta = nextTa;
      Tm = nextTm;
      w = nextW;
      left -= h;
    }

    if (priming) continue;
    let asked = false;
    let over = 0;
    for (let u = 0; u < count; u++) {
      if (schedule.mode[u]![i]! < 2) continue;
      asked = true;
      over = Math.max(over, Ta - schedule.setPointC[u]![i]! - units[u]!.band / 2 - 0.3 * u);
    }
    if (asked) {
      totals.secondsAsked += stepS;
      if (over <= 0.25) totals.secondsMet += stepS;
      else totals.degreeHoursMissed += (over * stepS) / 3600;
    }
    share[k] = s;
    cabinC[k] = Ta;
    massC[k] = Tm;
    humidity[k] = w;
    outdoorOut[k] = outdoor;
    compressor[k] = stepCompressor / stepS;
    bankVolts[k] = endV;
    inverterVolts[k] = endVi;
    bankCurrent[k] = stepCurrent / stepS;
    unitPowerOut[k] = stepUnit / stepS;
    loadPowerOut[k] = stepLoad / stepS;
    lossPowerOut[k] = stepLoss / stepS;
    solarUsedOut[k] = stepSolar / stepS;
    solarLostOut[k] = stepLost / stepS;
    engineOut[k] = stepEngine / stepS;
    shoreOut[k] = stepShore / stepS;
    generatorOut[k] = stepGenerator / stepS;
    if ((input.untilReserve && reserveAt !== null) || ((input.untilReserve || input.untilCut) && cut > 0)) {
      done = k + 1;
      break;
    }
  }
  totals.heatStored = Ca * (Ta - startTa) + Cm * (Tm - startTm);
  return {
    stepS,
    steps: done,
    share,
    cabinC,
    massC,
    humidity,
    outdoorC: outdoorOut,
    compressor,
    bankVolts,
    inverterVolts,
    bankCurrent,
    unitPower: unitPowerOut,
    loadPower: loadPowerOut,
    lossPower: lossPowerOut,
    solarUsed: solarUsedOut,
    solarLost: solarLostOut,
    enginePower: engineOut,
    shorePower: shoreOut,
    generatorPower: generatorOut,
    totals,
    reserveAt,
    stop: stopAt < 0 ? null : { at: stopAt, cause: CAUSES[stopCause]! },
    secondsCut,
  };
}
