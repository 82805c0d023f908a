"use client";

import { CloseOutlined, PlusOutlined } from "@ant-design/icons";
import { Button, InputNumber, Select } from "antd";
import { useState } from "react";
import { gravestAt } from "@/core/assessment/judge/judge";
import { formatQuantity } from "@/core/units/format";
import { emptyController, emptyPanel, type Panel } from "@/core/document/schema";
import { stringChecks } from "@/core/models/charging/strings";
import { CheckLine } from "../fields/check-line";
import { ChoiceLine } from "../fields/choice-line";
import { FigureValue } from "../fields/figure-value";
import { QuantityLine } from "../fields/quantity-line";
import { TextLine } from "../fields/text-line";
import { VerdictLine } from "../frame/verdict-line";
import { AverageDayPicture } from "../pictures/average-day";
import { RoofPlan } from "../pictures/roof-plan";
import { useDay } from "../state/day";
import { useReading, useSheet } from "../state/sheet-context";
import { newId } from "../words";
import { Group, More, Notices, StageFrame } from "./parts";
import { say } from "@/core/messages/say";

/** What charges the battery: panels and controllers, engine, shore, generator; and whether it is enough. */
export function ChargingStage() {
  return (
    <StageFrame
      worksheet={
        <>
          <Panels />
          <Controllers />
          <Obstacles />
          <Group title="Engine" note="while driving, by the plan of the day">
            <QuantityLine path="sources.engineCurrent" />
            <QuantityLine path="sources.alternatorCurrent" />
            <More title="More: hot, idling, the vehicle’s own draw">
              <QuantityLine path="sources.hotFactor" />
              <QuantityLine path="sources.idleFactor" />
              <QuantityLine path="sources.vehicleCurrent" />
            </More>
          </Group>
          <Group title="Shore" note="by the plan of the day">
            <QuantityLine path="sources.chargerCurrent" />
            <QuantityLine path="sources.inletCurrent" />
            <QuantityLine path="sources.acceptance" />
          </Group>
          <GeneratorGroup />
        </>
      }
      picture={
        <>
          <div className="picture-title">
            <h2>Roof, from above</h2>
          </div>
          <RoofPlan />
          <Strings />
          <Average />
          <Notices stage="charging" />
        </>
      }
    />
  );
}

const MOUNTS = [
  { value: "flat", label: "flat on the roof" },
  { value: "tilted", label: "tilted on the roof" },
  { value: "portable", label: "portable, on the ground" },
] as const;

function Panels() {
  const { job, assessment } = useReading();
  const change = useSheet((state) => state.change);
  const put = useSheet((state) => state.put);
  const { panels, controllers } = job.sources;
  const power = assessment.values.sources.panels.reduce((sum, one) => sum + one.power.value * one.count.value, 0);
  return (
    <Group title="Panels" note={`${formatQuantity(power, "power", job.notation)} in all`}>
      {panels.length === 0 && <p className="note">{say("interface.noPanelsYetAdd")}</p>}
      {panels.map((panel, i) => (
        <div key={panel.id} className="source-item" data-panel={i}>
          <div className="row-head">
            <TextLine bare path={`sources.panels.${i}.name`} label="Name of the panels" longest={80} />
            <Select<Panel["mount"]>
              size="small"
              aria-label={`${panel.name}: how they are mounted`}
              value={panel.mount}
              options={[...MOUNTS]}
              onChange={(mount) => put(`sources.panels.${i}.mount`, mount)}
              popupMatchSelectWidth={false}
            />
            <Button
              size="small"
              type="text"
              icon={<CloseOutlined />}
              aria-label={`Remove ${panel.name}`}
              onClick={() => change((draft) => void draft.sources.panels.splice(i, 1))}
            />
          </div>
          <QuantityLine path={`sources.panels.${i}.power`} />
          <QuantityLine path={`sources.panels.${i}.count`} />
          {panel.mount !== "portable" && (
            <>
              <QuantityLine path={`sources.panels.${i}.x`} />
              <QuantityLine path={`sources.panels.${i}.y`} />
            </>
          )}
          {panel.mount !== "flat" && (
            <>
              <QuantityLine path={`sources.panels.${i}.tilt`} />
              <QuantityLine path={`sources.panels.${i}.azimuth`} />
            </>
          )}
          <More title="More: size, strings, shade, heat">
            <QuantityLine path={`sources.panels.${i}.length`} />
            <QuantityLine path={`sources.panels.${i}.width`} />
            <QuantityLine path={`sources.panels.${i}.series`} />
            <QuantityLine path={`sources.panels.${i}.openVoltage`} />
            <QuantityLine path={`sources.panels.${i}.shortCurrent`} />
            <QuantityLine path={`sources.panels.${i}.shaded`} />
            <QuantityLine path={`sources.panels.${i}.perKelvin`} />
            <QuantityLine path={`sources.panels.${i}.nominalCellC`} />
            {controllers.length > 1 && (
              <div className="line choice">
                <div className="line-row">
                  <span>Feeds</span>
                  <Select
                    size="small"
                    aria-label={`${panel.name}: which controller`}
                    value={panel.controllerId ?? controllers[0]!.id}
                    options={controllers.map(({ id, name }) => ({ value: id, label: name }))}
                    onChange={(id) => put(`sources.panels.${i}.controllerId`, id)}
                    popupMatchSelectWidth={false}
                  />
                </div>
              </div>
            )}
            <ShadeHours index={i} panel={panel} />
          </More>
        </div>
      ))}
      <Button
        className="add"
        size="small"
        icon={<PlusOutlined />}
        disabled={panels.length >= 30}
        onClick={() =>
          change((draft) => {
            const before = panels[panels.length - 1];
            const added = before ? structuredClone(before) : emptyPanel(newId());
            // The next ones are like the last, in a place of their own.
            delete added.x;
            delete added.y;
            draft.sources.panels.push({ ...added, id: newId(), name: before ? "Panels" : "Roof panel" });
          })
        }
      >
        Add panels
      </Button>
    </Group>
  );
}

/** Light lost to trees or buildings, by the hour of the day. */
function ShadeHours({ index, panel }: { index: number; panel: Panel }) {
  const put = useSheet((state) => state.put);
  const shade = Array.from({ length: 24 }, (_, hour) => panel.shadeByHour[hour] ?? 0);
  const set = (hour: number, percent: number | null) => {
    const next = shade.map((value, i) => (i === hour ? Math.min(1, Math.max(0, (percent ?? 0) / 100)) : value));
    put(`sources.panels.${index}.shadeByHour`, next.every((value) => value === 0) ? [] : next);
  };
  return (
    <fieldset className="shade-hours">
      <legend className="note">Light lost to trees or buildings, percent, by the hour</legend>
      {Array.from({ length: 16 }, (_, i) => i + 5).map((hour) => (
        <label key={hour}>
          {hour}
          <InputNumber
            size="small"
            min={0}
            max={100}
            step={10}
            controls={false}
            value={Math.round(shade[hour]! * 100)}
            onChange={(percent) => set(hour, percent)}
          />
        </label>
      ))}
    </fieldset>
  );
}

function Controllers() {
  const { job } = useReading();
  const change = useSheet((state) => state.change);
  const { controllers } = job.sources;
  return (
    <Group
      title="Solar controllers"
      note={controllers.length === 0 ? "none listed: limited by the circuits on Wiring" : ""}
    >
      {controllers.map((controller, i) => (
        <div key={controller.id} className="source-item">
          <div className="row-head">
            <TextLine bare path={`sources.controllers.${i}.name`} label="Name of the controller" longest={80} />
            <Button
              size="small"
              type="text"
              icon={<CloseOutlined />}
              aria-label={`Remove ${controller.name}`}
              onClick={() => change((draft) => void draft.sources.controllers.splice(i, 1))}
            />
          </div>
          <QuantityLine path={`sources.controllers.${i}.current`} />
          <QuantityLine path={`sources.controllers.${i}.maxVoltage`} />
          <QuantityLine path={`sources.controllers.${i}.maxArrayCurrent`} placeholder="not stated" />
          <ChoiceLine
            path={`sources.controllers.${i}.stringFuses`}
            label="Fuse of each string"
            options={[
              { value: "unsaid", label: "not stated" },
              { value: "each", label: "one for each string" },
              { value: "none", label: "none" },
            ]}
          />
          {controller.stringFuses === "each" && <QuantityLine path={`sources.controllers.${i}.stringFuse`} />}
        </div>
      ))}
      <Button
        className="add"
        size="small"
        icon={<PlusOutlined />}
        disabled={controllers.length >= 8}
        onClick={() =>
          change((draft) => void draft.sources.controllers.push(emptyController(newId(), "Solar controller")))
        }
      >
        Add a controller
      </Button>
    </Group>
  );
}

/** The generator: what it gives for hours, whether it starts by itself, and what it burns. */
function GeneratorGroup() {
  const { job } = useReading();
  const { generatorAuto } = job.supplies;
  return (
    <Group title="Generator" note={generatorAuto ? "starts and stops by itself" : "by the plan of the day"}>
      <QuantityLine path="supplies.generatorRating" />
      <QuantityLine path="supplies.generatorContinuous" />
      <QuantityLine path="supplies.altitude" />
      <CheckLine path="supplies.generatorAuto" label="Starts and stops by itself" />
      {generatorAuto && (
        <>
          <QuantityLine path="supplies.startAt" />
          <QuantityLine path="supplies.stopAt" />
        </>
      )}
      <QuantityLine path="supplies.fuelAtFull" />
      <ChoiceLine
        path="supplies.generatorBond"
        label="Neutral bond"
        options={[
          { value: "unsaid", label: "not stated" },
          { value: "bonded", label: "bonded in the generator" },
          { value: "floating", label: "floating" },
        ]}
      />
      <GeneratorFuel />
    </Group>
  );
}

/** Hours and fuel of the fortnight, by the day. */
function GeneratorFuel() {
  const { day } = useDay();
  const { job } = useReading();
  if (!day || day.generator.hoursADay <= 0) return null;
  const { hoursADay, litresADay } = day.generator;
  return (
    <p className="note">
      In the fortnight the generator runs {formatQuantity(hoursADay * 3600, "duration", job.notation, 2)} a day and
      burns {formatQuantity(litresADay, "volume", job.notation, 2)} a day.
    </p>
  );
}

function Obstacles() {
  const { job } = useReading();
  const change = useSheet((state) => state.change);
  const [open, setOpen] = useState<string | null>(null);
  return (
    <Group title="Roof" note="outline, and what stands on it">
      <QuantityLine path="sources.roofLength" />
      <QuantityLine path="sources.roofWidth" />
      <QuantityLine path="sources.systemFactor" />
      <QuantityLine path="sources.lowestC" />
      {job.sources.obstacles.map((obstacle, i) => (
        <div key={obstacle.id} className="source-item">
          <div className="row-head">
            <TextLine bare path={`sources.obstacles.${i}.name`} label="What stands on the roof" longest={80} />
            <Button size="small" type="text" onClick={() => setOpen(open === obstacle.id ? null : obstacle.id)}>
              {open === obstacle.id ? "done" : "place"}
            </Button>
            <Button
              size="small"
              type="text"
              icon={<CloseOutlined />}
              aria-label={`Remove ${obstacle.name}`}
              onClick={() => change((draft) => void draft.sources.obstacles.splice(i, 1))}
            />
          </div>
          {open === obstacle.id && (
            <>
              <QuantityLine path={`sources.obstacles.${i}.x`} />
              <QuantityLine path={`sources.obstacles.${i}.y`} />
              <QuantityLine path={`sources.obstacles.${i}.length`} />
              <QuantityLine path={`sources.obstacles.${i}.width`} />
            </>
          )}
        </div>
      ))}
      <Button
        className="add"
        size="small"
        icon={<PlusOutlined />}
        disabled={job.sources.obstacles.length >= 30}
        onClick={() => {
          const id = newId();
          change((draft) => void draft.sources.obstacles.push({ id, name: "Roof vent" }));
          setOpen(id);
        }}
      >
        Add a vent, box or unit on the roof
      </Button>
    </Group>
  );
}

/** Each controller with the panels on it, against what it bears. */
function Strings() {
  const { job, assessment } = useReading();
  const checks = stringChecks(job, assessment.values, assessment.values.bank.chargeToVoltage.value);
  if (checks.length === 0 || job.sources.panels.length === 0) return null;
  // What Carries says of each: its gravest check.
  const judged = checks.map(({ at }) => gravestAt(assessment.verdicts.carries.checks, at));
  const volts = (value: number) => formatQuantity(value, "voltage", job.notation, 3);
  const amps = (value: number) => formatQuantity(value, "current", job.notation, 3);
  return (
    <table className="values">
      <caption>Strings and controllers</caption>
      <thead>
        <tr>
          <th>Controller</th>
          <th className="right">Voc at lowest temperature</th>
          <th className="right">Max PV voltage</th>
          <th className="right">Strings pass</th>
          <th className="right">Array output</th>
          <th className="right">Rated output</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {checks.map((one, i) => (
          <tr key={one.name}>
            <td>{one.name}</td>
            <td className="mono">{volts(one.coldVoltage)}</td>
            <td className="mono">{volts(one.maxVoltage)}</td>
            <td className="mono">{formatQuantity(one.passes, "ratio", job.notation, 2)}</td>
            <td className="mono">{amps(one.current)}</td>
            <td className="mono">{amps(one.limit)}</td>
            <td>
              <VerdictLine word={judged[i]?.word ?? "Holds"} />
              <div className="note">
                {[
                  ...(judged[i] && judged[i].word !== "Holds" ? [judged[i].remark] : []),
                  ...(one.current > one.limit * 1.05 ? ["it limits the best hours"] : []),
                ].join("; ")}
              </div>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** An average day of the fortnight by the hour, and the old rule beside the balance. */
function Average() {
  const { job, assessment } = useReading();
  const { day, stale, fault } = useDay();
  if (!day) return <p className="note">{fault ? `The simulation stopped: ${fault}` : "Simulating the day"}</p>;
  const { panels, wanted } = day.oldRule;
  const watts = (value: number) => formatQuantity(value, "power", job.notation, 2);
  const lithium = assessment.values && job.bank.chemistry !== "agm";
  return (
    <section aria-busy={stale} aria-label="An average day">
      <div className="picture-title">
        <h2>An average day</h2>
        <span className="note">
          <FigureValue figure="day.in" digits={2} /> in, <FigureValue figure="day.out" digits={2} /> out; mean of the
          fortnight
        </span>
      </div>
      <AverageDayPicture average={day.average} />
      <p className="sentence" data-words="recovers">
        {day.words.recovers.long}
      </p>
      <p className="note">
        The old rule of one watt of panel for each amp-hour at 12 V asks for {watts(wanted)} here; there{" "}
        {panels === 1 ? "is" : "are"} {watts(panels)}. {lithium ? `${say("interface.datesLeadAcidBatteries")} ` : ""}
        {say("interface.balanceCountsBoth")}
      </p>
    </section>
  );
}
