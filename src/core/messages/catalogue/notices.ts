/** What is said beside the work, cautions for the hands, and what the rules of structure ask for and why. */
export const NOTICE_MESSAGES = {
  "notices.modifiedSineOutputMotors":
    "Modified-sine output: motors run hotter, hum and cool less. Expect more than the power given here.",
  "notices.startPeakInverterSees":
    "At the start peak the inverter sees {inverterVoltage}: under its alarm, which sounds if that lasts {alarmDelay}.",
  "notices.belowFreezingLithiumBattery":
    "Below freezing: a lithium battery may be discharged with care but must not be charged.",
  "notices.chargedBatteryBegins": "Charged to {chargeToVoltage}, the battery begins at {startSoc} state of charge.",
  "notices.batteryGivesCurrentWeakest":
    "Battery {number} of {count} gives {most} of the current, the one with the longest leads {least}. Equal leads, or a diagonal take-off, even it out.",
  "notices.batteriesParallelTakenSharing":
    "Batteries in parallel are assumed to share the current equally: give them leads of one length to the busbars.",
  "notices.wiringMeasuresWhereParts":
    "The wiring measures {found} where its parts should have {should}: {excess} more, which makes {heat} of heat at the running current. Look for a bad joint or part: measure the millivolts across each joint.",
  "notices.wiringMeasuresPartsShould":
    "The wiring measures {found}; its parts should have {should}. The reading is used until it is cleared: clear it when a part of the wiring is changed.",
  "notices.coldStart":
    "With the battery at 0 °C it would not start from the reserve: cold cells have twice the resistance.",
  "notices.compartmentReachesVentsEach":
    "The inverter’s compartment reaches {compartmentC}. Vents of {opening} each, one low and one high, would keep it at {target}.",
  "notices.dcLoadsWithoutBranch":
    "DC loads on a {nominalVoltage} V battery: add the branch that feeds them, so that its converter is checked.",
  "notices.softStarterHasNot":
    "{name}: the soft starter has not learned. About five starts on shore or generator power bring its peak down.",
  "notices.measuredLockedRotorAmps": "{name}: the measured locked-rotor amps are taken as those without the start aid.",
  "notices.coolingWaterLeavesAbout":
    "{name}: cooling water leaves at {leaving}. About {healthy} is normal. From {high} on, look for a fouled condenser, a blocked strainer or a weak pump.",
  "notices.singleDuctThrowsCabin":
    "{name}: a single duct blows cabin air out, and as much warm air comes in through every gap.",
  "notices.hotAlternatorHasSpare":
    "When hot, the alternator has {spare} to spare on the road: less than the {engine} that the charging circuit would take.",
  "notices.throughIsolatorBatteryReserve":
    "Through an isolator the battery at its reserve would draw some {rush}: more than the {spare} that the hot alternator has. A DC-DC converter holds it to its own current.",
  "notices.engineChargingMustSee":
    "Switch engine charging by the running engine, not by the ignition: otherwise it drains the starter battery.",
  "notices.estimatesNotApprovalFixed":
    "Estimates, not approval. Fixed AC wiring and shore connections belong to licensed people under the local rules; the local authority and the makers' instructions win.",
  "notices.doNotLeavePeople": "Do not leave people or animals relying on this system without supervision and an alarm.",
  "notices.beforeOpeningUnitIsolate":
    "Before opening the unit: isolate, lock off, prove dead. Two sources can feed the same wire: inverter, shore and generator all off.",
  "notices.capacitorsKeepLethalCharge":
    "Capacitors keep a lethal charge: discharge through a resistor rated for it, then prove. Leave the refrigerant circuit closed.",
  "notices.neverBypassProtectionMake":
    "Never bypass protection to make a start succeed. Measure with the covers on or the power off.",
  "notices.eachAcSourceNeeds":
    "Each AC source needs {residualName, select, GFCI {a GFCI} other {an {residualName}}}. Never feed the inverter's output into shore or into its own charger.",
  "notices.isolateLockOffProve":
    "Isolate, lock off and prove dead before a lug is touched: battery, inverter, shore, generator, solar and alternator can all feed it.",
  "notices.fixedAcWiringResidual":
    "Fixed AC wiring, {residualName, select, GFCI {a GFCI} other {an {residualName}}} and the bond of neutral to {earth} are licensed work under the local rules.",
  "notices.lithiumBatteryDeliversThousands":
    "A lithium battery delivers thousands of amps into a dropped spanner: insulated tools, no jewellery, fuse first, connect last.",
  "notices.leadAcidGivesOff":
    "Lead-acid gives off hydrogen while it charges: ventilate, no sparks. A short circuit delivers thousands of amps: insulated tools, no jewellery.",
  "notices.roofWorkFallFragile":
    "Roof work: falls, fragile roofs, wind. Not alone, not on a wet roof. Panels are live in daylight: cover them before a lead is touched.",
  "notices.generatorsMakeCarbonMonoxide":
    "Generators make carbon monoxide: outside, downwind of every opening, with an alarm on board.",
  "notices.boatIgnitionProtectedParts":
    "On a boat: ignition-protected parts, bonding, and sea-cocks shut before a hose comes off.",
  "notices.forecastTypicalWeatherNot":
    "This is a forecast from the design day, not a promise. Do not leave people or animals relying on it without supervision and an alarm.",
  "notices.stateWhereNeutralBonded":
    "State where neutral is bonded to {earth} while the inverter feeds: without that bond {residualName, select, GFCI {a GFCI} other {an {residualName}}} does not open.",
  "notices.precharge":
    "At 48 V the inverter's capacitors spark when it is connected: use its pre-charge, or a resistor, before the main switch is closed.",
  "notices.bondInverterCase":
    "Connect the inverter's case to {earth} by a conductor sized for its DC fuse or as the rule set asks.",
  "notices.isolatorsDcAssumedCheck":
    "Isolators for {chargeToVoltage} DC are assumed: check the label, since many are made for 32 V.",
  "notices.batteriesSeriesBalanceThem":
    "Batteries in series: balance them when new and yearly, and check that their maker allows it.",
  "notices.stateWhetherGeneratorBonds":
    "State whether the generator bonds neutral to {earth}: exactly one bond, in the source that feeds.",
  "notices.generatorFloatingNeutralNeeds":
    "A generator with a floating neutral needs a bond to {earth} while it feeds, or {residualName, select, GFCI {a GFCI} other {an {residualName}}} does not open.",
  "notices.panelsWithoutCircuitTheir":
    "Panels without a circuit from their controller: add it, so that its cables, fuse and isolator are checked.",
  "notices.outsideUsual": "{label} {known} is outside the usual {range}.",
  "notices.isolateLockOffProveDead":
    "Isolate, lock off, prove dead: inverter off at its switch, battery isolated, shore unplugged, generator off. Two sources can feed one wire.",
  "notices.capacitorKeepsLethalCharge":
    "A capacitor keeps a lethal charge. Discharge it through a resistor rated for it, then prove it before touching.",
  "notices.batteryDeliversThousandsAmps":
    "A battery delivers thousands of amps into a dropped tool. Insulated tools, no jewellery, fuse first, last connection last.",
  "notices.refrigerantCircuitsCertifiedPeople":
    "Refrigerant circuits are for certified people. Do not open a circuit, do not bend pipes hard.",
  "notices.neverBypassProtectionMakeStart":
    "Never bypass a protection to make a start succeed. Never feed an inverter’s output into shore. Never put a charger on its own inverter.",
  "notices.mainsWiringShoreGenerator":
    "Mains wiring, shore and generator connections belong to licensed people under the local rules; testing residual current protection is theirs too.",
  "notices.noChargingLithiumBelow": "No charging of lithium below freezing.",
  "notices.jointCarriesFullCurrent": "A joint that carries full current can burn: measure without touching.",
  "notices.estimateNotApprovalLocal":
    "An estimate, not an approval: the local rules, their authority and the makers’ instructions come before it.",
  "notices.protectsAgainstFireOnly": "{residualMa} protects against fire only: a person is not protected above 30 mA.",
  "notices.protectsEquipmentOnly":
    "{residualMa} protects equipment: receptacles need a class A device, which opens at 4 to 6 mA.",
  "notices.above60":
    "Charged to {highest} V: touching it can kill, and its arcs do not go out by themselves. The rule set ends at extra-low voltage.",
  "notices.coverAbove60":
    "Cover all live parts, switch both poles, monitor the insulation, use devices rated for these volts, and have a licensed person do the work; then state it on Wiring.",
  "notices.runWithoutCable":
    "Nothing is checked of a cable that is not in the plan: what it carries, what protects it, what it loses.",
  "notices.addRunCable": "Add the cable to the run, with its size and length.",
  "notices.supplyWithoutInlet": "The supply comes in somewhere: its inlet has a rating, a cover and a place.",
  "notices.addInlet": "Add the inlet as the first part of the circuit.",
  "notices.limitAboveInlet": "It may draw more from the supply than the inlet, its lead and the site are for.",
  "notices.setLimitToInlet":
    "Set the limit of the inverter-charger to the rating of the inlet, or of the site where that is less.",
  "notices.extensionLead":
    "Never feed the system for a while by an extension lead into the inverter's output: both sources meet there, and a plug pulled out has live pins.",
  "notices.flickerAtStart":
    "Lamps that dim or flicker at a start are a near miss: measure the start before the next hot day.",
  "notices.shockAndArcAbove60":
    "Above 60 V DC a touch can kill and an arc does not go out by itself: covers on, one hand, tools and gloves rated for the volts, a second person present.",
  "notices.salvagedCells":
    "Salvaged and NMC cells can catch fire hours after they were hurt and burn without air: sort out any that warm, swell or lose volts at rest, keep them apart from where people sleep, and fit a smoke alarm there.",
  "notices.extinguisherFirst":
    "Have an extinguisher within reach before the first full draw, and end it when any joint, cable or device comes to 70 °C.",
  "notices.starterFlat":
    "A starter battery found flat: find out why before it is charged. Never start the engine through the cables to the living-space battery.",
  "notices.chargeSwitchAtSpeed":
    "Never throw a charge or battery switch while the engine runs: the alternator's volts shoot up.",
  "notices.fuelCan":
    "Neither a generator nor a can of fuel stands in a locker of the body: vapour finds the first spark.",
  "notices.nothingSwitchesBatteryOff":
    "Nothing would switch the battery off for work, in a fault, or while the vehicle or boat is laid up.",
  "notices.busbarBeforeSwitch":
    "The busbar stands before the battery’s switch: what is connected to it stays live when the battery is switched off.",
  "notices.moveBusbarBehindSwitch": "Put the battery’s switch before the busbar, or an isolator in this circuit.",
  "notices.fitBatterySwitch": "Fit an isolator in reach, between the battery and everything that it feeds.",
  "notices.inletsCouldMeet":
    "Two supplies could feed one conductor at the same time, and the pins of the second plug would be live.",
  "notices.fitTransferSwitchInlets":
    "Fit a transfer switch between the inlets that breaks one before it makes the other, all poles.",
  "notices.addSolarCircuit": "Add a solar circuit on Wiring, with its cables, fuse and isolator.",
  "notices.nothingWouldSwitchOff": "Nothing would switch off when current flows to {earth} through a person.",
  "notices.inverterCanPushMore": "The inverter can push more than the cable carries, and nothing would stop it.",
  "notices.fitBreakerNoMore": "Fit a breaker of no more than the cable carries, behind the inverter.",
  "notices.shortCircuitUnitWould":
    "A short circuit in the unit would have nothing to stop it before the inverter gives up.",
  "notices.fitBreakerWhereCircuit": "Fit a breaker where the circuit leaves the board.",
  "notices.siteProtection": "A site's own protection cannot be trusted to be there.",
  "notices.sourceWithoutProtectionFault":
    "Without protection a fault would burn the cable before the site’s breaker acts.",
  "notices.fitInletBreaker": "Fit a breaker of the inlet's rating at most.",
  "notices.inverterShoreCouldMeet":
    "Inverter and shore could meet: that destroys the inverter and makes the plug’s pins live.",
  "notices.fitTransferSwitchBreaks":
    "Fit a transfer switch that breaks one before it makes the other, on the inverter's output or behind the inlet.",
  "notices.smoothedCurrentsVariableSpeed":
    "The smoothed currents of a variable-speed unit keep a type AC device from opening.",
  "notices.typeAcDeviceSees": "A type AC device sees sine-wave faults only; electronics make others.",
  "notices.fitTypeLeastType": "Fit type A at least, type F or B where the unit's maker asks for it.",
  "notices.liveNeutralMayExchanged":
    "Live and neutral may be exchanged at a site's socket: the open pole may be the wrong one.",
  "notices.fitOneOpensLive": "Fit a breaker that opens live and neutral.",
  "notices.neutralOneSourceStays": "The neutral of one source stays joined to that of the other.",
  "notices.fitTransferSwitchSwitches": "Fit a transfer switch that switches live and neutral.",
  "notices.withoutBondFaultHas":
    "Without the bond a fault has no way back, and {residualName, select, GFCI {a GFCI} other {an {residualName}}} does not open.",
  "notices.bondNeutralInverterRelay": "Bond neutral to {earth} at the inverter by its relay, open on shore.",
  "notices.fixedBondOnShore":
    "On shore the inverter's fixed bond and the site's stand in parallel: load current flows in the {earth} conductor.",
  "notices.relayMakesBond": "Let the inverter's relay make the bond while it feeds and open it on shore.",
  "notices.oneOutputFedBoth": "One output fed to both legs has no voltage between them.",
  "notices.useSplitPhaseOutput":
    "Use a split-phase output (two stacked inverters, or one with two legs), or a transformer.",
  "notices.fedOneSourceCurrents":
    "Fed from one source the currents of both legs add in the shared neutral instead of cancelling.",
  "notices.giveEachCircuitNeutral":
    "Give each circuit a neutral of its own, or size the shared neutral for the inverter's whole current.",
  "notices.invertersOnePairLeads":
    "Inverters on one pair of leads share the load unequally, and one fuse cannot protect the leads of each.",
  "notices.giveEachInverterOwn": "Give each inverter its own fuse and leads of one length from a common busbar.",
  "notices.inverterFeedsChargerFeeds":
    "The inverter feeds the charger that feeds the inverter: the loop empties the battery and overheats both.",
  "notices.feedChargerShoreSide": "Feed the charger from the shore side of the transfer switch.",
  "notices.arrayLiveDaylightCould": "The array is live in daylight and could not be switched off.",
  "notices.fitArrayIsolator": "Fit an isolator for the array's volts before the controller.",
  "notices.overvoltage": "{nominalVoltage} V would destroy {wanted} V equipment.",
  "notices.fitConverter":
    "Fit a converter from the battery's voltage, sized for all of them at once. Tapping half the battery unbalances it.",
  "notices.ignitionAloneBatteriesJoined":
    "Switched by the ignition alone, the batteries are joined while the engine stands: the starter battery goes flat, and the switch opens under load.",
  "notices.switchRunningEngineCharge":
    "Switch it by the running engine: charge signal, voltage sensing, or the alternator's own output.",
  "notices.alternatorHoldsVMore":
    "The alternator holds {volts} V, more than the {chargeToVoltage} V that the battery is charged to.",
  "notices.joinedStraight":
    "A {vehicle} V system joined straight to a {nominalVoltage} V battery: the higher drives thousands of amps into the lower.",
  "notices.useDcDcConverter": "Use a DC-DC converter from the vehicle's voltage to the battery's.",
  "notices.unitVoltage": "A {wanted} V unit on a {nominalVoltage} V battery is destroyed or does not run.",
  "notices.useUnitOfVoltage": "Use a unit of the battery's voltage, or a converter rated for its whole draw.",
  "notices.currentCountedAlongInverter":
    "Its current is counted along the inverter's circuit, whose fuse does not protect its cable.",
  "notices.addCircuitOwnFuse": "Add a circuit of its own, with its fuse at the battery.",
  "notices.faultOneBatteryFed": "A fault in one battery is fed by all the others.",
  "notices.fitFusePostEach": "Fit a fuse at the post of each battery, no higher than its lead carries.",
  "notices.platingBelowFreezing": "Below 0 °C metal plates out in the cells: they lose capacity and may short later.",
  "notices.useBatteriesChargersBlock":
    "Use batteries or chargers that block charging by a cell sensor, or a heater that comes first.",
  "notices.fitResidual": `Fit {residualName, select, GFCI {a GFCI} other {an {residualName}}} of {mostMa} mA or less {where, select, inverter {first on the inverter’s output} other {as the first part behind the inlet}}.`,
} as const;
