import type { Rule, Example } from "../../catalogue/rule";
import { jobOf } from "../../examples/systems";
import type { Finding } from "../../judge/finding";
import { driveOnMains, hasSoftStarter } from "../../../document/unit-kinds";
import type { System } from "../../../models/system/system";
import { constant, traced } from "../../../units/trace";

/** Electronics on a modified sine: soft starters misfire, and the input stage of a variable-speed unit overheats. */
function sineWave({ job, converted }: System): Finding[] {
  if (!converted) return [];
  const sensitive = job.units.filter((unit) => driveOnMains(unit) || hasSoftStarter(unit));
  if (sensitive.length === 0) return [];
  const sine = job.inverter.waveform === "sine" ? 1 : 0;
  const need = traced({
    key: "starts.sine.needed",
    name: "Sine wave needed",
    dimension: "count",
    value: 1,
    relation: "n = 1",
    source: "soft starter or variable-speed unit",
  });
  const has = traced({
    key: "starts.sine",
    name: "Sine wave from the inverter",
    dimension: "count",
    value: sine,
    relation: "n = n_s",
    terms: () => [constant("n_s", "Waveform of the inverter", sine, "count", sine ? "sine" : "modified sine")],
  });
  const named = sensitive.map(({ name }) => name).join(", ");
  return [
    {
      name: sine ? `sine wave for ${named}` : `modified sine on ${named}`,
      demand: need,
      form: "there",
      limit: has,
      remark: sine ? "a sine wave" : "its electronics do not work on a modified sine",
      part: "inverter",
    },
  ];
}

export const waveform: Rule = {
  id: "waveform",
  group: "Start",
  title: "Sine wave for electronics",
  asks: "A variable-speed unit or a soft starter is fed by a sine wave.",
  clause: "data sheets of soft starters and variable-speed units",
  broken: "Fails",
  ofThings: true,
  fix: "Use an inverter with a sine wave.",
  beforeStart: (system) => sineWave(system),
};

export const example: Example = {
  what: "a soft starter on a modified sine",
  breaks: () => jobOf({ unit: { startAid: "soft-starter" }, inverter: { waveform: "modified" } }),
  word: "Fails",
  meets: () => jobOf({ unit: { startAid: "soft-starter" }, inverter: { waveform: "sine" } }),
};
