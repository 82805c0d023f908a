import { CHEMISTRIES } from "../bank/chemistry";
import { isCharging } from "../rig/document";
import type { Run } from "../path/path";
import { constant, record } from "../sum/figure";
import { check, type Check } from "./check";
import type { System } from "./system";

/** A rule of how the rig is put together: met or broken, with the reason and the cure. */
export interface Rule {
  key: string;
  title: string;
  /** How the broken rule is named as the weakest link. */
  fault: string;
  met: boolean;
  /** Breaking it touches fire or shock. */
  stop: boolean;
  reason: string;
  cure: string;
  /** Where in the document it is mended. */
  part: string;
}

/** A bank this many times over the loads' voltage would break them. */
const LOAD_VOLTAGE_SPARE = 1.35;

/** The structure rules that the rig's parts call up. */
export function structureRules(system: System): Rule[] {
  const { rig, path, converted, bank, values, inverter, mains } = system;
  const rules: Rule[] = [];
  const has = (run: Run, kind: string) => run.parts.some(({ part }) => part.kind === kind);
  const shores = path.branches.filter(({ branch }) => branch!.role === "shore");
  const lithium = CHEMISTRIES[rig.bank.chemistry].lithium;
  const charging = path.branches.filter(({ branch }) => isCharging(branch!));

  if (converted)
    rules.push({
      key: "leakage",
      title: "earth-leakage protection on the inverter's output",
      fault: "no earth-leakage protection on the inverter's output",
      met: has(path.mains, "rcd"),
      stop: true,
      reason: "Nothing would switch off when current flows to earth through a person.",
      cure: "Put an earth-leakage switch first on the inverter's output; bond neutral to earth as the local rules say.",
      part: "path.mains",
    });
  const outputCables = path.mains.parts.flatMap(({ ampacity }) => (ampacity ? [ampacity.value] : []));
  if (converted && outputCables.length > 0)
    rules.push({
      key: "output",
      title: "breaker on the inverter's output",
      fault: "no breaker on the inverter's output",
      // An inverter that cannot give more than its cable carries protects it by its own limit.
      met: has(path.mains, "breaker") || inverter.rating / mains <= Math.min(...outputCables),
      stop: true,
      reason: "The inverter can push more than the cable carries, and nothing would stop it.",
      cure: "A breaker of no more than the cable carries, behind the inverter.",
      part: "path.mains",
    });
  for (const run of path.branches.filter(({ branch }) => branch!.role === "circuit"))
    rules.push({
      key: `${run.path}.breaker`,
      title: `breaker, ${run.title}`,
      fault: `no breaker, ${run.title}`,
      met: has(run, "breaker") || has(path.mains, "breaker"),
      stop: true,
      reason: "A short circuit in the unit would have nothing to stop it before the inverter gives up.",
      cure: "A breaker where the circuit leaves the board.",
      part: run.path,
    });
  for (const run of shores) {
    rules.push(
      {
        key: `${run.path}.leakage`,
        title: `earth-leakage protection, ${run.title}`,
        fault: `no earth-leakage protection, ${run.title}`,
        met: has(run, "rcd"),
        stop: true,
        reason: "A site's own protection cannot be trusted to be there.",
        cure: "Make an earth-leakage switch the first part behind the inlet.",
        part: run.path,
      },
      {
        key: `${run.path}.breaker`,
        title: `breaker, ${run.title}`,
        fault: `no breaker, ${run.title}`,
        met: has(run, "breaker"),
        stop: true,
        reason: "A source without protection: a fault would burn the cable before the site's breaker acts.",
        cure: "Add a breaker of the inlet's rating at most.",
        part: run.path,
      },
    );
    if (converted)
      rules.push({
        key: `${run.path}.meet`,
        title: "inverter and shore kept apart",
        fault: "inverter and shore can meet",
        met: has(path.mains, "changeover") || has(run, "changeover"),
        stop: true,
        reason: "Inverter and shore could meet: the inverter would be destroyed, and the plug's pins be live.",
        cure: "A change-over that breaks one before it makes the other, in the mains side or behind the inlet.",
        part: "path.mains",
      });
  }
  for (const run of path.branches) {
    const branch = run.branch!;
    const at = run.path.replace(/\.parts$/, "");
    if (branch.role === "charger" && converted)
      rules.push({
        key: `${run.path}.loop`,
        title: "charger fed from shore, not from its own inverter",
        fault: "charging loop",
        met: branch.fedFrom === "shore",
        stop: true,
        reason: "The inverter feeds the charger that feeds the inverter: the loop empties the bank and cooks both.",
        cure: "Feed the charger from the shore side of the change-over.",
        part: at,
      });
    if (branch.role === "engine")
      rules.push({
        key: `${run.path}.control`,
        title: "engine charging follows the engine",
        fault: "engine charging on ignition",
        met: branch.control === "engine-running",
        stop: false,
        reason:
          "On ignition alone the batteries are joined before and without the engine: the starter battery goes flat, and the switch breaks under load.",
        cure: "Switch it by the running engine: charge signal, voltage sensing, or the alternator's own output.",
        part: at,
      });
    if (branch.role === "loads") {
      const wanted = values.path.branches[Number(run.path.split(".")[2])]!.loadVoltage.value;
      if (bank.nominalVoltage > wanted * LOAD_VOLTAGE_SPARE)
        rules.push({
          key: `${run.path}.converter`,
          title: `converter for the ${Math.round(wanted)} V loads`,
          fault: `no converter for the ${Math.round(wanted)} V loads`,
          met: branch.converter,
          stop: false,
          reason: `${Math.round(bank.nominalVoltage)} V would destroy ${Math.round(wanted)} V equipment.`,
          cure: "A converter from the bank's voltage, sized for all of them at once. Tapping half the bank unbalances it.",
          part: at,
        });
    }
  }
  if (lithium && charging.length > 0)
    rules.push({
      key: "frost",
      title: "no lithium charging in frost",
      fault: "lithium charged in frost",
      met: rig.bank.frostBlock,
      stop: true,
      reason: "Below 0 °C metal plates out in the cells: they lose capacity and may short later.",
      cure: "Batteries or chargers that block charging by a cell sensor, or a heater that comes first.",
      part: "bank.frostBlock",
    });
  return rules;
}

/** The rules as checks: one wanted, one or none there. */
export function ruleChecks(system: System, rules: Rule[]): Check[] {
  const { figures } = system;
  return rules.map((rule) => {
    const wanted = record(
      figures,
      `rule.${rule.key}.wanted`,
      `Wanted: ${rule.title}`,
      "count",
      1,
      "n = 1",
      [],
      rule.reason,
    );
    const there = record(
      figures,
      `rule.${rule.key}`,
      `There: ${rule.title}`,
      "count",
      rule.met ? 1 : 0,
      "n = n_p",
      [
        constant(
          "n_p",
          "By the parts on the Path stage",
          rule.met ? 1 : 0,
          "count",
          rule.met ? "as they stand" : rule.cure,
        ),
      ],
      "structure of the rig",
    );
    return check(
      `rule:${rule.key}`,
      rule.met ? rule.title : rule.fault,
      wanted,
      there,
      rule.met ? "as it should be" : rule.reason,
      {
        rule: true,
        stop: rule.stop,
        part: rule.part,
      },
    );
  });
}
