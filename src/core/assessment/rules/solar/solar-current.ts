import { by } from "../../catalogue/clauses";
import type { Rule, Example } from "../../catalogue/rule";
import { panels, q } from "../../examples/systems";
import { arraysOf, shortCircuitWithin } from "../../needs/arrays";
import { carriesWhatFlows, inSeries, isArraySide } from "../../needs/in-series";

export const solarCurrent: Rule = {
  id: "solar-current",
  group: "Solar",
  title: "Array current",
  asks: "Array cable, isolator and controller carry 1.25 × the short-circuit current of all strings (1.56 × in the US).",
  clause: by("NEC 690.8", "NEC 690.8", "IEC 62548, 7.4", "IEC 62548, 7.4", "AS/NZS 5033, 4.4"),
  broken: "Fails",
  fix: "Use a controller, cable and isolator for more current, or fewer strings.",
  part: inSeries((at) => (isArraySide(at) ? [carriesWhatFlows(at)] : [])),
  system: ({ system }) =>
    arraysOf(system).flatMap(({ index, name, at, array }) => {
      const rating = system.values.sources.controllers[index]?.maxArrayCurrent;
      return rating
        ? [
            shortCircuitWithin(system, array.shortCurrent, rating, {
              key: `solar.${index}.amps`,
              name: `array current, ${name}`,
              remark: "all strings at once",
              part: at,
            }),
          ]
        : [];
    }),
};

export const example: Example = {
  what: "24 A of panels on a controller for 25 A",
  breaks: () => panels(2, 1, { shortCurrent: q(12) }, { maxArrayCurrent: q(25) }),
  word: "Fails",
  meets: () => panels(2, 1, { shortCurrent: q(9) }, { maxArrayCurrent: q(25) }),
};
