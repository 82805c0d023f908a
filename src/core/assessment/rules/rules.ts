import type { RuleSet } from "../../reference/standards/rule-set";
import type { Rule } from "../catalogue/rule";
import type { Check } from "../judge/judge";
import type { RuleId } from "../judge/rule-ids";
import { acAmpacity } from "./ac/ac-ampacity";
import { acOvercurrent } from "./ac/ac-overcurrent";
import { acSmallest } from "./ac/ac-smallest";
import { acParallel } from "./ac/ac-parallel";
import { acBreakerLoad } from "./ac/ac-breaker-load";
import { acOutputBreaker } from "./ac/ac-output-breaker";
import { acInterrupting } from "./ac/ac-interrupting";
import { unitMca } from "./ac/unit-mca";
import { unitMocp } from "./ac/unit-mocp";
import { supplyLead } from "./ac/supply-lead";
import { supplyInlet } from "./ac/supply-inlet";
import { inletBreaker } from "./ac/inlet-breaker";
import { acDrop } from "./ac/ac-drop";
import { seriesDevice } from "./ac/series-device";
import { residual } from "./ac/residual";
import { residualType } from "./ac/residual-type";
import { residualPoles } from "./ac/residual-poles";
import { outputBreaker } from "./ac/output-breaker";
import { circuitBreaker } from "./ac/circuit-breaker";
import { dcAmpacity } from "./dc/dc-ampacity";
import { inverterFullDraw } from "./dc/inverter-full-draw";
import { dcOvercurrent } from "./dc/dc-overcurrent";
import { dcFuseLoad } from "./dc/dc-fuse-load";
import { dcVoltageRating } from "./dc/dc-voltage-rating";
import { dcInterrupting } from "./dc/dc-interrupting";
import { dcWithstand } from "./dc/dc-withstand";
import { fuseAtSource } from "./dc/fuse-at-source";
import { dcAbove60 } from "./dc/dc-above-60";
import { batterySwitch } from "./dc/battery-switch";
import { runStated } from "./dc/run-stated";
import { dcDrop } from "./dc/dc-drop";
import { breakerHeat } from "./dc/breaker-heat";
import { jointHeat } from "./dc/joint-heat";
import { converterRating } from "./dc/converter-rating";
import { dcUnit } from "./dc/dc-unit";
import { bankVoltage } from "./battery/bank-voltage";
import { bmsDischarge } from "./battery/bms-discharge";
import { batteryFuses } from "./battery/battery-fuses";
import { batteryLeads } from "./battery/battery-leads";
import { batterySeries } from "./battery/battery-series";
import { batteryStop } from "./battery/battery-stop";
import { batteryTemperature } from "./battery/battery-temperature";
import { chargeVoltage } from "./charging/charge-voltage";
import { chargeCurrent } from "./charging/charge-current";
import { frost } from "./charging/frost";
import { engineControl } from "./charging/engine-control";
import { isolatorBanks } from "./charging/isolator-banks";
import { solarVoltage } from "./solar/solar-voltage";
import { solarStrings } from "./solar/solar-strings";
import { solarCurrent } from "./solar/solar-current";
import { solarStringFuse } from "./solar/solar-string-fuse";
import { solarCircuit } from "./solar/solar-circuit";
import { solarIsolator } from "./solar/solar-isolator";
import { sourcesApart } from "./sources/sources-apart";
import { neutralBond } from "./sources/neutral-bond";
import { chargingLoop } from "./sources/charging-loop";
import { legLoad } from "./sources/leg-load";
import { legBalance } from "./sources/leg-balance";
import { legVoltage } from "./sources/leg-voltage";
import { sharedNeutral } from "./sources/shared-neutral";
import { inverterContinuous } from "./sources/inverter-continuous";
import { inverterLeads } from "./sources/inverter-leads";
import { generator } from "./sources/generator";
import { startInverter } from "./start/start-inverter";
import { startVoltage } from "./start/start-voltage";
import { startProtection } from "./start/start-protection";
import { startFuse } from "./start/start-fuse";
import { startBreaker } from "./start/start-breaker";
import { startRest } from "./start/start-rest";
import { waveform } from "./start/waveform";

/** Every rule, by its name. */
export const RULES: Record<RuleId, Rule> = {
  "ac-ampacity": acAmpacity,
  "ac-overcurrent": acOvercurrent,
  "ac-smallest": acSmallest,
  "ac-parallel": acParallel,
  "ac-breaker-load": acBreakerLoad,
  "ac-output-breaker": acOutputBreaker,
  "ac-interrupting": acInterrupting,
  "unit-mca": unitMca,
  "unit-mocp": unitMocp,
  "supply-lead": supplyLead,
  "supply-inlet": supplyInlet,
  "inlet-breaker": inletBreaker,
  "ac-drop": acDrop,
  "series-device": seriesDevice,
  residual: residual,
  "residual-type": residualType,
  "residual-poles": residualPoles,
  "output-breaker": outputBreaker,
  "circuit-breaker": circuitBreaker,
  "dc-ampacity": dcAmpacity,
  "inverter-full-draw": inverterFullDraw,
  "dc-overcurrent": dcOvercurrent,
  "dc-fuse-load": dcFuseLoad,
  "dc-voltage-rating": dcVoltageRating,
  "dc-interrupting": dcInterrupting,
  "dc-withstand": dcWithstand,
  "fuse-at-source": fuseAtSource,
  "dc-above-60": dcAbove60,
  "battery-switch": batterySwitch,
  "run-stated": runStated,
  "dc-drop": dcDrop,
  "breaker-heat": breakerHeat,
  "joint-heat": jointHeat,
  "converter-rating": converterRating,
  "dc-unit": dcUnit,
  "bank-voltage": bankVoltage,
  "bms-discharge": bmsDischarge,
  "battery-fuses": batteryFuses,
  "battery-leads": batteryLeads,
  "battery-series": batterySeries,
  "battery-stop": batteryStop,
  "battery-temperature": batteryTemperature,
  "charge-voltage": chargeVoltage,
  "charge-current": chargeCurrent,
  frost: frost,
  "engine-control": engineControl,
  "isolator-banks": isolatorBanks,
  "solar-voltage": solarVoltage,
  "solar-strings": solarStrings,
  "solar-current": solarCurrent,
  "solar-string-fuse": solarStringFuse,
  "solar-circuit": solarCircuit,
  "solar-isolator": solarIsolator,
  "sources-apart": sourcesApart,
  "neutral-bond": neutralBond,
  "charging-loop": chargingLoop,
  "leg-load": legLoad,
  "leg-balance": legBalance,
  "leg-voltage": legVoltage,
  "shared-neutral": sharedNeutral,
  "inverter-continuous": inverterContinuous,
  "inverter-leads": inverterLeads,
  generator: generator,
  "start-inverter": startInverter,
  "start-voltage": startVoltage,
  "start-protection": startProtection,
  "start-fuse": startFuse,
  "start-breaker": startBreaker,
  "start-rest": startRest,
  waveform: waveform,
};

/** The rule that a check comes from; null for the verdicts of the day. */
export const ruleOf = ({ by }: Pick<Check, "by">): Rule | null =>
  by === "lasts" || by === "recovers" ? null : RULES[by];

/** Standard and clause of a check's rule for a job's rule set; empty for the verdicts of the day. */
export function clauseOf(check: Pick<Check, "by">, rules: RuleSet): string {
  const clause = ruleOf(check)?.clause ?? "";
  return typeof clause === "string" ? clause : clause[rules.key];
}
