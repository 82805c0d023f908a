import { PRACTICE, by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { engine } from "../../examples/systems";
import { presence } from "../../judge/finding";
import { say } from "../../../messages/say";

export const engineControl: Rule = {
  id: "engine-control",
  group: "Charging",
  title: "Engine charging follows the engine",
  asks: "Engine charging is switched by the running engine, not by the ignition alone.",
  clause: by("NEC 551.20; " + PRACTICE, "ABYC E-11", "EN 1648-1", PRACTICE, PRACTICE),
  broken: "Fails",
  ofThings: true,
  fix: "Switch the charging by the running engine.",
  system: ({ system }) =>
    system.wiring.branches
      .filter(({ branch }) => branch!.role === "engine")
      .map((circuit) =>
        presence({
          key: `${circuit.path}.control`,
          title: "engine charging follows the engine",
          fault: "engine charging on ignition",
          met: circuit.branch!.control === "engine-running",
          reason: say("notices.ignitionAloneBatteriesJoined"),
          fix: say("notices.switchRunningEngineCharge"),
          part: `wiring.branches.${circuit.branchIndex!}`,
        }),
      ),
};

export const example: Example = {
  what: "engine charging on the ignition",
  breaks: () => engine({ control: "ignition" }),
  word: "Fails",
  meets: () => engine({ control: "engine-running" }),
};
