/** What the report and the import of a test run say. */
export const TEST_RUN_MESSAGES = {
  "testRun.conditionsWhy":
    "What no instrument tells. Every answer may be left out; each one given makes the forecast’s range narrower.",
  "testRun.untilSunLeaves":
    "The panels carry part of the draw until about {at}; after that the battery gives about {amps} A.",
  "testRun.sunCarries": "The panels carry part of the draw throughout; the battery gives about {amps} A on average.",
  "testRun.drawRises": "The battery gives about {now} A in the next hour, rising to about {most} A at {at}.",
  "testRun.drawFalls": "The battery gives about {now} A in the next hour, falling to about {last} A later.",
  "testRun.drawStays": "The battery gives about {amps} A on average until the reserve.",
  "testRun.drawStaysOn": "The battery gives about {amps} A on average over the next two days.",
  "testRun.chanceOfSun": "{inTen} in 10 that it lasts until the sun is back on the panels at {at}.",
  "testRun.wouldHelp": "{what} That would narrow this forecast most, by about {percent} %.",
  "testRun.byPeukert": "A monitor that counts by Peukert shows the reserve {at}.",
  "testRun.help.outdoor": "Read the outdoor temperature.",
  "testRun.help.forecast": "State today’s forecast high and low.",
  "testRun.help.charge": "Read or state the state of charge.",
  "testRun.help.cabin": "Read the cabin temperature.",
  "testRun.help.solar": "Read the power of the panels.",
  "testRun.help.people": "State how many people are on board.",
  "testRun.help.sun": "State the skin’s colour and where the vehicle stands.",
  "testRun.reservePassed": "Reserve reached at {passed}; cut-off at {at}, between {from} and {to}.",
  "testRun.reservePassedNoCutOff": "Reserve reached at {passed}; no cut-off within two days.",
  "testRun.reachAsked": "What to set is being worked out.",
  "testRun.reachPassed": "The reserve is reached already.",
  "testRun.reachAsItIs": "As it is set it lasts until {at} in nine of ten cases.",
  "testRun.reachBy": "To last until {at} in nine of ten cases: {settings}. The cabin is warmer for it by {warmer}.",
  "testRun.reachNone":
    "No setting that was tried lasts until {at} in nine of ten cases. The nearest, {settings}, does in {inTen} of ten.",
  "testRun.outdoorsWhile": "Outdoors {temperature} while it ran.",
  "testRun.unexplainedMore":
    "{amps} A ({watts} W) that no finding explains: look for another load on the battery, a monitor’s zero that is off, an open door or vent, a dirty filter or condenser.",
  "testRun.unexplainedLess":
    "{amps} A ({watts} W) less than the job would draw, which no finding explains: look for sun that was not read, a monitor’s zero that is off, a load that was switched off.",
  "testRun.outsideShorter":
    "With the findings the job reaches its reserve sooner than the run’s forecast says: the forecast also knows of this run’s weather and sky, and of what the log leaves open.",
  "testRun.outsideLonger":
    "With the findings the job lasts longer than the run’s forecast says: the forecast also knows of this run’s weather and sky, and of what the log leaves open.",
  "testRun.reachedLater":
    "The job reaches its reserve sooner than this run did: the replay goes by the capacity that the job states, and by a usual day where the log tells nothing.",
  "testRun.reachedSooner":
    "The job lasts longer than this run did: the replay goes by the capacity that the job states, and by a usual day where the log tells nothing.",
  "testRun.outsideUnexplained":
    "With the findings the job lasts longer than the run’s forecast says, since a part of the draw stays unexplained: go by the forecast until it is found.",
  "testRun.applyAsked": "The log is being replayed with the job as it would be.",
  "testRun.applyNotReady": "The forecast is not ready yet. Try again in a moment.",
  "testRun.compared.amps": "{more} drew {percent} % more from the battery than {less}.",
  "testRun.compared.running": "With the compressor on, {more} drew {percent} % more than {less}.",
  "testRun.compared.duty": "The compressor of {more} ran {percent} % longer than that of {less}.",
  "testRun.compared.pullDown": "{more} took {percent} % longer to cool down than {less}.",
  "testRun.compared.cabin": "The cabin was {warmer} warmer in {more} than in {less}.",
  "testRun.compared.outdoor": "It was {warmer} warmer outdoors in {more} than in {less}.",
  "testRun.compared.alike":
    "Over the {hours} h that both have, draw, duty cycle and temperatures lie within a tenth or a kelvin of one another.",
  "testRun.noOtherRun": "There is no other run yet.",
  "testRun.nothingSet": "Type a set point or choose a mode.",
  "testRun.setPointOutside": "{text} is not a set point of an air conditioner.",
  "testRun.noteNotUnderstood":
    "{at}: “{text}” speaks of a setting and is not understood. Write set 24, low fan, fan only, off, on or auto.",
  "testRun.conditionsNotKept": "Not kept: {reason}.",
  "testRun.readingOutside": "“{text}” is outside what such a system can read.",
  "testRun.testRunLastsFive": "A test run lasts five days at most: cut the log into runs.",
  "testRun.forecastDoesNotReach":
    "The forecast does not reach the reserve within two days: the sun gives enough, or there is little to cool.",
  "testRun.somethingElsePanelsCharges":
    "Something other than the panels charges the battery with about {amps} A. The forecast assumes that it stops now.",
  "testRun.averageHoldsWhatEngine":
    "The average includes what the engine, shore power or a generator gave during the run.",
  "testRun.unitStillPullingCabin":
    "The unit is still pulling the cabin down at full draw; it will stop and start, or slow down, once the cabin is cool.",
  "testRun.averageSoFarCounts": "The average so far includes the pull-down, which is over.",
  "testRun.ampsNowThoseRest": "The compressor is off at this moment: the current now is less than the average.",
  "testRun.ampsNowThoseRun": "The compressor is on at this moment: the current now is more than the average.",
  "testRun.willKWarmerOutside":
    "It will be {change} K warmer outside on average until then, so the compressor is on for longer.",
  "testRun.willKCoolerOutside":
    "It will be {change} K cooler outside on average until then, so the compressor is off for longer.",
  "testRun.sunWillGiveLess": "The sun will give less than it does now.",
  "testRun.sunWillGiveMore": "The sun will give more than it does now.",
  "testRun.monitorReckonsAnotherCapacity":
    "The monitor is set to another capacity than the battery’s plate says: its percentage and its time-to-go are wrong.",
  "testRun.handAnswersHoldOne":
    "The hand methods assume one constant draw for the rest of the run. The forecast follows the air conditioner, the weather and the battery.",
  "testRun.datesCanReadDay": "The dates can be read day first or month first. They are read day first.",
  "testRun.timesWrittenWayNot": "The times are written in a form that cannot be read.",
  "testRun.noColumnTimesWas": "No column of times was found.",
  "testRun.noColumnBatteryCurrent": "No column of battery current was found: choose it.",
  "testRun.whetherChargingDischargingCounts":
    "Whether charging or discharging counts as positive is not certain from the data: look at the first readings.",
  "testRun.timesCountStartSay": "Times count from the start: say when it began.",
  "testRun.forecastBeginsThreeReadings": "The forecast needs three readings of battery current over a minute or more.",
  "testRun.needsReadings": `A forecast needs {least} readings of battery current over a minute or more; there {count, plural, one {is #} other {are #}}.`,
} as const;
