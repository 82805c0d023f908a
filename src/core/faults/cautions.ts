/** Cautions of the trade, in the place where the work is: plain, short. */
export const CAUTIONS = {
  isolate:
    "Isolate, lock off, prove dead: inverter off at its switch, battery isolated, shore unplugged, generator off. Two sources can feed one wire.",
  capacitor:
    "A capacitor keeps a lethal charge. Discharge it through a resistor rated for it, then prove it before touching.",
  bank: "A battery delivers thousands of amps into a dropped tool. Insulated tools, no jewellery, fuse first, last connection last.",
  refrigerant: "Refrigerant circuits are for certified people. Do not open a circuit, do not bend pipes hard.",
  roof: "Roof work: a fall, a fragile roof, wind. Not alone, not wet.",
  bypass:
    "Never bypass a protection to make a start succeed. Never feed an inverter’s output into shore. Never put a charger on its own inverter.",
  mains:
    "Mains wiring, shore and generator connections belong to licensed people under the local rules; an earth-leakage test is theirs.",
  heat: "Nobody who depends on the cooling, person or animal, is left alone with it: supervision and an alarm.",
  carbon: "A generator gives carbon monoxide: outside, down wind, with an alarm inside.",
  afloat: "Afloat: sea-cock shut before a strainer is opened; ignition protection and bonding kept.",
  hydrogen: "Lead-acid gives hydrogen while it charges: air it, no sparks.",
  frost: "No charging of lithium below freezing.",
  hot: "A joint that carries full current can burn: measure without touching.",
  estimate:
    "An estimate, not an approval: the local rules, their authority and the makers’ instructions come before it.",
} as const;
export type CautionKey = keyof typeof CAUTIONS;
