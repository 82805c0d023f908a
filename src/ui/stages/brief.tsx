"use client";

import { Button, Checkbox, Select } from "antd";
import { CloseOutlined, PlusOutlined } from "@ant-design/icons";
import { ChoiceLine } from "../fields/choice-line";
import { QuantityLine } from "../fields/quantity-line";
import { TextLine } from "../fields/text-line";
import { AskedFor } from "../answers/asked-for";
import { HandMethod } from "../answers/hand-method";
import { StatesTable } from "../answers/states-table";
import { StraightAnswer } from "../answers/straight-answer";
import { LastsBars } from "../pictures/hours-bars";
import { DesignDay } from "../place/design-day";
import { PlaceLine } from "../place/place-line";
import { useReading, useSheet } from "../state/sheet-context";
import { newId, STANCES } from "../words";
import { MonthLine } from "./month-line";
import { legCount, MAINS_KEYS, MAINS_SYSTEMS } from "@/core/reference/standards/mains";
import { RULE_SET_KEYS, RULE_SETS } from "@/core/reference/standards/rule-set";
import { ruleSetOf } from "@/core/document/defaults";
import { LEGS } from "../words";
import { Group, More, Notices, StageFrame } from "./parts";

/** The rules that the wiring follows: proposed by mains system, vehicle and place, or chosen. */
function RuleSetLine() {
  const { job } = useReading();
  const proposed = ruleSetOf({ ...job, brief: { ...job.brief, ruleSet: "auto" } }).name;
  return (
    <ChoiceLine
      key={proposed}
      path="brief.ruleSet"
      label="Rule set"
      options={[
        { value: "auto", label: `${proposed} (proposed)` },
        ...RULE_SET_KEYS.map((value) => ({ value, label: RULE_SETS[value].name })),
      ]}
    />
  );
}

/** What was asked: the customer's words, place and month, hours and temperatures, what else runs, what is on board. */
export function BriefStage() {
  return (
    <StageFrame
      worksheet={
        <>
          <Group title="The job">
            <TextLine path="name" label="Name of the job" longest={120} required />
            <TextLine
              path="brief.wording"
              label="In the customer's words"
              longest={4000}
              rows={3}
              placeholder="What they want, as they say it"
            />
            <ChoiceLine
              path="brief.mains"
              label="Mains system"
              options={MAINS_KEYS.map((value) => ({ value, label: MAINS_SYSTEMS[value].label }))}
            />
            <RuleSetLine />
          </Group>
          <Group title="Place and design day" note="every figure stands on these">
            <PlaceLine />
            <MonthLine />
            <DesignDay />
            <More title="More: coordinates by hand">
              <QuantityLine path="place.latitude" />
              <QuantityLine path="place.longitude" />
              <QuantityLine path="supplies.altitude" />
            </More>
          </Group>
          <Group title="Wanted" note="hours, or from and to: 20:00-07:00">
            <QuantityLine path="brief.hoursWanted" />
            <QuantityLine path="brief.setPointC" />
            <ChoiceLine path="brief.stance" label="Run time based on" options={STANCES} />
          </Group>
          <Group title="Vehicle" note="its room decides what the unit has to do">
            <QuantityLine path="cabin.vehicleLength" placeholder="overall, as its papers say" />
          </Group>
          <Loads />
          <Aboard />
          <Group title="Units">
            <ChoiceLine
              path="notation.temperature"
              label="Temperatures"
              options={[
                { value: "C", label: "°C" },
                { value: "F", label: "°F" },
              ]}
            />
            <ChoiceLine
              path="notation.cable"
              label="Cables"
              options={[
                { value: "mm2", label: "mm²" },
                { value: "awg", label: "AWG" },
              ]}
            />
            <ChoiceLine
              path="notation.length"
              label="Lengths"
              options={[
                { value: "m", label: "metres" },
                { value: "ft", label: "feet" },
              ]}
            />
            <ChoiceLine
              path="notation.cooling"
              label="Cooling capacity"
              options={[
                { value: "kW", label: "kW" },
                { value: "BTU/h", label: "BTU/h" },
              ]}
            />
            <ChoiceLine
              path="notation.currency"
              label="Prices"
              options={[
                { value: "EUR", label: "euro" },
                { value: "USD", label: "US dollar" },
                { value: "GBP", label: "pound" },
                { value: "AUD", label: "Australian dollar" },
              ]}
            />
          </Group>
        </>
      }
      picture={
        <>
          <div className="picture-title">
            <h2>The answer</h2>
          </div>
          <StraightAnswer />
          <LastsBars />
          <AskedFor />
          <StatesTable />
          <HandMethod />
          <Notices stage="brief" />
        </>
      }
    />
  );
}

function Loads() {
  const { job } = useReading();
  const change = useSheet((state) => state.change);
  const put = useSheet((state) => state.put);
  return (
    <Group title="Other loads at the same time" note="power and duty cycle">
      <ul className="rows">
        {job.brief.loads.map((load, index) => (
          <li key={load.id}>
            <div className="row-head">
              <TextLine bare path={`brief.loads.${index}.name`} label="Name of the load" longest={80} />
              <Select
                size="small"
                aria-label={`${load.name}: fed from`}
                value={load.side}
                options={[
                  { value: "mains", label: "mains" },
                  { value: "dc", label: "DC" },
                ]}
                onChange={(side) => put(`brief.loads.${index}.side`, side)}
                popupMatchSelectWidth={false}
              />
              <Button
                size="small"
                type="text"
                aria-label={`Remove ${load.name || "load"}`}
                icon={<CloseOutlined />}
                onClick={() => change((draft) => void draft.brief.loads.splice(index, 1))}
              />
            </div>
            {load.side === "mains" && legCount(job.brief.mains) === 2 && (
              <ChoiceLine path={`brief.loads.${index}.leg`} label="Leg" options={LEGS} />
            )}
            <QuantityLine path={`brief.loads.${index}.power`} />
            <QuantityLine path={`brief.loads.${index}.dutyCycle`} />
            <Checkbox
              checked={load.atStart}
              onChange={(event) => put(`brief.loads.${index}.atStart`, event.target.checked)}
            >
              <span className="note">may be on when the compressor starts</span>
            </Checkbox>
          </li>
        ))}
      </ul>
      <Button
        className="add"
        size="small"
        icon={<PlusOutlined />}
        disabled={job.brief.loads.length >= 60}
        onClick={() =>
          change(
            (draft) =>
              void draft.brief.loads.push({ id: newId(), name: "Load", side: "mains", leg: "L1", atStart: true }),
          )
        }
      >
        Add a load
      </Button>
    </Group>
  );
}

function Aboard() {
  const { job } = useReading();
  const change = useSheet((state) => state.change);
  const put = useSheet((state) => state.put);
  return (
    <Group title="Already on board">
      <ul className="rows">
        {job.brief.aboard.map((thing, index) => (
          <li key={thing.id}>
            <div className="row-head">
              <TextLine bare path={`brief.aboard.${index}.name`} label="What is on board" longest={120} />
              <Select
                size="small"
                aria-label={`${thing.name}: stays or goes`}
                value={thing.fate}
                options={[
                  { value: "stays", label: "stays" },
                  { value: "goes", label: "goes" },
                ]}
                onChange={(fate) => put(`brief.aboard.${index}.fate`, fate)}
                popupMatchSelectWidth={false}
              />
              <Button
                size="small"
                type="text"
                aria-label={`Remove ${thing.name || "entry"}`}
                icon={<CloseOutlined />}
                onClick={() => change((draft) => void draft.brief.aboard.splice(index, 1))}
              />
            </div>
          </li>
        ))}
      </ul>
      <Button
        className="add"
        size="small"
        icon={<PlusOutlined />}
        disabled={job.brief.aboard.length >= 60}
        onClick={() => change((draft) => void draft.brief.aboard.push({ id: newId(), name: "Part", fate: "stays" }))}
      >
        Add part on board
      </Button>
    </Group>
  );
}
