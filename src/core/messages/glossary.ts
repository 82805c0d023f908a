/** Terms that a reader may meet first here, each in a sentence. */
export const GLOSSARY: readonly (readonly [term: string, meaning: string])[] = [
  [
    "Assumed, plate, measured",
    "Where a value comes from. An open ring is assumed, a half ring is from the plate or stated, a full ring is measured.",
  ],
  [
    "BMS",
    "Battery management system: the electronics of a lithium battery that open its circuit at too low a voltage or too much current.",
  ],
  ["Curtailed solar", "Solar power that the panels could give but that is not taken because the battery is full."],
  [
    "Cut-off",
    "The moment at which the inverter, the BMS or the air conditioner switches off because the voltage is too low.",
  ],
  [
    "Design day",
    "The day of the month that every figure stands on: mild, typical, hot, or with your own temperatures.",
  ],
  [
    "Duty cycle",
    "The part of the time that the compressor is on; for a variable-speed unit its cooling over full cooling.",
  ],
  [
    "Energy missing a day",
    "How much more energy a day would have to go into the battery to keep it above its reserve.",
  ],
  ["Hand method", "Usable charge divided by one constant load, as it is done on paper."],
  ["Holding the set point", "The air conditioner after it has cooled down, keeping its temperature."],
  ["LRA", "Locked-rotor amps: the current of a compressor at the instant of its start. It is on the plate."],
  ["MCA, MOCP", "Minimum circuit ampacity, and the largest breaker or fuse allowed, on the plate of the unit."],
  ["Peak sun hours", "Sun on the level over a day, in hours at 1000 W/m²: 5 h is 5 kWh/m²."],
  [
    "RCD, GFCI",
    "Residual current device, ground-fault circuit interrupter: opens when current flows to earth, as through a person.",
  ],
  ["Reserve", "The state of charge that is kept in the battery."],
  ["RLA", "Rated-load amps: the running current on the plate."],
  ["Sensible heat ratio", "The part of the cooling that lowers the temperature; the rest dries the air."],
  ["SoC", "State of charge: how full the battery is, in percent."],
  ["State of health", "Capacity that is left, in percent of the nameplate."],
  ["Voc, Isc", "Open-circuit voltage and short-circuit current of a solar panel, on its label."],
  ["Weakest link", "The part or limit that decides a verdict: the one nearest to failing."],
];
