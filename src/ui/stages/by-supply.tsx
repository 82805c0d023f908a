"use client";

import { ruleSetOf } from "@/core/document/defaults";
import { formatQuantity } from "@/core/units/format";
import type { CaseVerdict, StartCase, Supply } from "@/core/assessment/starts/supplies";
import { VerdictLine } from "../frame/verdict-line";
import { useInsight } from "../state/insight";
import { useReading } from "../state/sheet-context";
import { say } from "@/core/messages/say";
import { onBattery, onMains } from "@/core/document/unit-kinds";

/** The same start on every source that may feed it: inverter, generator, inlets. */
export function BySupplyView() {
  const { job } = useReading();
  const { answer, stale } = useInsight("supplies");
  const several = job.units.filter(onMains).length > 1;
  const cases: [StartCase, string][] = several
    ? [
        ["one", "One unit alone"],
        ["in-turn", "All, one after another"],
        ["together", "All at the same moment"],
      ]
    : [["one", "Starts and runs"]];
  if (job.units.every(onBattery)) return <p className="note">{say("interface.everyAirConditionerRuns")}</p>;
  if (!answer) return <p className="note">Trying every supply</p>;
  const rating = ({ kind, rating: value }: Supply) =>
    formatQuantity(value, kind === "shore" ? "current" : "apparentPower", job.notation);
  const generator = (which: StartCase) =>
    formatQuantity(answer.smallestGenerator[which], "apparentPower", job.notation, 2);
  return (
    <div aria-busy={stale}>
      <table className="values sources">
        <thead>
          <tr>
            <th>Source</th>
            <th className="right">Rating</th>
            {cases.map(([key, title]) => (
              <th key={key}>{title}</th>
            ))}
          </tr>
        </thead>
        <tbody>
          {answer.rows.map((supply) => (
            <tr key={supply.key} data-source={supply.key}>
              <td>{supply.name}</td>
              <td className="mono">{rating(supply)}</td>
              {cases.map(([key]) => (
                <td key={key}>
                  <Case verdict={supply.cases[key]} />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="sentence" style={{ marginTop: 10 }}>
        The smallest generator that starts {several ? "one unit" : "it"} with a tenth to spare: {generator("one")}
        {several ? `; all in turn: ${generator("in-turn")}; all at once: ${generator("together")}` : ""}.{" "}
        {answer.generatorLeft > 0
          ? say("interface.generatorLeft", {
              rating: formatQuantity(
                answer.rows.find(({ key }) => key === "generator")!.rating,
                "apparentPower",
                job.notation,
              ),
              left: formatQuantity(answer.generatorLeft, "power", job.notation, 2),
              several: several ? "yes" : "no",
            })
          : say("interface.generatorTooSmall", { several: several ? "yes" : "no" })}
        {answer.generatorShare < 0.995 &&
          ` ${say("interface.altitudeHeatLeaveGenerator", { generatorShare: formatQuantity(answer.generatorShare, "ratio", job.notation, 2) })}`}
      </p>
      <p className="note">
        {say("interface.inletJudged", { continuous: ruleSetOf(job).continuous > 1 ? "yes" : "no" })}
      </p>
    </div>
  );
}

function Case({ verdict: { word, margin, by } }: { verdict: CaseVerdict }) {
  return (
    <>
      <VerdictLine word={word} margin={margin} />
      <div className="note">{by}</div>
    </>
  );
}

/** The ways in which a start may come about: full, low, cold, unlearned, too soon, together. */
export function StartConditionsView() {
  const { answer, stale } = useInsight("conditions");
  if (!answer) return <p className="note">Trying every condition</p>;
  return (
    <div aria-busy={stale}>
      <table className="values">
        <thead>
          <tr>
            <th>Way</th>
            <th>Goes</th>
            <th>Decided by</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {answer.map((way) => (
            <tr key={way.key} data-way={way.key}>
              <td>{way.name}</td>
              <td>
                <VerdictLine word={way.word} margin={way.margin} />
              </td>
              <td>{way.by}</td>
              <td className="note">{way.note}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="note" style={{ marginTop: 8 }}>
        {say("interface.judgeStartOnlyAfter")}
      </p>
    </div>
  );
}
