"use client";

import { App, Button, Checkbox } from "antd";
import { useEffect, useState } from "react";
import type { Outcome } from "@/core/applications/options/evaluate";
import type { Found, Result } from "@/core/applications/options/search";
import { MarkedWord } from "../frame/word-mark";
import { askFitted, askTrips, useDesignVerdicts } from "../state/options";
import { nameRevision } from "../state/options-calls";
import { useReading, useSheet, useSheetStore } from "../state/sheet-context";
import type { TripRun } from "@/workers/options.worker";
import { TripStrips } from "../pictures/trip-strips";
import { replaceJob } from "../state/replace-job";
import { shareWords } from "./options-frontier";
import { say } from "@/core/messages/say";
import { v4 as uuid } from "uuid";
import { mutate } from "swr";

interface Props {
  found: Found;
  result: Result;
  chosen: readonly number[];
  toggle(index: number): void;
}

interface Row {
  label: string;
  values: string[];
}

/** The rows of a comparison: parts by what they are, then what each comes to. */
function rowsOf(outcomes: readonly Outcome[], found: Found, currency: string): Row[] {
  const parts = [...new Set(outcomes.flatMap(({ lines }) => lines.map(({ what }) => what)))];
  const row = (label: string, of: (outcome: Outcome) => string): Row => ({ label, values: outcomes.map(of) });
  const capacity = (outcome: Outcome) => {
    const battery = found.requirement.vary.batteries[outcome.design.battery]!;
    const wattHours = battery.blockVoltage * battery.series * battery.capacityAh * outcome.design.parallel;
    return `${(wattHours / 1000).toFixed(1)} kWh`;
  };
  return [
    row(`Money, ${currency}`, ({ cost }) => String(Math.round(cost))),
    row("Mass, kg", ({ mass }) => String(Math.round(mass))),
    row("Space inside, L", ({ space }) => String(Math.round(space))),
    row("Roof, m²", ({ roof }) => roof.toFixed(1)),
    row("Battery", capacity),
    row("Days satisfied", shareWords),
    row("Missed by the battery, of all", ({ tally }) => `${tally.byBank} of ${tally.days}`),
    row("Missed by the unit", ({ tally }) => String(tally.byUnit)),
    row(
      "Lowest state of charge, on average",
      ({ tally }) => `${Math.round((100 * tally.lowest) / Math.max(1, tally.trips))} %`,
    ),
    ...parts.map((what) =>
      row(what, ({ lines }) => {
        const line = lines.find((one) => one.what === what);
        return line ? `${line.count} × ${Math.round(line.cost / line.count)}` : "none";
      }),
    ),
  ];
}

/** Two to four designs side by side: verdicts, one trip on one axis, parts, money and mass; one may be taken into the job. */
export function Compare({ found, result, chosen, toggle }: Props) {
  const { job } = useReading();
  const store = useSheetStore();
  const id = useSheet((state) => state.id);
  const { message } = App.useApp();
  const [onlyDifferent, setOnlyDifferent] = useState(false);
  const [trips, setTrips] = useState<{ of: string; runs: TripRun[] } | null>(null);
  const all = [...result.points.map(({ outcome }) => outcome), ...found.confirmed, ...found.outcomes];
  const outcomes = chosen.flatMap((index) => all.find((one) => one.index === index) ?? []);
  const key = outcomes.map(({ index }) => index).join(" ");
  useEffect(() => {
    if (key === "") return;
    let here = true;
    const designs = key.split(" ").map((index) => found.designs[Number(index)]!);
    void askTrips(found.job, found.requirement, designs).then((runs) => here && setTrips({ of: key, runs }));
    return () => {
      here = false;
    };
  }, [key, found.job, found.requirement, found.designs]);
  const verdicts = useDesignVerdicts(found.job, found.requirement, outcomes);
  if (outcomes.length === 0) return <p className="note">{say("interface.tickTwoFourDesigns")}</p>;
  const rows = rowsOf(outcomes, found, job.notation.currency).filter(
    ({ values }) => !onlyDifferent || new Set(values).size > 1,
  );
  const take = async (outcome: Outcome) => {
    try {
      const before = store.getState().job;
      const fitted = await askFitted(found.job, found.requirement, outcome.design);
      // What stands now is kept under a name first: nothing is lost by trying a design.
      await nameRevision(id, { id: uuid(), name: `Before ${outcome.name}`.slice(0, 120), promise: "" }, before);
      replaceJob(store, { ...fitted, name: before.name }, true);
      await nameRevision(
        id,
        {
          id: uuid(),
          name: outcome.name.slice(0, 120),
          promise: `${shareWords(outcome)} of days satisfied, ${found.requirement.tripDays} days without a plug`,
        },
        { ...fitted, name: before.name },
      );
      await mutate(["revisions", id]);
      void message.success(say("interface.appliedJobNewRevision"), 6);
    } catch (error) {
      void message.error((error as Error).message);
    }
  };
  return (
    <section aria-label="Designs side by side" className="options-compare">
      {trips?.of === key && <TripStrips runs={trips.runs} names={outcomes.map(({ name }) => name)} />}
      <table className="values">
        <caption>
          Side by side{" "}
          {outcomes.length > 1 && (
            <Checkbox checked={onlyDifferent} onChange={({ target }) => setOnlyDifferent(target.checked)}>
              differences only
            </Checkbox>
          )}
        </caption>
        <thead>
          <tr>
            <th />
            {outcomes.map(({ index, name }) => (
              <th key={index}>
                {name}{" "}
                <button type="button" className="plain" aria-label={`Remove ${name}`} onClick={() => toggle(index)}>
                  ×
                </button>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {(["starts", "carries", "lasts", "recovers"] as const).map((verdict) => (
            <tr key={verdict}>
              <td>{verdict[0]!.toUpperCase() + verdict.slice(1)}</td>
              {outcomes.map((outcome) => (
                <td key={outcome.index}>
                  {verdicts[outcome.index] ? <MarkedWord word={verdicts[outcome.index]![verdict]} /> : "…"}
                </td>
              ))}
            </tr>
          ))}
          {rows.map(({ label, values }) => (
            <tr key={label}>
              <td>{label}</td>
              {values.map((value, i) => (
                <td key={i} className="mono">
                  {value}
                </td>
              ))}
            </tr>
          ))}
          <tr>
            <td />
            {outcomes.map((outcome) => (
              <td key={outcome.index}>
                <Button size="small" onClick={() => void take(outcome)}>
                  Apply to the job
                </Button>
              </td>
            ))}
          </tr>
        </tbody>
      </table>
    </section>
  );
}
