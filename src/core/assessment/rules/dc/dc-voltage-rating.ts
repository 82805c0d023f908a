import { inSeries } from "../../needs/in-series";
import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { bank48, inMain, jobOf, q } from "../../examples/systems";
import type { Finding } from "../../judge/finding";
import type { CheckedPart } from "../../needs/checked";
import { coldRise } from "../../../document/sides";
import { openCircuitVoltage } from "../../../models/battery/battery";
import type { System } from "../../../models/system/system";
import type { Circuit } from "../../../models/wiring/circuits";
import { isKind } from "../../../models/wiring/part";
import { FUSE_KINDS } from "../../../reference/conductors/fuse";
import { TracedValue, constant, given, stated, traced } from "../../../units/trace";

/** The voltage rating of a part against the highest volts of its side. */
function voltageRated({ system, circuit, one }: CheckedPart): Finding {
  const volts = stated(
    {
      key: `${one.path}:voltage`,
      name: `Voltage rating, ${one.name}`,
      source: isKind(one.part, "fuse") ? FUSE_KINDS[one.part.fuseKind].name : "label",
    },
    "V_f",
    given("V_1", one.values.voltage!),
  );
  const highest = highestVoltage(system, circuit);
  return {
    topic: "volts",
    name: `${one.name} voltage rating`,
    demand: highest,
    limit: volts,
    remark: volts.value < highest.value ? "an arc would not go out" : "above the highest voltage of its side",
    part: one.path,
  };
}

/** The highest volts that parts of a run see. */
function highestVoltage(system: System, circuit: Circuit): TracedValue {
  const { bank, values, job } = system;
  const { far } = circuit;
  if (far) {
    const solar = circuit.branch!.role === "solar";
    return traced({
      key: `${circuit.path}.highest`,
      name: `Highest voltage, ${circuit.title}`,
      dimension: "voltage",
      value: far.highestVolts,
      relation: solar ? "V = V_oc × k" : "V = 1.25 × V_n",
      terms: () =>
        solar
          ? [
              constant("V_oc", "Open-circuit voltage of the string", far.volts, "voltage", "at 25 °C"),
              constant(
                "k",
                "Rise in the cold",
                coldRise(values.sources.lowestC.value),
                "number",
                "NEC table 690.7(A), IEC 62548 table 5",
              ),
              given("T", values.sources.lowestC),
            ]
          : [constant("V_n", "Nominal", far.volts, "voltage", far.source)],
      source: solar ? "open circuit on the coldest morning" : "while it is charged",
    });
  }
  const full = openCircuitVoltage(bank, 1);
  return traced({
    key: "carries.highest",
    name: "Highest voltage of the battery",
    dimension: "voltage",
    value: Math.max(bank.chargeToVoltage, full),
    relation: "V = max(V_h, V_r)",
    terms: () => [
      given("V_h", values.bank.chargeToVoltage),
      constant("V_r", "Full battery, open circuit", full, "voltage", "open-circuit voltage of its chemistry"),
    ],
    source: job.bank.chemistry === "agm" ? "absorption end" : "end of charge",
  });
}

export const dcVoltageRating: Rule = {
  id: "dc-voltage-rating",
  group: "DC wiring",
  title: "Voltage rating of fuses and switches",
  asks: "A DC fuse, breaker or isolator is rated for the highest voltage of its side. Unknown, the lowest usual rating is taken: 32 V for a bolt-down strip.",
  clause: by("NEC 240.60, 110.4", "ABYC E-11", "ISO 10133", "ISO 13297", "AS/NZS 3001.2"),
  broken: "Stop",
  fix: "Fit one that is rated for the highest voltage of its side.",
  part: {
    fuse: (at) => [voltageRated(at)],
    ...inSeries((at) => (at.one.values.voltage && !at.circuit.mains ? [voltageRated(at)] : [])),
  },
};

export const example: Example = {
  what: "an isolator for 32 V on a 48 V battery",
  breaks: () => inMain("isolator", { voltage: q(32) }, jobOf({ bank: bank48 })),
  word: "Stop",
  meets: () => jobOf({ bank: bank48 }),
};
