"use client";

import { Checkbox } from "antd";
import { useMemo, useState } from "react";
import type { Bar } from "@/core/applications/options/frontier";
import { givenFaults, type Outcome } from "@/core/applications/options/evaluate";
import type { Found, Result } from "@/core/applications/options/search";
import { askedOf } from "@/core/applications/options/targets";
import { statedShare } from "@/core/applications/options/trips";
import { assess } from "@/core/assessment/verdicts/assess";
import { MarkedWord } from "../frame/word-mark";
import { useDesignVerdicts } from "../state/options";
import { say } from "@/core/messages/say";

interface Props {
  found: Found;
  result: Result;
  currency: string;
}
interface Choosing {
  chosen: readonly number[];
  toggle(index: number): void;
}

const percent = (share: number) => `${Math.round(100 * share)}`;
export const shareWords = (outcome: Outcome): string => {
  const { share, low, high } = statedShare(outcome.tally);
  return `${percent(share)} % (${percent(low)} to ${percent(high)})`;
};

const BARS: Record<Bar, string> = {
  starts: "do not start",
  carries: "are not carried",
  cost: "cost too much",
  mass: "weigh too much",
  space: "do not fit inside",
};

/** What the searched system fails by whatever is chosen; worked out once for a system. */
function useGiven({ job }: Found): string[] {
  return useMemo(() => givenFaults(assess(job)), [job]);
}

/** Why the answer is what it is: which limit binds, and which would have to be lifted. */
export function Whys({ found, result, currency }: Props) {
  const barred = (Object.keys(BARS) as Bar[]).filter((bar) => result.barred[bar] > 0);
  const { nearest, lifts, choice } = result;
  const roof =
    found.requirement.limits.roof &&
    found.requirement.vary.panels.some((count) => !found.designs.some(({ panels }) => panels === count));
  const given = useGiven(found);
  return (
    <div className="options-why">
      {given.length > 0 && (
        <p className="heat" role="alert" data-given>
          {say("interface.givenFaults", { faults: given.join("; ") })}
        </p>
      )}
      {!choice && found.done && nearest && (
        <p className="sentence" data-nearest>
          The nearest meets {shareWords(nearest)}: {nearest.name}.
        </p>
      )}
      {lifts.map(({ limit, words, outcome }) => (
        <p key={limit} className="note" data-lift={limit}>
          With {words}
          {limit === "cost" ? ` ${currency}` : ""} it would be met by {outcome.name}.
        </p>
      ))}
      {!choice && found.done && lifts.length === 0 && <p className="note">{say("interface.noLimitAloneWay")}</p>}
      {!choice && found.done && nearest && nearest.tally.byUnit > nearest.tally.byBank && (
        <p className="note">{say("interface.unitTooWeakCabin")}</p>
      )}
      <p className="note">
        {barred.length > 0
          ? `${say("interface.designsBarred", { designs: found.designs.length, barred: barred.map((bar) => `${result.barred[bar]} ${BARS[bar]}`).join(", ") })} `
          : ""}
        {roof ? say("interface.roofHasNoRoom") : ""}
      </p>
    </div>
  );
}

const BELOW = 3;
const ABOVE = 3;
const signed = (value: number, digits = 0) => `${value >= 0 ? "+" : "−"}${Math.abs(value).toFixed(digits)}`;

/** The frontier, cheapest first: what each is, how many days it meets, and what the step to it buys. */
export function FrontierTable({ found, result, currency, chosen, toggle }: Props & Choosing) {
  const [all, setAll] = useState(false);
  const targets = askedOf(found.job, found.requirement);
  const at = result.points.findIndex(({ outcome }) => outcome.index === result.choice?.index);
  // Around the choice, or the best there is: what lies far below the target is nobody's purchase.
  const middle = at < 0 ? result.points.length - 1 : at;
  const shown = all ? result.points : result.points.slice(Math.max(0, middle - BELOW), middle + ABOVE + 1);
  const verdicts = useDesignVerdicts(
    found.job,
    found.requirement,
    shown.map(({ outcome }) => outcome),
  );
  if (result.points.length === 0) return <p className="note">{say("interface.noDesignThoseSearched")}</p>;
  return (
    <table className="values frontier">
      <caption>
        Best result at each price{" "}
        {result.points.length > shown.length || all ? (
          <button type="button" className="plain" onClick={() => setAll(!all)}>
            {all ? "around the target" : `all ${result.points.length}`}
          </button>
        ) : null}
      </caption>
      <thead>
        <tr>
          <th />
          <th>Design</th>
          <th className="right">{currency}</th>
          <th className="right">kg</th>
          <th className="right">days satisfied</th>
          <th>the step buys</th>
          <th>Starts</th>
          <th>Carries</th>
          <th>Lasts</th>
          <th>Recovers</th>
        </tr>
      </thead>
      <tbody>
        {shown.map(({ outcome, share, low, high, step }) => {
          return (
            <tr key={outcome.index} data-choice={outcome.index === result.choice?.index ? "" : undefined}>
              <td>
                <Checkbox
                  aria-label={`Compare ${outcome.name}`}
                  checked={chosen.includes(outcome.index)}
                  onChange={() => toggle(outcome.index)}
                />
              </td>
              <td>
                {outcome.name}
                {outcome.index === result.choice?.index && (
                  <div className="note cold">meets the target for the least</div>
                )}
              </td>
              <td className="mono">{Math.round(outcome.cost)}</td>
              <td className="mono">{Math.round(outcome.mass)}</td>
              <td className="mono">
                {percent(share)} %<div className="note">{`${percent(low)} to ${percent(high)}`}</div>
                {targets.length > 1 && <div className="note">{targets[outcome.target]!.name}</div>}
              </td>
              <td className="note">
                {step
                  ? `${signed(step.days)} days of 100 for ${signed(step.cost)} ${currency}, ${signed(step.mass)} kg`
                  : ""}
              </td>
              {(["starts", "carries", "lasts", "recovers"] as const).map((name) => (
                <td key={name} data-option-verdict={name}>
                  {verdicts[outcome.index] ? <MarkedWord word={verdicts[outcome.index]![name]} /> : "…"}
                </td>
              ))}
            </tr>
          );
        })}
      </tbody>
      <tfoot>
        <tr>
          <td colSpan={10} className="note">
            {ABOUT}
          </td>
        </tr>
      </tfoot>
    </table>
  );
}

const ABOUT =
  "The four verdicts are those of the job once the design is applied to it: on its design day, with its wiring sized. Days satisfied are counted over simulated weather, good and bad days alike";

/** The three ways of sizing by hand for this target: what they would have bought, missed or wasted. */
export function Schools({ result, found, currency, chosen, toggle }: Props & Choosing) {
  return (
    <table className="values">
      <caption>Three ways of sizing by hand, for this target</caption>
      <thead>
        <tr>
          <th />
          <th>Rule</th>
          <th>asks for</th>
          <th>would have bought</th>
          <th className="right">{currency}</th>
          <th className="right">days satisfied</th>
          <th>so it</th>
        </tr>
      </thead>
      <tbody>
        {result.rulesOfThumb.map(({ key, name, rule, wattHours, panelWatts, outcome, words }) => (
          <tr key={key} data-rule-of-thumb={key}>
            <td>
              {outcome && (
                <Checkbox
                  aria-label={`Compare ${name}`}
                  checked={chosen.includes(outcome.index)}
                  onChange={() => toggle(outcome.index)}
                />
              )}
            </td>
            <td>
              {name}
              <div className="note">{rule}</div>
            </td>
            <td className="mono">
              {(wattHours / 1000).toFixed(1)} kWh{panelWatts > 0 ? `, ${Math.round(panelWatts / 10) * 10} W` : ""}
            </td>
            <td>{outcome?.name ?? "nothing that may vary"}</td>
            <td className="mono">{outcome ? Math.round(outcome.cost) : ""}</td>
            <td className="mono">{outcome ? `${percent(statedShare(outcome.tally).share)} %` : ""}</td>
            <td className="note">{words}</td>
          </tr>
        ))}
      </tbody>
      <tfoot>
        <tr>
          <td colSpan={7} className="note">
            {say("interface.rulesOfThumb", { weeks: found.requirement.weeks })}
          </td>
        </tr>
      </tfoot>
    </table>
  );
}
