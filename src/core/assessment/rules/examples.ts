import type { Example } from "../catalogue/rule";
import type { RuleId } from "../judge/rule-ids";
import { example as acAmpacity } from "./ac/ac-ampacity";
import { example as acOvercurrent } from "./ac/ac-overcurrent";
import { example as acSmallest } from "./ac/ac-smallest";
import { example as acParallel } from "./ac/ac-parallel";
import { example as acBreakerLoad } from "./ac/ac-breaker-load";
import { example as acOutputBreaker } from "./ac/ac-output-breaker";
import { example as acInterrupting } from "./ac/ac-interrupting";
import { example as unitMca } from "./ac/unit-mca";
import { example as unitMocp } from "./ac/unit-mocp";
import { example as supplyLead } from "./ac/supply-lead";
import { example as supplyInlet } from "./ac/supply-inlet";
import { example as inletBreaker } from "./ac/inlet-breaker";
import { example as acDrop } from "./ac/ac-drop";
import { example as seriesDevice } from "./ac/series-device";
import { example as residual } from "./ac/residual";
import { example as residualType } from "./ac/residual-type";
import { example as residualPoles } from "./ac/residual-poles";
import { example as outputBreaker } from "./ac/output-breaker";
import { example as circuitBreaker } from "./ac/circuit-breaker";
import { example as dcAmpacity } from "./dc/dc-ampacity";
import { example as inverterFullDraw } from "./dc/inverter-full-draw";
import { example as dcOvercurrent } from "./dc/dc-overcurrent";
import { example as dcFuseLoad } from "./dc/dc-fuse-load";
import { example as dcVoltageRating } from "./dc/dc-voltage-rating";
import { example as dcInterrupting } from "./dc/dc-interrupting";
import { example as dcWithstand } from "./dc/dc-withstand";
import { example as fuseAtSource } from "./dc/fuse-at-source";
import { example as dcAbove60 } from "./dc/dc-above-60";
import { example as batterySwitch } from "./dc/battery-switch";
import { example as runStated } from "./dc/run-stated";
import { example as dcDrop } from "./dc/dc-drop";
import { example as breakerHeat } from "./dc/breaker-heat";
import { example as jointHeat } from "./dc/joint-heat";
import { example as converterRating } from "./dc/converter-rating";
import { example as dcUnit } from "./dc/dc-unit";
import { example as bankVoltage } from "./battery/bank-voltage";
import { example as bmsDischarge } from "./battery/bms-discharge";
import { example as batteryFuses } from "./battery/battery-fuses";
import { example as batteryLeads } from "./battery/battery-leads";
import { example as batterySeries } from "./battery/battery-series";
import { example as batteryStop } from "./battery/battery-stop";
import { example as batteryTemperature } from "./battery/battery-temperature";
import { example as chargeVoltage } from "./charging/charge-voltage";
import { example as chargeCurrent } from "./charging/charge-current";
import { example as frost } from "./charging/frost";
import { example as engineControl } from "./charging/engine-control";
import { example as isolatorBanks } from "./charging/isolator-banks";
import { example as solarVoltage } from "./solar/solar-voltage";
import { example as solarStrings } from "./solar/solar-strings";
import { example as solarCurrent } from "./solar/solar-current";
import { example as solarStringFuse } from "./solar/solar-string-fuse";
import { example as solarCircuit } from "./solar/solar-circuit";
import { example as solarIsolator } from "./solar/solar-isolator";
import { example as sourcesApart } from "./sources/sources-apart";
import { example as neutralBond } from "./sources/neutral-bond";
import { example as chargingLoop } from "./sources/charging-loop";
import { example as legLoad } from "./sources/leg-load";
import { example as legBalance } from "./sources/leg-balance";
import { example as legVoltage } from "./sources/leg-voltage";
import { example as sharedNeutral } from "./sources/shared-neutral";
import { example as inverterContinuous } from "./sources/inverter-continuous";
import { example as inverterLeads } from "./sources/inverter-leads";
import { example as generator } from "./sources/generator";
import { example as startInverter } from "./start/start-inverter";
import { example as startVoltage } from "./start/start-voltage";
import { example as startProtection } from "./start/start-protection";
import { example as startFuse } from "./start/start-fuse";
import { example as startBreaker } from "./start/start-breaker";
import { example as startRest } from "./start/start-rest";
import { example as waveform } from "./start/waveform";

/** A system that breaks each rule and one that meets it: a rule without both does not compile. */
export const EXAMPLES: Record<RuleId, Example> = {
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
