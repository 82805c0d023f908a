"use client";

import { say } from "@/core/messages/say";
import type { Unit } from "@/core/document/schema";
import { Button, Segmented } from "antd";
import { DeleteOutlined, PlusOutlined } from "@ant-design/icons";
import { useMemo, useState } from "react";
import { formatQuantity } from "@/core/units/format";
import { legCount } from "@/core/reference/standards/mains";
import { powerOverOutdoor } from "@/core/assessment/verdicts/draw-curve";
import { CheckLine } from "../fields/check-line";
import { ChoiceLine } from "../fields/choice-line";
import { FigureValue } from "../fields/figure-value";
import { QuantityLine } from "../fields/quantity-line";
import { TextLine } from "../fields/text-line";
import { StatesTable } from "../answers/states-table";
import PowerCurve from "../pictures/power-curve";
import { useReading, useSheet } from "../state/sheet-context";
import { FromShelf } from "../shelf/from-shelf";
import { LEGS, newId } from "../words";
import { DrawReadings } from "./draw-readings";
import { Group, More, Notices, StageFrame } from "./parts";
import { fixedSpeed, onBattery, onMains, UNIT_KIND_KEYS, UNIT_KINDS } from "@/core/document/unit-kinds";

const KINDS = UNIT_KIND_KEYS.map((value) => ({ value, label: UNIT_KINDS[value].label }));
const START_AIDS = [
  { value: "none", label: "none" },
  { value: "soft-starter", label: "soft starter" },
  { value: "start-capacitor", label: "start capacitor" },
] as const;

/** The air conditioners: what the plate says, what was measured, how each starts. */
export function UnitStage() {
  const units = useSheet((state) => state.job.units);
  const change = useSheet((state) => state.change);
  const [chosen, setChosen] = useState(0);
  const index = Math.min(chosen, units.length - 1);
  const unit = units[index]!;
  const at = <Field extends keyof Unit & string>(field: Field) => `units.${index}.${field}` as const;
  const fixed = fixedSpeed(unit);
  const twoLegs = useSheet((state) => legCount(state.job.brief.mains) === 2);
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
              Add a second unit
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
            <TextLine path={at("name")} label="Name" longest={80} />
            <ChoiceLine path={at("kind")} label="Kind" options={KINDS} />
            {twoLegs && onMains(unit) && <ChoiceLine path={at("leg")} label="Leg" options={LEGS} />}
          </Group>
          <Group title="From its plate" note="or clamp reading">
            <QuantityLine path={at("coolingPower")} />
            <QuantityLine path={at("ratedPower")} />
            {!fixed && <QuantityLine path={at("maximumPower")} placeholder="none on the plate" />}
            <QuantityLine path={at("runningCurrent")} label={onBattery(unit) ? "Running current, DC" : undefined} />
            {fixed && <QuantityLine path={at("lockedRotorCurrent")} />}
            <QuantityLine path={at("fanPower")} />
            {onBattery(unit) ? (
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
            <Group title="Start aid" note={<FromShelf kind="soft-starter" path={`units.${index}`} />}>
              <ChoiceLine path={at("startAid")} label="Fitted" options={START_AIDS} />
              {unit.startAid === "soft-starter" && (
                <>
                  <QuantityLine path={at("softReduction")} />
                  <QuantityLine path={at("softRamp")} />
                  <CheckLine path={at("learned")} label="It has learned (about five starts)" />
                </>
              )}
            </Group>
          )}
          <DrawReadings index={index} />
          <More title="More: battery current entered by state">
            <QuantityLine path={at("dcRunningCurrent")} />
            <QuantityLine path={at("dcLowCurrent")} />
            <QuantityLine path={at("dcFanCurrent")} />
            <QuantityLine path={at("dcAverageCurrent")} />
            <QuantityLine path={at("measuredAtC")} placeholder="as the design day" />
          </More>
          <Group title="Duty cycle">
            <QuantityLine
              path={at("dutyCycle")}
              label={fixed ? "Duty cycle, measured" : "Part load, measured"}
              placeholder="not measured"
            />
            <CheckLine path={at("fanBetween")} label="Fan runs on between cycles" />
          </Group>
          <Group title="Heat rejection">
            <ChoiceLine
              path={at("condenser")}
              label="Condenser"
              options={[
                { value: "outside", label: "free air" },
                { value: "split", label: "outdoor unit of a wall split" },
                { value: "boxed", label: "enclosed, recirculating its own air" },
                { value: "single-duct", label: "single duct, exhausts cabin air" },
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
          <More title="More: cabin and design day">
            <QuantityLine path={at("capacityPerKelvin")} />
            <QuantityLine path={at("condenserRise")} />
            <QuantityLine path={at("sensibleHeatRatio")} />
            <QuantityLine path={at("thermostatBand")} />
            <QuantityLine path={at("minimumOff")} />
          </More>
          <More title="More: power factors and times">
            {onMains(unit) && <QuantityLine path={at("runningPowerFactor")} />}
            {onMains(unit) && <QuantityLine path={at("compressorCurrent")} />}
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
  const { job } = useReading();
  const index = Math.min(chosen, job.units.length - 1);
  const unit = job.units[index]!;
  return (
    <>
      <div className="picture-title">
        <h2>Power against outdoor temperature</h2>
        <span className="note">{unit.name}</span>
      </div>
      <PowerCurve index={index} />
      {unit.condenser === "sea" && <p className="note">{say("interface.seaUnitFollowsSea")}</p>}
      <table className="values">
        <caption>On the design day</caption>
        <thead>
          <tr>
            <th>This air conditioner</th>
            <th className="right">Power</th>
          </tr>
        </thead>
        <tbody>
          {(
            [
              ["running", "Compressor always on"],
              ["low", "Low fan, compressor always on"],
              ["fan", "Fan only"],
              ["holding", "Holding the set point, average"],
            ] as const
          ).map(([key, title]) => (
            <tr key={key}>
              <td>{title}</td>
              <td className="mono">
                <FigureValue figure={`unit.${index}.${key}`} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <StatesTable />
      <PowerTable index={index} />
      <Notices stage="unit" />
    </>
  );
}

const STEPS_C = [20, 25, 30, 35, 40, 45, 50];

/** The picture as a table. */
function PowerTable({ index }: { index: number }) {
  const { job, assessment } = useReading();
  const curve = useMemo(() => powerOverOutdoor(job, assessment, index, STEPS_C), [job, assessment, index]);
  const rows = [
    ["compressor always on", curve.running, "power"],
    ["fan only", curve.fan, "power"],
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
                {formatQuantity(step, "temperature", job.notation)}
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
                  {formatQuantity(value, dimension, job.notation, 2)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}
