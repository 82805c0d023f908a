"use client";

import { App, Button, Checkbox, Input, InputNumber, Select } from "antd";
import { useId, type ReactNode } from "react";
import { parseTimeOfDay, timeWords } from "@/core/document/schedule";
import {
  usualSpace,
  type CabinChoice,
  type Ownable,
  type StartKey,
  type Target,
  type Requirement,
} from "@/core/applications/options/target";
import { PLACES } from "@/core/reference/weather/places";
import { findParts } from "../shelf/calls";
import { useReading } from "../state/sheet-context";
import { monthName } from "../words";
import { Group, More } from "./parts";
import { say } from "@/core/messages/say";

interface Props {
  requirement: Requirement;
  change(recipe: (requirement: Requirement) => void): void;
  currency: string;
  /** The job's own month, for what stands where none is chosen. */
  month: number;
}

function Row({ label, children }: { label: string; children(id: string): ReactNode }) {
  const id = useId();
  return (
    <div className="line choice">
      <div className="line-row">
        <label htmlFor={id}>{label}</label>
        {children(id)}
      </div>
    </div>
  );
}

interface NumberRowProps {
  label: string;
  unit?: string;
  value: number | null;
  min: number;
  max: number;
  empty?: string;
  onChange(value: number | null): void;
}

function NumberRow({ label, unit, value, min, max, empty, onChange }: NumberRowProps) {
  return (
    <Row label={label}>
      {(id) => (
        <InputNumber<number>
          id={id}
          size="small"
          style={{ width: 130 }}
          value={value}
          min={min}
          max={max}
          precision={0}
          placeholder={empty}
          suffix={unit}
          onChange={(next) => (next !== null || empty !== undefined) && onChange(next)}
        />
      )}
    </Row>
  );
}

interface ManyProps<T extends string | number> {
  label: string;
  value: readonly T[];
  options: readonly { value: T; label: string }[];
  empty?: string;
  onChange(value: T[]): void;
}

/** Several of a few; never none unless `empty` says what none means. */
function Many<T extends string | number>({ label, value, options, empty, onChange }: ManyProps<T>) {
  return (
    <Row label={label}>
      {(id) => (
        <Select<T[]>
          id={id}
          mode="multiple"
          size="small"
          style={{ minWidth: 170, maxWidth: 250, width: "100%" }}
          value={[...value]}
          options={[...options]}
          placeholder={empty}
          maxTagCount="responsive"
          popupMatchSelectWidth={false}
          onChange={(next) => (next.length > 0 || empty !== undefined) && onChange(next)}
        />
      )}
    </Row>
  );
}

const numbers = (list: readonly number[], word = "") => list.map((value) => ({ value, label: `${value}${word}` }));
const PARALLEL = [1, 2, 3, 4, 5, 6, 8, 10, 12];
const PANELS = Array.from({ length: 13 }, (_, i) => i);
const START_WORDS: { value: StartKey; label: string }[] = [
  { value: "as-is", label: "as it is" },
  { value: "soft-starter", label: "soft starter" },
  { value: "variable-unit", label: "variable speed" },
];
const CABIN_WORDS: { value: CabinChoice; label: string }[] = [
  { value: "as-is", label: "as it is" },
  { value: "outside-blinds", label: "blinds outside" },
  { value: "awning", label: "awning" },
  { value: "insulated", label: "better skin" },
  { value: "both", label: "both" },
];
const OWNED_WORDS: { value: Ownable; label: string }[] = [
  { value: "bank", label: "the battery" },
  { value: "panels", label: "the panels" },
  { value: "inverter", label: "the inverter" },
];

/** What is asked, within which limits, and what may vary. */
export function RequirementForm({ requirement, change, currency, month }: Props) {
  const { vary, limits } = requirement;
  return (
    <>
      <Group title="Target" note="hours and set point come from the job">
        <NumberRow
          label="Days without a plug"
          value={requirement.tripDays}
          min={1}
          max={14}
          onChange={(days) => change((w) => (w.tripDays = days!))}
        />
        <NumberRow
          label="Days satisfied"
          unit="%"
          value={Math.round(100 * requirement.share)}
          min={5}
          max={100}
          onChange={(share) => change((w) => (w.share = share! / 100))}
        />
        <Many
          label="Months"
          value={requirement.months}
          options={MONTHS}
          empty={monthName(month)}
          onChange={(months) => change((w) => (w.months = months))}
        />
      </Group>
      {requirement.targets.map((target, at) => (
        <TargetLines
          key={at}
          target={target}
          change={(recipe) => change((w) => recipe(w.targets[at]!))}
          drop={() => change((w) => void w.targets.splice(at, 1))}
        />
      ))}
      {requirement.targets.length < MOST_TARGETS && (
        <p className="another">
          <Button
            size="small"
            type="link"
            onClick={() => change((w) => void w.targets.push({ ...ANOTHER, share: w.share }))}
          >
            And also: another use, place or season
          </Button>
        </p>
      )}
      <Group title="Limits">
        <NumberRow
          label="Money"
          unit={currency}
          value={limits.cost}
          min={0}
          max={1_000_000}
          empty="no limit"
          onChange={(cost) => change((w) => (w.limits.cost = cost))}
        />
        <NumberRow
          label="Payload"
          unit="kg"
          value={limits.mass}
          min={0}
          max={10_000}
          empty="no limit"
          onChange={(mass) => change((w) => (w.limits.mass = mass))}
        />
        <NumberRow
          label="Space inside"
          unit="litres"
          value={limits.space}
          min={0}
          max={100_000}
          empty="no limit"
          onChange={(space) => change((w) => (w.limits.space = space))}
        />
        <Many
          label="Already owned"
          value={requirement.owned}
          options={OWNED_WORDS}
          empty="nothing"
          onChange={(owned) => change((w) => (w.owned = owned))}
        />
        <Row label="Panels keep to the roof">
          {(id) => (
            <Checkbox
              id={id}
              checked={limits.roof}
              onChange={({ target }) => change((w) => (w.limits.roof = target.checked))}
            />
          )}
        </Row>
        <Row label="A generator is allowed">
          {(id) => (
            <Checkbox
              id={id}
              checked={limits.generator}
              onChange={({ target }) =>
                change((w) => {
                  w.limits.generator = target.checked;
                  w.vary.generator = target.checked ? [false, true] : [false];
                })
              }
            />
          )}
        </Row>
      </Group>
      <Group title="May vary" note={<FromTheShelf change={change} />}>
        <Many
          label="In parallel"
          value={vary.parallel}
          options={numbers(PARALLEL)}
          onChange={(list) => change((w) => (w.vary.parallel = list))}
        />
        <Many
          label={`Panels of ${vary.panel.power} W`}
          value={vary.panels}
          options={numbers(PANELS)}
          onChange={(list) => change((w) => (w.vary.panels = list))}
        />
        <Many
          label="Start"
          value={vary.starts}
          options={START_WORDS}
          onChange={(list) => change((w) => (w.vary.starts = list))}
        />
        <Many
          label="Cabin"
          value={vary.cabins}
          options={CABIN_WORDS}
          onChange={(list) => change((w) => (w.vary.cabins = list))}
        />
        <Many
          label="Engine converter"
          value={vary.engine}
          options={numbers([0, 20, 30, 50, 100], " A")}
          onChange={(list) => change((w) => (w.vary.engine = list))}
        />
        <Priced
          title="Batteries"
          list={vary.batteries}
          currency={currency}
          change={(at, key, value) => change((w) => (w.vary.batteries[at]![key] = value))}
          drop={(at) => change((w) => void w.vary.batteries.splice(at, 1))}
        />
        <Priced
          title="Inverters"
          list={vary.inverters}
          currency={currency}
          change={(at, key, value) => change((w) => (w.vary.inverters[at]![key] = value))}
          drop={(at) => change((w) => void w.vary.inverters.splice(at, 1))}
        />
        <Priced
          title="Panel"
          list={[vary.panel]}
          currency={currency}
          change={(_, key, value) => key !== "space" && change((w) => (w.vary.panel[key] = value))}
        />
        <Extras requirement={requirement} change={change} currency={currency} />
      </Group>
    </>
  );
}

const MOST_TARGETS = 4;
/** A dog on board over noon: what a second target is mostly for. */
const ANOTHER: Target = {
  name: "Dog on board",
  from: 12 * 60,
  minutes: 4 * 60,
  setPointC: 26,
  place: null,
  months: [],
  tripDays: 1,
  share: 0.9,
};

interface TargetProps {
  target: Target;
  change(recipe: (target: Target) => void): void;
  drop(): void;
}

/** One more thing that every design must meet. */
function TargetLines({ target, change, drop }: TargetProps) {
  const { job } = useReading();
  const fahrenheit = job.notation.temperature === "F";
  const shown =
    target.setPointC === null ? null : Math.round(fahrenheit ? target.setPointC * 1.8 + 32 : target.setPointC);
  return (
    <Group
      title="And also"
      note={
        <Button size="small" type="link" onClick={drop}>
          Remove this target
        </Button>
      }
    >
      <Row label="Name">
        {(id) => (
          <Input
            id={id}
            size="small"
            style={{ width: 170 }}
            maxLength={80}
            value={target.name}
            onChange={({ target: { value } }) => value && change((t) => (t.name = value))}
          />
        )}
      </Row>
      <Row label="On from, local">
        {(id) => (
          <Input
            id={id}
            size="small"
            type="time"
            style={{ width: 130 }}
            value={target.from === null ? "" : timeWords(target.from)}
            onChange={({ target: { value } }) => {
              const from = parseTimeOfDay(value);
              change((t) => {
                t.from = from;
                t.minutes = from === null ? null : (t.minutes ?? 240);
              });
            }}
          />
        )}
      </Row>
      <NumberRow
        label="For"
        unit="h"
        value={target.minutes === null ? null : Math.round(target.minutes / 60)}
        min={1}
        max={24}
        empty="the plan's"
        onChange={(hours) => change((t) => (t.minutes = hours === null ? null : hours * 60))}
      />
      <NumberRow
        label="Set point"
        unit={fahrenheit ? "°F" : "°C"}
        value={shown}
        min={fahrenheit ? 41 : 5}
        max={fahrenheit ? 104 : 40}
        empty="the plan's"
        onChange={(value) =>
          change((t) => (t.setPointC = value === null ? null : fahrenheit ? (value - 32) / 1.8 : value))
        }
      />
      <Row label="Place">
        {(id) => (
          <Select<string>
            id={id}
            size="small"
            style={{ width: 170 }}
            showSearch={{ optionFilterProp: "label" }}
            allowClear
            placeholder="the job's"
            value={target.place ?? undefined}
            options={PLACES.map((place) => ({ value: place.id, label: place.name }))}
            onChange={(place) => change((t) => (t.place = place ?? null))}
          />
        )}
      </Row>
      <Many
        label="Months"
        value={target.months}
        options={MONTHS}
        empty="the job's"
        onChange={(months) => change((t) => (t.months = months))}
      />
      <NumberRow
        label="Days without a plug"
        value={target.tripDays}
        min={1}
        max={14}
        onChange={(days) => change((t) => (t.tripDays = days!))}
      />
      <NumberRow
        label="Days satisfied"
        unit="%"
        value={Math.round(100 * target.share)}
        min={5}
        max={100}
        onChange={(share) => change((t) => (t.share = share! / 100))}
      />
    </Group>
  );
}

const MONTHS = Array.from({ length: 12 }, (_, i) => ({ value: i + 1, label: monthName(i + 1) }));

const PRICED = { cost: "price", mass: "mass", space: "space" } as const;
type PricedKey = keyof typeof PRICED;

interface PricedProps {
  title: string;
  list: readonly ({ name: string } & Record<"cost" | "mass", number> & { space?: number })[];
  currency: string;
  change(at: number, key: PricedKey, value: number): void;
  drop?(at: number): void;
}

/** Parts with what they cost, weigh and fill, open to change. */
function Priced({ title, list, currency, change, drop }: PricedProps) {
  return (
    <table className="values priced">
      <caption>{title}</caption>
      <tbody>
        {list.map(({ name, ...given }, at) => (
          <tr key={`${at} ${name}`}>
            <td>{name}</td>
            {(Object.keys(PRICED) as PricedKey[]).map((key) => (
              <td key={key} className="right">
                {given[key] !== undefined && (
                  <InputNumber<number>
                    size="small"
                    aria-label={`${name}, ${PRICED[key]}`}
                    style={{ width: 78 }}
                    min={0}
                    value={Number(given[key].toFixed(3))}
                    suffix={{ cost: currency, mass: "kg", space: "L" }[key]}
                    onChange={(value) => value !== null && change(at, key, value)}
                  />
                )}
              </td>
            ))}
            <td>
              {drop && list.length > 1 && (
                <button type="button" className="plain" aria-label={`Leave out ${name}`} onClick={() => drop(at)}>
                  ×
                </button>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const EXTRA_WORDS: Record<keyof Requirement["prices"], string> = {
  softStarter: "Soft starter",
  variableUnit: "Variable-speed unit",
  outsideBlinds: "Outside blinds",
  awning: "Awning",
  insulation: "Better walls and roof",
  generator: "Generator",
  engineAmp: "Engine converter, an amp",
  controllerWatt: "Charge controller, a watt",
  cable: "Cable, a metre and mm²",
  fuse: "Fuse or breaker",
};

function Extras({ requirement, change, currency }: Pick<Props, "requirement" | "change" | "currency">) {
  const keys = Object.keys(EXTRA_WORDS) as (keyof Requirement["prices"])[];
  return (
    <More title="More: prices, masses and space of the rest">
      <Priced
        title="Typical"
        list={keys.map((key) => ({ name: EXTRA_WORDS[key], ...requirement.prices[key] }))}
        currency={currency}
        change={(at, key, value) => change((w) => (w.prices[keys[at]!][key] = value))}
      />
    </More>
  );
}

/** Takes the workshop's own batteries, panels and inverters in place of the generic series. */
function FromTheShelf({ change }: Pick<Props, "change">) {
  const { message } = App.useApp();
  const take = async () => {
    try {
      const [batteries, inverters, panels] = await Promise.all(
        (["battery", "inverter", "panel"] as const).map(async (kind) =>
          (await findParts(kind, "")).parts
            .map(({ entry }) => entry)
            .filter(({ cost, mass }) => cost !== undefined && mass !== undefined),
        ),
      );
      const taken: string[] = [];
      change((w) => {
        const volts = w.vary.batteries[0]!.blockVoltage * w.vary.batteries[0]!.series;
        const found = batteries!.flatMap(({ name, choices, values, cost, mass }) =>
          values.blockVoltage && values.capacityAh
            ? [
                {
                  name,
                  chemistry: (choices.chemistry ?? "lfp") as "lfp",
                  blockVoltage: values.blockVoltage,
                  capacityAh: values.capacityAh,
                  series: Math.max(1, Math.round(volts / values.blockVoltage)),
                  cost: cost!,
                  mass: mass!,
                  space: usualSpace(choices.chemistry === "agm" ? "agm" : "lfp", mass!),
                },
              ]
            : [],
        );
        if (found.length > 0) {
          w.vary.batteries = found.slice(0, 12);
          taken.push(`${w.vary.batteries.length} batteries`);
        }
        const ratings = inverters!.flatMap(({ name, values, cost, mass }) =>
          values.rating
            ? [{ name, rating: values.rating, cost: cost!, mass: mass!, space: usualSpace("inverter", mass!) }]
            : [],
        );
        if (ratings.length > 0) {
          w.vary.inverters = ratings.slice(0, 12);
          taken.push(`${w.vary.inverters.length} inverters`);
        }
        const panel = panels!.find(({ values }) => values.peakPower && values.panelLength && values.panelWidth);
        if (panel) {
          const { name, values, cost, mass } = panel;
          const { peakPower, panelLength, panelWidth } = values;
          w.vary.panel = {
            name,
            power: peakPower!,
            length: panelLength!,
            width: panelWidth!,
            cost: cost!,
            mass: mass!,
          };
          taken.push(name);
        }
      });
      void (taken.length > 0
        ? message.success(`From the shelf: ${taken.join(", ")}`)
        : message.info(say("interface.shelfHasNoBattery"), 6));
    } catch (error) {
      void message.error((error as Error).message);
    }
  };
  return (
    <Button size="small" type="link" onClick={() => void take()}>
      From the parts shelf
    </Button>
  );
}
