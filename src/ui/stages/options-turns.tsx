"use client";

import { Button, Progress } from "antd";
import { useState } from "react";
import type { Found, Result } from "@/core/applications/options/search";
import type { Turned } from "@/core/applications/options/sensitivity";
import { askSensitivity } from "../state/options";
import { say } from "@/core/messages/say";

/** Frontier points on either side of the choice that a turned assumption may make the choice. */
const BELOW = 3;
const ABOVE = 4;

/** Which assumption would turn the choice, and how it would be measured. */
export function Turns({ found, result }: { found: Found; result: Result }) {
  const [done, setDone] = useState<number | null>(null);
  const [turned, setTurned] = useState<{ of: Found; list: Turned[] } | null>(null);
  const [fault, setFault] = useState("");
  const choice = result.choice!;
  const at = result.points.findIndex(({ outcome }) => outcome.index === choice.index);
  const candidates = result.points
    .slice(Math.max(0, at - BELOW), at + ABOVE + 1)
    .map(({ outcome: { index, design } }) => ({ index, design }));
  const nameOf = (index: number | null) =>
    index === null
      ? "none of the next designs"
      : (result.points.find(({ outcome }) => outcome.index === index)?.outcome.name ?? "another");
  const ask = async () => {
    setDone(0);
    setFault("");
    try {
      const list = await askSensitivity(found.job, found.requirement, candidates, choice.index, setDone);
      if (list) setTurned({ of: found, list });
    } catch (error) {
      setFault((error as Error).message);
    } finally {
      setDone(null);
    }
  };
  if (turned?.of !== found)
    return (
      <div className="options-run">
        <Button size="small" disabled={done !== null} onClick={() => void ask()}>
          {say("interface.whichAssumptionWouldChange")}
        </Button>
        {done !== null && (
          <Progress percent={Math.round(100 * done)} size="small" style={{ maxWidth: 180, margin: 0 }} />
        )}
        {fault && <span className="note heat">{fault}</span>}
      </div>
    );
  const turning = turned.list.filter(({ turns }) => turns);
  return (
    <table className="values" data-turns>
      <caption>
        {turning.length > 0
          ? `${turning[0]!.name} would change the choice: measure it first`
          : "No assumption alone would change the choice"}
      </caption>
      <thead>
        <tr>
          <th>Assumption</th>
          <th>where it is</th>
          <th className="right">days satisfied</th>
          <th>the choice would be</th>
          <th>measured by</th>
        </tr>
      </thead>
      <tbody>
        {turned.list.flatMap(({ key, name, how, ends }) =>
          ends.map(({ words, choice: other, share }, i) => (
            <tr key={`${key} ${words}`}>
              <td>{i === 0 ? name : ""}</td>
              <td>{words}</td>
              <td className="mono">{Math.round(100 * share)} %</td>
              <td>{other === choice.index ? "the same" : nameOf(other)}</td>
              <td className="note">{i === 0 ? how : ""}</td>
            </tr>
          )),
        )}
      </tbody>
    </table>
  );
}
