"use client";

import { Button, Segmented } from "antd";
import { DeleteOutlined, PlusOutlined } from "@ant-design/icons";
import { useMemo, useState } from "react";
import { formatQuantity } from "@/core/quantity/format";
import { legCount } from "@/core/rules/mains";
import { powerOverOutdoor } from "@/core/unit/curve";
import { CheckLine } from "../fields/check-line";
import { ChoiceLine } from "../fields/choice-line";
import { FigureValue } from "../fields/figure-value";
import { QuantityLine } from "../fields/quantity-line";
import { TextLine } from "../fields/text-line";
import PowerCurve from "../pictures/power-curve";
import { useReading, useSheet } from "../state/sheet-context";
import { FromShelf } from "../shelf/from-shelf";
import { LEGS, newId } from "../words";
import { Group, More, Notices, StageFrame } from "./parts";

const KINDS = [
  { value: "fixed", label: "fixed speed" },
  { value: "variable", label: "variable speed, on mains" },
  { value: "dc", label: "straight from the bank's DC" },
] as const;
const CURES = [
  { value: "none", label: "none" },
  { value: "soft-starter", label: "soft starter" },
  { value: "start-capacitor", label: "start capacitor" },
] as const;

/** The air conditioners: what the plate says, what was measured, how each starts. */
export function UnitStage() {
  const units = useSheet((state) => state.rig.units);
  const change = useSheet((state) => state.change);
  const [chosen, setChosen] = useState(0);
  const index = Math.min(chosen, units.length - 1);
  const unit = units[index]!;
  const at = (field: string) => `units.${index}.${field}`;
  const fixed = unit.kind === "fixed";
  const twoLegs = useSheet((state) => legCount(state.rig.brief.mains) === 2);
  const add = () => {
    change(
      (draft) =>
        void draft.units.push({
          ...structuredClone(unit),

          id: newId(),
          name: `Air conditioner ${units.length + 1}`,
          capture: undefined,
        }),
    );
    setChosen(units.length);
  };
  return (
    <StageFrame
      worksheet={
        <>
          <div style={{ display: "flex", gap: 6, alignItems: "center", marginBottom: 10, flexWrap: "wrap" }}>
            {units.length > 1 && (
              <Segmented
                size="small"
                value={index}
                onChange={setChosen}
                options={units.map((one, i) => ({ value: i, label: one.name || `Unit ${i + 1}` }))}
              />
            )}
            <Button size="small" icon={<PlusOutlined />} disabled={units.length >= 6} onClick={add}>
              Another like it
            </Button>
            {units.length > 1 && (
              <Button
                size="small"
                icon={<DeleteOutlined />}
                aria-label={`Remove ${unit.name}`}
                onClick={() => change((draft) => void draft.units.splice(index, 1))}
              />
            )}
          </div>
          <Group title="Air conditioner" note={<FromShelf kind="unit" path={`units.${index}`} />}>
            <TextLine path={at("name")} label="Called" longest={80} />
            <ChoiceLine path={at("kind")} label="Kind" options={KINDS} />
            {twoLegs && unit.kind !== "dc" && <ChoiceLine path={at("leg")} label="Leg" options={LEGS} />}
          </Group>
          <Group title="From its plate" note="or what a clamp says instead">
            <QuantityLine path={at("coolingPower")} />
            <QuantityLine path={at("ratedPower")} />
            <QuantityLine path={at("runningCurrent")} label={unit.kind === "dc" ? "Running current, DC" : undefined} />
            {fixed && <QuantityLine path={at("lockedRotorCurrent")} />}
            <QuantityLine path={at("fanPower")} />
            {unit.kind === "dc" ? (
              <>
                <QuantityLine path={at("supplyVoltage")} />
                <QuantityLine path={at("cutOffVoltage")} />
              </>
            ) : (
              <>
                <QuantityLine path={at("circuitAmpacity")} placeholder="none on the plate" />
                <QuantityLine path={at("largestDevice")} placeholder="none on the plate" />
              </>
            )}
          </Group>
          {fixed && (
            <Group title="Cure for the start" note={<FromShelf kind="soft-starter" path={`units.${index}`} />}>
              <ChoiceLine path={at("cure")} label="Fitted" options={CURES} />
              {unit.cure === "soft-starter" && (
                <>
                  <QuantityLine path={at("softReduction")} />
                  <QuantityLine path={at("softRamp")} />
                  <CheckLine path={at("learned")} label="It has learned (about five starts)" />
                </>
              )}
            </Group>
          )}
          <Group title="Measured at the battery" note="over what else was on">
            <QuantityLine path={at("dcRunningCurrent")} />
            <QuantityLine path={at("dcLowCurrent")} />
            <QuantityLine path={at("dcFanCurrent")} />
            <QuantityLine path={at("dcAverageCurrent")} />
            <QuantityLine path={at("measuredAtC")} placeholder="as the job" />
          </Group>
          <Group title="How much it rests">
            <QuantityLine path={at("runShare")} label={fixed ? "Run share" : "Part load"} placeholder="from the heat" />
            <CheckLine path={at("fanBetween")} label="Its fan runs on between cycles" />
          </Group>
          <Group title="Gets rid of its heat">
            <ChoiceLine
              path={at("condenser")}
              label="Condenser"
              options={[
                { value: "outside", label: "in the open" },
                { value: "boxed", label: "boxed in, breathes its own heat" },
                { value: "single-duct", label: "single duct, throws cabin air out" },
                { value: "sea", label: "sea water" },
              ]}
            />
            {unit.condenser === "sea" && (
              <>
                <QuantityLine path="place.seaC" />
                <QuantityLine path={at("pumpPower")} />
                <QuantityLine path={at("waterLeavingC")} />
              </>
            )}
          </Group>
          <More title="More: in a cabin, over a day">
            <QuantityLine path={at("capacityPerKelvin")} />
            <QuantityLine path={at("condenserRise")} />
            <QuantityLine path={at("sensibleShare")} />
            <QuantityLine path={at("thermostatBand")} />
            <QuantityLine path={at("minimumOff")} />
          </More>
          <More title="More: factors and times">
            {unit.kind !== "dc" && <QuantityLine path={at("runningPowerFactor")} />}
            {unit.kind !== "dc" && <QuantityLine path={at("compressorCurrent")} />}
            {fixed ? (
              <>
                <QuantityLine path={at("startPowerFactor")} />
                <QuantityLine path={at("startTime")} />
                <QuantityLine path={at("sinceStop")} />
              </>
            ) : (
              <QuantityLine path={at("rampTime")} />
            )}
            <QuantityLine path={at("fanLowPower")} />
            <QuantityLine path={at("powerPerKelvin")} />
          </More>
        </>
      }
      picture={<UnitPicture chosen={index} />}
    />
  );
}

/** The picture follows a moment after the worksheet: a unit that was just added may not be there yet. */
function UnitPicture({ chosen }: { chosen: number }) {
  const { rig } = useReading();
  const index = Math.min(chosen, rig.units.length - 1);
  const unit = rig.units[index]!;
  return (
    <>
      <div className="picture-title">
        <h2>Power against the heat</h2>
        <span className="note">{unit.name}, at the job’s set point</span>
      </div>
      <PowerCurve index={index} />
      <table className="values">
        <caption>On this job</caption>
        <thead>
          <tr>
            <th>The unit</th>
            <th className="right">Draws</th>
            <th>How</th>
          </tr>
        </thead>
        <tbody>
          {(
            [
              ["running", "Never resting"],
              ["low", "Low fan, never resting"],
              ["average", "Expected average"],
              ["fan", "Fan only"],
            ] as const
          ).map(([key, title]) => (
            <tr key={key}>
              <td>{title}</td>
              <td className="mono">
                <FigureValue figure={`unit.${index}.${key}`} />
              </td>
              <td className="note">
                {key === "average" ? (
                  <>
                    runs <FigureValue figure={`unit.${index}.runShare`} digits={2} /> of the time
                  </>
                ) : key === "running" ? (
                  <>
                    takes <FigureValue figure={`unit.${index}.apparent`} />
                  </>
                ) : (
                  ""
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <PowerTable index={index} />
      <Notices stage="unit" />
    </>
  );
}

const STEPS_C = [20, 25, 30, 35, 40, 45, 50];

/** The picture as a table. */
function PowerTable({ index }: { index: number }) {
  const { rig, assessment } = useReading();
  const curve = useMemo(() => powerOverOutdoor(rig, assessment, index, STEPS_C), [rig, assessment, index]);
  const rows = [
    ["never resting", curve.running, "power"],
    ["expected average", curve.average, "power"],
    ["run share", curve.runShare, "ratio"],
  ] as const;
  return (
    <details>
      <summary className="note">The picture as a table</summary>
      <table className="values">
        <thead>
          <tr>
            <th>Outdoors</th>
            {STEPS_C.map((step) => (
              <th key={step} className="right">
                {formatQuantity(step, "temperature", rig.notation)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(([name, values, dimension]) => (
            <tr key={name}>
              <td>{name}</td>
              {values.map((value, i) => (
                <td key={STEPS_C[i]} className="mono">
                  {formatQuantity(value, dimension, rig.notation, 2)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}
