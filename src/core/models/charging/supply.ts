import { voltageClass } from "../../document/defaults";

/** Share of its rating that a generator gives: 3 % less for each 300 m and 1 % for each 5 K over 25 degC (memory). */
export function generatorDerate(altitude: number, temperatureC: number): number {
  return Math.max(0.2, (1 - 0.03 * (altitude / 300)) * (1 - (0.01 * Math.max(0, temperatureC - 25)) / 5));
}

/** Volts at which vehicle systems charge, and what a converter loses. */
export const ALTERNATOR_VOLTS = 13.9;
const CONVERTER = 0.92;

/**
 * Watts an alternator brings to the battery: what is left of its hot (and idling) rating after the vehicle's own draw, no
 * more than the converter's or isolator's current at the battery's volts.
 */
export function alternatorPower(engine: {
  rated: number;
  hotFactor: number;
  idleFactor: number;
  vehicle: number;
  limit: number;
  bankVolts: number;
  converter: boolean;
  idle: boolean;
}): number {
  const left = engine.rated * engine.hotFactor * (engine.idle ? engine.idleFactor : 1) - engine.vehicle;
  const passed = Math.max(0, left) * ALTERNATOR_VOLTS * (engine.converter ? CONVERTER : 1);
  return Math.min(passed, engine.limit * engine.bankVolts);
}

/** What chargers lose between mains and battery: common practice, no source. */
export const CHARGER_EFFICIENCY = 0.9;

/** Whether an isolator may join a vehicle's system and a battery: both of one voltage class. */
export const joinsAlike = (vehicle: number, bankVoltage: number): boolean =>
  Math.abs(voltageClass(vehicle) - voltageClass(bankVoltage)) < 1;
