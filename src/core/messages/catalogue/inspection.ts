/** How each point of the inspection sheet is looked at or measured. */
export const INSPECTION_MESSAGES = {
  "inspection.earthSizes": "At least, by the breaker before it or the conductor beside it: {sizes}.",
  "inspection.inverterCase":
    "A conductor of its own leads from the case to the DC negative busbar or the chassis, no more than one size thinner than the DC cable.",
  "inspection.fixing":
    "Held at least every 450 mm, and where it turns; grommets where it passes an edge; nothing rests on a hot pipe or moves against it.",
  "inspection.cableKind":
    "Stranded copper, never solid wire; insulation for its place and heat; colours as the rule set has them.",
  "inspection.lugs":
    "Each lug is crimped with the die made for it and holds a firm pull; each terminal is tightened to its maker’s torque and marked; every live post has its cover.",
  "inspection.apart": "Mains cables do not lie loose among DC cables: apart, in their own duct, or sheathed for both.",
  "inspection.disconnects":
    "The battery’s switch, the inlet’s breaker and the panels’ isolator are where the plan has them and can be reached without a tool.",
  "inspection.labels":
    "In place and to be read: inverter on board, more than one source, battery switch, supply inlet, isolators, and what to switch off first.",
  "inspection.breakerPoles":
    "Two poles where live and neutral can be exchanged, as at a campsite or a pontoon; no fuse or switch in a protective conductor.",
  "inspection.discrimination": "With a fault behind the last breaker, that breaker opens and none before it.",
  "inspection.clearance": "Nothing is stored before the panel, and there is room to stand and work at it.",
  "inspection.surgeArc": "Surge protection and arc-fault devices are fitted where the local rules ask for them.",
  "inspection.batteryPlace":
    "Held so that it does not move in a crash or a knock-down, out of the engine’s heat, terminals covered, nothing loose above it.",
  "inspection.batteryVent": "Its space is vented to the outside at the top, and no spark or switch is in it.",
  "inspection.batteryApart":
    "A lithium battery is parted from where people sleep by a wall that does not burn, and its place can be reached.",
  "inspection.bms": "The BMS was tried: it opens at its low and its high voltage, and it stops charging in the cold.",
  "inspection.cells":
    "Cells are new or tested, of one kind and age, sorted by capacity and resistance, pressed as their maker asks, and each is watched.",
  "inspection.listing":
    "The inverter is approved for a vehicle or boat where that is asked, and its DC input covers {low} to {high}.",
  "inspection.galvanic":
    "A galvanic isolator or an isolation transformer stands in the supply’s protective conductor, and was tested.",
  "inspection.bonding": "The boat’s bonding and the AC protective conductor meet at one place.",
  "inspection.ignition": "Where petrol vapour can be, every device that may spark is ignition protected.",
  "inspection.gas": "Devices that spark are away from gas lockers, cylinders and valves, as the local gas rules ask.",
  "inspection.alarms":
    "Alarms for smoke and carbon monoxide, and for gas where there is any, were tried by their buttons.",
  "inspection.inlet":
    "It has its cover and faces down or is under it; its pins are never live when nothing is plugged in, with every source on.",
  "inspection.generator":
    "Its exhaust and its fuel are outside the living space, its cable is for outdoors, and nobody feeds the inverter by an extension lead.",
  "inspection.panelConnectors": "Both halves of each plug are of one make, crimped with their tool, and off the roof.",
  "inspection.panelFaults":
    "Frames are bonded; earth-fault and arc-fault protection is fitted where the local rules ask.",
  "inspection.receptacles":
    "Each receptacle is opened by the test button of a tester in it, not by the device’s own button.",
  "inspection.earthContinuity":
    "Everything off and proved dead. From the main earth terminal to the far end of the circuit, the leads’ own resistance taken off.",
  "inspection.insulation":
    "Everything off, electronics and surge protection unplugged. Live and neutral together to earth, at 500 V DC.",
  "inspection.polarity": "Live, neutral and earth are where they belong at the far end, by a tester.",
  "inspection.loop": "On the supply, with the inverter off: from live to earth at the far end, by a loop tester.",
  "inspection.tripTime": "At its rated current to earth, behind it, by a tester; once on each half wave.",
  "inspection.tripCurrent": "By the tester’s ramp: the current to earth at which it opens.",
  "inspection.millivolts":
    "At full draw, from one side of the part to the other, on the copper of the lugs and not on the bolt.",
  "inspection.jointHeat":
    "After 40 minutes at full draw, by a probe or on dull tape. End the draw at once where one comes to 70 °C.",
  "inspection.answered": "Points answered: {answered} of {points}. Still open: {open}.",
  "inspection.licensed":
    "Work on mains voltage and its tests are for licensed persons where the local rules say so. Limits are typical readings of the standards named: those in force win.",
} as const;
