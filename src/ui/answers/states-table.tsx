"use client";

import { FigureValue } from "../fields/figure-value";
import { useDay } from "../state/day";

const ROWS = [
  ["off", "Off: other loads and the inverter’s idle draw"],
  ["fan", "Fan only"],
  ["low", "Low fan, compressor always on"],
  ["full", "Compressor always on"],
] as const;

/** Battery current and power by what the air conditioner does, everything else at its average. */
export function StatesTable() {
  const { day } = useDay();
  return (
    <table className="values">
      <caption>Battery draw, by what the air conditioner does</caption>
      <thead>
        <tr>
          <th>The air conditioner</th>
          <th className="right">Battery power</th>
          <th className="right">Average battery current</th>
        </tr>
      </thead>
      <tbody>
        {ROWS.map(([key, words]) => (
          <tr key={key}>
            <td>{words}</td>
            <td className="mono">
              <FigureValue figure={`lasts.${key}.power`} />
            </td>
            <td className="mono">
              <FigureValue figure={`lasts.${key}.current`} />
            </td>
          </tr>
        ))}
        {day?.holding && day.conditions.known && (
          <tr>
            <td>
              Holding the set point on the design day, compressor on <FigureValue figure="holding.duty" digits={2} /> of
              the time
            </td>
            <td className="mono">
              <FigureValue figure="lasts.holding.power" />
            </td>
            <td className="mono">
              <FigureValue figure="lasts.holding.current" />
            </td>
          </tr>
        )}
      </tbody>
    </table>
  );
}
