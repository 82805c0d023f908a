import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { four48, q } from "../../examples/systems";
import type { Finding } from "../../judge/finding";
import { FUSE_SPARE } from "../../needs/checked";
import { fuseOfEach, isParallel, linkAmpacity, mostOfBank } from "../../needs/links";
import { PARALLEL_IMBALANCE, isChained } from "../../../document/resolve-wiring";
import type { System } from "../../../models/system/system";
import { TracedValue, constant, of, traced } from "../../../units/trace";

/** The lead of each battery against what it carries. */
const lead = (system: System, most: TracedValue): Finding => ({
  topic: "ampacity",
  name: "lead of each battery",
  demand: fuseOfEach(system, most),
  limit: linkAmpacity(system),
  remark: "125 % of what one battery gives or takes at most",
  tightFrom: 1 / FUSE_SPARE,
  part: "wiring.links",
});

/** The link of a chain that carries what all batteries but one give. */
function chain(system: System, most: TracedValue): Finding {
  const n = system.values.bank.parallel.value;
  const share = Math.min(1, (PARALLEL_IMBALANCE * (n - 1)) / n);
  return {
    topic: "ampacity",
    name: "link that carries most",
    demand: traced({
      key: "links.chain",
      name: "Current of the link that carries most",
      dimension: "current",
      value: share * most.value,
      relation: "I_1 = q × I_b",
      terms: () => [
        constant("q", "Share of all batteries but one", share, "ratio", "a tenth over an equal share"),
        of("I_b", most),
      ],
    }),
    limit: linkAmpacity(system),
    remark: "what all batteries but one give or take",
    part: "wiring.links",
  };
}

export const batteryLeads: Rule = {
  id: "battery-leads",
  group: "Batteries",
  title: "Leads and links of batteries in parallel",
  asks: "The lead of each battery in parallel carries 125 % of its share, unequal as it is, of the inverters' full draw or of all charging; each link of a chain carries what flows in it and is protected by the main fuse.",
  clause: by("ABYC E-11", "ABYC E-11", "IEC 60364-4-43, 433.1", "ISO 13297; IEC 60364-4-43, 433.1", "AS/NZS 3001.2"),
  broken: "Fails",
  fix: "Use thicker leads or links between the batteries.",
  system({ system, draw }) {
    if (!isParallel(system)) return [];
    const most = mostOfBank(system, draw.bankCurrent);
    return [isChained(system.job.wiring.links.layout) ? chain(system, most) : lead(system, most)];
  },
};

export const example: Example = {
  what: "14 AWG leads on four batteries that give 69 A each",
  breaks: () => four48({ fuseRating: q(40), areaMm2: q(2.08) }),
  word: "Fails",
  meets: () => four48({ fuseRating: q(100), areaMm2: q(25) }),
};
