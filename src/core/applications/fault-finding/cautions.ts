import { say } from "../../messages/say";
/** Cautions of the trade, in the place where the work is: plain, short. */
export const CAUTIONS = {
  isolate: say("notices.isolateLockOffProveDead"),
  capacitor: say("notices.capacitorKeepsLethalCharge"),
  bank: say("notices.batteryDeliversThousandsAmps"),
  refrigerant: say("notices.refrigerantCircuitsCertifiedPeople"),
  roof: say("notices.roofWorkFallFragile"),
  bypass: say("notices.neverBypassProtectionMakeStart"),
  mains: say("notices.mainsWiringShoreGenerator"),
  heat: say("notices.doNotLeavePeople"),
  carbon: say("notices.generatorsMakeCarbonMonoxide"),
  afloat: say("notices.boatIgnitionProtectedParts"),
  hydrogen: say("notices.leadAcidGivesOff"),
  frost: say("notices.noChargingLithiumBelow"),
  hot: say("notices.jointCarriesFullCurrent"),
  estimate: say("notices.estimateNotApprovalLocal"),
} as const;
export type CautionKey = keyof typeof CAUTIONS;
