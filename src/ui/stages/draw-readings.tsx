"use client";

import { Button, Checkbox, Input, Select } from "antd";
import { CloseOutlined, PlusOutlined } from "@ant-design/icons";
import { useState } from "react";
import type { Dimension } from "@/core/units/dimension";
import { formatQuantity } from "@/core/units/format";
import { parseQuantity } from "@/core/units/parse";
import { drawContext } from "@/core/document/resolve";
import { parseTimeOfDay, timeWords } from "@/core/document/schedule";
import {
  drawReadingSchema,
  drawFindings,
  type DrawKind,
  type DrawReading,
  type DrawState,
} from "@/core/document/draw-readings";
import { useReading, useSheet } from "../state/sheet-context";
import { newId } from "../words";
import { Group } from "./parts";
import { say } from "@/core/messages/say";

const KINDS: { value: DrawKind; label: string }[] = [
  { value: "battery-current", label: "Battery current (shunt or clamp)" },
  { value: "battery-power", label: "Battery power (monitor)" },
  { value: "ac-current", label: "AC current (clamp)" },
  { value: "ac-power", label: "AC power (plug-in meter)" },
  { value: "energy", label: "Energy over a time (kWh meter)" },
  { value: "percent", label: "State of charge from and to" },
  { value: "time-to-go", label: "Time-to-go of a monitor" },
];
const STATES: { value: DrawState; label: string }[] = [
  { value: "full", label: "compressor on, full" },
  { value: "low", label: "low fan, compressor on" },
  { value: "fan", label: "fan only" },
  { value: "holding", label: "holding the set point, average" },
];
interface Field {
  key: string;
  label: string;
  dimension: Dimension;
  optional?: boolean;
  /** Stored over the core's unit: hours for seconds. */
  per?: number;
}
const HOURS: Field = { key: "hours", label: "Time", dimension: "duration", per: 3600 };
const OWN: Record<DrawKind, Field[]> = {
  "battery-current": [{ key: "current", label: "Battery current", dimension: "current" }],
  "battery-power": [{ key: "power", label: "Battery power", dimension: "power" }],
  "ac-current": [{ key: "current", label: "AC current", dimension: "current" }],
  "ac-power": [{ key: "power", label: "AC power", dimension: "power" }],
  energy: [{ key: "energy", label: "Energy", dimension: "energy" }, HOURS],
  percent: [{ key: "from", label: "From", dimension: "ratio" }, { key: "to", label: "To", dimension: "ratio" }, HOURS],
  "time-to-go": [
    { key: "charge", label: "State of charge", dimension: "ratio" },
    { key: "floor", label: "Discharge floor of the monitor", dimension: "ratio" },
    { ...HOURS, label: "Time-to-go" },
  ],
};
const BESIDE: Field[] = [
  { key: "otherA", label: "Other loads on the battery", dimension: "current", optional: true },
  { key: "solarA", label: "Solar current", dimension: "current", optional: true },
  { key: "volts", label: "Voltage", dimension: "voltage", optional: true },
  { key: "outdoorC", label: "Outdoors", dimension: "temperature", optional: true },
];
/** The sea of a sea-water unit, whose draw follows it. */
const SEA: Field = { key: "seaC", label: "Sea", dimension: "temperature", optional: true };
/** What the cabin met in the hour of a reading of its average: the heat loss is balanced with it. */
const SUNS = [
  { value: "sun", label: "in the sun" },
  { value: "part", label: "in part shade" },
  { value: "none", label: "in shade, or dark" },
] as const;

/** Readings at the battery, in which all else that it carries is counted too. */
const AT_BATTERY: readonly DrawKind[] = ["battery-current", "battery-power", "percent", "time-to-go"];

/** Readings of the draw in whatever form they come: what each means for the air conditioner alone, and which is used. */
export function DrawReadings({ index }: { index: number }) {
  const { job, assessment } = useReading();
  const put = useSheet((state) => state.put);
  const [open, setOpen] = useState(false);
  const unit = job.units[index]!;
  const readings = unit.readings ?? [];
  const path = `units.${index}.readings` as const;
  const context = drawContext(job, unit, assessment.values.bank);
  const { meanings, best, line, disagree } = drawFindings(readings, context);
  const prefs = job.notation;
  // Readings at full that lie on a line are used together.
  const isUsed = (reading: DrawReading) =>
    best[reading.state]?.reading === reading ||
    (line !== null && reading.state === "full" && reading.outdoorC !== undefined);
  const amps = (value: number) => formatQuantity(value, "current", prefs, 2);
  return (
    <Group title="From measured draw" note="say it as you have it">
      {readings.length === 0 && !open && <p className="note">{say("interface.readingMakesEveryForecast")}</p>}
      <ul className="rows">
        {meanings.map(({ reading, addedA, batteryW, fault }) => (
          <li key={reading.id} data-draw={reading.id}>
            <div className="row-head">
              <strong>{wordsOf(reading, prefs)}</strong>
              <span />
              <Button
                size="small"
                type="text"
                aria-label={`Remove reading ${wordsOf(reading, prefs)}`}
                icon={<CloseOutlined />}
                onClick={() => {
                  const rest = readings.filter(({ id }) => id !== reading.id);
                  put(path, rest.length > 0 ? rest : undefined);
                }}
              />
            </div>
            <div className={fault ? "problem note" : "note"}>
              {STATES.find(({ value }) => value === reading.state)!.label}:{" "}
              {fault ||
                `the air conditioner alone adds ${amps(addedA)} at the battery, ${formatQuantity(batteryW, "power", prefs, 2)}`}
              {reading.minute !== undefined && ` at ${timeWords(reading.minute)}`}
              {reading.outdoorC !== undefined &&
                `, ${formatQuantity(reading.outdoorC, "temperature", prefs, 2)} outdoors`}
              {reading.seaC !== undefined && `, sea ${formatQuantity(reading.seaC, "temperature", prefs, 2)}`}
              {!fault && (isUsed(reading) ? "; used" : "; kept, a surer one is used")}
            </div>
            {disagree.includes(reading.id) && (
              <div className="problem note" role="alert">
                {say("interface.disagreesReadingUsedCheck")}
              </div>
            )}
          </li>
        ))}
      </ul>
      {line && (
        <p className="note" data-line>
          {say("interface.readings.line", {
            count: line.count,
            amps: amps(line.at35),
            at: formatQuantity(35, "temperature", prefs, 2),
            rise: formatQuantity(line.perKelvin, "ratio", prefs, 2),
          })}
        </p>
      )}
      {open ? (
        <NewReading
          sea={unit.condenser === "sea"}
          done={(reading) => {
            setOpen(false);
            if (reading) put(path, [...readings, reading]);
          }}
        />
      ) : (
        <Button
          className="add"
          size="small"
          icon={<PlusOutlined />}
          disabled={readings.length >= 40}
          onClick={() => setOpen(true)}
        >
          Add a reading
        </Button>
      )}
    </Group>
  );
}

function wordsOf(reading: DrawReading, prefs: Parameters<typeof formatQuantity>[2]): string {
  const main = OWN[reading.kind]
    .map(({ key, dimension, per = 1 }) =>
      formatQuantity((reading as unknown as Record<string, number>)[key]! * per, dimension, prefs, 3),
    )
    .join(reading.kind === "percent" ? " to " : ", ");
  return `${KINDS.find(({ value }) => value === reading.kind)!.label.replace(/ \(.*\)/, "")}: ${main.replace(/( %) to ([^ ]+ [^ ]+)$/, "$1 in $2")}`;
}

function NewReading({ sea, done }: { sea: boolean; done(reading: DrawReading | null): void }) {
  const { job } = useReading();
  const [sun, setSun] = useState<DrawReading["sun"] | null>(null);
  const [open, setOpen] = useState(false);
  const [kind, setKind] = useState<DrawKind>("battery-current");
  const [state, setState] = useState<DrawState>("full");
  const [typed, setTyped] = useState<Record<string, string>>({});
  const [faults, setFaults] = useState<Record<string, string>>({});
  const fields = [
    ...OWN[kind],
    ...BESIDE.filter(({ key }) => (key === "otherA" || key === "solarA" ? AT_BATTERY.includes(kind) : true)),
    ...(sea ? [SEA] : []),
  ];
  const holding = state === "holding";
  const save = () => {
    const problems: Record<string, string> = {};
    const values: Record<string, unknown> = { id: newId(), kind, state };
    for (const { key, label, dimension, optional, per = 1 } of fields) {
      const text = typed[key]?.trim() ?? "";
      if (text === "") {
        if (!optional) problems[key] = say("interface.required", { label });
        continue;
      }
      const read = parseQuantity(text, dimension, job.notation, dimension === "duration" ? "h" : undefined);
      if (read.ok) values[key] = read.value / per;
      else problems[key] = read.message;
    }
    const [time, people] = [typed.minute?.trim() ?? "", typed.people?.trim() ?? ""];
    if (holding && time !== "") {
      const minute = parseTimeOfDay(time);
      if (minute === null) problems.minute = say("interface.notTimeOfDay", { text: time });
      else values.minute = minute;
    }
    if (holding && people !== "") values.people = /^\d+$/.test(people) ? Number(people) : NaN;
    if (holding && sun) values.sun = sun;
    if (holding && open) values.open = true;
    const checked = drawReadingSchema.safeParse(values);
    if (!checked.success && Object.keys(problems).length === 0)
      for (const issue of checked.error.issues) problems[String(issue.path[0])] = issue.message;
    setFaults(problems);
    if (checked.success && Object.keys(problems).length === 0) done(checked.data);
  };
  const fieldAt = (key: string) => ({
    text: typed[key] ?? "",
    fault: faults[key] ?? "",
    onText: (text: string) => setTyped((held) => ({ ...held, [key]: text })),
  });
  return (
    <form
      className="draw-form"
      aria-label="New reading of the draw"
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
    >
      <Select<DrawKind> size="small" aria-label="What was read" value={kind} options={KINDS} onChange={setKind} />
      <Select<DrawState>
        size="small"
        aria-label="What the air conditioner did"
        value={state}
        options={STATES}
        onChange={setState}
      />
      {fields.map(({ key, label, optional }) => (
        <ReadingField key={key} label={label} optional={optional ?? false} {...fieldAt(key)} />
      ))}
      {holding && (
        <>
          <p className="note">{say("interface.hourOfReading")}</p>
          <ReadingField label="Time of day" optional placeholder="14:30" {...fieldAt("minute")} />
          <ReadingField label="People on board" optional {...fieldAt("people")} />
          <Select
            size="small"
            aria-label="Sun on the vehicle"
            placeholder="Sun on the vehicle, if known"
            allowClear
            value={sun}
            options={[...SUNS]}
            onChange={(value: DrawReading["sun"]) => setSun(value ?? null)}
          />
          <Checkbox checked={open} onChange={({ target }) => setOpen(target.checked)}>
            A door or hatch stood open
          </Checkbox>
        </>
      )}
      <div className="draw-actions">
        <Button size="small" type="primary" htmlType="submit">
          Save reading
        </Button>
        <Button size="small" onClick={() => done(null)}>
          Cancel
        </Button>
      </div>
    </form>
  );
}

interface ReadingFieldProps {
  label: string;
  optional: boolean;
  placeholder?: string;
  text: string;
  fault: string;
  onText(text: string): void;
}

function ReadingField({ label, optional, placeholder = "", text, fault, onText }: ReadingFieldProps) {
  return (
    <label className="draw-field">
      <span>
        {label}
        {optional ? <span className="note"> if known</span> : null}
      </span>
      <Input
        size="small"
        placeholder={placeholder}
        value={text}
        aria-invalid={fault ? true : undefined}
        onChange={({ target }) => onText(target.value)}
      />
      {fault && (
        <span className="problem note" role="alert">
          {fault}
        </span>
      )}
    </label>
  );
}
