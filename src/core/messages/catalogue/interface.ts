/** Sentences of the screens. */
export const INTERFACE_MESSAGES = {
  "interface.deleted.kept":
    "A deleted job can be brought back for {days} days. After that it is erased with its test runs, files and photos.",
  "interface.deleted.none": "No job was deleted in the last {days} days.",
  "interface.deleted.erase":
    "Erase “{name}” now, with its test runs, files, photos and history? Nobody can bring it back. Backups hold it until they are thinned out.",
  "interface.history.none": "Nothing was recorded before people signed in.",
  "interface.people.sessionEnded":
    "Your session has ended. What you typed is kept in this window and saved once you are signed in again.",
  "interface.people.unsent":
    "Readings and photos on this device that were not sent yet: {unsent}. Signing out deletes them.",
  "interface.people.room": "Deleted jobs count until they are erased.",
  "interface.people.email": "An e-mail address, such as name@workshop.example.",
  "interface.people.password": "At least {least} characters.",
  "interface.people.passwordMissing": "Type your password.",
  "interface.people.name": "Type your name.",
  "interface.people.workshop": "Type the name of the workshop.",
  "interface.people.codeMissing": "Type the code that the console printed.",
  "interface.people.demo":
    "This is a demo on your own machine, with invented jobs. You need no account to look around.",
  "interface.people.forgotten":
    "Forgotten the password? An owner of the workshop can take you out and invite you again. Your changes stay in the record; customers’ links that you made have to be made anew.",
  "interface.people.begin":
    "Nobody has an account here yet. The console of the server printed a code: type it here to make the workshop and its first owner.",
  "interface.people.invitedAs": "{by} invites you to {workshop} as {role}. Choose a password to join.",
  "interface.people.invite":
    "An invitation is an address that one person can use once, within seven days. Send it to whoever it is for.",
  "interface.people.invited": "Copy this address now: it is not shown again.",
  "interface.people.remove":
    "{name} will be signed out and cannot sign in any more. The open invitations and customers’ links that {name} made are withdrawn.",
  "interface.people.lesserRole":
    "Whoever becomes an apprentice loses the open invitations and the customers’ links that they made; an owner who becomes an installer, the invitations.",
  "interface.people.passwordChanged": "The password is changed. You are signed out everywhere else.",
  "interface.people.code":
    "Type the six digits that the authenticator app on your phone shows, or one of your recovery codes.",
  "interface.people.codesAre":
    "Besides the password, signing in then asks for six digits that an authenticator app on your phone shows. Any app for time-based codes (TOTP) will do; it needs no network.",
  "interface.people.codesOn": "Signing in asks for a one-time code.",
  "interface.people.codesScan":
    "Scan this with the authenticator app, or type the key into it, then type the six digits that it shows.",
  "interface.people.codesRecovery":
    "Print these recovery codes, or write them down, and keep them away from the phone. Each opens once where the phone is lost. They are not shown again.",
  "interface.people.codesLost":
    "Without the phone and without a recovery code, an owner takes you out of the workshop and invites you again.",
  "interface.people.readOnly": "You can look at this stage. An installer or the owner can change it.",
  "interface.seaUnitFollowsSea": "A sea-water unit’s power follows the temperature of the sea, not of the air.",
  "interface.dateForm": "A date such as 15 Jul 2026, or 2026-07-15. The old one is kept.",
  "interface.oldValueKept": "{slip} The old value is kept.",
  "interface.usualRange": "Usual {low} to {high}.",
  "interface.bothWindowsHoldSame": "Both windows hold the same now.",
  "interface.barFilledWhatNeeded":
    "The bar is filled to what is needed, the tick marks what is available: a bar past its tick fails. Click a figure to see its working.",
  "interface.figureNoLongerPart": "This figure is no longer part of the design.",
  "interface.browserRefusedClipboardSelect": "The browser refused the clipboard; select the text by hand.",
  "interface.focusedQuantityDigitStarts":
    "With a field in focus, a digit begins a new value. With a figure in focus, Enter shows its working.",
  "interface.theyWereTypedBefore": "They were typed before this window closed and had not been saved.",
  "interface.estimateNotApproval": "Estimate, not approval.",
  "interface.noJobsYetCreate": "No jobs yet. Create one with its name, or start with the two-minute answer.",
  "interface.typeValueNoteTake": "Type a value, a note or take a photo.",
  "interface.serverNotReached": "The server cannot be reached.",
  "interface.targetNotSaved": "{reason} The target is not saved yet.",
  "interface.testRunFinished": "This test run is finished.",
  "interface.timeRecordedItselfNegative": "The time is recorded by itself. Negative amps mean charging.",
  "interface.pageAlsoOpensWithout": "This page also opens without reception.",
  "interface.keepPageOpenCannot": "Keep this page open: it cannot be opened again without reception.",
  "interface.doNotLetPerson": "Do not let a person or an animal rely on a test run to stay cool.",
  "interface.averageDay":
    "An average day's energy by the hour, in above the line and out below it; the table below has the totals.",
  "interface.powerOverOutdoorTemperature":
    "Power of {name} over outdoor temperature; {running} with the compressor always on, on the design day.",
  "interface.demandStartOverTime":
    "Demand of the start over time against its limits: peak {peak}; {word}, decided by {name}.",
  "interface.batteryCurrentStateCharge":
    "Battery current, state of charge and what the air conditioner did over the log, with the forecast ahead. The table below has the same values.",
  "interface.oneTripSameWeather":
    "One trip, the same weather for all: state of charge over its reserve, sun, cabin and outside, compressor runs. Point at it to read all at one moment.",
  "interface.voltsStartPeakOpen":
    "Volts at the start peak {title}: {rest} open-circuit, {end} at the {farEnd}, cut-off {cutOff}.",
  "interface.designDay.own": "Your own figures. One day in ten is hotter than Hot, one in ten cooler than Mild.",
  "interface.designDay.simulated": "The Day stage runs simulated or imported weather: these are its extremes.",
  "interface.designDay.listed": "One day in ten is hotter than Hot, one in ten cooler than Mild.",
  "interface.place.climate": "Climate of {why}.",
  "interface.place.needed": "Lasts and Recovers need the weather of a place.",
  "interface.place.source": "Towns by GeoNames, CC BY 4.0.",
  "interface.whatYouTypedStill": "{message} What you typed is still here.",
  "interface.typeWhatYouKnow": "Type what you know: everything is still assumed.",
  "interface.estimateNotApprovalBefore":
    "Estimate, not approval. Before you open the unit: isolate, prove dead, discharge its capacitors.",
  "interface.shelf.nothing": "Nothing of that name on the shelf.",
  "interface.shelf.more": "{total} in all; type more of the name.",
  "interface.jobsUseKeepTheir": "Jobs that use it keep their values.",
  "interface.shelf.noneOfName": "No {plural} of the name “{query}”.",
  "interface.shelf.empty": "No {plural} on the shelf yet.",
  "interface.typicalEntriesShipChillbank":
    "Typical entries ship with Chillbank; change them to what you fit. A job keeps the values it was given until you bring it up to date.",
  "interface.tooLarge.capture": "{name}: too large, at most 16 MB.",
  "interface.marginWhatThereDivided":
    "Margin is what is available divided by what is needed, at the worst moment of the start. Ring: now; square: with the start aid. Under 1 it fails. Cost and mass are typical; type your own.",
  "interface.appliedJobUndoTakes": "{name}: applied to the job. Undo takes it out again.",
  "interface.undoBringsOldPlan": "{name}: {note}. Undo brings the old plan back.",
  "interface.nothingPlannedBatteryOnly": "No cooling planned: the battery supplies the other loads only.",
  "interface.earlierVersionJob": "Computed from an earlier version of the job.",
  "interface.hoursLessHoursWanted": "Hours; × is less than the hours wanted. Estimates: a tenth either way.",
  "interface.tooLarge.weather": "That file is larger than 20 MB, which is more than a year of hours.",
  "interface.noFileYetUntil": "No file yet: until then the fortnight is simulated.",
  "interface.readingMakesEveryForecast":
    "A reading makes every forecast surer: battery amps, watts, a percentage that fell, or a meter’s kilowatt-hours.",
  "interface.link.onlyHere":
    "This link opens on this computer only: no address is set by which others reach it (CHILLBANK_URL).",
  "interface.phoneCode": "Whoever opens it signs in there first. After that the page opens without reception too.",
  "interface.jobs.unreadable": "Not readable by this version of Chillbank, and left as stored: {names}.",
  "interface.readings.line":
    "The {count} readings at full lie on a line: {amps} at {at} outdoors, and {rise} more for each kelvin above. The job uses it.",
  "interface.disagreesReadingUsedCheck":
    "Disagrees with the reading that is used: check the sign, what else was on, and the meter.",
  "interface.required": "{label} is required.",
  "interface.noReadingWasTaken": "No reading was taken: it is saved as unconfirmed.",
  "interface.faults.whatIsWrong": "What is wrong?",
  "interface.chooseSymptomsChillbankAsks":
    "Choose the symptoms. Chillbank asks for the reading that narrows the causes most for its time, says what it should be on this system, and ranks the causes with the numbers behind each.",
  "interface.noFurtherReadingSystem": "No further reading on this system separates the causes.",
  "interface.faults.whatWasIt": "What was it?",
  "interface.noAssumedValueCould": "No assumed value could change this margin by much.",
  "interface.readPlateDataSheet": "Read it on the plate or the data sheet.",
  "interface.tickTwoFourDesigns": "Tick two to four designs to compare them, or one to apply it to the job.",
  "interface.appliedJobNewRevision":
    "Applied to the job as a new revision; undo or the revisions bring the old one back.",
  "interface.noLimitAloneWay":
    "No limit alone is in the way: a larger battery, more panels or a stronger unit must be allowed to vary.",
  "interface.unitTooWeakCabin": "The unit is too weak for the cabin: it misses more days than the battery does.",
  "interface.roofHasNoRoom": "The roof has no room for more panels.",
  "interface.noDesignThoseSearched": "None of the designs searched passes Starts and Carries within the limits.",
  "interface.whichAssumptionWouldChange": "Which assumption would change the choice?",
  "interface.shelfHasNoBattery":
    "No battery, inverter or panel on the parts shelf has a price and a mass. Add them there.",
  "interface.whichDesignMeetsTarget": "Which design meets the target?",
  "interface.moreDesignsVaryLess": "That is more than {most} designs. Let fewer things vary.",
  "interface.jobTargetHasChanged": "The job or the target has changed since: search again.",
  "interface.mostStandSideSide": "At most {most} stand side by side.",
  "interface.soonWhatWasTyped": "Possible as soon as your last entry is saved.",
  "interface.serverDidNotAnswer": "The server did not answer. Try again.",
  "interface.pagesKbRevision": "{pages, plural, one {# page} other {# pages}}, {bytes} kB, revision {revision}.",
  "interface.madeRevisionJobHas": "Made from revision {revision}. The job has changed since.",
  "interface.browserDoesNotAllow": "The browser does not allow copying: select the link and copy it by hand.",
  "interface.stopsCardRunTime":
    "Stops, card, run-time map and cautions as they stand now, for whoever has the link; nothing else of the job.",
  "interface.linkShownOnlyOnce": "This link is shown only once: save it now.",
  "interface.noPartsYet": "No parts yet.",
  "interface.thereNoCableRun": "There is no cable in this run to choose.",
  "interface.smallestStandardSizesSatisfy": "The smallest standard sizes that satisfy every rule of this circuit.",
  "interface.noStandardSizeSatisfies":
    "No standard size satisfies every rule of this circuit; this comes nearest. Shorten it, or raise the battery voltage.",
  "interface.wiring.excess": "{excess} more than its parts should have: look for a bad joint or part.",
  "interface.wiring.sound": "No more than its parts should have: the wiring is sound.",
  "interface.commissioningStopped":
    "Stopped: “{title}” did not pass. Switch everything off, touch nothing behind a cover, and put it right before any step after it. The document and the customer’s page say so until then.",
  "interface.stepsToDo": "{open, plural, one {# step} other {# steps}} to do.",
  "interface.nothingLeftDo": "Nothing left to do.",
  "interface.pointsToAnswer":
    "{open, plural, one {# point is} other {# points are}} still to be looked at, measured, or said not to apply.",
  "interface.mostStepPhotos": "A step keeps at most {most} photos.",
  "interface.photoWaits": "Not sent yet.",
  "interface.inspectionIsFor":
    "What no calculation can know, by the rule set and the vehicle: each point is seen, measured against its limit, or does not apply for a reason. Lines for a licensed person are in the handover document.",
  "interface.noneYetGiveState": "None yet: give this state a name to compare with it or to restore it later.",
  "interface.restoredUndoBringsBack": "Restored. Undo brings back the state before.",
  "interface.sizesCouldNotComputed": "The sizes could not be computed. Try again.",
  "interface.eachPartHasSmallest": "Each part has the smallest size on sale that every rule allows.",
  "interface.noSizeSaleFixes": "No size on sale fixes these: {parts}. Change the design, then size again.",
  "interface.everyAirConditionerRuns":
    "Every air conditioner runs on battery DC: no inlet or generator takes part in its start.",
  "interface.altitudeHeatLeaveGenerator":
    "At this altitude and temperature a generator gives {generatorShare} of its rating.",
  "interface.judgeStartOnlyAfter":
    "Judge a start only after five minutes at rest: a compressor restarted against pressure stalls, and that looks exactly like an inverter that is too small.",
  "interface.noPanelsYetAdd": "No panels yet: add them here.",
  "interface.datesLeadAcidBatteries": "It dates from lead-acid batteries and ignores both the place and the loads.",
  "interface.nothingSystemNeedsAc":
    "Nothing in this system needs AC, so no inverter is counted. An AC load in the brief brings it back.",
  "interface.overHatched": "Hatched: the demand is over its limit, {name}.",
  "interface.softStarterWouldTake": "A soft starter would take the peak to {peakApparent}, margin {margin}.",
  "interface.wiringDropsMoreVolts":
    "The wiring drops more volts than the battery itself: {path} against {bank}. Use thicker or shorter cable: stage Wiring.",
  "interface.startsFromBattery":
    "{name} is fed by the battery and not by the inverter, so there is no curve of the inverter to draw.",
  "interface.handAmpsVoltsReal": "By hand, amps × volts: {byHand}. Real power drawn from the battery: {peakPathPower}.",
  "interface.signalKDeltasBattery": "Signal K deltas: battery current, voltage, charge and temperatures are read.",
  "interface.readKindFileWas": "Read as this kind of file was read the last time.",
  "interface.howUnderstoodSetRight": "This is how the file was understood. Correct what is wrong.",
  "interface.simulatorRunsTimesReal": "The simulator runs at {speed} times real time.",
  "interface.listening": "Reading live from {url}.",
  "interface.simulatedBatteryMonitorClamp":
    "A simulated battery monitor and clamp on this system; its true values are hidden. Finish the test run to compare with them.",
  "interface.csvLoggerGoesWriting":
    "A CSV that a logger goes on writing, in the log folder of this machine (.local/logs, or CHILLBANK_LOGS).",
  "interface.hourOfReading":
    "The cabin’s heat loss is worked out so that the day draws this at that hour. What you leave out is as the job’s day has it.",
  "interface.notTimeOfDay": "“{text}” is not a time of day such as 14:30.",
  "interface.typedAlso":
    "A time may stand before it: 12:10 47 13.05, or yesterday 23:40. Also 350 W sun, 900 W mains, 23.4 in, 33 out; a note after a dash: 41 26.1 - door open.",
  "interface.settingNotFound":
    "This setting is no longer among the latest readings: correct it in the list on the desk.",
  "interface.nothingYetNeedsFew": "Nothing yet: it needs a few cycles.",
  "interface.peaksFallStartStart": "The peaks fall from start to start: the soft starter is learning.",
  "interface.peaksNoLongerChange":
    "The peaks are level from start {starts} on: a soft starter that is fitted has learned.",
  "interface.peaksRiseRestartsToo": "The peaks rise: restarts too soon, or battery voltage sag.",
  "interface.notCountedDrawAir": "Not counted as draw of the air conditioner; the forecast assumes it ends.",
  "interface.compressorHasNotStopped": "The compressor has not stopped yet, or it slows down instead.",
  "interface.unitHasNotRun": "The unit has not run yet.",
  "interface.severalAirConditionersCycle":
    "Several air conditioners cycle by their own thermostats: bars and cycles count any of them; how many run is found from the draw between all off and all on.",
  "interface.panelsNotReadLevels":
    "The solar power was not read. By day it hides part of the draw, so these values come from readings in the dark. What the compressor adds comes from how far the power falls when it stops.",
  "interface.currentMeanBetweenReadings":
    "The current is a mean between readings too far apart for its cycles: duty cycles are found from the charge drawn, states from where battery and AC readings agree.",
  "interface.removeTestRun": "Remove {fileName} from the test run?",
  "interface.readingsStoredFileRemoved": "Its readings and the stored file are removed. The file on your disk stays.",
  "interface.instrumentEnded": "{reason} The last instrument ended by itself.",
  "interface.noReadingHandInstrument": "No reading by hand or from an instrument.",
  "interface.earlierValueStaysHistory": "The earlier value stays in its history.",
  "interface.engineShorePowerGenerator":
    "Engine, shore power or generator charged the battery during the run, which the forecasts did not assume: the run does not show whether they were right.",
  "interface.noFinishedTestRun": "No finished test run has reached its reserve yet.",
  "interface.timedRunReadingsAir":
    "A timed run with readings of the air conditioner, the cabin and the battery. From three readings on it forecasts when the battery reaches its reserve, with a range, and its findings can be applied to the job.",
  "interface.noTestRunJob":
    "No test run on this job yet. Start one, then type readings, import a log, or run the simulator.",
  "interface.isolateLockOffProve": "Isolate, lock off and prove dead before a clamp or a probe goes near a terminal.",
  "interface.waitFiveMinutesBefore":
    "Wait five minutes before a restart: a compressor restarted against pressure stalls.",
  "interface.doNotLetPersonAnimal": "Do not let a person or an animal rely on a test run to stay cool: stay with it.",
  "interface.readingsGoCanBrought":
    "Its {readings, plural, one {# reading goes} other {# readings go}} with it. You can restore it directly afterwards.",
  "interface.typeAmpsVoltsLeft":
    "Type amps and volts at the left, drop a CSV anywhere on this page, or start the simulator to try it out.",
  "interface.wholeJobImportList": "{name} is a whole job: import it from the list of jobs, as a job of its own.",
  "interface.tooLarge.job": "{name}: too large for a job file.",
  "interface.tooLarge.wholeJob": "{name}: too large, at most 512 MB.",
  "interface.answerNotRead": "The server’s answer could not be read. Load the page again.",
  "interface.serverAnswered": "The server answered {status}.",
  "interface.generatorLeft":
    "The {rating} generator has {left} left for a charger while {several, select, yes {the air conditioners run} other {the air conditioner runs}}.",
  "interface.generatorTooSmall":
    "The generator entered cannot carry {several, select, yes {the air conditioners} other {the air conditioner}} running.",
  "interface.balanceCountsBoth": "The balance above counts both.",
  "interface.handConditions":
    "Its conditions: the highest temperature of the design day, no sun, other loads at their average.",
  "interface.jobDeletedElsewhere": "This job was deleted in another window.",
  "interface.firstSteps.place":
    "Create a job. In its Brief choose the place, the month, the design day and the hours wanted.",
  "interface.firstSteps.plates":
    "Enter the air conditioner, inverter and battery from their plates. What you leave out is assumed, and marked as assumed.",
  "interface.firstSteps.verdicts":
    "Read Starts, Carries, Lasts and Recovers at the top. Click one to see what decides it and its working.",
  "interface.estimatesNotApproval": "Estimates, not approval: local rules and the makers’ instructions come first.",
  "interface.takesRange": "{label} takes {kind, select, count {a whole number from } other {}}{low} to {high}.",
  "interface.dayPlot":
    "{days, plural, one {# day} other {# days}} from noon. {lasts} {recovers} The charge at each sunrise is in the table below.",
  "interface.testRunPlot":
    "Solid line: counted state of charge. Thin line: state of charge by the monitor. Dots: predicted by the design. Bars: compressor on; thin line below: compressor off, fan on. {charged, select, yes {Bracket: charging by engine, shore power or generator.} other {}} Point at a moment to read it.",
  "interface.greyAssumed": "Grey values are assumed.",
  "interface.captureDrawn": "The captured start is drawn under the limits as “as captured”.",
  "interface.readingsBeforeRepair":
    "{count, plural, one {# reading was taken} other {# readings were taken}} before the repair.",
  "interface.designsBarred": "Of {designs} designs {barred}.",
  "interface.logEndsEarly": "The log ends before the reserve, with {left} left, so the forecasts cannot be compared.",
  "interface.readingsSoFar": "There {count, plural, one {is # reading} other {are # readings}} so far.",
  "interface.monitorCapacity":
    "The monitor is set to {set} Ah, the job has {job} Ah: its percentage and time-to-go are wrong. Set its capacity, charge to full and let it synchronise.",
  "interface.followsFile": "Reading what is written to {path}.",
  "interface.loading": "Loading …",
  "interface.workerStopped": "The calculation has stopped. Load this page again; your entries are kept.",
  "interface.reserveNotReached": "The battery does not reach its reserve within two days.",
  "interface.reserveReached": "Battery reaches its reserve at {at}, between {from} and {to}.",
  "interface.countedAndByHand":
    "State of charge {charge}, counted. By hand from the average current: {charging, select, yes {it is charging} other {{hours} h to the reserve}}.",
  "interface.textRequired": "{label} is required; the old one is kept.",
  "interface.revisionElsewhere":
    "Revision {theirs} was saved there while you edited revision {mine}. Nothing is overwritten until you choose.",
  "interface.roofToScale": "To scale. {covered} of {whole} of roof is under panels, which also shade it.",
  "interface.partsShown": "{shown} of {total} parts are shown: type more of the name to find the rest.",
  "interface.partChanged": "“{name}” has changed on the parts shelf since it was picked.",
  "interface.practiceCase": "A practice case is this system with a hidden fault.",
  "interface.givenFaults":
    "Whatever is chosen, these parts that stay fail: {faults}. Put them right on the Wiring stage; Carries below leaves them out.",
  "interface.rulesOfThumb":
    "Judged over {weeks} simulated weeks. Each rule of thumb chooses the cheapest design that starts, carries its current and is as large as the rule asks.",
  "interface.optionsNotRun":
    "Chillbank runs every design through {weeks} simulated weeks and shows how many more days are satisfied by each step of price, mass or roof.",
  "interface.wiringRules": "AC: {ac}. DC: {dc}. The rule set is chosen in the Brief.",
  "interface.revisionRemoved": "“{name}” was removed from the list.",
  "interface.inletJudged":
    "An inlet is judged by its breaker (type C), its running current{continuous, select, yes { at 80 % for hours} other {}} and the dip of its supply and lead: a compressor may lose 15 % of its voltage at the start. Other loads that are on at a start are counted. Generators make carbon monoxide: run them outside, downwind, with an alarm on board.",
  "interface.readingsImported":
    "{rows, plural, one {# reading} other {# readings}} came in{refused, plural, =0 {} one {; # row held none (line {line}: {why})} other {; # rows held none (line {line}: {why})}}. The original file is kept with the test run.",
  "interface.barsRead": "Solid: from switching on to the reserve. Hatched: on to the cut-off{cause}.",
  "interface.barsBeyond": "An arrow: longer than the scale.",
  "interface.placeType": "Type the beginning of a town’s name, or coordinates such as 37.02, −7.93.",
  "interface.placeNone": "No such place in the gazetteer: try a larger town near it, or type its coordinates.",
  "interface.ventNone": "No vents are needed: the walls carry the heat away.",
  "interface.logBroken": "The log did not arrive whole. Load this page again.",
  "interface.searchFailed": "The search failed: {why}.",
  "interface.description":
    "Designs of off-grid air conditioning: batteries, inverters and solar sized for start, running load and run time, with the working of every figure.",
  "interface.reserveIsReached": "The battery has reached its reserve.",
} as const;
