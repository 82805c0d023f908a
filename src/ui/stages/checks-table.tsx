"use client";

import { clauseOf } from "@/core/assessment/rules/rules";
import type { JobPath } from "@/core/document/path";
import { useState } from "react";
import { type Check, gravestFirst } from "@/core/assessment/judge/judge";
import { FigureValue } from "../fields/figure-value";
import { pairOf } from "../frame/needs-has";
import { VerdictLine } from "../frame/verdict-line";
import { useReading } from "../state/sheet-context";

const FIRST = 10;

/** Every check of Carries, the gravest first; a part's name leads to its line. */
export function ChecksTable({ onPart }: { onPart(path: JobPath): void }) {
  const { assessment } = useReading();
  const [all, setAll] = useState(false);
  const checks = [...assessment.verdicts.carries.checks].sort(gravestFirst);
  const shown = all ? checks : checks.slice(0, FIRST);
  return (
    <>
      <table className="values" id="checks">
        <caption>What each part carries: stops and failures first, then what is nearest to failing</caption>
        <thead>
          <tr>
            <th>Part and rule</th>
            <th className="clause">Clause</th>
            <th className="right">Needs</th>
            <th className="right">Has</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {shown.map((check) => (
            <CheckRow key={check.key} check={check} onPart={onPart} />
          ))}
        </tbody>
      </table>
      {checks.length > FIRST && (
        <button type="button" className="plain link" onClick={() => setAll(!all)}>
          {all ? "Show the nearest only" : `Show all ${checks.length}`}
        </button>
      )}
    </>
  );
}

function CheckRow({ check, onPart }: { check: Check; onPart(path: JobPath): void }) {
  const { job, assessment } = useReading();
  const pair = pairOf(check, job.notation);
  const { part, name, demand, limit, word, margin, form } = check;
  return (
    <tr>
      <td>
        {part ? (
          <button type="button" className="plain part-link" onClick={() => onPart(part)}>
            {name}
          </button>
        ) : (
          name
        )}
        {!check.met && <div className="note">{check.fix}</div>}
      </td>
      <td className="note clause">{clauseOf(check, assessment.wiring.rules)}</td>
      <td className="mono">{pair.need !== null && <FigureValue figure={demand.key} as={pair.need} />}</td>
      <td className="mono">
        <FigureValue figure={limit.key} as={pair.has} />
      </td>
      <td style={{ whiteSpace: "nowrap" }}>
        <VerdictLine word={word} margin={form === "there" ? undefined : margin} />
      </td>
    </tr>
  );
}
