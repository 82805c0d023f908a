import { constant, of, record, type Trace } from "../../units/trace";
import type { System } from "../../models/system/system";
import type { UseRun } from "./use";

/** Energies of the battery in Wh, from the top of a full one down; together the full battery. */
export interface BankColumn {
  full: number;
  segments: {
    key: "uncharged" | "units" | "loads" | "losses" | "left" | "reserve" | "unreachable";
    energy: number;
    figure: string;
  }[];
  /** Wh that came in meanwhile: sun and other charging. */
  meanwhile: number;
  /** Wh more than there is above the reserve that the hours wanted would take; 0 where they are met. */
  missing: number;
}

type Key = BankColumn["segments"][number]["key"];

/** Where a full battery goes in the hours wanted, by the run of the design day. */
export function bankColumnOf(system: System, figures: Trace, rest: Float64Array, own: UseRun | null): BankColumn {
  const { bank, values } = system;
  const pieces = rest.length;
  /** Wh between two states of charge: open-circuit voltage times charge. */
  const between = (upper: number, lower: number) => {
    let sum = 0;
    for (let piece = Math.floor(lower * pieces); piece < pieces && piece / pieces < upper; piece++) {
      const covered = Math.min(upper, (piece + 1) / pieces) - Math.max(lower, piece / pieces);
      if (covered > 0) sum += covered * rest[piece]! * bank.capacityAh;
    }
    return sum;
  };
  const storage = system.rig.brief.stance === "storage";
  const wanted = storage ? values.plan.storageDays.value * 86_400 : values.brief.hoursWanted.value;
  const cutCharge = own?.cutOff && own.cause !== "empty" ? own.run.stateOfCharge[Math.max(0, own.run.steps - 1)]! : 0;
  const reserve = Math.max(cutCharge < bank.reserveSoc ? 0 : cutCharge, Math.min(bank.startSoc, bank.reserveSoc));
  const time = own ? Math.min(wanted, own.lasts) : 0;
  const { stepS = 60, steps = 0 } = own?.run ?? {};
  const last = Math.min(steps, Math.round(time / stepS));
  const end = last > 0 ? Math.min(1, Math.max(reserve, own!.run.stateOfCharge[last - 1]!)) : bank.startSoc;
  const sums = { units: 0, loads: 0, losses: 0, meanwhile: 0 };
  for (let k = 0; k < last; k++) {
    const { run } = own!;
    const hours = stepS / 3600;
    sums.units += run.unitPower[k]! * hours;
    sums.loads += run.loadPower[k]! * hours;
    sums.losses += run.lossPower[k]! * hours;
    sums.meanwhile += (run.solarUsed[k]! + run.enginePower[k]! + run.shorePower[k]! + run.generatorPower[k]!) * hours;
  }
  const drawn = sums.units + sums.loads + sums.losses;
  const start = Math.max(bank.startSoc, end);
  const fromBattery = between(start, end);
  // What came in meanwhile went straight into the loads: the battery gave the rest of each.
  const part = drawn > 0 ? fromBattery / drawn : 0;
  const segments: BankColumn["segments"] = [];
  const add = (
    key: Key,
    name: string,
    energy: number,
    relation: string,
    terms: Parameters<typeof record>[6],
    source: string,
  ) => {
    const figure = record(figures, `column.${key}`, name, "energy", Math.max(0, energy), relation, terms, source);
    segments.push({ key, energy: figure.value, figure: figure.key });
  };
  const span = (key: Key, name: string, upper: number, lower: number) =>
    add(
      key,
      name,
      between(upper, lower),
      "E = ∫ V × C ds",
      [
        constant("s_1", "From state of charge", upper, "ratio", "of the run"),
        constant("s_2", "To state of charge", lower, "ratio", "of the run"),
        of("C", system.figures["bank.capacity"]!),
      ],
      "open-circuit voltage times charge, stepped",
    );
  const taken = (key: "units" | "loads" | "losses", name: string, why: string) =>
    add(
      key,
      name,
      sums[key] * part,
      "E = E_k × p",
      [
        constant("E_k", name, sums[key], "energy", why),
        constant("p", "Part that the battery gave", part, "ratio", "the rest came in meanwhile"),
      ],
      "coupled run of the design day",
    );
  span("uncharged", "Not charged", 1, start);
  taken("units", "Air conditioner", "over the hours wanted, or to the reserve");
  taken("loads", "Other loads", "over the hours wanted, or to the reserve");
  taken("losses", "Losses", "inverter, its idle draw, cables, the cells");
  span("left", "Left above the reserve", end, reserve);
  span("reserve", "Reserve", reserve, Math.min(reserve, cutCharge));
  span("unreachable", "Below the cut-off", Math.min(reserve, cutCharge), 0);
  return {
    full: between(1, 0),
    segments,
    meanwhile: sums.meanwhile,
    missing: own && own.lasts < wanted && own.lasts > 0 ? (fromBattery * (wanted - own.lasts)) / own.lasts : 0,
  };
}
