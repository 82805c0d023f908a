import type { Rig } from "../rig/document";
import type { RigValues } from "../rig/resolve";
import { ampacityTable } from "../rig/typical";
import { constant, given, of, record, type Figure, type Figures } from "../sum/figure";
import { AMPACITY_TABLES, routeFactor, tableAmpacity } from "./ampacity";
import { cableResistance, cableResistancePerMetre, COPPER_ALPHA } from "./cable";

/** The path from bank to inverter: resistances, and what its cable and fuse may carry. */
export interface PathModel {
  /** Ohm, one cable run: there or back. */
  cableOneWay: number;
  fuse: number;
  switch: number;
  contacts: number;
  /** Ohm, all of it. */
  resistance: number;
  /** A, of the cable where it runs. */
  ampacity: Figure;
  resistanceFigure: Figure;
  /** A; zero where there is no fuse. */
  fuseRating: number;
}

export function pathModel(figures: Figures, rig: Rig, values: RigValues["path"]): PathModel {
  const area = values.cableAreaMm2;
  const cableOneWay = cableResistance(
    area.value,
    values.cableLength.value,
    values.cableCount.value,
    values.conductorC.value,
  );
  const contacts = values.contacts.value * values.contactResistance.value;
  const resistance = 2 * cableOneWay + values.fuseResistance.value + values.switchResistance.value + contacts;

  const cable = record(
    figures,
    "path.cable",
    "Cable, one way",
    "resistance",
    cableOneWay,
    "R_c = r × L × (1 + α × (T − 20)) ÷ n",
    [
      constant(
        "r",
        "Copper at 20 °C, per metre",
        cableResistancePerMetre(area.value),
        "resistance",
        "IEC 60228 class 5 (memory), or ASTM B258 for AWG sizes",
      ),
      given("L", values.cableLength),
      constant("α", "Rise with temperature, per K", COPPER_ALPHA, "number", "IEC 60228"),
      given("T", values.conductorC),
      given("n", values.cableCount),
    ],
    "IEC 60228",
  );
  const joints = record(figures, "path.contacts", "Lugs and contacts", "resistance", contacts, "R_k = n × R_1", [
    given("n", values.contacts),
    given("R_1", values.contactResistance),
  ]);
  const resistanceFigure = record(
    figures,
    "path.resistance",
    "Path, bank to inverter",
    "resistance",
    resistance,
    "R = 2 × R_c + R_f + R_s + R_k",
    [of("R_c", cable), given("R_f", values.fuseResistance), given("R_s", values.switchResistance), of("R_k", joints)],
    "parts in series, there and back",
  );

  const tableKey = ampacityTable(rig);
  const table = AMPACITY_TABLES[tableKey];
  const { insulation, route } = rig.path;
  const listed = tableAmpacity(tableKey, area.value, insulation);
  const factor = routeFactor(tableKey, insulation, route);
  const ampacity = record(
    figures,
    "path.ampacity",
    "What the cable may carry",
    "current",
    listed * factor * values.cableCount.value,
    "I_z = I_t × k × n",
    [
      constant(
        "I_t",
        "Table value",
        listed,
        "current",
        `${table.name}, ${insulation} °C insulation, ${table.conditions}`,
      ),
      constant(
        "k",
        "Route",
        factor,
        "number",
        { free: "free air", bundled: "bundled with others", engine: "in an engine space" }[route],
      ),
      given("n", values.cableCount),
    ],
    table.name,
  );
  return {
    cableOneWay,
    fuse: values.fuseResistance.value,
    switch: values.switchResistance.value,
    contacts,
    resistance,
    ampacity,
    resistanceFigure,
    fuseRating: rig.path.fuseKind === "none" ? 0 : values.fuseRating.value,
  };
}
