/** What no rule here looks at: a surveyor checks it on site. */
export const NOT_CHECKED = [
  "Earth-fault loop impedance, touch voltage and disconnection times of AC circuits: measure them.",
  "The short-circuit current of the shore supply, and the withstand of AC cables against it.",
  "The interrupting rating of the fuse at each battery in parallel: it faces what all the others feed into one.",
  "Discrimination between fuses and breakers in series.",
  "Size and routing of protective and bonding conductors, galvanic isolation and lightning protection of boats.",
  "Ignition protection, ingress protection, mechanical protection and fixing of cables, gas-tightness of battery spaces.",
  "Ventilation of lead-acid batteries, fire separation of lithium batteries from the living space.",
  "Three-phase supplies.",
] as const;
