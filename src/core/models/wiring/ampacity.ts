import type { PartOf } from "../../document/schema";
import {
  AMPACITY_TABLES,
  ambientFactor,
  routeFactor,
  tableAmpacity,
  type AmpacityTable,
} from "../../reference/conductors/ampacity";
import { acAmpacity } from "../../reference/standards/ac-cable";
import type { RuleSet } from "../../reference/standards/rule-set";
import { constant, given, traced, type TracedValue } from "../../units/trace";
import type { NamedPart } from "./part";
import type { ResolvedQuantity } from "../../units/known";

const ROUTES = { free: "free air", bundled: "bundled with others", engine: "in an engine space" } as const;

type Cable = NamedPart<PartOf<"cable">>;

/** What the ampacity of a cable depends on beside the cable itself. */
interface Surroundings {
  /** °C around it, and the table that it is read from on the battery's side. */
  ambient: ResolvedQuantity;
  table: AmpacityTable;
  rules: RuleSet;
  /** Whether it carries mains. */
  mains: boolean;
}

/** A that a cable may carry: by its own table, or by that of its side of the rule set with the factors of where it runs. */
export function cableAmpacity(cable: Cable, surroundings: Surroundings): TracedValue {
  const { ampacity } = cable.values;
  if (ampacity)
    return traced({
      value: ampacity.value,
      relation: "I_z = I_1",
      terms: () => [given("I_1", ampacity)],
      source: "the cable's own table",
      ...titled(cable),
    });
  return surroundings.mains ? mainsAmpacity(cable, surroundings) : dcAmpacity(cable, surroundings);
}

const titled = ({ path, name }: Cable) => ({
  key: `${path}.ampacity`,
  name: `Ampacity, ${name}`,
  dimension: "current" as const,
});

function mainsAmpacity(cable: Cable, { ambient, rules }: Surroundings): TracedValue {
  const { insulation, route, method, terminals } = cable.part;
  const { areaMm2, count, circuits } = cable.values;
  const area = areaMm2!;
  const ac = acAmpacity(
    rules,
    { areaMm2: area.value, insulation, method, route, terminals, circuits: circuits!.value },
    ambient.value,
  );
  return traced({
    value: ac.ampacity * count!.value,
    relation: "I_z = min(I_t × k_a × k_g × k_r, I_e) × n",
    terms: () => [
      constant("I_t", "Table value", ac.listed, "current", ac.table),
      given("S", area),
      constant(
        "k_a",
        "Air temperature",
        ac.airFactor,
        "number",
        `1 at 30 °C; taken at ${rules.referenceAmbientC} °C at least`,
      ),
      given("T", ambient),
      constant("k_g", "Circuits run together", ac.groupFactor, "number", rules.standards.ac),
      given("n_c", circuits!),
      constant("k_r", "Route", ac.routeFactor, "number", ROUTES[route]),
      constant("I_e", "Terminals", ac.terminals, "current", ac.terminalsWhy),
      given("n", count!),
    ],
    source: rules.standards.ac,
    ...titled(cable),
  });
}

function dcAmpacity(cable: Cable, { ambient, table: tableKey }: Surroundings): TracedValue {
  const { insulation, route } = cable.part;
  const { areaMm2, count, circuits } = cable.values;
  const area = areaMm2!;
  const table = AMPACITY_TABLES[tableKey];
  const listed = tableAmpacity(tableKey, area.value, insulation);
  const along = routeFactor(tableKey, insulation, route, circuits!.value);
  const warm = ambientFactor(insulation, ambient.value);
  return traced({
    value: listed * along * warm * count!.value,
    relation: "I_z = I_t × k_r × k_a × n",
    terms: () => [
      constant(
        "I_t",
        "Table value",
        listed,
        "current",
        `${table.name}, ${insulation} °C insulation, ${table.conditions}`,
      ),
      given("S", area),
      constant("k_r", "Route", along, "number", ROUTES[route]),
      constant("k_a", "Air temperature", warm, "number", `√((${insulation} − T) ÷ (${insulation} − 30)), 1 at 30 °C`),
      given("T", ambient),
      given("n", count!),
    ],
    source: table.name,
    ...titled(cable),
  });
}
