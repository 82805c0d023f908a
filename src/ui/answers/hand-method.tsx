"use client";

import { say } from "@/core/messages/say";
import { HAND_WORDS, type EndedBy, type ModeHours } from "@/core/assessment/verdicts/hand-method";
import { FigureValue } from "../fields/figure-value";
import { useDay } from "../state/day";
import { useReading } from "../state/sheet-context";

const ENDS: Record<EndedBy, string> = {
  empty: "battery empty",
  inverter: "inverter cut-off",
  unit: "unit's cut-off",
  bank: "BMS cut-off",
};
const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** The hand method, apart from the verdicts: usable charge over one constant load. */
export function HandMethod() {
  const { assessment } = useReading();
  const { day } = useDay();
  const rows: ModeHours[] = [
    ...assessment.hours.filter(({ mode }) => mode !== "off"),
    ...(day?.handHolding && day.conditions.known ? [day.handHolding] : []),
  ];
  return (
    <details className="box hand-method">
      <summary>Hand method: hours at one constant load</summary>
      <p className="note">
        {say("hand.differs")} {say("interface.handConditions")}
      </p>
      <table className="values">
        <caption className="spoken">Hand method: hours at one constant load</caption>
        <thead>
          <tr>
            <th>The air conditioner</th>
            <th className="right">Battery power</th>
            <th className="right">To the reserve</th>
            <th className="right">To the cut-off</th>
            <th>Ends by</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.mode}>
              <td>{capital(HAND_WORDS[row.mode])}</td>
              <td className="mono">
                <FigureValue figure={`lasts.${row.mode}.power`} />
              </td>
              <td className="mono">
                <FigureValue figure={row.reserveFigure.key} />
              </td>
              <td className="mono">
                <FigureValue figure={row.cutOffFigure.key} />
              </td>
              <td>{ENDS[row.cutOffBy]}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}
