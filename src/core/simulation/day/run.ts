import { moistAir, wetBulbOf, type MoistAir } from "../../reference/air/moist";
import { moistureHeld } from "../../models/cabin/cabin";
import {
  acceptedCurrent,
  batteryOf,
  chargeAfter,
  openCircuitAt,
  slowLeft,
  solveBus,
  storedBetween,
  type Battery,
  type BusLoads,
  type BusState,
} from "../kernel/battery";
import {
  moistureAfter,
  moveNodes,
  prepareNodes,
  twoNodes,
  type MoistureFlows,
  type NodesEnd,
  type TwoNodes,
} from "../kernel/cabin";
import {
  fanCap,
  levelOf,
  MODE,
  moveUnit,
  restingDraw,
  highestCutOff,
  runningDraw,
  sensedAfter,
  sensorKept,
  SET_APART_K,
  switchOff,
  switchOn,
  thermostat,
  turnsOverAt,
  unitAtRest,
  variableSpeed,
  type UnitState,
} from "../kernel/control";
import {
  comeBack,
  CUT,
  cutSupply,
  decideFeed,
  directOpens,
  endOfSupply,
  fuelBurnt,
  loadBus,
  noteStop,
  pathLoss,
  shareSources,
  supplyStanding,
  type Feed,
  type MainsAsked,
  type PowerFlows,
  type SupplyLoad,
  type SupplyParameters,
  type SupplyState,
} from "../kernel/supply";
import {
  condenserC,
  coolingAlong,
  coolingReached,
  COOLING_LAG_S,
  fullCooling,
  fullPower,
  latentPart,
} from "../kernel/unit";
import type { CabinState, SimulationInput, SimulationParameters } from "./input";
import { clearSums, emptyResult, noSums, type SimulationResult, type StepSums } from "./result";

/*
 * The coupled run: cabin, units, battery and sources stepped through weather and schedule.
 *
 * Within a step the surroundings are constant and the two nodes move by their exact solution. Where a thermostat turns
 * over inside a step the step is cut into pieces there, so that a switch is never smeared. The battery serves loads of
 * constant power; solar serves first, then engine and charger, then the battery; what the battery will not take is cut
 * back, solar last. All state is in objects made once for a run.
 */

/** Shortest piece of a step, s, and how near a switch has to be met, K. */
const SHORTEST_S = 0.05;
const NEAR_K = 0.001;
/** Pieces of a step after which no switch cuts it any more, and goes at one piece's end. */
const MOST_PIECES = 9;
const GOES = 5;
/** A cabin counts as kept at its set point within this over its band, K. */
const KEPT_K = 0.25;

/** Surroundings, supplies and loads of the present step. */
interface Step {
  /** Of the weather, and of the record: less the steps before it. */
  index: number;
  counted: number;
  warmingUp: boolean;
  outdoorC: number;
  shoreOn: boolean;
  /** W that shore or generator could give now. */
  limit: number;
  generatorLimit: number;
  /** Seconds of the step that are left, and the units are refused: what feeds them cannot. */
  left: number;
  refused: boolean;
}

/** What the units do in one piece of a step: W by supply, air thrown out, compressors running. */
interface Piece {
  seconds: number;
  mains: number;
  direct: number;
  beside: number;
  thrownHeat: number;
  thrownFlow: number;
  running: number;
  /** W of cooling and drying over the piece; W into air and mass of a cabin at 0 degC without cooling; W/K in all. */
  cooling: number;
  drying: number;
  heat: number;
  massHeat: number;
  conductance: number;
}

/** All that a run carries from one piece to the next, and what it fills. */
interface Engine {
  input: SimulationInput;
  params: SupplyParameters;
  air: MoistAir;
  waterHeld: number;
  nodes: TwoNodes;
  battery: Battery;
  slowLeftOfStep: number;
  units: UnitState[];
  supply: SupplyState;
  cabin: CabinState;
  /** Where the piece ends. */
  end: NodesEnd;
  /** What the thermostats' sensor shows there, degC. */
  sensedEndC: number;
  stateOfCharge: number;
  slowVolts: number;
  volts: number;
  farVolts: number;
  /** W that the inverter lost in the last piece: they warm a cabin that it stands in. */
  inverterLoss: number;
  step: Step;
  piece: Piece;
  moisture: MoistureFlows;
  asked: MainsAsked;
  feed: Feed;
  flows: PowerFlows;
  loads: BusLoads;
  supplyLoad: SupplyLoad;
  bus: BusState;
  sums: StepSums;
  run: SimulationResult;
}

const noStep = (): Step => ({
  index: 0,
  counted: 0,
  warmingUp: false,
  outdoorC: 0,
  shoreOn: false,
  limit: 0,
  generatorLimit: 0,
  left: 0,
  refused: false,
});

const noPiece = (): Piece => ({
  seconds: 0,
  mains: 0,
  direct: 0,
  beside: 0,
  thrownHeat: 0,
  thrownFlow: 0,
  running: 0,
  cooling: 0,
  drying: 0,
  heat: 0,
  massHeat: 0,
  conductance: 0,
});

const noFlows = (): PowerFlows => ({
  solar: 0,
  engine: 0,
  made: 0,
  inverterLoss: 0,
  direct: 0,
  atTerminals: 0,
  solarUsed: 0,
  engineUsed: 0,
  chargerUsed: 0,
  chargerDrawn: 0,
});

function supplyParameters({ units, ...job }: SimulationParameters): SupplyParameters {
  return {
    converted: job.converted,
    inverter: job.inverter,
    assist: job.assist,
    chargerCurrent: job.chargerCurrent,
    dischargeLimit: job.dischargeLimit,
    directCutOff: highestCutOff(units.filter(({ direct, beside }) => direct && !beside)),
    besideCutOff: highestCutOff(units.filter(({ beside }) => beside)),
  };
}

/** A run at its beginning, with room for a record of `steps`. */
function engineOf(input: SimulationInput, steps: number): Engine {
  const { job, weather } = input;
  const { cabin, bank } = job;
  const { stepS } = weather;
  const battery = batteryOf(bank, {
    lithium: job.lithium,
    pathResistance: job.pathResistance,
    bulkCurrent: job.mayCharge ? Math.min(job.acceptance * bank.capacityAh, job.chargeLimit) : 0,
  });
  const stateOfCharge = Math.min(1, Math.max(0, input.startSoc));
  const outdoorC = weather.outdoorC[0]!;
  const flows = noFlows();
  const loads = { onPath: 0, atTerminals: 0, sources: 0, takes: 0 };
  return {
    input,
    params: supplyParameters(job),
    air: moistAir(weather.pressurePa),
    waterHeld: moistureHeld(cabin.volume, weather.pressurePa),
    nodes: twoNodes(cabin.airHeatCapacity, cabin.massHeatCapacity, cabin.coupling),
    battery,
    slowLeftOfStep: slowLeft(stepS),
    units: job.units.map(unitAtRest),
    supply: supplyStanding(),
    cabin: { airC: outdoorC, massC: outdoorC, sensedC: outdoorC, humidity: weather.humidity[0]! },
    end: { airC: 0, massC: 0, slope: 0 },
    sensedEndC: 0,
    stateOfCharge,
    slowVolts: 0,
    volts: openCircuitAt(battery, stateOfCharge),
    farVolts: 0,
    inverterLoss: 0,
    step: noStep(),
    piece: noPiece(),
    moisture: { flow: 0, outdoor: 0, water: 0, drying: 0 },
    asked: { limit: 0, units: 0, loads: 0 },
    feed: { limit: 0, demand: 0, fed: false, helped: 0 },
    flows,
    loads,
    supplyLoad: { loads, flows, stateOfCharge, stopVoltage: battery.model.stopVoltage },
    bus: { current: 0, volts: 0, pathCurrent: 0, farVolts: 0, used: 0, collapsed: false, sunk: false },
    sums: noSums(),
    run: emptyResult(stepS, steps),
  };
}

/** A generator with an automatic start goes by the battery's charge. */
function startGenerator({ input, supply, stateOfCharge }: Engine): void {
  const { autoStart } = input.job;
  if (!autoStart) return;
  if (stateOfCharge <= autoStart.startAt) supply.generatorOn = true;
  else if (stateOfCharge >= autoStart.stopAt) supply.generatorOn = false;
}

/** Reads the step's surroundings, supplies and loads, and sets each thermostat. */
function beginStep(engine: Engine, index: number): void {
  const { input, step, flows, supply, units } = engine;
  const { job, weather, schedule } = input;
  step.index = index;
  step.counted = index - input.warmUpSteps;
  step.warmingUp = index < input.warmUpSteps;
  step.outdoorC = weather.outdoorC[index]!;
  step.left = weather.stepS;
  step.refused = false;
  // Before the run the cabin alone moves.
  if (step.warmingUp) return;
  step.shoreOn = schedule.shore[index] === 1;
  startGenerator(engine);
  step.generatorLimit = schedule.generator[index] === 1 || supply.generatorOn ? input.generator[index]! : 0;
  step.limit = step.shoreOn ? job.shoreLimit : step.generatorLimit;
  const driving = schedule.driving[index]!;
  flows.solar = input.solar[index]!;
  flows.engine = driving === 1 ? job.drivingPower : driving === 2 ? job.idlingPower : 0;
  for (let u = 0; u < units.length; u++) {
    const half = job.units[u]!.band / 2;
    const set = schedule.setPointC[u]![index]! + SET_APART_K * u;
    units[u]!.lowest = set - half;
    units[u]!.highest = set + half;
  }
  clearSums(engine.sums);
  engine.farVolts = engine.volts;
}

/** Mode of a unit in this piece: off where its supply is cut or refused. */
function modeOf({ input, supply, step }: Engine, u: number): number {
  const { direct } = input.job.units[u]!;
  const supplied = direct
    ? supply.cut < CUT.battery && !step.refused && !supply.directOff
    : !step.refused && (supply.cut === CUT.none || step.shoreOn || step.generatorLimit > 0);
  return supplied && !step.warmingUp ? input.schedule.mode[u]![step.index]! : MODE.off;
}

/** Switches each unit as is due, adds up what it draws and throws out; the piece ends where a unit may switch on next. */
function runUnits(engine: Engine): void {
  const { input, units, step, piece, cabin } = engine;
  const { job, neverResting } = input;
  piece.mains = piece.direct = piece.beside = piece.thrownHeat = piece.thrownFlow = piece.running = 0;
  piece.seconds = step.left;
  for (let u = 0; u < units.length; u++) {
    const unit = job.units[u]!;
    const state = units[u]!;
    state.cooling = 0;
    const mode = modeOf(engine, u);
    if (mode < MODE.low) {
      if (state.on) switchOff(state);
      state.speed = 0;
      if (mode === MODE.off) continue;
    } else if (!neverResting)
      piece.seconds = thermostat(state, unit.minimumOff, unit.fixed ? cabin.sensedC : cabin.airC, piece.seconds);
    else if (!state.on) switchOn(state);
    const draw = state.on ? runUnit(engine, u, mode) : restingDraw(unit, mode);
    if (unit.beside) piece.beside += draw;
    else if (unit.direct) piece.direct += draw;
    else piece.mains += draw;
  }
}

/** W that a unit with its compressor on draws; sets its speed and cooling. */
function runUnit(engine: Engine, u: number, mode: number): number {
  const { input, units, step, piece, cabin, nodes, inverterLoss } = engine;
  const { job } = input;
  const unit = job.units[u]!;
  const state = units[u]!;
  const at = condenserC(unit, step.outdoorC, job.seaC);
  const wetBulbC = wetBulbOf(engine.air, cabin.airC, cabin.humidity);
  state.full = fullCooling(unit, at, wetBulbC);
  state.power = fullPower(unit, at, wetBulbC);
  state.latent = latentPart(unit.sensibleHeatRatio, cabin.humidity);
  let speed = (state.cap = fanCap(unit.fixed, mode));
  if (!unit.fixed && !input.neverResting) {
    const { surroundings } = input;
    const changes = surroundings.changes[step.index]!;
    const load =
      surroundings.skin[step.index]! +
      changes * step.outdoorC -
      (job.cabin.heatLoss + changes) * cabin.airC +
      nodes.coupling * (cabin.massC - cabin.airC) +
      surroundings.airHeat[step.index]! +
      (job.inverter.inside ? inverterLoss : 0);
    // Of several units each sees its part of the load and of the air.
    const perWatt =
      (units.length * piece.seconds) /
      (nodes.airHeatCapacity + piece.seconds * (job.cabin.heatLoss + changes + nodes.coupling));
    const air = {
      overAtRest: cabin.airC + (perWatt * load) / units.length - (state.lowest + state.highest) / 2,
      perSpeed: perWatt * state.full * (1 - state.latent),
    };
    speed = variableSpeed(state, unit, air, piece.seconds);
  }
  state.speed = speed;
  state.cooling = state.full * speed;
  piece.thrownHeat += unit.thrownHeat * speed;
  piece.thrownFlow += unit.thrownFlow * speed;
  piece.running += unit.fixed ? 1 : speed;
  return runningDraw(state, unit, mode);
}

/** Cooling and drying over the piece as long as it now is, W, while the air moves by so many kelvins. */
function coolOver({ units, piece }: Engine, along: number): void {
  piece.cooling = piece.drying = 0;
  for (let u = 0; u < units.length; u++) {
    const { cooling, latent, sinceSwitch } = units[u]!;
    if (cooling === 0) continue;
    const reached = coolingReached(sinceSwitch, piece.seconds, COOLING_LAG_S);
    piece.drying += cooling * along * reached * latent;
    piece.cooling += cooling * along * reached * (1 - latent);
  }
}

/** Index of the unit whose thermostat turns over first within the piece, or -1; `at` the part of the piece until then. */
function firstToTurn({ input, units, step, cabin, end, sensedEndC }: Engine): { unit: number; at: number } | null {
  let first: { unit: number; at: number } | null = null;
  for (let u = 0; u < units.length; u++) {
    if (input.schedule.mode[u]![step.index]! < MODE.low || step.warmingUp) continue;
    const { fixed } = input.job.units[u]!;
    const at = fixed ? turnsOverAt(units[u]!, cabin.sensedC, sensedEndC) : turnsOverAt(units[u]!, cabin.airC, end.airC);
    if (at < (first?.at ?? 1)) first = { unit: u, at };
  }
  return first;
}

/** Moves the two nodes over the piece, cut where the first thermostat turns over; `pieces` were gone before it. */
function moveCabin(engine: Engine, pieces: number): void {
  const { input, nodes, units, step, piece, cabin, end } = engine;
  const { job, surroundings } = input;
  const { index } = step;
  const changes = surroundings.changes[index]! + piece.thrownHeat;
  const gains = surroundings.airHeat[index]! + (job.inverter.inside ? engine.inverterLoss : 0);
  piece.heat = surroundings.skin[index]! + changes * step.outdoorC + gains;
  piece.massHeat = surroundings.massHeat[index]!;
  piece.conductance = job.cabin.heatLoss + changes;
  let turning: UnitState | null = null;
  let bySensor = false;
  for (let go = 0; go < GOES; go++) {
    // A cooler coil does less: by the air in the middle of the piece, once the first go has shown it.
    coolOver(engine, go === 0 ? 1 : coolingAlong(end.airC - cabin.airC));
    prepareNodes(nodes, piece.conductance, piece.seconds);
    moveNodes(nodes, cabin, piece.heat - piece.cooling, piece.massHeat, end);
    const air = { fromC: cabin.airC, toC: end.airC };
    engine.sensedEndC = sensedAfter(cabin.sensedC, air, piece.seconds, sensorKept(piece.seconds));
    if (turning) {
      // Two secant steps bring the switch to within a thousandth of a kelvin.
      const level = levelOf(turning);
      const [fromC, toC] = bySensor ? [cabin.sensedC, engine.sensedEndC] : [cabin.airC, end.airC];
      const off = toC - level;
      if (go > 3 || (off < NEAR_K && off > -NEAR_K)) return;
      const secant = (piece.seconds * (level - fromC)) / (toC - fromC);
      piece.seconds = Math.min(step.left, Math.max(SHORTEST_S, secant));
      continue;
    }
    if (go === 0 && piece.cooling > 0) continue;
    if (input.neverResting || pieces > MOST_PIECES) return;
    const first = firstToTurn(engine);
    if (!first) return;
    turning = units[first.unit]!;
    bySensor = job.units[first.unit]!.fixed;
    if (first.at * piece.seconds > piece.seconds - SHORTEST_S) return;
    piece.seconds = Math.max(SHORTEST_S, first.at * piece.seconds);
  }
}

/** Seconds from the first counted step to the beginning of this piece. */
const now = ({ step, run }: Engine): number => step.counted * run.stepS + (run.stepS - step.left);

/** W of the DC loads in this step. */
const dcLoadNow = ({ input, step }: Engine): number =>
  input.job.dcLoad + input.job.converterLoss * input.schedule.dcLoad[step.index]!;

/** Solves the battery with this piece's loads and sources on it. */
function solvePower(engine: Engine): void {
  const { battery, bus, loads, flows, feed, supply, params, piece } = engine;
  const openVolts = openCircuitAt(battery, engine.stateOfCharge) - engine.slowVolts;
  const before = engine.volts;
  flows.direct = piece.direct;
  flows.atTerminals = supply.cut < CUT.battery ? dcLoadNow(engine) + piece.beside : 0;
  loadBus(loads, flows, feed, supply, params, before);
  loads.takes = acceptedCurrent(battery, engine.stateOfCharge, openVolts, piece.seconds);
  solveBus(battery, openVolts, loads, before, bus);
  shareSources(flows, bus.used);
}

/** Opens whatever has to open at these amps and volts. True where something did: then the piece is gone over again. */
function opens(engine: Engine): boolean {
  const { bus, supply, supplyLoad, params, step, piece, units, stateOfCharge } = engine;
  // Protection that opens at once would open again at every start: the units stay off.
  const unitDraw = piece.mains + piece.direct + piece.beside;
  if (supply.cut === CUT.none && bus.current > params.dischargeLimit && unitDraw > 0 && !step.refused) {
    noteStop(supply, now(engine), "protection");
    step.refused = true;
    return true;
  }
  if (directOpens(supply, piece, bus, params)) {
    noteStop(supply, now(engine), "unit");
    supply.directOff = true;
    supply.directOffAt = stateOfCharge;
    return true;
  }
  supplyLoad.stateOfCharge = stateOfCharge;
  const cause = endOfSupply(supply, params, bus, supplyLoad);
  if (cause === null) return false;
  // A cut-off ends the supply at once: what would follow is not run.
  noteStop(supply, now(engine), cause, true);
  cutSupply(supply, cause, stateOfCharge);
  for (const state of units) if (state.on) switchOff(state);
  return true;
}

/** Seconds to the moment at which the battery came to its reserve in this piece, or null. */
function reserveWithin(engine: Engine, next: number): number | null {
  const { stateOfCharge: soc, battery, piece } = engine;
  const { reserveSoc } = battery.model;
  if (soc <= reserveSoc) return now(engine);
  if (next > reserveSoc) return null;
  return now(engine) + (piece.seconds * (soc - reserveSoc)) / (soc - next);
}

/** Adds what the sources brought in one piece to the step and to the run: most pieces know one of them at most. */
function bookSources({ input, flows, feed, step, sums, run }: Engine, h: number): void {
  const { totals } = run;
  if (flows.solar > 0) {
    const lost = (flows.solar - flows.solarUsed) * h;
    totals.solarUsed += flows.solarUsed * h;
    totals.solarLost += lost;
    sums.solarUsed += flows.solarUsed * h;
    sums.solarLost += lost;
  }
  if (flows.engineUsed > 0) {
    totals.engine += flows.engineUsed * h;
    sums.engine += flows.engineUsed * h;
  }
  if (feed.limit <= 0) return;
  const fromMains = (feed.fed ? feed.demand : feed.helped) + flows.chargerDrawn;
  if (step.shoreOn) {
    totals.shore += fromMains * h;
    sums.shore += fromMains * h;
  } else {
    totals.generator += fromMains * h;
    sums.generator += fromMains * h;
    totals.secondsGenerator += h;
    totals.fuelLitres += fuelBurnt(input.job.fuel, fromMains, h);
  }
  totals.chargerLoss += (flows.chargerDrawn - flows.chargerUsed) * h;
}

/** Adds what one piece used, lost and cooled to the step and to the run. */
function book(engine: Engine, stored: number): void {
  const { battery, bus, flows, feed, supply, piece, sums, run, cabin, end, units } = engine;
  const { totals } = run;
  const h = piece.seconds;
  const lostOnPath = pathLoss(battery, bus.pathCurrent);
  const lostInBattery = stored - bus.volts * bus.current * h;
  const beside = supply.cut < CUT.battery ? piece.beside : 0;
  const unitDraw = piece.mains + piece.direct + beside;
  const loadDraw = feed.demand - piece.mains + flows.atTerminals - beside;
  bookSources(engine, h);
  totals.units += unitDraw * h;
  totals.loads += loadDraw * h;
  totals.inverterLoss += flows.inverterLoss * h;
  totals.pathLoss += lostOnPath * h;
  totals.bankLoss += lostInBattery;
  totals.fromStore += stored;
  if (bus.current > 0) totals.ampHoursOut += (bus.current * h) / 3600;
  // By the trapezium with its slopes, beside the exact solution: that the two agree is the check on both.
  const meanAirC = (cabin.airC + end.airC) / 2 - (h * end.slope) / 12;
  totals.heatIn += (piece.heat + piece.massHeat - piece.conductance * meanAirC) * h;
  sums.units += unitDraw * h;
  sums.loads += loadDraw * h;
  sums.losses += (flows.inverterLoss + lostOnPath + flows.chargerDrawn - flows.chargerUsed) * h + lostInBattery;
  sums.current += bus.current * h;
  if (piece.running === 0) return;
  totals.cooledSensible += piece.cooling * h;
  totals.cooledLatent += piece.drying * h;
  totals.secondsCompressor += h;
  sums.compressor += (piece.running / units.length) * h;
}

/** Battery and supply over the piece. False where something opened: then the piece is gone over again. */
function movePower(engine: Engine): boolean {
  solvePower(engine);
  if (opens(engine)) return false;
  const { battery, bus, supply, piece, flows, run } = engine;
  const next = chargeAfter(battery, engine.stateOfCharge, bus.current, piece.seconds);
  const stored = storedBetween(battery, engine.stateOfCharge, next);
  if (run.reserveAt === null) run.reserveAt = reserveWithin(engine, next);
  const left = piece.seconds === run.stepS ? engine.slowLeftOfStep : slowLeft(piece.seconds);
  engine.stateOfCharge = next;
  engine.slowVolts = engine.slowVolts * left + bus.current * battery.slowResistance * (1 - left);
  engine.volts = bus.volts;
  engine.farVolts = bus.farVolts;
  book(engine, stored);
  engine.inverterLoss = flows.inverterLoss;
  comeBack(supply, next, bus.current, piece.seconds);
  return true;
}

/** Decides what feeds the mains loads of the piece. False where it is too little for the units: then they do not start. */
function isFed({ input, step, piece, asked, feed, supply, params, run }: Engine): boolean {
  asked.limit = step.limit;
  asked.units = piece.mains;
  asked.loads = input.job.mainsLoad + input.schedule.mainsLoad[step.index]!;
  if (decideFeed(feed, supply, params, asked)) return true;
  if (supply.cut === CUT.none) noteStop(supply, step.counted * run.stepS, "overload");
  return false;
}

/** One piece of the step, or a second look at it where a supply gave out. */
function movePiece(engine: Engine, pieces: number): void {
  const { input, step, piece, moisture, cabin, end } = engine;
  runUnits(engine);
  if (!step.warmingUp && !isFed(engine)) {
    step.refused = true;
    return;
  }
  moveCabin(engine, pieces);
  moisture.flow = input.surroundings.changesFlow[step.index]! + piece.thrownFlow;
  moisture.outdoor = input.weather.humidity[step.index]!;
  moisture.water = input.schedule.moisture[step.index]!;
  moisture.drying = piece.drying;
  const { humidity: before } = cabin;
  const humidity = moistureAfter(before, piece.seconds, engine.waterHeld, moisture, engine.air, end.airC);
  if (!step.warmingUp && !movePower(engine)) return;
  for (let u = 0; u < engine.units.length; u++)
    moveUnit(engine.units[u]!, engine.input.job.units[u]!, piece.seconds, end.airC);
  cabin.airC = end.airC;
  cabin.sensedC = engine.sensedEndC;
  cabin.massC = end.massC;
  cabin.humidity = humidity;
  step.left -= piece.seconds;
}

/** Whether the cabin was where it was asked to be by its thermostat's sensor, over the step. */
function bookComfort({ input, step, cabin, run }: Engine): void {
  const { job, schedule } = input;
  let asked = false;
  let over = 0;
  for (let u = 0; u < job.units.length; u++) {
    if (schedule.mode[u]![step.index]! < MODE.low) continue;
    asked = true;
    const most = schedule.setPointC[u]![step.index]!;
    over = Math.max(over, cabin.sensedC - most - job.units[u]!.band / 2 - SET_APART_K * u);
  }
  if (!asked) return;
  run.totals.secondsAsked += run.stepS;
  if (over <= KEPT_K) run.totals.secondsMet += run.stepS;
  else run.totals.degreeHoursMissed += (over * run.stepS) / 3600;
}

/** Writes the step into the record: states at its end, powers as means over it. */
function recordStep({ run, step, cabin, sums, stateOfCharge, volts, farVolts }: Engine): void {
  const k = step.counted;
  const { stepS } = run;
  run.stateOfCharge[k] = stateOfCharge;
  run.cabinC[k] = cabin.airC;
  run.massC[k] = cabin.massC;
  run.humidity[k] = cabin.humidity;
  run.outdoorC[k] = step.outdoorC;
  run.compressor[k] = sums.compressor / stepS;
  run.bankVolts[k] = volts;
  run.inverterVolts[k] = farVolts;
  run.bankCurrent[k] = sums.current / stepS;
  run.unitPower[k] = sums.units / stepS;
  run.loadPower[k] = sums.loads / stepS;
  run.lossPower[k] = sums.losses / stepS;
  run.solarUsed[k] = sums.solarUsed / stepS;
  run.solarLost[k] = sums.solarLost / stepS;
  run.enginePower[k] = sums.engine / stepS;
  run.shorePower[k] = sums.shore / stepS;
  run.generatorPower[k] = sums.generator / stepS;
}

/** Runs the step `index` of the weather, piece by piece. */
function runStep(engine: Engine, index: number): void {
  const { step } = engine;
  beginStep(engine, index);
  for (let pieces = 0; step.left > 1e-9; pieces++) movePiece(engine, pieces);
}

/** Lets the cabin take on the hours before the run, unless that was done before. */
function warmUp(engine: Engine): void {
  const { warmUpSteps, warmedUp } = engine.input;
  if (warmedUp) Object.assign(engine.cabin, warmedUp);
  else for (let i = 0; i < warmUpSteps; i++) runStep(engine, i);
}

/** The cabin as the hours before the run leave it: for runs that differ only in charge and sources. */
export function warmedUp(input: SimulationInput): CabinState {
  const engine = engineOf(input, 0);
  warmUp(engine);
  return engine.cabin;
}

/** The run's first step in which a unit is asked to cool: its first one where none is. */
function firstCooling({ schedule, weather, warmUpSteps }: SimulationInput): number {
  for (let i = warmUpSteps; i < weather.steps; i++) if (schedule.mode.some((mode) => mode[i]! >= MODE.low)) return i;
  return warmUpSteps;
}

/**
 * Runs cabin, units, battery and sources through the weather, the schedule and the surroundings of `input`, and returns
 * the record by step with its totals.
 */
export function coupledRun(input: SimulationInput): SimulationResult {
  const { weather, warmUpSteps, untilReserve, untilCut, startCabinC } = input;
  const engine = engineOf(input, Math.max(0, weather.steps - warmUpSteps));
  const { cabin, run, supply, nodes, step } = engine;
  warmUp(engine);
  let { airC: startAirC, massC: startMassC } = cabin;
  const switchedOn = startCabinC === null ? -1 : firstCooling(input);
  for (let i = warmUpSteps; i < weather.steps; i++) {
    if (i === switchedOn) {
      // What was measured at switching on stands from then on; what the cabin took on before is not the run's heat.
      startAirC += startCabinC! - cabin.airC;
      startMassC += startCabinC! - cabin.massC;
      cabin.airC = cabin.massC = cabin.sensedC = startCabinC!;
    }
    runStep(engine, i);
    bookComfort(engine);
    recordStep(engine);
    if ((untilReserve && run.reserveAt !== null) || ((untilReserve || untilCut) && supply.cut > CUT.none)) {
      run.steps = step.counted + 1;
      break;
    }
  }
  run.totals.heatStored =
    nodes.airHeatCapacity * (cabin.airC - startAirC) + nodes.massHeatCapacity * (cabin.massC - startMassC);
  run.stop = Number.isNaN(supply.stopAt) ? null : { at: supply.stopAt, cause: supply.stopCause };
  run.secondsCut = supply.secondsCut;
  return run;
}
