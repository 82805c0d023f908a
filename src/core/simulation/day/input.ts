import type { BankModel } from "../../models/battery/battery";
import type { CabinModel } from "../../models/cabin/cabin";
import type { Weather } from "../../reference/weather/weather";
import type { UnitParameters } from "../kernel/control";
import type { InverterParameters } from "../kernel/supply";
import type { Schedule, Surroundings } from "./prepare";

/** Everything a run holds constant. Powers in W, charge in Ah, resistances in ohm. */
export interface SimulationParameters {
  cabin: CabinModel;
  units: UnitParameters[];
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
  inverter: InverterParameters;
  /** W of the brief's other loads on average. */
  mainsLoad: number;
  dcLoad: number;
  /** W from the battery for each W of the plan's DC loads. */
  converterLoss: number;
  /** W that each mains source can give at most, and A of the charger behind it. */
  shoreLimit: number;
  /** An inverter-charger adds from the battery what the supply's limit leaves short. */
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

export interface SimulationInput {
  job: SimulationParameters;
  weather: Weather;
  schedule: Schedule;
  surroundings: Surroundings;
  /** W that the solar controllers could pass, and W that the generator can give, at each step. */
  solar: Float64Array;
  generator: Float64Array;
  /** Steps before the first that counts: the cabin takes on the day's heat, the battery waits, the units rest. */
  warmUpSteps: number;
  startSoc: number;
  neverResting: boolean;
  /** Ends the run at the reserve, or where supply from the battery ends. */
  untilReserve: boolean;
  /** Ends the run where supply from the battery ends. */
  untilCut: boolean;
  /** Air and furniture of the cabin when the run begins, degC; as the hours before it leave them where it is null. */
  startCabinC: number | null;
  /** What the warm-up leaves, where it was run before: it hangs neither on the charge nor on the sources. Else null. */
  warmedUp: CabinState | null;
}

/** Air and mass of a cabin and what a thermostat's sensor shows of its air, degC, and the humidity ratio of that air. */
export interface CabinState {
  airC: number;
  massC: number;
  sensedC: number;
  humidity: number;
}
