/*
 * The generic series: middling prices, masses and sizes of the trade, from memory, in the job's currency. Every one of them is
 * open to change in the target, and the workshop's own shelf takes their place.
 */

// oxlint-disable-next-line max-params -- one line of a table: its columns in order
const battery = (
  name: string,
  chemistry: "lfp" | "agm",
  blockVoltage: number,
  capacityAh: number,
  series: number,
  cost: number,
  mass: number,
  space: number,
) => ({ name, chemistry, blockVoltage, capacityAh, series, cost, mass, space });

/** Blocks for a battery of about so many volts: lithium in two sizes, and lead-acid beside. */
function batteries(volts: number) {
  const nominal = volts > 40 ? 4 : volts > 20 ? 2 : 1;
  const word = `${nominal * 12} V`;
  return [
    battery(`100 Ah LFP, ${word}`, "lfp", 12.8, 100, nominal, 330, 11, 13),
    battery(`280 Ah LFP, ${word}`, "lfp", 12.8, 280, nominal, 820, 27, 28),
    battery(`100 Ah AGM, ${word}`, "agm", 12, 100, nominal, 190, 29, 13),
  ];
}

/** Space with the air that it needs about it. */
const inverter = (kva: number, cost: number, mass: number, space: number) => ({
  name: `${kva} kVA`,
  rating: kva * 1000,
  cost,
  mass,
  space,
});

const lot = (cost: number, mass: number, space = 0) => ({ cost, mass, space });

export const CATALOGUE = {
  batteries,
  panel: { name: "200 W panel", power: 200, length: 1.48, width: 0.67, cost: 150, mass: 11 },
  inverters: [inverter(1.5, 420, 6, 10), inverter(2, 560, 8, 13), inverter(3, 820, 12, 19), inverter(5, 1450, 22, 34)],
  prices: {
    softStarter: lot(300, 1, 1.5),
    variableUnit: lot(900, 6),
    outsideBlinds: lot(140, 4),
    awning: lot(650, 24),
    insulation: lot(600, 25),
    generator: lot(950, 22, 60),
    engineAmp: lot(7, 0.06, 0.08),
    controllerWatt: lot(0.35, 0.004, 0.005),
    cable: lot(0.2, 0.012),
    fuse: lot(45, 0.3, 0.5),
  },
};
