import { PRACTICE } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { withBranch } from "../../examples/systems";
import { presence } from "../../judge/finding";
import { say } from "../../../messages/say";

export const chargingLoop: Rule = {
  id: "charging-loop",
  group: "Inverter and sources",
  title: "Charger not on its own inverter",
  asks: "An AC charger is fed from the shore side of the transfer switch.",
  clause: PRACTICE,
  broken: "Stop",
  ofThings: true,
  fix: "Feed the charger from the shore side of the transfer switch.",
  system: ({ system: { wiring, converted } }) =>
    wiring.branches
      .filter(({ branch }) => converted && branch!.role === "charger")
      .map((circuit) =>
        presence({
          key: `${circuit.path}.loop`,
          title: "charger fed from shore, not from its own inverter",
          fault: "charging loop",
          met: circuit.branch!.fedFrom === "shore",
          reason: say("notices.inverterFeedsChargerFeeds"),
          fix: say("notices.feedChargerShoreSide"),
          part: `wiring.branches.${circuit.branchIndex!}`,
        }),
      ),
};

export const example: Example = {
  what: "a charger fed by its own inverter",
  breaks: () => withBranch("charger", { fedFrom: "inverter" }),
  word: "Stop",
  meets: () => withBranch("charger", { fedFrom: "shore" }),
};
