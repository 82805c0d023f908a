import { isMains, isCharging } from "../../document/schema";
import type { System } from "../../models/system/system";
import type { Circuit, WiringPart } from "../../models/wiring/circuits";
import { constant, of, traced, type Term, type TracedValue } from "../../units/trace";
import type { Shared } from "./checked";
import { branchLoad } from "./circuit-load";
import { chargingTogether } from "./charging";

/*
 * A busbar in the main circuit joins the other circuits of the battery to it. What stands between the battery and the busbar,
 * and the busbar itself, carries them all.
 */

/** What the main circuit shares with the others, `along` being its own current; null where no busbar joins them. */
export function sharedOf(system: System, along: TracedValue): Shared | null {
  const upTo = system.wiring.main.parts.findLastIndex(({ part }) => part.kind === "busbar");
  if (upTo < 0) return null;
  const beside = drawnBeside(system);
  const charging = chargingTogether(system).figure;
  if (!beside && !charging) return null;
  const current = traced({
    key: "carries.shared",
    name: "Current between the battery and the busbar",
    dimension: "current",
    value: Math.max(along.value + (beside?.value ?? 0), charging?.value ?? 0),
    relation: `I = ${charging ? "max(" : ""}I_r${beside ? " + I_o" : ""}${charging ? ", I_c)" : ""}`,
    terms: () => [of("I_r", along), ...(beside ? [of("I_o", beside)] : []), ...(charging ? [of("I_c", charging)] : [])],
    source: "everything on at once, or charged from all sources",
  });
  return { upTo, beside, load: { current, design: current } };
}

/** A that the DC loads and units on circuits of their own draw together; null where there is none. */
export function drawnBeside(system: System): TracedValue | null {
  const currents = system.wiring.branches
    .filter(({ branch }) => !isMains(branch!) && !isCharging(branch!))
    .map((circuit) => branchLoad(system, circuit).current);
  if (currents.length === 0) return null;
  return traced({
    key: "carries.beside",
    name: "DC circuits beside the main one, all at once",
    dimension: "current",
    value: currents.reduce((sum, { value }) => sum + value, 0),
    relation: `I_o = ${currents.map((_, i) => `I_${i + 1}`).join(" + ")}`,
    terms: () => currents.map((current, i): Term => of(`I_${i + 1}`, current)),
  });
}

/** A demand on the main circuit alone, with what is drawn beside it. */
export function withBeside(own: TracedValue, beside: TracedValue | null, { path, name }: WiringPart): TracedValue {
  if (!beside) return own;
  return traced({
    key: `${path}:withBeside`,
    name: `${own.name}, and the DC circuits, through ${name}`,
    dimension: "current",
    value: own.value + beside.value,
    relation: "I = I_1 + I_o",
    terms: () => [of("I_1", own), of("I_o", beside)],
  });
}

/** What a part carries that joins circuits side by side: all of them, and what is drawn beside them. */
export function sumOfJoined(
  { lanes }: Circuit,
  { path, name }: WiringPart,
  each: TracedValue,
  beside: TracedValue | null,
): TracedValue {
  if (lanes < 2 && !beside) return each;
  return traced({
    key: `${path}:sum`,
    name: `All that ${name} joins`,
    dimension: "current",
    value: lanes * each.value + (beside?.value ?? 0),
    relation: `I = ${lanes > 1 ? "m × " : ""}I_1${beside ? " + I_o" : ""}`,
    terms: () => [
      ...(lanes > 1 ? [constant("m", "Equal circuits in parallel", lanes, "count", "one for each inverter")] : []),
      of("I_1", each),
      ...(beside ? [of("I_o", beside)] : []),
    ],
  });
}
