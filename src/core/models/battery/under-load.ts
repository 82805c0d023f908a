/** Current of a constant-power load behind a resistance, and the volts left at it. */
export interface UnderLoad {
  current: number;
  voltage: number;
  /** True where the source cannot deliver the power at all; current and voltage are then those of the most it can. */
  collapsed: boolean;
  /** Current to hold against limits: as above, and past the collapse that of the power at half the rest voltage. */
  asked: number;
}

/**
 * Solves P = V I with V = E - I R: I = (E - sqrt(E^2 - 4 R P)) / 2R, for P >= 0, R >= 0, E > 0.
 * Nothing solves it above E^2 / 4R: the voltage collapses, which is an answer and not an error. The asked current,
 * 2P / E from there on, joins on without a step and so never falls when power or resistance rise.
 */
export function constantPower(openCircuitVoltage: number, resistance: number, power: number): UnderLoad {
  const root = openCircuitVoltage * openCircuitVoltage - 4 * resistance * power;
  if (root < 0)
    return {
      current: openCircuitVoltage / (2 * resistance),
      voltage: openCircuitVoltage / 2,
      collapsed: true,
      asked: (2 * power) / openCircuitVoltage,
    };
  // 2P / (E + sqrt(..)) is the same root without cancellation, and holds for R = 0.
  const current = (2 * power) / (openCircuitVoltage + Math.sqrt(root));
  return { current, voltage: openCircuitVoltage - current * resistance, collapsed: false, asked: current };
}

export interface BankUnderLoad {
  /** Out of the bank. */
  bankCurrent: number;
  bankVoltage: number;
  /** Along the path to the inverter. */
  pathCurrent: number;
  inverterVoltage: number;
  collapsed: boolean;
  /** As for a single load: currents to hold against limits, past a collapse as well. */
  askedPathCurrent: number;
  askedBankCurrent: number;
}

/**
 * A battery feeding an inverter through a path, and other DC loads at its own terminals, all of constant power.
 * The side load is settled by fixed-point steps; it is small beside the inverter, so three are exact to a part in 1e6.
 */
// oxlint-disable-next-line max-params -- solved at every step of every run: an object for its numbers would be made each time
export function bankUnderLoad(
  restVoltage: number,
  bankResistance: number,
  pathResistance: number,
  pathPower: number,
  sidePower: number,
): BankUnderLoad {
  let sideCurrent = sidePower / restVoltage;
  let main = constantPower(restVoltage, bankResistance + pathResistance, pathPower);
  for (let step = 0; step < 4 && sidePower > 0; step++) {
    // Never below half of rest: there the side load, too, is past what the battery can give.
    const seen = Math.max(restVoltage / 2, restVoltage - sideCurrent * bankResistance);
    main = constantPower(seen, bankResistance + pathResistance, pathPower);
    const terminal = restVoltage - (main.current + sideCurrent) * bankResistance;
    sideCurrent = sidePower / Math.max(restVoltage / 4, terminal);
  }
  const bankCurrent = main.current + sideCurrent;
  const bankVoltage = restVoltage - bankCurrent * bankResistance;
  return {
    bankCurrent,
    bankVoltage,
    pathCurrent: main.current,
    inverterVoltage: bankVoltage - main.current * pathResistance,
    askedPathCurrent: main.asked,
    askedBankCurrent: main.asked + sideCurrent,
    collapsed: main.collapsed || bankVoltage < restVoltage / 2,
  };
}
