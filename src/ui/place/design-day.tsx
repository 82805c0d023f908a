"use client";

import { Segmented } from "antd";
import { QuantityLine } from "../fields/quantity-line";
import { useReading, useSheet } from "../state/sheet-context";
import { say } from "@/core/messages/say";

const KINDS = [
  { value: "mild", label: "Mild" },
  { value: "usual", label: "Typical" },
  { value: "hot", label: "Hot" },
  { value: "own", label: "Own" },
] as const;

/** The design day: of the month's climate, or the customer's own figures. Typing one of them makes the day their own. */
export function DesignDay() {
  const { job, assessment } = useReading();
  const change = useSheet((state) => state.change);
  const { kind } = job.weather;
  const choose = (next: (typeof KINDS)[number]["value"]) =>
    change((draft) => {
      // A day of one's own begins with what the day before it stood at.
      if (next === "own" && !draft.weather.highestC)
        draft.weather.highestC = {
          value: Math.round(assessment.values.weather.highestC.value * 10) / 10,
          origin: "plate",
        };
      draft.weather.kind = next;
    });
  const simulated = kind === "generated" || kind === "file";
  return (
    <div className="design-day">
      <div className="line choice" data-path="weather.kind">
        <div className="line-row">
          <span className="label">Design day</span>
          <Segmented<string>
            block
            size="small"
            aria-label="Design day"
            value={simulated ? undefined : kind}
            options={[...KINDS]}
            onChange={(next) => choose(next as (typeof KINDS)[number]["value"])}
          />
        </div>
        <p className="note">
          {kind === "own"
            ? say("interface.designDay.own")
            : simulated
              ? say("interface.designDay.simulated")
              : say("interface.designDay.listed")}
        </p>
      </div>
      <QuantityLine path="weather.highestC" />
      <QuantityLine path="weather.lowestC" />
      <QuantityLine path="weather.humidity" />
      <QuantityLine path="weather.sunHours" />
    </div>
  );
}
