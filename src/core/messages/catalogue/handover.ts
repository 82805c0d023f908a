/** What the customer, the next visit and the commissioning read. */
export const HANDOVER_MESSAGES = {
  "handover.photoNotSent": "The device that took this photo has not sent it yet.",
  "handover.coolDownBeforeSunset": "Cool the cabin down before sunset, while the panels still give power.",
  "handover.coolDownBeforeNight": "Cool the cabin down before the night, on shore power where there is any.",
  "handover.twoDegreesWarmerLow": "A set point two degrees warmer, and the low fan, add hours.",
  "handover.shadeFirstBlindsAwning":
    "Shade first: blinds, awning, a place under trees. Windows and hatches shut while it cools.",
  "handover.afterMidnightFanAlone": "After midnight the fan alone is often enough.",
  "handover.lookStreamOverboardEvery":
    "Look at the water stream overboard at every start; clean the strainer every week in use.",
  "handover.chargeFullOnceWeek": "Charge to full once a week, so that the percentage shown stays right.",
  "handover.doNotSwitchOff": "Do not switch it off and on again: five minutes’ rest before a restart.",
  "handover.doNotRunKettle": "Do not run a kettle, microwave or heater at the same time unless the installer said so.",
  "handover.doNotLeavePerson": "Do not leave a person or an animal that depends on the cooling alone.",
  "handover.doNotChargeBattery": "Do not charge the battery below freezing.",
  "handover.doNotLeaveBattery": "Do not leave the battery empty: charge it the same day.",
  "handover.doNotCoverInverter": "Do not cover the inverter or its vents.",
  "handover.doNotOpenCovers": "Do not open covers: the terminals behind can kill.",
  "handover.batteryIsolatedEveryConnection":
    "Battery isolated: every connection of the high-current circuit to its maker’s torque; look for colour and play.",
  "handover.thenWiringBatteryInverter":
    "Then measure the wiring from battery to inverter at full draw: {path} when sound.",
  "handover.unitOffSeaCock":
    "Unit off, sea-cock shut. Open it again, and look for a full stream overboard at the next start.",
  "handover.runningAmpsAfterTen":
    "Running current after ten minutes: {running} when sound; more where the air flow is blocked.",
  "handover.shoreInverterOneDoes":
    "On shore and on the inverter. If it does not trip, do not use that supply and call a licensed person.",
  "handover.clearNoonBatteryNot":
    "At noon under a clear sky, battery not full: about {solar}. Roof: not when wet, not alone.",
  "handover.synchronisedFullCutOff":
    "Discharge from full, monitor synchronised, to the cut-off at a usual draw: {capacity} when the battery is as at handover; reserve at {reserve}. Record it as a test run, so that the next forecast uses this battery.",
  "handover.smokeCarbonMonoxideTheir":
    "Smoke and carbon monoxide alarms: press the test button, read the date of each. Vents of battery and inverter free.",
  "handover.fullBatterySwitchedLeft":
    "From a full battery, switched on at {from} and left on, set to {degrees}, without driving, shore power or generator. Estimates from the system’s own values: weather, open doors and people change them.",
  "handover.notWrittenDownYet": "Not written down yet: ask the installer before you need them.",
  "handover.doNotUseSystem": "Do not use the system before these are put right.",
  "handover.makersOwnSettingsCome": "The makers’ own settings come before these.",
  "handover.stillUnderWay": "Still under way.",
  "handover.reserveAfter": "Battery at its reserve after {reserveH}.",
  "handover.endedBeforeReserve": "Ended before its reserve{value}.",
  "handover.nothingMeasuredYetRun": "Nothing measured yet: commissioning has not been done.",
  "handover.isDesign": "A design: nothing of it was measured, and it is not a record of work done.",
  "handover.isBeingFitted": "Being fitted: steps of the commissioning are still to do.",
  "handover.isCommissioned": "Commissioned: every step of the run sheet was done and passed.",
  "handover.isCommissionedWithFaults": "Commissioned with faults: not everything passed, or a stop stands.",
  "handover.notForSignature":
    "Not for signature: it is signed as built and measured once every step of the commissioning has passed and no stop stands.",
  "handover.inspectionOpen":
    "Not for signature yet: {open, plural, one {# point of the inspection sheet is} other {# points of the inspection sheet are}} open. Each is seen, measured, or does not apply for a reason.",
  "handover.notCheckedHere":
    "Neither the calculation nor the run sheet looks at these. A licensed person checks them on site, by the rules in force.",
  "handover.extinguisherHow":
    "Within reach, for electrical fires. A thermometer goes round joints, cables and devices every five minutes: at 70 °C anywhere, or a smell, switch off and note where.",
  "handover.hottestHow":
    "Go along the whole circuit with the probe every five minutes. At 70 °C the draw ends: switch off, let it cool, and make that joint anew before anything is drawn again.",
  "handover.polarityHow":
    "With everything dead, by continuity: live to live, neutral to neutral, earth to earth, from each source to each outlet; DC plus to plus.",
  "handover.signedBuiltMeasuredLocal":
    "Signed as built and measured. The local authority and the makers’ instructions come before this document.",
  "handover.partPartBatteryOutward":
    "Part by part from the battery outward: sizes, ratings, fuses at both ends where two sources meet, torque marks.",
  "handover.inverterOffSwitchBattery": "Inverter off at its switch, battery isolated, shore unplugged, generator off.",
  "handover.voltsInverterSDc": "Volts at the inverter’s DC terminals; prove the meter before and after.",
  "handover.throughResistorRatedThen": "Discharge through a resistor rated for it, then prove.",
  "handover.licensedPersonUnderLocal": "By a licensed person under the local rules, before anything is energised.",
  "handover.voltsTerminalsHourAfter":
    "Volts at its terminals, an hour after any charge or draw. Fuse first, last connection last.",
  "handover.untilTailCurrentHas":
    "Until the tail current has been low for minutes; the monitor shows full and synchronises.",
  "handover.ratedCurrentShoreInverter":
    "Tested at its rated current, from shore and from the inverter: enter the longer of the two times.",
  "handover.switchOverBothWays":
    "Switch over both ways under a small load: both are dead in between, and no position joins them.",
  "handover.localRulesSayTested": "As the local rules say, tested on every source by a licensed person.",
  "handover.shoreGeneratorOffInverter":
    "Shore and generator off, inverter on: look at the charger’s lamp and the monitor. The charger must stay off.",
  "handover.fiveStartsShoreGenerator":
    "Five starts on shore or a generator, any economy mode off, five minutes’ rest between starts.",
  "handover.fiveMinutesRestBetween":
    "With the battery at its reserve, the sun off the panels, and everything on that may be on: five minutes’ rest between starts. A full battery shows nothing.",
  "handover.tenMinutesIntoRun":
    "Ten minutes into the run, measured in the water stream, which must be full and steady.",
  "handover.afterHalfHourCooling": "After half an hour of cooling, look at the drain’s outlet and under the unit.",
  "handover.handPipesWhileStarts":
    "Hand on the pipes while it starts, runs and stops; cables held within a hand of each terminal.",
  "handover.raiseMomentOverRunning":
    "Raise it for a moment over the running volts: the inverter stops cleanly, shows why, and restarts by itself or not, as agreed. Set the value back.",
  "handover.ignitionEngineOffNothing": "Ignition on, engine off: nothing is taken from the starter battery.",
  "handover.testRunHourLeast": "Record a test run of an hour at least: its forecast is the run time that is promised.",
  "handover.smokeCarbonMonoxideWho":
    "Smoke and carbon monoxide alarms. Whoever depends on the cooling is not left alone.",
  "handover.estimateNotApprovalLocal": "Estimate, not approval: local rules and the makers’ instructions come first.",
} as const;
