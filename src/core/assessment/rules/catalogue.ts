import type { RuleSet, RuleSetKey } from "../../reference/standards/rule-set";

/*
 * Every rule that Starts and Carries check, by its name: what it asks, and the clause it stands on in each rule set. The page
 * docs/rules.md is written from this table.
 */

export interface RuleEntry {
  /** In words for a list: "Cable protected by its fuse or breaker". */
  title: string;
  /** What it asks, in one sentence. */
  asks: string;
  /** Standard and clause, by rule set; one for all where it is the same. */
  clause: string | Record<RuleSetKey, string>;
  /** What a broken one is called: of several, the gravest. */
  broken: "Stop" | "Fails" | "Tight";
  group: "AC wiring" | "DC wiring" | "Batteries" | "Charging" | "Solar" | "Inverter and sources" | "Start";
}

const PRACTICE = "common practice, no source";

/** Clauses by rule set, the two European and the Australian ones from three texts. */
// oxlint-disable-next-line max-params -- one line of a table: its columns in order
const by = (usRoad: string, usBoat: string, euRoad: string, euBoat: string, auNz: string) =>
  ({ "us-road": usRoad, "us-boat": usBoat, "eu-road": euRoad, "eu-boat": euBoat, "au-nz": auNz }) as const;

export const RULES = {
  "ac-ampacity": {
    group: "AC wiring",
    title: "AC cable carries its load",
    asks: "The ampacity by the AC table, with air temperature, circuits run together and terminals, is at least the design current; on US jobs that is 125 % of a continuous load.",
    clause: by(
      "NEC 210.19(A), 310.16, 110.14(C)",
      "ABYC E-11, AC conductors",
      "IEC 60364-4-43, 433.1; IEC 60364-5-52",
      "ISO 13297; IEC 60364-5-52",
      "AS/NZS 3000, 2.5.3; AS/NZS 3008.1",
    ),
    broken: "Fails",
  },
  "ac-overcurrent": {
    group: "AC wiring",
    title: "AC cable protected by the device before it",
    asks: "The fuse or breaker that stands before a cable is not above its ampacity, whichever circuit the device sits in. US road: next standard size up, and 15 A on 14 AWG, 20 A on 12, 30 A on 10. US boat: next standard size up, at most 150 %.",
    clause: by(
      "NEC 240.4(B), 240.4(D), 240.6(A)",
      "ABYC E-11, overcurrent protection",
      "IEC 60364-4-43, 433.1",
      "ISO 13297, overcurrent protection",
      "AS/NZS 3000, 2.5.3.1",
    ),
    broken: "Stop",
  },
  "ac-smallest": {
    group: "AC wiring",
    title: "AC cable not under the smallest size",
    asks: "Fixed AC wiring is at least 14 AWG (US road), 16 AWG (US boat), 1.5 mm² (European road, Australia and New Zealand) or 1 mm² (European boat).",
    clause: by("NEC 310.3(A), 551.47", "ABYC E-11", "IEC 60364-7-721, 721.524", "ISO 13297", "AS/NZS 3000, 3.3"),
    broken: "Fails",
  },
  "ac-parallel": {
    group: "AC wiring",
    title: "No thin AC cables side by side",
    asks: "AC conductors are run in parallel only from 1/0 AWG or 50 mm² on: thinner ones do not share the current surely, and one breaker does not protect each.",
    clause: by(
      "NEC 310.10(G)",
      "NEC 310.10(G)",
      "IEC 60364-4-43, 433.4",
      "IEC 60364-4-43, 433.4",
      "AS/NZS 3000, 3.4.3",
    ),
    broken: "Fails",
  },
  "ac-breaker-load": {
    group: "AC wiring",
    title: "AC breaker carries its load",
    asks: "The breaker's rating is at least the design current of what it feeds; on US jobs 125 % of a continuous load.",
    clause: by(
      "NEC 210.20(A)",
      "ABYC E-11, branch circuits",
      "IEC 60364-4-43, 433.1",
      "ISO 13297",
      "AS/NZS 3000, 2.5.3.1",
    ),
    broken: "Fails",
  },
  "ac-output-breaker": {
    group: "AC wiring",
    title: "Output breaker lets the inverter give its rating",
    asks: "A breaker on the inverter's output is at least the inverter's rated current; a smaller one is safe but opens before the inverter is at its rating.",
    clause: PRACTICE,
    broken: "Tight",
  },
  "ac-interrupting": {
    group: "AC wiring",
    title: "Interrupting rating of an AC breaker",
    asks: "An AC breaker interrupts at least 3 kA (US 5 kA), the smallest that is sold; the supply's own short-circuit current is measured on site.",
    clause: by("NEC 110.9", "ABYC E-11", "IEC 60364-4-43, 434.5.1", "ISO 13297", "AS/NZS 3000, 2.5.4"),
    broken: "Fails",
  },
  "unit-mca": {
    group: "AC wiring",
    title: "Unit's circuit carries the minimum circuit ampacity",
    asks: "A cable that feeds one air conditioner carries the MCA on its plate, or 1.25 × compressor RLA + other loads.",
    clause: by("NEC 440.4(B), 440.33", "NEC 440.33", "plate of the unit", "plate of the unit", "plate of the unit"),
    broken: "Fails",
  },
  "unit-mocp": {
    group: "AC wiring",
    title: "Unit's breaker not over the largest device",
    asks: "The breaker of a circuit that feeds one air conditioner is at most the MOCP on its plate, or 2.25 × compressor RLA + other loads, rounded down to a standard size.",
    clause: by("NEC 440.22(A)", "NEC 440.22(A)", "plate of the unit", "plate of the unit", "plate of the unit"),
    broken: "Fails",
  },
  "supply-lead": {
    group: "AC wiring",
    title: "Supply lead by its rating and length",
    asks: "The lead from the supply has the copper that the table asks for its rating, and more in proportion where it is longer than the table's leads.",
    clause: by(
      "NEC 551.46(B)",
      "ABYC E-11, shore power cables",
      "IEC 60364-7-721, table 721",
      "IEC 60364-7-709",
      "AS/NZS 3001.2",
    ),
    broken: "Fails",
  },
  "supply-inlet": {
    group: "AC wiring",
    title: "Inlet protected by its breaker",
    asks: "The breaker behind the inlet is at most the inlet's rating, or the next size where none is made at it (16 A behind a 15 A inlet); an inverter-charger is limited to it.",
    clause: by(
      "NEC 551.45(B), 551.46",
      "ABYC E-11, shore power inlets",
      "IEC 60364-7-721, 721.55",
      "ISO 13297",
      "AS/NZS 3001.2",
    ),
    broken: "Fails",
  },
  "inlet-breaker": {
    group: "AC wiring",
    title: "Main breaker near a boat’s inlet",
    asks: "On a boat no more than 3 m (10 ft) of cable lie between the inlet and its main breaker.",
    clause: by("ABYC E-11", "ABYC E-11, main shore power disconnect", "ISO 13297", "ISO 13297", "AS/NZS 3004.2"),
    broken: "Fails",
  },
  "ac-drop": {
    group: "AC wiring",
    title: "Voltage drop, AC",
    asks: "The voltage lost there and back is at most the share allowed, 5 % unless the job says otherwise.",
    clause: by(
      "NEC 210.19(A), informational note",
      PRACTICE,
      "IEC 60364-5-52, annex G",
      PRACTICE,
      "AS/NZS 3000, 3.6.2",
    ),
    broken: "Fails",
  },
  "series-device": {
    group: "AC wiring",
    title: "Switches, inlets, connectors, busbars, shunts",
    asks: "Every part in series is rated at least as high as the fuse or breaker that protects it, or, where there is none, as the current that can flow.",
    clause: by("NEC 110.10, 551.45", "ABYC E-11", "IEC 60364-5-53, 536.4", "ISO 13297", "AS/NZS 3000, 2.5.1"),
    broken: "Fails",
  },
  residual: {
    group: "AC wiring",
    title: "Protection against current to earth on every AC source",
    asks: "Each circuit that an AC source (inverter output, shore inlet) feeds has a device before it that opens at 30 mA or less; 300 mA protects against fire only and does not count. US road: receptacles, which are the AC loads beside the hard-wired units, have a class A one, 4 to 6 mA.",
    clause: by(
      "NEC 210.8, 551.41(C)",
      "ABYC E-11, ELCI and GFCI",
      "IEC 60364-7-721, 721.415.1",
      "ISO 13297",
      "AS/NZS 3000, 2.6; AS/NZS 3001.2",
    ),
    broken: "Stop",
  },
  "residual-type": {
    group: "AC wiring",
    title: "Residual current device of the right type",
    asks: "Type A at least; type AC is refused in Australia and New Zealand and behind variable-speed units, and doubtful elsewhere; type F or B behind variable-speed drives as the unit's maker says.",
    clause: by(
      "UL 943",
      "UL 1053",
      "IEC 60364-5-53, 531.3.3; IEC 61008-1",
      "ISO 13297; IEC 61008-1",
      "AS/NZS 3000, 2.6.2.2",
    ),
    broken: "Fails",
  },
  "residual-poles": {
    group: "AC wiring",
    title: "All live conductors opened",
    asks: "A residual current device opens the neutral as well as the live conductor; on US boats the one at the inlet. US road: the neutral is grounded and stays closed.",
    clause: by("UL 943", "ABYC E-11", "IEC 60364-7-721, 721.43", "ISO 13297", "AS/NZS 3001.2"),
    broken: "Fails",
  },
  "sources-apart": {
    group: "Inverter and sources",
    title: "Inverter and shore kept apart",
    asks: "A transfer switch (or the one inside an inverter-charger) breaks one source before it makes the other, all poles; of several inlets each but one has a transfer switch of its own.",
    clause: by(
      "NEC 551.30(E), 551.33",
      "ABYC E-11, isolation of sources",
      "IEC 60364-5-55, 551.6",
      "ISO 13297, isolation of sources",
      "AS/NZS 3010",
    ),
    broken: "Stop",
  },
  "neutral-bond": {
    group: "Inverter and sources",
    title: "One bond of neutral and earth, in the source that feeds",
    asks: "The inverter bonds neutral to earth while it feeds and opens that bond on shore. Two bonds at once carry current in the earth conductor; none leaves an RCD or GFCI without the loop that it needs. A generator bonds its own while it feeds. Not said, it is Tight.",
    clause: by(
      "NEC 250.6, 551.30(C), 551.54",
      "ABYC E-11, neutral grounding",
      "IEC 60364-5-55, 551.4; IEC 60364-7-721",
      "ISO 13297, neutral",
      "AS/NZS 3000, 7.3; AS/NZS 3001.2",
    ),
    broken: "Stop",
  },
  "charging-loop": {
    group: "Inverter and sources",
    title: "Charger not on its own inverter",
    asks: "An AC charger is fed from the shore side of the transfer switch.",
    clause: PRACTICE,
    broken: "Stop",
  },
  "output-breaker": {
    group: "AC wiring",
    title: "Breaker on the inverter's output",
    asks: "The inverter's output has a breaker, unless the inverter cannot give more than the cable carries.",
    clause: by("NEC 551.30, 240.21", "ABYC E-11", "IEC 60364-4-43", "ISO 13297", "AS/NZS 3000, 2.5"),
    broken: "Stop",
  },
  "circuit-breaker": {
    group: "AC wiring",
    title: "Breaker before a unit's circuit",
    asks: "A unit's own circuit, a shore inlet and the AC side of a charger have a breaker before them.",
    clause: by("NEC 240.21", "ABYC E-11", "IEC 60364-4-43", "ISO 13297", "AS/NZS 3000, 2.5"),
    broken: "Stop",
  },
  "leg-load": {
    group: "Inverter and sources",
    title: "Each leg carries its load",
    asks: "On a supply of two legs each leg gives at most its half of the inverter's rating.",
    clause: by("NEC 220.61, 551.42", "ABYC E-11", PRACTICE, PRACTICE, PRACTICE),
    broken: "Fails",
  },
  "leg-balance": {
    group: "Inverter and sources",
    title: "Legs in balance",
    asks: "The loads of the two legs differ by no more than half of a leg's rating.",
    clause: PRACTICE,
    broken: "Tight",
  },
  "leg-voltage": {
    group: "Inverter and sources",
    title: "Voltage between the legs",
    asks: "A load between two legs needs an output of two legs: one output fed to both has no voltage between them.",
    clause: by("NEC 551.40(B)", "ABYC E-11", PRACTICE, PRACTICE, PRACTICE),
    broken: "Fails",
  },
  "shared-neutral": {
    group: "Inverter and sources",
    title: "Shared neutral carries both legs",
    asks: "One output fed to both legs adds their currents in a shared neutral: it is sized for the sum, or each circuit has a neutral of its own.",
    clause: by("NEC 210.4, 551.30", "ABYC E-11", PRACTICE, PRACTICE, PRACTICE),
    broken: "Stop",
  },
  "inverter-continuous": {
    group: "Inverter and sources",
    title: "Inverter carries everything that is on",
    asks: "The continuous rating, derated for the heat of its compartment, is at least the apparent power of all AC loads at once.",
    clause: "data sheet of the inverter",
    broken: "Fails",
  },
  "inverter-leads": {
    group: "Inverter and sources",
    title: "Several inverters: a fuse and equal leads each",
    asks: "Inverters in parallel or stacked each have a fuse and leads of one length, from a busbar rated for the sum.",
    clause: "data sheets of stacked inverters; ISO 13297; ABYC E-11",
    broken: "Fails",
  },
  generator: {
    group: "Inverter and sources",
    title: "Generator carries the units for hours",
    asks: "A generator that the plan counts on, derated by height, heat and its continuous share, carries all AC loads at once, with an inverter-charger's help where that assists; else the battery carries them and the generator only charges.",
    clause: "data sheet of the generator",
    broken: "Tight",
  },
  "dc-ampacity": {
    group: "DC wiring",
    title: "DC cable carries its current",
    asks: "The ampacity by the DC table, with route and air temperature, is at least the largest current for hours.",
    clause: by(
      "ABYC E-11, table VI",
      "ABYC E-11, table VI",
      "ISO 10133, table A.1",
      "ISO 13297, table A.1",
      "AS/NZS 3001.2",
    ),
    broken: "Fails",
  },
  "inverter-full-draw": {
    group: "DC wiring",
    title: "Main run carries the inverter's full draw",
    asks: "Cable and fuse between battery and inverter are sized for the inverter's rating at its low-voltage cut-off (rating ÷ efficiency ÷ volts), not for today's loads; the fuse at 125 % of it.",
    clause: by("ABYC E-11; NEC 551.30", "ABYC E-11, DC-AC inverters", PRACTICE, "ISO 13297", PRACTICE),
    broken: "Fails",
  },
  "dc-overcurrent": {
    group: "DC wiring",
    title: "DC cable protected by its fuse",
    asks: "The fuse or breaker of a DC cable is not above its ampacity; in the US the next standard size up is allowed, at most 150 %.",
    clause: by(
      "ABYC E-11, overcurrent protection",
      "ABYC E-11, overcurrent protection",
      "EN 1648; ISO 10133",
      "ISO 13297",
      "AS/NZS 3001.2",
    ),
    broken: "Stop",
  },
  "dc-fuse-load": {
    group: "DC wiring",
    title: "Fuse at 125 % of the current",
    asks: "A fuse is at least 125 % of the current that it carries for hours.",
    clause: PRACTICE,
    broken: "Fails",
  },
  "dc-voltage-rating": {
    group: "DC wiring",
    title: "Voltage rating of fuses and switches",
    asks: "A DC fuse, breaker or isolator is rated for the highest voltage of its side. Unknown, the lowest usual rating is taken: 32 V for a bolt-down strip.",
    clause: by("NEC 240.60, 110.4", "ABYC E-11", "ISO 10133", "ISO 13297", "AS/NZS 3001.2"),
    broken: "Stop",
  },
  "dc-interrupting": {
    group: "DC wiring",
    title: "Interrupting rating",
    asks: "A fuse at the battery can interrupt the largest short-circuit current that the battery may give: an upper bound from half of an assumed resistance without the BMS. Where it is not shown to be lower, a lithium battery wants 20 kA, class T or HRC, and is Tight until its resistance is stated; a lead-acid one wants 5 kA.",
    clause: by("NEC 110.9", "ABYC E-11, E-13", "IEC 60364-4-43, 434", "ISO 13297; ISO/TS 23625", "AS/NZS 3000, 2.5.4"),
    broken: "Stop",
  },
  "dc-withstand": {
    group: "DC wiring",
    title: "Cable withstands the short circuit",
    asks: "The copper withstands the energy that its fuse lets through: S ≥ √(I²t) ÷ k.",
    clause: "IEC 60364-5-54, 543.1.2",
    broken: "Stop",
  },
  "fuse-at-source": {
    group: "DC wiring",
    title: "A fuse at every source",
    asks: "Each circuit has a fuse at the battery, and the far side one at the starter battery: within 0.2 m (US 7 in) of bare cable, of sheathed cable within 1.83 m of a battery’s post and 1.02 m of a busbar.",
    clause: by(
      "ABYC E-11, 7 in and 72 in",
      "ABYC E-11, 7 in and 72 in",
      "EN 1648; ISO 10133, 200 mm",
      "ISO 13297, 200 mm",
      "AS/NZS 3001.2",
    ),
    broken: "Stop",
  },
  "dc-above-60": {
    group: "DC wiring",
    title: "Touch protection above 60 V DC",
    asks: "A battery that is charged to more than 60 V is outside the rule set’s extra-low voltage: live parts are covered, both poles are switched, its insulation is monitored and its devices are rated for it, by a licensed person.",
    clause: by("NEC 480.10, 110.27", "ABYC TE-30; ISO 16315", "IEC 60364-4-41", "ISO 16315", "AS/NZS 5139"),
    broken: "Stop",
  },
  "battery-switch": {
    group: "DC wiring",
    title: "A switch for the battery",
    asks: "In a vehicle or boat the battery can be switched off by an isolator, or a breaker that is one, in reach.",
    clause: by("NEC 551.20(D)", "ABYC E-11, battery switch", "EN 1648; ISO 10133", "ISO 13297", "AS/NZS 3001.2"),
    broken: "Fails",
  },
  "run-stated": {
    group: "DC wiring",
    title: "Every run has its cable, every supply its inlet",
    asks: "A run without a cable in the plan, or a supply without its inlet, is Tight: nothing of it is checked.",
    clause: PRACTICE,
    broken: "Tight",
  },
  "dc-drop": {
    group: "DC wiring",
    title: "Voltage drop, DC",
    asks: "The voltage lost there and back is at most the share allowed: 3 % to the inverter, 5 % elsewhere unless the job says otherwise.",
    clause: by(
      "ABYC E-11, 3 % and 10 %",
      "ABYC E-11, 3 % and 10 %",
      "EN 1648; " + PRACTICE,
      "ISO 13297",
      "AS/NZS 3001.2",
    ),
    broken: "Fails",
  },
  "breaker-heat": {
    group: "DC wiring",
    title: "Heat of a resettable DC breaker",
    asks: "The terminals of a DC breaker stay under 70 °C at the running current, by the square of the current.",
    clause: "UL 489; IEC 60947-2, table 7; " + PRACTICE,
    broken: "Fails",
  },
  "joint-heat": {
    group: "DC wiring",
    title: "Measured heat of joints",
    asks: "A joint or fuse is less than 20 K above its cable, and under 70 °C at the running current.",
    clause: PRACTICE,
    broken: "Stop",
  },
  "converter-rating": {
    group: "DC wiring",
    title: "Converter for DC loads",
    asks: "Loads of another voltage than the battery's are fed by a converter rated for all of them at once.",
    clause: PRACTICE,
    broken: "Fails",
  },
  "dc-unit": {
    group: "DC wiring",
    title: "DC unit on a branch of its own",
    asks: "A DC air conditioner has its own branch and fuse, and a supply voltage that is the battery's.",
    clause: "plate of the unit; " + PRACTICE,
    broken: "Fails",
  },
  "bank-voltage": {
    group: "Batteries",
    title: "Voltage under load",
    asks: "With everything on and the battery at its reserve, the volts stay above the inverter's cut-off, that of every DC unit and the battery's low-voltage stop.",
    clause: "data sheets of inverter, DC units and battery",
    broken: "Fails",
  },
  "bms-discharge": {
    group: "Batteries",
    title: "BMS's discharge current",
    asks: "The battery that gives most, at least a tenth over an equal share, stays within the continuous current of its BMS.",
    clause: "data sheet of the battery",
    broken: "Fails",
  },
  "battery-fuses": {
    group: "Batteries",
    title: "A fuse for each battery in parallel",
    asks: "Lithium batteries in parallel each have a fuse of their own, since a fault in one is fed by the others; it is not above what its lead carries. Two lead-acid batteries may stand behind one fuse; from three on it is Tight.",
    clause: by("ABYC E-11, E-13", "ABYC E-11, E-13", "IEC 62485-5", "ISO/TS 23625", "AS/NZS 5139"),
    broken: "Stop",
  },
  "battery-leads": {
    group: "Batteries",
    title: "Leads and links of batteries in parallel",
    asks: "The lead of each battery in parallel carries 125 % of its share, unequal as it is, of the inverters' full draw or of all charging; each link of a chain carries what flows in it and is protected by the main fuse.",
    clause: by("ABYC E-11", "ABYC E-11", "IEC 60364-4-43, 433.1", "ISO 13297; IEC 60364-4-43, 433.1", "AS/NZS 3001.2"),
    broken: "Fails",
  },
  "battery-series": {
    group: "Batteries",
    title: "Batteries in series",
    asks: "No more batteries stand in series than their maker allows.",
    clause: "data sheet of the battery",
    broken: "Fails",
  },
  "charge-voltage": {
    group: "Charging",
    title: "Charging voltage within what the cells bear",
    asks: "The battery is charged to no more than 3.65 V a cell (LFP), 4.2 V (NMC) or 2.5 V (AGM).",
    clause: by("ABYC E-13", "ABYC E-13", "IEC 62619; data sheet", "ISO/TS 23625", "AS/NZS 5139"),
    broken: "Stop",
  },
  "charge-current": {
    group: "Charging",
    title: "All charging currents together",
    asks: "Solar, engine, charger and inverter-charger together bring no more than the battery may take at its temperature.",
    clause: "data sheet of the battery",
    broken: "Fails",
  },
  frost: {
    group: "Charging",
    title: "No lithium charging in frost",
    asks: "Something keeps a lithium battery from being charged below 0 °C, whatever charges it: solar, engine, charger or inverter-charger.",
    clause: by("ABYC E-13", "ABYC E-13", "IEC 62619; data sheet", "ISO/TS 23625", "AS/NZS 5139"),
    broken: "Stop",
  },
  "engine-control": {
    group: "Charging",
    title: "Engine charging follows the engine",
    asks: "Engine charging is switched by the running engine, not by the ignition alone.",
    clause: by("NEC 551.20; " + PRACTICE, "ABYC E-11", "EN 1648-1", PRACTICE, PRACTICE),
    broken: "Fails",
  },
  "isolator-banks": {
    group: "Charging",
    title: "Isolator joins like batteries only",
    asks: "An isolator or relay joins batteries of the same nominal voltage whose charging voltages agree; others need a converter.",
    clause: PRACTICE,
    broken: "Stop",
  },
  "solar-voltage": {
    group: "Solar",
    title: "String voltage on the coldest morning",
    asks: "The open-circuit voltage of the longest string at the lowest temperature, by the table for crystalline silicon, is at most the controller’s largest PV voltage.",
    clause: by("NEC 690.7(A)", "NEC 690.7(A)", "IEC 62548, 7.2", "IEC 62548, 7.2", "AS/NZS 5033, 4.2"),
    broken: "Stop",
  },
  "solar-strings": {
    group: "Solar",
    title: "Strings pass the battery’s volts",
    asks: "Hot and at work every string passes the charging volts of the battery by what a tracker needs; the panels divide into whole strings, and strings on one controller have one voltage.",
    clause: by("NEC 690.7", "NEC 690.7", "IEC 62548, 5.1", "IEC 62548, 5.1", "AS/NZS 5033"),
    broken: "Fails",
  },
  "solar-current": {
    group: "Solar",
    title: "Array current",
    asks: "Array cable, isolator and controller carry 1.25 × the short-circuit current of all strings (1.56 × in the US).",
    clause: by("NEC 690.8", "NEC 690.8", "IEC 62548, 7.4", "IEC 62548, 7.4", "AS/NZS 5033, 4.4"),
    broken: "Fails",
  },
  "solar-string-fuse": {
    group: "Solar",
    title: "A fuse for each string from three on",
    asks: "From three strings in parallel each has a fuse, since the others can feed a fault in one: 1.5 × (1.56 × in the US) to 2.4 × its short-circuit current, and no more than the panel’s label allows.",
    clause: by("NEC 690.9", "NEC 690.9", "IEC 62548, 6.5.3", "IEC 62548, 6.5.3", "AS/NZS 5033, 3.3"),
    broken: "Stop",
  },
  "solar-circuit": {
    group: "Solar",
    title: "Panels have a circuit",
    asks: "Panels on the job have a solar circuit in the wiring: without it nothing of theirs is checked.",
    clause: PRACTICE,
    broken: "Tight",
  },
  "solar-isolator": {
    group: "Solar",
    title: "Isolator on the array side",
    asks: "The array can be switched off before the controller.",
    clause: by("NEC 690.13", "NEC 690.13", "IEC 62548, 7.3.4", "IEC 62548, 7.3.4", "AS/NZS 5033, 4.3"),
    broken: "Fails",
  },
  "start-inverter": {
    group: "Start",
    title: "Inverter surge",
    asks: "At every moment of the start the inverter's surge, derated by heat, is at least the apparent power asked for; on two legs, of each leg.",
    clause: "data sheet of the inverter",
    broken: "Fails",
  },
  "start-voltage": {
    group: "Start",
    title: "Voltage at the start",
    asks: "At the start's largest real power the volts stay above the inverter's cut-off, that of every DC unit and the battery's stop.",
    clause: "data sheets of inverter, DC units and battery",
    broken: "Fails",
  },
  "start-protection": {
    group: "Start",
    title: "BMS at the start",
    asks: "The battery's current stays within the peak and then the continuous current of its BMS.",
    clause: "data sheet of the battery",
    broken: "Fails",
  },
  "start-fuse": {
    group: "Start",
    title: "Fuse carries the start",
    asks: "The fuse is sure to carry the start for as long as it lasts.",
    clause: "ISO 8820-5, time-current band",
    broken: "Fails",
  },
  "start-breaker": {
    group: "Start",
    title: "AC breaker carries the start",
    asks: "Every AC breaker between inverter and unit is sure to pass the start: its magnetic trip (B 3, C 5, D 10 times its rating at least) and its thermal element.",
    clause: by(
      "maker’s time-current band",
      "maker’s time-current band",
      "IEC 60898-1, table 7",
      "IEC 60898-1, table 7",
      "IEC 60898-1, table 7",
    ),
    broken: "Fails",
  },
  "start-rest": {
    group: "Start",
    title: "Rest between stop and start",
    asks: "A compressor rests three minutes before it starts again.",
    clause: PRACTICE,
    broken: "Fails",
  },
  waveform: {
    group: "Start",
    title: "Sine wave for electronics",
    asks: "A variable-speed unit or a soft starter is fed by a sine wave.",
    clause: "data sheets of soft starters and variable-speed units",
    broken: "Fails",
  },
} as const satisfies Record<string, RuleEntry>;

export type RuleId = keyof typeof RULES;

/** Standard and clause of a rule for a job's rule set. */
export function clauseOf(id: RuleId, rules: RuleSet): string {
  const { clause } = RULES[id] as RuleEntry;
  return typeof clause === "string" ? clause : clause[rules.key];
}

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
