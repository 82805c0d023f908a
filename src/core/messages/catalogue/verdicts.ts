/* Sentences of the verdicts, their conditions and their help. */

const CUT = `{cause, select,
  inverter {The inverter cuts off on low voltage}
  bank {The BMS cuts off on low voltage}
  empty {The battery is empty}
  overload {The inverter is overloaded}
  protection {The BMS opens on over-current}
  unit {The air conditioner cuts off on low voltage}
  other {Supply ends}}`;

/** When something of the use happens: the time of day, and the day of the use where it is not the first. */
const AT = `at {time}{day, plural, =1 {} other { on day #}}`;

export const VERDICT_MESSAGES = {
  "place.choose": "Choose a place",
  "place.choose.why":
    "How long the battery lasts depends on the weather: choose a place, or enter a design temperature.",
  "place.choose.both":
    "Whether the battery recovers depends on the weather: choose a place, or enter a design temperature and the day’s sun hours.",
  "place.choose.sun": "Whether the battery recovers depends on the sun: choose a place, or enter the day’s sun hours.",

  "conditions.place": `{place}, {month}, {kind, select,
    mild {mild day} usual {typical day} hot {hot day} own {design day of your own}
    generated {simulated weather} file {weather file} other {}}:
    {spread, select, one {{high} at {highAt}, {low} at night} other {{low} to {high}}}`,
  "conditions.own": `No place chosen; design day of your own, {month}: {high} at {highAt}, {low} at night`,
  "conditions.none": `No place chosen: {high} outdoors is assumed for Starts and Carries`,

  "lasts.nothing": "The plan of the day has no cooling.",
  "lasts.nothing.short": "No cooling in the plan of the day",
  "lasts.never": `{storage, select,
    yes {Without sun the battery is still above its {reserve} reserve after {days} days.}
    other {Left on, the battery is still above its {reserve} reserve after {days} days.}}`,
  "lasts.never.short": "Battery still above {reserve} reserve after {days} days",
  "lasts.reserve": `{storage, select, yes {Without sun the battery} other {The battery}} reaches its {reserve} reserve ${AT} if left on:
    {span} after switching on at {from}.`,
  "lasts.reserve.short": `Battery reaches {reserve} reserve ${AT} if left on`,
  "lasts.cut": `${CUT} ${AT}, above the {reserve} reserve: {span} after switching on at {from}.`,
  "lasts.cut.short": `${CUT} ${AT}`,
  "lasts.covers": "That covers the {wanted} wanted with {spare} to spare.",
  "lasts.covers.just": "That just covers the {wanted} wanted.",
  "lasts.short": "That is {gap} short of the {wanted} wanted.",

  "recovers.firstNight": "The battery reaches its {reserve} reserve at {time} on the first night.",
  "recovers.night": `The battery loses {rate} of charge a day and reaches its {reserve} reserve on the
    {night, selectordinal, one {#st} two {#nd} few {#rd} other {#th}} night.`,
  "recovers.night.flat": `The battery reaches its {reserve} reserve on the
    {night, selectordinal, one {#st} two {#nd} few {#rd} other {#th}} night.`,
  "recovers.later":
    "The battery loses {rate} of charge a day and reaches its {reserve} reserve after about {days} days.",
  "recovers.full": "The battery is full again by {time} on most days; its lowest charge at sunrise is {lowest}.",
  "recovers.settles": "The battery comes back to the same charge day after day; its lowest at sunrise is {lowest}.",
  "recovers.cut": `${CUT} in the course of the stay, although the charge stays above the reserve.`,
  "recovers.missing": "{energy} a day is missing: that much more into the battery keeps it above the reserve.",
  "recovers.missing.none":
    "More generation alone does not help: the battery is too small for one night, or supply is cut.",
  "recovers.short.missing": "{energy} a day missing; battery reaches its reserve on night {night}",
  "recovers.short.later": "{energy} a day missing; battery reaches its reserve after {days} days",
  "recovers.short.night": "Battery reaches its reserve on night {night}; more charging alone does not help",
  "recovers.short.full": "Battery full again by {time}",
  "recovers.short.settles": "Battery at {lowest} at sunrise, day after day",
  "recovers.short.cut": `${CUT}`,

  "answer.runs": "It starts, and everything carries its current.",
  "answer.tight": "Tight: {by}.",
  "answer.oncePutRight": "{count, plural, one {Once that is put right:} other {Once both are put right:}}",
  "answer.noStart": "It does not start as it is. What limits it: {by}.",
  "answer.noCarry": "It starts, but not everything can carry its current for hours: {by}.",
  "answer.stop": "It must not be switched on as it is: {by}.",
  "answer.stopAndNoStart": "It must not be switched on as it is ({carries}), and it does not start ({starts}).",
  "answer.neither":
    "It does not start as it is ({starts}), and not everything can carry its current for hours ({carries}).",

  "hand.differs": `The hand method divides the usable charge by one constant load. The run of the day differs because sun
    comes in, the first hours cool the cabin down, and the night is cooler than the afternoon.`,

  "help.starts": `Does every compressor start with the battery at its reserve? The peak of the start is compared with what the
    inverter, the BMS, the fuse and the voltage at the inverter allow.`,
  "help.carries": `Does everything carry its current for hours, safely? Cables, fuses, breakers, inverter, battery and the wiring
    rules of the job's rule set are checked.`,
  "help.lasts": `How long from switching on, on the design day, until the battery reaches its reserve? That is compared with
    the hours wanted.`,
  "help.recovers": `Does the battery come back every day for as long as the stay lasts? If it does not, the energy that is
    missing a day is found by solving for it.`,
  "help.Holds": "Holds: it is met with room to spare.",
  "help.Tight": "Tight: it is met with little room, or something that matters is not stated yet.",
  "help.Fails": "Fails: it is not met.",
  "help.Stop": "Stop: it can start a fire, give a shock or ruin the battery. Do not switch on before it is put right.",
  "help.choose": "This verdict needs the weather of a place.",
} as const;
