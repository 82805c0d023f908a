import { dcInput } from "../../models/inverter/inverter";
import { constant, given, of, traced, type TracedValue } from "../../units/trace";
import { legShares } from "../../reference/standards/mains";
import { currentAlongPath, currentOfBank, type System } from "../../models/system/system";

/** A system with everything on, as the rules of Carries see it. */
export interface Carrying {
  system: System;
  draw: RunningDraw;
  /** VA that the inverters carry for hours at their temperature; null without one. */
  inverterRating: TracedValue | null;
  /** VA on each output conductor of the inverter: one, or the two legs of a split phase. */
  outputs: readonly TracedValue[];
}

/** Everything on at once, at the reserve. */
export interface RunningDraw {
  apparent: TracedValue;
  real: TracedValue;
  /** W along the main circuit, and A along it and out of the battery. */
  pathPower: TracedValue;
  /** W at the battery beside it: DC loads, and units on branches of their own. */
  side: number;
  current: TracedValue;
  bankCurrent: TracedValue;
}

export function everythingOn(system: System): RunningDraw {
  const { values, inverter, units, loads, converted } = system;
  const onMains = units.filter((u) => !u.direct);
  const apparent = loadsTogether(
    { key: "carries.apparent", name: "All AC loads at once, apparent", dimension: "apparentPower", symbol: "S" },
    onMains.map((u) => u.runningApparent),
    loads.mains,
  );
  const real = loadsTogether(
    { key: "carries.real", name: "All AC loads at once", dimension: "power", symbol: "P" },
    onMains.map((u) => u.running),
    loads.mains,
  );
  const watts = (some: typeof units) => some.reduce((total, u) => total + u.running.value, 0);
  const directPower = watts(units.filter((u) => u.direct && !system.beside[u.index]));
  const pathPower = traced({
    key: "carries.pathPower",
    name: "Power along the main circuit",
    dimension: "power",
    value: (converted ? dcInput(inverter, real.value) : 0) + directPower,
    relation: converted ? `P_d = P_0 + (1 + a) × P + b × P² ÷ S_n${directPower > 0 ? " + P_u" : ""}` : "P_d = P_u",
    terms: () => [
      ...(converted
        ? [
            of("P", real),
            constant("P_0", "Inverter idle", inverter.idlePower, "power", "all inverters"),
            given("a", values.inverter.lossShare),
            given("b", values.inverter.lossRise),
            constant("S_n", "Inverter rating", inverter.rating, "apparentPower", "all inverters"),
          ]
        : []),
      constant("P_u", "DC air conditioners", directPower, "power", "running, on the design day"),
    ],
    source: "inverter loss curve",
  });
  const side = loads.dc + watts(units.filter((u) => system.beside[u.index]));
  const { figure: current, state } = currentAlongPath(system, {
    key: "carries.current",
    name: "Current to the inverter, running",
    onPath: pathPower,
    dcLoad: side,
  });
  const bankCurrent = currentOfBank("carries.bankCurrent", "Battery current, running", current, state);
  return { apparent, real, pathPower, side, current, bankCurrent };
}

/** The sum of what the units draw and of the other AC loads. */
function loadsTogether(
  { symbol, ...titled }: { key: string; name: string; dimension: "power" | "apparentPower"; symbol: "P" | "S" },
  units: TracedValue[],
  others: number,
): TracedValue {
  return traced({
    value: units.reduce((total, { value }) => total + value, 0) + others,
    relation: `${symbol} = ${[...units.map((_, i) => `${symbol}_${i + 1}`), "P_o"].join(" + ")}`,
    terms: () => [
      ...units.map((unit, i) => of(`${symbol}_${i + 1}`, unit)),
      constant("P_o", "Other AC loads", others, "power", "brief, all at once"),
    ],
    ...titled,
  });
}

export function ratingOfInverters({ values, inverter }: System): TracedValue {
  return traced({
    key: "carries.inverter",
    name: "Inverter continuous rating at its temperature",
    dimension: "apparentPower",
    value: inverter.derated,
    relation: "S_c = n × S_1 × max(0, 1 − d × max(0, T − T_k))",
    terms: () => [
      given("n", values.inverter.count),
      given("S_1", values.inverter.rating),
      given("d", values.inverter.deratePerKelvin),
      given("T", values.inverter.compartmentC),
      given("T_k", values.inverter.derateFromC),
    ],
    source: "full rating up to the knee, derated above it",
  });
}

/** Apparent power on each output conductor of the inverter: one, or the two legs of a split phase. */
export function outputLegs(system: System, whole: TracedValue): TracedValue[] {
  const { legs, units, job, loads } = system;
  if (!legs.split) return [whole];
  return ([0, 1] as const).map((leg) => {
    const own = units.filter(
      ({ direct, index }) => !direct && legShares(job.brief.mains, job.units[index]!.leg)[leg] > 0,
    );
    const share = (index: number) => legShares(job.brief.mains, job.units[index]!.leg)[leg];
    return traced({
      key: `carries.leg.${leg}`,
      name: `Apparent power on leg L${leg + 1}`,
      dimension: "apparentPower",
      value: own.reduce((sum, u) => sum + share(u.index) * u.runningApparent.value, 0) + loads.byLeg[leg],
      relation: `S = ${[...own.map((u, i) => `${share(u.index) === 1 ? "" : "0.5 × "}S_${i + 1}`), "P_o"].join(" + ")}`,
      terms: () => [
        ...own.map((u, i) => of(`S_${i + 1}`, u.runningApparent)),
        constant("P_o", "Other AC loads on this leg", loads.byLeg[leg], "power", "brief, all at once"),
      ],
      source: "a load between the legs is half on each",
    });
  });
}

/** What one of the two legs has of the inverters' rating. */
export const halfOf = (rating: TracedValue): TracedValue =>
  traced({
    key: "carries.leg",
    name: "Inverter continuous, one leg",
    dimension: "apparentPower",
    value: rating.value / 2,
    relation: "S = S_c ÷ 2",
    terms: () => [of("S_c", rating)],
  });
