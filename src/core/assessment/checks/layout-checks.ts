import type { JobPath } from "../../document/path";
import { CHEMISTRIES } from "../../reference/battery/chemistry";
import { guardOf } from "./guards";
import { isCharging, type Branch } from "../../document/schema";
import { voltageClass } from "../../document/defaults";
import { allCircuits, type WiringPart, type Circuit } from "../../models/wiring/circuits";
import type { RuleId } from "../rules/catalogue";
import { ALTERNATOR_VOLTS, joinsAlike } from "../../models/charging/supply";
import { constant, traced } from "../../units/trace";
import { check, type Check } from "./check";
import type { System } from "../../models/system/system";
import { say } from "../../messages/say";
import { driveOnMains, onMains } from "../../document/unit-kinds";

/** A rule of how the system is put together: met or broken, with the reason and the fix. */
export interface Rule {
  key: string;
  by: RuleId;
  title: string;
  /** How the broken rule is named as the weakest link. */
  fault: string;
  met: boolean;
  /** The word of the broken rule: Stop where it touches fire or shock, Tight where something is only not stated. */
  broken: "Stop" | "Fails" | "Tight";
  reason: string;
  fix: string;
  /** Where in the document it is mended. */
  part: JobPath;
}

/** A battery this many times over the loads' voltage would break them. */
const LOAD_VOLTAGE_SPARE = 1.35;
/** V DC up to which touching is taken as safe in the dry (IEC 60364-4-41, extra-low voltage). */
const EXTRA_LOW_V = 60;
/** Volts by which an alternator may lie over a battery's charging voltage. */
const CHARGE_TOLERANCE_V = 0.3;

const has = (circuit: Circuit, kind: string) => circuit.parts.some(({ part }) => part.kind === kind);
const residuals = (circuit: Circuit): WiringPart[] => circuit.parts.filter(({ part }) => part.kind === "rcd");

/** The structure rules that the system's parts call up. */
export function structureRules(system: System): Rule[] {
  return [
    ...statedRules(system),
    ...outputRules(system),
    ...shoreRules(system),
    ...residualRules(system),
    ...bondRules(system),
    ...generatorRules(system),
    ...legRules(system),
    ...inverterRules(system),
    ...branchRules(system),
    ...bankRules(system),
  ];
}

/** Runs whose cable nobody put into the plan: nothing of it is checked. A converter's loads may be wired by others. */
function statedRules({ wiring, converted }: System): Rule[] {
  return allCircuits(wiring, converted)
    .filter((circuit) => !has(circuit, "cable") && !(circuit.far && circuit.branch!.role === "loads"))
    .map((circuit): Rule => ({
      key: `${circuit.path}.cable`,
      by: "run-stated",
      title: `cable, ${circuit.title}`,
      fault: `cable not stated, ${circuit.title}`,
      met: false,
      broken: "Tight",
      reason: say("notices.runWithoutCable"),
      fix: say("notices.addRunCable"),
      part: circuit.path,
    }));
}

/** What every AC source needs: a device for current to earth that counts, in each of `circuits` or in what feeds them. */
function residualRule(
  { wiring: { rules } }: System,
  circuits: Circuit[],
  { where, reason, ...rule }: { key: string; where: string; reason: string; part: JobPath },
): Rule {
  const { mostA } = rules.residual;
  const counts = ({ values }: WiringPart) => values.residual!.value <= mostA;
  const bare = circuits.filter((circuit) => !residuals(circuit).some(counts));
  const weakest = bare.flatMap(residuals);
  const value = `${Math.round(1000 * Math.min(...weakest.map(({ values }) => values.residual!.value)))} mA`;
  const all = bare.every((circuit) => residuals(circuit).length > 0);
  const weak = weakest.length > 0 && all;
  const which = circuits.length > 1 && bare.length > 0 ? bare.map(({ title }) => title).join(", ") : where;
  return {
    ...rule,
    by: "residual",
    title: `${rules.residualName}, ${where}`,
    fault: weak ? `${rules.residualName} of ${value}, ${which}` : `no ${rules.residualName}, ${which}`,
    met: bare.length === 0,
    broken: weak ? "Fails" : "Stop",
    reason: weak
      ? rules.residual.asked === "receptacles"
        ? say("notices.protectsEquipmentOnly", { residualMa: value })
        : say("notices.protectsAgainstFireOnly", { residualMa: value })
      : reason,
    fix: say("notices.fitResidual", {
      residualName: rules.residualName,
      mostMa: Math.round(1000 * mostA),
      where: where === "inverter output" ? "inverter" : "inlet",
    }),
  };
}

/** Whether the rule set asks for one on what the inverter feeds: receptacles are the AC loads beside the hard-wired units. */
const residualAsked = ({ wiring, job }: System): boolean =>
  wiring.rules.residual.asked === "every-circuit" || job.brief.loads.some(({ side }) => side === "mains");

/**
 * Runs on the inverter's output that each need one: the output run where it has what counts, or where nothing behind it has
 * any; else each circuit, and the output run itself where something hangs on it straight. A slower one before them is none.
 */
function residualRuns({ wiring, job }: System, circuits: Circuit[]): Circuit[] {
  const { asked, mostA } = wiring.rules.residual;
  const { mains } = wiring;
  const counts = residuals(mains).some(({ values }) => values.residual!.value <= mostA);
  const behind = circuits.some((circuit) => residuals(circuit).length > 0);
  if (asked === "receptacles" || counts || circuits.length === 0) return [mains];
  if (!behind && residuals(mains).length > 0) return [mains];
  const own = (id: string) => circuits.some(({ branch }) => branch!.unitId === id);
  const straight =
    job.brief.loads.some(({ side }) => side === "mains") || job.units.some((unit) => onMains(unit) && !own(unit.id));
  return straight ? [mains, ...circuits] : circuits;
}

function outputRules(system: System): Rule[] {
  const { wiring, converted, inverter, mains, legs } = system;
  if (!converted) return [];
  const circuits = wiring.branches.filter(({ branch }) => branch!.role === "circuit");
  const { earth } = wiring.rules;
  const rules: Rule[] = [];
  if (residualAsked(system))
    rules.push(
      residualRule(system, residualRuns(system, circuits), {
        key: "leakage",
        where: "inverter output",
        reason: say("notices.nothingWouldSwitchOff", { earth }),
        part: "wiring.mains",
      }),
    );
  const cables = wiring.mains.parts.flatMap(({ ampacity }) => (ampacity ? [ampacity.value] : []));
  if (cables.length > 0)
    rules.push({
      key: "output",
      by: "output-breaker",
      title: "breaker on the inverter's output",
      fault: "no breaker on the inverter's output",
      // An inverter that cannot give more than its cable carries protects it by its own limit.
      met: has(wiring.mains, "breaker") || inverter.rating / mains / (legs.split ? 2 : 1) <= Math.min(...cables),
      broken: "Stop",
      reason: say("notices.inverterCanPushMore"),
      fix: say("notices.fitBreakerNoMore"),
      part: "wiring.mains",
    });
  for (const circuit of circuits)
    rules.push({
      key: `${circuit.path}.breaker`,
      by: "circuit-breaker",
      title: `breaker, ${circuit.title}`,
      fault: `no breaker, ${circuit.title}`,
      met: guardOf(wiring, circuit, circuit.parts.length) !== null,
      broken: "Stop",
      reason: say("notices.shortCircuitUnitWould"),
      fix: say("notices.fitBreakerWhereCircuit"),
      part: circuit.path,
    });
  return rules;
}

/** An inverter-charger draws no more from the inlet than the inlet is for. */
function inletLimitRules({ job, values, converted }: System, circuit: Circuit): Rule[] {
  if (!job.inverter.combined || !converted) return [];
  const limit = values.inverter.inletLimit;
  const inlet = values.wiring.branches[circuit.branchIndex!]!.current;
  return [
    {
      key: `${circuit.path}.limit`,
      by: "supply-inlet",
      title: `limit of the inverter-charger, ${circuit.title}`,
      fault: `limit of the inverter-charger above ${circuit.title}`,
      met: limit.value <= inlet.value + 1e-9,
      broken: "Fails",
      reason: say("notices.limitAboveInlet"),
      fix: say("notices.setLimitToInlet"),
      part: "inverter.inletLimit",
    },
  ];
}

/** The inlet that a shore circuit begins at. */
const inletRule = (circuit: Circuit): Rule => ({
  key: `${circuit.path}.inlet`,
  by: "run-stated",
  title: `inlet, ${circuit.title}`,
  fault: `inlet not stated, ${circuit.title}`,
  met: has(circuit, "inlet"),
  broken: "Tight",
  reason: say("notices.supplyWithoutInlet"),
  fix: say("notices.addInlet"),
  part: circuit.path,
});

/** Of several inlets each but one is parted from the others by a transfer switch of its own. */
function inletRules(inlets: Circuit[]): Rule[] {
  const bare = inlets.filter((circuit) => !has(circuit, "changeover"));
  return inlets.length < 2
    ? []
    : inlets.map((circuit) => ({
        key: `${circuit.path}.inlets`,
        by: "sources-apart",
        title: `${circuit.title} kept apart from the other inlet`,
        fault: `${circuit.title} can meet the other inlet`,
        met: bare.length < 2 || !bare.includes(circuit),
        broken: "Stop",
        reason: say("notices.inletsCouldMeet"),
        fix: say("notices.fitTransferSwitchInlets"),
        part: circuit.path,
      }));
}

function shoreRules(system: System): Rule[] {
  const { wiring, job, converted } = system;
  const inlets = wiring.branches.filter(({ branch }) => branch!.role === "shore");
  return [
    ...inletRules(inlets),
    ...inlets.flatMap((circuit): Rule[] => [
      // What receptacles are asked for stands on the inverter's output, which the inlet feeds as well.
      ...(wiring.rules.residual.asked === "receptacles"
        ? []
        : [
            residualRule(system, [circuit], {
              key: `${circuit.path}.leakage`,
              where: circuit.title,
              reason: say("notices.siteProtection"),
              part: circuit.path,
            }),
          ]),
      inletRule(circuit),
      ...inletLimitRules(system, circuit),
      {
        key: `${circuit.path}.breaker`,
        by: "circuit-breaker",
        title: `breaker, ${circuit.title}`,
        fault: `no breaker, ${circuit.title}`,
        met: has(circuit, "breaker"),
        broken: "Stop",
        reason: say("notices.sourceWithoutProtectionFault"),
        fix: say("notices.fitInletBreaker"),
        part: circuit.path,
      },
      ...(converted
        ? [
            {
              key: `${circuit.path}.meet`,
              by: "sources-apart",
              title: "inverter and shore kept apart",
              fault: "inverter and shore can meet",
              met: job.inverter.combined || has(wiring.mains, "changeover") || has(circuit, "changeover"),
              broken: "Stop",
              reason: say("notices.inverterShoreCouldMeet"),
              fix: say("notices.fitTransferSwitchBreaks"),
              part: "wiring.mains",
            } satisfies Rule,
          ]
        : []),
    ]),
  ];
}

function residualRules({ wiring, job, converted }: System): Rule[] {
  const { rules } = wiring;
  const circuits = [...(converted ? [wiring.mains] : []), ...wiring.branches.filter((circuit) => circuit.mains)];
  const variable = job.units.some(driveOnMains);
  return circuits.flatMap((circuit) =>
    residuals(circuit).flatMap((one): Rule[] => {
      const { part } = one;
      if (part.kind !== "rcd") return [];
      const feeds =
        circuit.branch?.role !== "circuit" ||
        job.units.some((unit) => unit.id === circuit.branch!.unitId && driveOnMains(unit));
      const drive = part.residualType === "AC" && variable && feeds;
      const refused = rules.residualRefused.includes(part.residualType);
      const doubtful = rules.residualDoubtful.includes(part.residualType);
      const found: Rule[] = [
        {
          key: `${one.path}.type`,
          by: "residual-type",
          title: `${one.name} type ${part.residualType}`,
          fault: `${one.name} of type ${part.residualType}`,
          met: !drive && !refused && !doubtful,
          broken: drive || refused ? "Fails" : "Tight",
          reason: drive ? say("notices.smoothedCurrentsVariableSpeed") : say("notices.typeAcDeviceSees"),
          fix: say("notices.fitTypeLeastType"),
          part: one.path,
        },
      ];
      const { allPoles } = rules.residual;
      const both = allPoles === "everywhere" || (allPoles === "inlet" && circuit.branch?.role === "shore");
      if (part.poles === "live" && both)
        found.push({
          key: `${one.path}.poles`,
          by: "residual-poles",
          title: `${one.name} opens all poles`,
          fault: `${one.name} leaves the neutral closed`,
          met: false,
          broken: "Fails",
          reason: say("notices.liveNeutralMayExchanged"),
          fix: say("notices.fitOneOpensLive"),
          part: one.path,
        });
      return found;
    }),
  );
}

function bondRules({ wiring, job, converted }: System): Rule[] {
  if (!converted) return [];
  const { earth, residualName } = wiring.rules;
  const shore = wiring.branches.some(({ branch }) => branch!.role === "shore");
  const transfers = [wiring.mains, ...wiring.branches].flatMap((circuit) =>
    circuit.parts.filter(({ part }) => part.kind === "changeover"),
  );
  const liveOnly = transfers.find(({ part }) => part.kind === "changeover" && part.poles === "live");
  const { neutralBond, combined } = job.inverter;
  const rules: Rule[] = [];
  if (liveOnly)
    rules.push({
      key: "transferPoles",
      by: "sources-apart",
      title: `${liveOnly.name} switches all poles`,
      fault: `${liveOnly.name} leaves the neutrals joined`,
      met: false,
      broken: neutralBond === "fixed" ? "Stop" : "Fails",
      reason: say("notices.neutralOneSourceStays"),
      fix: say("notices.fitTransferSwitchSwitches"),
      part: liveOnly.path,
    });
  const bond = (fault: string, broken: Rule["broken"], reason: string, fix: string): Rule => ({
    key: "bond",
    by: "neutral-bond",
    title: `neutral and ${earth} bonded once, in the source that feeds`,
    fault,
    met: false,
    broken,
    reason,
    fix,
    part: "inverter.neutralBond",
  });
  if (neutralBond === "none")
    rules.push(
      bond(
        `neutral of the inverter not bonded to ${earth}`,
        "Fails",
        say("notices.withoutBondFaultHas", { residualName }),
        say("notices.bondNeutralInverterRelay", { earth }),
      ),
    );
  else if (neutralBond === "fixed" && shore && (combined || liveOnly !== undefined))
    rules.push(
      bond(
        `two bonds of neutral and ${earth} on shore`,
        "Stop",
        say("notices.fixedBondOnShore", { earth }),
        say("notices.relayMakesBond"),
      ),
    );
  else if (neutralBond === "unsaid")
    rules.push(
      bond(
        `neutral bond of the inverter not stated`,
        "Tight",
        say("notices.withoutBondFaultHas", { residualName }),
        say("notices.stateWhereNeutralBonded", { earth, residualName }),
      ),
    );
  else rules.push({ ...bond("", "Fails", "", ""), met: true });
  return rules;
}

/** A generator that the job counts on bonds neutral and earth while it feeds. */
function generatorRules({ job, wiring, converted }: System): Rule[] {
  const { generatorBond, generatorAuto } = job.supplies;
  const planned = job.plan.patterns.some(({ spans }) => spans.some(({ kind }) => kind === "generator"));
  if (!converted || !(generatorAuto || planned)) return [];
  const { earth, residualName } = wiring.rules;
  return [
    {
      key: "generatorBond",
      by: "neutral-bond",
      title: `generator bonds neutral and ${earth}`,
      fault:
        generatorBond === "floating" ? "neutral of the generator floats" : "neutral bond of the generator not stated",
      met: generatorBond === "bonded",
      broken: generatorBond === "floating" ? "Fails" : "Tight",
      reason: say("notices.generatorFloatingNeutralNeeds", { earth, residualName }),
      fix: say("notices.stateWhetherGeneratorBonds", { earth }),
      part: "supplies",
    },
  ];
}

/** Supplies of two legs: what needs the voltage between them, and a neutral that both share. */
function legRules({ job, legs, wiring, inverter, mains, converted }: System): Rule[] {
  if (!converted || legs.count === 1 || legs.split) return [];
  const rules: Rule[] = job.units.flatMap((unit, i): Rule[] =>
    onMains(unit) && unit.leg === "both"
      ? [
          {
            key: `units.${i}.legs`,
            by: "leg-voltage",
            title: `${unit.name} has its voltage`,
            fault: `no voltage between the legs for ${unit.name}`,
            met: false,
            broken: "Fails",
            reason: say("notices.oneOutputFedBoth"),
            fix: say("notices.useSplitPhaseOutput"),
            part: `units.${i}`,
          },
        ]
      : [],
  );
  const cables = wiring.mains.parts.flatMap(({ ampacity }) => (ampacity ? [ampacity.value] : []));
  const carries = cables.length > 0 && Math.min(...cables) >= inverter.rating / mains;
  rules.push({
    key: "sharedNeutral",
    by: "shared-neutral",
    title: "neutral carries both legs",
    fault: "shared neutral carries both legs",
    met: job.inverter.neutrals === "own" || carries,
    broken: "Stop",
    reason: say("notices.fedOneSourceCurrents"),
    fix: say("notices.giveEachCircuitNeutral"),
    part: "inverter.neutrals",
  });
  return rules;
}

function inverterRules({ job, values, converted }: System): Rule[] {
  if (!converted || values.inverter.count.value < 2) return [];
  const { leads } = job.inverter;
  return [
    {
      key: "leads",
      by: "inverter-leads",
      title: "a fuse and equal leads for each inverter",
      fault: leads === "shared" ? "inverters share one pair of leads" : "leads of the inverters not stated",
      met: leads === "own",
      broken: leads === "shared" ? "Fails" : "Tight",
      reason: say("notices.invertersOnePairLeads"),
      fix: say("notices.giveEachInverterOwn"),
      part: "inverter.leads",
    },
  ];
}

function branchRules(system: System): Rule[] {
  const { job, wiring, values, bank, converted } = system;
  return wiring.branches
    .flatMap((circuit, i): Rule[] => {
      const branch = circuit.branch!;
      const at = `wiring.branches.${i}` as const;
      const v = values.wiring.branches[i]!;
      switch (branch.role) {
        case "charger":
          return converted
            ? [
                ...chargerBreakerRules(system, branch),
                {
                  key: `${circuit.path}.loop`,
                  by: "charging-loop",
                  title: "charger fed from shore, not from its own inverter",
                  fault: "charging loop",
                  met: branch.fedFrom === "shore",
                  broken: "Stop",
                  reason: say("notices.inverterFeedsChargerFeeds"),
                  fix: say("notices.feedChargerShoreSide"),
                  part: at,
                },
              ]
            : [];
        case "engine":
          return engineRules(system, circuit, at, v.vehicleVoltage.value);
        case "solar":
          return [
            {
              key: `${circuit.path}.isolator`,
              by: "solar-isolator",
              title: `isolator on the array side, ${circuit.title}`,
              fault: `no isolator on the array side, ${circuit.title}`,
              met: (wiring.far.find(({ branch: own }) => own === branch)?.parts ?? []).some(
                ({ part }) => part.kind === "isolator" || (part.kind === "fuse" && part.fuseKind === "breaker"),
              ),
              broken: "Fails",
              reason: say("notices.arrayLiveDaylightCould"),
              fix: say("notices.fitArrayIsolator"),
              part: `${at}.far`,
            },
          ];
        case "loads": {
          const wanted = v.loadVoltage.value;
          if (bank.nominalVoltage <= wanted * LOAD_VOLTAGE_SPARE) return [];
          return [
            {
              key: `${circuit.path}.converter`,
              by: "converter-rating",
              title: `converter for the ${Math.round(wanted)} V loads`,
              fault: `no converter for the ${Math.round(wanted)} V loads`,
              met: branch.converter,
              broken: "Fails",
              reason: say("notices.overvoltage", {
                nominalVoltage: Math.round(bank.nominalVoltage),
                wanted: Math.round(wanted),
              }),
              fix: say("notices.fitConverter"),
              part: at,
            },
          ];
        }
        default:
          return [];
      }
    })
    .concat(panelRules(system), directRules(system, job));
}

/** The AC side of a charger is protected by a breaker of its own, or by the inlet's. */
function chargerBreakerRules({ wiring }: System, branch: Branch): Rule[] {
  const side = wiring.far.find((circuit) => circuit.branch === branch);
  if (!side) return [];
  return [
    {
      key: `${side.path}.breaker`,
      by: "circuit-breaker",
      title: `breaker, ${side.title}`,
      fault: `no breaker, ${side.title}`,
      met: guardOf(wiring, side, side.parts.length) !== null,
      broken: "Stop",
      reason: say("notices.sourceWithoutProtectionFault"),
      fix: say("notices.fitBreakerWhereCircuit"),
      part: side.path,
    },
  ];
}

/** Panels without a circuit: nothing of theirs is checked. */
function panelRules({ job, wiring }: System): Rule[] {
  if (job.sources.panels.length === 0 || wiring.branches.some(({ branch }) => branch!.role === "solar")) return [];
  return [
    {
      key: "solarCircuit",
      by: "solar-circuit",
      title: "panels have a circuit",
      fault: "panels without a solar circuit",
      met: false,
      broken: "Tight",
      reason: say("notices.panelsWithoutCircuitTheir"),
      fix: say("notices.addSolarCircuit"),
      part: "wiring.main",
    },
  ];
}

function engineRules({ bank }: System, circuit: Circuit, at: JobPath, vehicle: number): Rule[] {
  const branch = circuit.branch!;
  const rules: Rule[] = [
    {
      key: `${circuit.path}.control`,
      by: "engine-control",
      title: "engine charging follows the engine",
      fault: "engine charging on ignition",
      met: branch.control === "engine-running",
      broken: "Fails",
      reason: say("notices.ignitionAloneBatteriesJoined"),
      fix: say("notices.switchRunningEngineCharge"),
      part: at,
    },
  ];
  if (branch.coupling === "isolator") {
    const like = joinsAlike(vehicle, bank.nominalVoltage);
    const volts = (ALTERNATOR_VOLTS / 12) * vehicle;
    const agree = bank.chargeToVoltage >= volts - CHARGE_TOLERANCE_V * (vehicle / 12);
    rules.push({
      key: `${circuit.path}.alike`,
      by: "isolator-banks",
      title: "isolator joins like batteries",
      fault: like ? "isolator overcharges the battery" : "isolator between unlike voltages",
      met: like && agree,
      broken: "Stop",
      reason: like
        ? say("notices.alternatorHoldsVMore", {
            volts: volts.toFixed(1),
            chargeToVoltage: bank.chargeToVoltage.toFixed(1),
          })
        : say("notices.joinedStraight", {
            vehicle: Math.round(vehicle),
            nominalVoltage: bank.nominalVoltage.toFixed(1),
          }),
      fix: say("notices.useDcDcConverter"),
      part: at,
    });
  }
  return rules;
}

/** DC units: a branch of their own beside an inverter, and the battery's voltage. */
function directRules({ values, bank, converted, wiring }: System, job: System["job"]): Rule[] {
  return job.units.flatMap((unit, i): Rule[] => {
    if (onMains(unit)) return [];
    const wanted = values.units[i]!.supplyVoltage.value;
    const rules: Rule[] = [
      {
        key: `units.${i}.supply`,
        by: "dc-unit",
        title: `${unit.name} is made for the battery's voltage`,
        fault: `${unit.name} is not made for the battery's voltage`,
        met: voltageClass(wanted) === voltageClass(bank.nominalVoltage),
        broken: "Fails",
        reason: say("notices.unitVoltage", {
          wanted: Math.round(wanted),
          nominalVoltage: bank.nominalVoltage.toFixed(1),
        }),
        fix: say("notices.useUnitOfVoltage"),
        part: `units.${i}.supplyVoltage`,
      },
    ];
    if (converted)
      rules.push({
        key: `units.${i}.branch`,
        by: "dc-unit",
        title: `${unit.name} on a branch of its own`,
        fault: `${unit.name} has no branch of its own yet`,
        met: wiring.branches.some(({ branch }) => branch!.role === "dc-unit" && branch!.unitId === unit.id),
        broken: "Tight",
        reason: say("notices.currentCountedAlongInverter"),
        fix: say("notices.addCircuitOwnFuse"),
        part: `units.${i}`,
      });
    return rules;
  });
}

function bankRules({ job, values, wiring, converted }: System): Rule[] {
  const rules: Rule[] = [];
  const { fuses } = job.wiring.links;
  const { lithium } = CHEMISTRIES[job.bank.chemistry];
  if (job.cabin.kind !== "room")
    rules.push({
      key: "batterySwitch",
      by: "battery-switch",
      title: "a switch for the battery",
      fault: "no switch for the battery",
      met: wiring.main.parts.some(
        ({ part }) => part.kind === "isolator" || (part.kind === "fuse" && part.fuseKind === "breaker"),
      ),
      broken: "Fails",
      reason: say("notices.nothingSwitchesBatteryOff"),
      fix: say("notices.fitBatterySwitch"),
      part: "wiring.main",
    });
  const highest = values.bank.chargeToVoltage.value;
  const above60 = job.wiring.above60 ?? "unsaid";
  if (highest > EXTRA_LOW_V)
    rules.push({
      key: "above60",
      by: "dc-above-60",
      title: "touch protection above 60 V DC",
      fault: above60 === "none" ? "no touch protection above 60 V DC" : "touch protection above 60 V DC not stated",
      met: above60 === "covered",
      broken: above60 === "none" ? "Stop" : "Tight",
      reason: say("notices.above60", { highest: Math.round(highest) }),
      fix: say("notices.coverAbove60"),
      part: "wiring.above60",
    });
  if (job.bank.build === "batteries" && values.bank.parallel.value > (lithium ? 1 : 2))
    rules.push({
      key: "batteryFuses",
      by: "battery-fuses",
      title: "a fuse for each battery in parallel",
      fault:
        fuses === "none"
          ? "batteries in parallel without a fuse each"
          : "fuses of the batteries in parallel not stated",
      met: fuses === "each",
      broken: fuses === "none" && lithium ? "Stop" : "Tight",
      reason: say("notices.faultOneBatteryFed"),
      fix: say("notices.fitFusePostEach"),
      part: "wiring.links",
    });
  const charged = wiring.branches.some(({ branch }) => isCharging(branch!)) || (job.inverter.combined && converted);
  if (lithium && charged)
    rules.push({
      key: "frost",
      by: "frost",
      title: "no lithium charging in frost",
      fault: "lithium charged in frost",
      met: job.bank.frostBlock,
      broken: "Stop",
      reason: say("notices.platingBelowFreezing"),
      fix: say("notices.useBatteriesChargersBlock"),
      part: "bank.frostBlock",
    });
  return rules;
}

/** The rules as checks: one needed, one or none there. */
export function ruleChecks(rules: Rule[]): Check[] {
  return rules.map((rule) => {
    const wanted = traced({
      key: `rule.${rule.key}.wanted`,
      name: `Required: ${rule.title}`,
      dimension: "count",
      value: 1,
      relation: "n = 1",
      source: rule.reason || rule.title,
    });
    const there = traced({
      key: `rule.${rule.key}`,
      name: `Present: ${rule.title}`,
      dimension: "count",
      value: rule.met ? 1 : 0,
      relation: "n = n_p",
      terms: () => [
        constant("n_p", "By the parts of the wiring", rule.met ? 1 : 0, "count", rule.met ? "as they stand" : rule.fix),
      ],
      source: "structure of the system",
    });
    return check({
      by: rule.by,
      key: `rule:${rule.key}`,
      name: rule.met ? rule.title : rule.fault,
      demand: wanted,
      limit: there,
      remark: rule.met ? "in place" : rule.reason,
      rule: true,
      stop: rule.broken === "Stop",
      ...(rule.broken === "Tight" ? { soft: 0 } : {}),
      part: rule.part,
    });
  });
}
