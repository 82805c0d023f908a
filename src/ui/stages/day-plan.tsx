"use client";

import type { SpanKey } from "@/core/document/day-fields";
import type { SpanPath } from "@/core/document/path";
import { CloseOutlined, CopyOutlined, DeleteOutlined, PlusOutlined } from "@ant-design/icons";
import { App, Button, Dropdown, Input, Segmented, Select, Slider } from "antd";
import { memo, useId, useState } from "react";
import {
  mainUse,
  minutesBetween,
  parseTimeOfDay,
  READY_PLANS,
  timeWords,
  usualPattern,
} from "@/core/document/schedule";
import { emptySpan, type Pattern, type PlanSpan, type Job, type SpanKind } from "@/core/document/schema";
import { formatQuantity } from "@/core/units/format";
import { QuantityCell } from "../fields/quantity-line";
import { useReading, useSheet } from "../state/sheet-context";
import { newId } from "../words";
import { say } from "@/core/messages/say";

/** The axis of a day's plan: six in the morning to noon of the next, so that a night stands in one piece. */
const FROM = 6 * 60;
const TO = 36 * 60;
const WEEKDAYS = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];

export const SPAN_NAMES: Record<SpanKind, string> = {
  unit: "Cooling",
  people: "People",
  open: "Doors open",
  shade: "Shade",
  driving: "Driving",
  shore: "Shore power",
  generator: "Generator",
  load: "Other load",
};
const SPAN_COLOURS: Record<SpanKind, string> = {
  unit: "var(--cold)",
  people: "var(--ink)",
  open: "var(--heat)",
  shade: "var(--sun)",
  driving: "var(--bank)",
  shore: "var(--bank)",
  generator: "var(--bank)",
  load: "var(--heat)",
};
const KINDS = Object.keys(SPAN_NAMES) as SpanKind[];

/** The spans of a day under one time axis: drag them, or type their times. Plans of other days stand beside it. */
export function DayPlan() {
  const { job, assessment } = useReading();
  // The plan itself as it stands this moment, not a moment later: what is typed must land in the day that is shown.
  const { patterns, week } = useSheet((state) => state.job.plan);
  const units = useSheet((state) => state.job.units);
  const change = useSheet((state) => state.change);
  const { message } = App.useApp();
  const [chosen, setChosen] = useState(0);
  const index = Math.min(chosen, Math.max(0, patterns.length - 1));
  const usual = usualPattern(assessment.values.brief.hoursWanted.value);
  const pattern = patterns[index];
  /** The plan that is edited; the usual day is written out at the first change to it. */
  const edit = (recipe: (pattern: Pattern, job: Job) => void) =>
    change((draft) => {
      if (draft.plan.patterns.length === 0) draft.plan.patterns.push(structuredClone(usual));
      const own = draft.plan.patterns.find(({ id }) => id === (pattern ?? usual).id);
      if (own) recipe(own, draft);
    });
  const begin = (key: string) => {
    const ready = READY_PLANS.find((plan) => plan.key === key)!;
    edit((plan, draft) => {
      plan.name = ready.name;
      plan.spans = ready.spans(draft).map((span) => ({ ...span, id: newId() }));
    });
    void message.info(say("interface.undoBringsOldPlan", { name: ready.name, note: ready.note }), 5);
  };
  const add = (kind: SpanKind) =>
    edit((plan) => {
      const from = { unit: 20, people: 19, open: 17, shade: 11, driving: 10, shore: 18, generator: 17, load: 19 }[kind];
      const minutes = {
        unit: 480,
        people: 720,
        open: 30,
        shade: 480,
        driving: 120,
        shore: 720,
        generator: 120,
        load: 60,
      };
      plan.spans.push(emptySpan(kind, newId(), from * 60, minutes[kind]));
    });
  const copy = () => {
    change((draft) => {
      if (draft.plan.patterns.length === 0) draft.plan.patterns.push(structuredClone(usual));
      const from = structuredClone(pattern ?? usual);
      draft.plan.patterns.push({ ...from, id: newId(), name: `${from.name} copy`.slice(0, 80) });
    });
    setChosen(Math.max(1, patterns.length));
  };
  const remove = () => {
    change((draft) => {
      const [gone] = draft.plan.patterns.splice(index, 1);
      const left = draft.plan.patterns[0]?.id;
      draft.plan.week = left ? draft.plan.week.map((id) => (id === gone?.id ? left : id)) : [];
    });
    setChosen(0);
  };
  const setWeekday = (day: number, id: string) =>
    change((draft) => {
      const first = draft.plan.patterns[0]!.id;
      const whole = WEEKDAYS.map((_, i) => draft.plan.week[i] ?? first);
      whole[day] = id;
      draft.plan.week = whole.every((one) => one === first) ? [] : whole;
    });
  const spans = pattern?.spans ?? usual.spans;
  const use = mainUse(pattern ?? usual);
  return (
    <section className="day-plan" aria-label="Plan of the day">
      <div className="group-title">
        <h2>Plan of the day</h2>
        <span className="note">
          {use
            ? `main use ${timeWords(use.from)} to ${timeWords(use.from + use.minutes)}: ${formatQuantity(use.minutes * 60, "duration", job.notation)}`
            : "nothing is cooled"}
          {pattern ? "" : "; assumed until you change something"}
        </span>
      </div>
      <div className="plan-bar">
        {patterns.length > 1 ? (
          <Segmented
            size="small"
            value={index}
            options={patterns.map(({ name }, value) => ({ label: name || `Day ${value + 1}`, value }))}
            onChange={setChosen}
          />
        ) : null}
        {pattern && (
          <Input
            size="small"
            style={{ width: 190 }}
            aria-label="Name of this day's plan"
            value={pattern.name}
            maxLength={80}
            onChange={({ target }) => edit((plan) => void (plan.name = target.value))}
          />
        )}
        <Dropdown
          trigger={["click"]}
          menu={{
            items: READY_PLANS.map(({ key, name, note }) => ({
              key,
              label: (
                <>
                  {name} <span className="note">{note}</span>
                </>
              ),
            })),
            onClick: ({ key }) => begin(key),
          }}
        >
          <Button size="small">Start from a ready plan</Button>
        </Dropdown>
        <Button size="small" icon={<CopyOutlined />} onClick={copy} disabled={patterns.length >= 14}>
          Copy this day
        </Button>
        {patterns.length > 0 && (
          <Button
            size="small"
            type="text"
            icon={<DeleteOutlined />}
            onClick={remove}
            aria-label={`Remove the plan ${pattern?.name ?? ""}`}
            title={patterns.length > 1 ? "Remove this plan" : "Back to the typical day"}
          />
        )}
      </div>
      {patterns.length > 1 && (
        <div className="plan-bar">
          {WEEKDAYS.map((name, day) => (
            <label key={name} className="weekday">
              {name}
              <Select
                size="small"
                aria-label={`Plan of ${name}`}
                value={week[day] ?? patterns[0]!.id}
                options={patterns.map((one) => ({ value: one.id, label: one.name || "unnamed" }))}
                onChange={(id) => setWeekday(day, id)}
                popupMatchSelectWidth={false}
              />
            </label>
          ))}
        </div>
      )}
      <div className="span-axis" aria-hidden="true">
        {[6, 12, 18, 24, 30, 36].map((hour) => (
          <span key={hour} style={{ left: `${((hour * 60 - FROM) / (TO - FROM)) * 100}%` }}>
            {timeWords(hour * 60)}
          </span>
        ))}
      </div>
      <ul className="spans">
        {spans.map((span, s) => (
          <SpanRow
            key={span.id}
            span={span}
            path={pattern ? `plan.patterns.${index}.spans.${s}` : null}
            units={units}
            edit={(recipe) =>
              edit((plan) => {
                const own = plan.spans.find(({ id }) => id === span.id);
                if (own) recipe(own, plan);
              })
            }
            remove={() => edit((plan) => void (plan.spans = plan.spans.filter(({ id }) => id !== span.id)))}
          />
        ))}
      </ul>
      {spans.length === 0 && <p className="note">{say("interface.nothingPlannedBatteryOnly")}</p>}
      <Dropdown
        trigger={["click"]}
        menu={{
          items: KINDS.map((kind) => ({ key: kind, label: SPAN_NAMES[kind] })),
          onClick: ({ key }) => add(key as SpanKind),
        }}
      >
        <Button className="add" size="small" icon={<PlusOutlined />} disabled={spans.length >= 60}>
          Add a span: cooling, people, shade, driving, shore …
        </Button>
      </Dropdown>
    </section>
  );
}

interface RowProps {
  span: PlanSpan;
  /** Path of the span in the document; null while the day is only assumed. */
  path: SpanPath | null;
  units: Job["units"];
  edit(recipe: (span: PlanSpan, pattern: Pattern) => void): void;
  remove(): void;
}

const SpanRow = memo(function SpanRow({ span, path, units, edit, remove }: RowProps) {
  const left = span.from < FROM ? span.from + 1440 : span.from;
  const [held, setHeld] = useState<[number, number] | null>(null);
  const [from, to] = held ?? [left, Math.min(TO, left + span.minutes)];
  const name = SPAN_NAMES[span.kind];
  const settle = ([a, b]: [number, number]) => {
    setHeld(null);
    const minutes = b - a;
    if (minutes < 1) return;
    edit((own) => {
      // A span longer than the axis keeps its length where only its start was moved.
      const beyond = left + own.minutes > TO && b === TO;
      own.minutes = Math.min(1440, beyond ? Math.max(1, left + own.minutes - a) : minutes);
      own.from = a % 1440;
    });
  };
  return (
    <li className="span-row" data-kind={span.kind}>
      <span className="span-name">{span.kind === "load" ? span.name || name : name}</span>
      <Slider
        range={{ draggableTrack: true }}
        min={FROM}
        max={TO}
        step={15}
        value={[from, to]}
        onChange={(value: number[]) => setHeld(value as [number, number])}
        onChangeComplete={(value: number[]) => settle(value as [number, number])}
        tooltip={{ formatter: (value) => timeWords(value ?? 0) }}
        ariaLabelForHandle={[`${name}: from`, `${name}: to`]}
        styles={{ track: { background: SPAN_COLOURS[span.kind] } }}
      />
      <TimeField
        label={`${name}: begins at`}
        minutes={held ? held[0] : span.from}
        onTime={(at) =>
          edit((own) => {
            own.minutes = minutesBetween(at, own.from + own.minutes);
            own.from = at;
          })
        }
      />
      <TimeField
        label={`${name}: ends at`}
        minutes={held ? held[1] : span.from + span.minutes}
        onTime={(at) => edit((own) => void (own.minutes = minutesBetween(own.from, at)))}
      />
      <span className="span-settings">
        <Settings span={span} path={path} units={units} edit={edit} />
      </span>
      <Button size="small" type="text" icon={<CloseOutlined />} aria-label={`Remove: ${name}`} onClick={remove} />
    </li>
  );
});

function Settings({ span, path, units, edit }: Omit<RowProps, "remove">) {
  const options = <T extends string>(...list: [T, string][]) => list.map(([value, label]) => ({ value, label }));
  const cell = (field: SpanKey, label: string) => path && <QuantityCell path={`${path}.${field}`} label={label} />;
  switch (span.kind) {
    case "unit":
      return (
        <>
          {cell("setPointC", "Set point")}
          <Select
            size="small"
            aria-label="Fan and mode"
            value={span.mode}
            options={options(["auto", "automatic"], ["medium", "medium fan"], ["low", "low fan"], ["fan", "fan only"])}
            onChange={(mode) => edit((own) => void (own.kind === "unit" && (own.mode = mode)))}
            popupMatchSelectWidth={false}
          />
          {units.length > 1 && (
            <Select
              size="small"
              aria-label="Which unit"
              value={span.unitId ?? ""}
              options={[{ value: "", label: "all" }, ...units.map(({ id, name }) => ({ value: id, label: name }))]}
              onChange={(id) =>
                edit((own) => {
                  if (own.kind !== "unit") return;
                  if (id) own.unitId = id;
                  else delete own.unitId;
                })
              }
              popupMatchSelectWidth={false}
            />
          )}
        </>
      );
    case "people":
      return (
        <>
          {cell("people", "People on board")}
          <Select
            size="small"
            aria-label="Awake or asleep"
            value={span.asleep ? "asleep" : "awake"}
            options={options(["awake", "awake"], ["asleep", "asleep"])}
            onChange={(how) => edit((own) => void (own.kind === "people" && (own.asleep = how === "asleep")))}
            popupMatchSelectWidth={false}
          />
        </>
      );
    case "open":
      return cell("airChanges", "Air changes per hour");
    case "shade":
      return (
        <>
          {cell("shade", "Shading")}
          <Select
            size="small"
            aria-label="Shaded"
            value={span.over}
            options={options(["all", "everything, panels too"], ["side", "a side: awning"])}
            onChange={(over) => edit((own) => void (own.kind === "shade" && (own.over = over)))}
            popupMatchSelectWidth={false}
          />
        </>
      );
    case "driving":
      return (
        <Select
          size="small"
          aria-label="On the road or idling"
          value={span.idle ? "idle" : "road"}
          options={options(["road", "on the road"], ["idle", "idling"])}
          onChange={(how) => edit((own) => void (own.kind === "driving" && (own.idle = how === "idle")))}
          popupMatchSelectWidth={false}
        />
      );
    case "load":
      return (
        <>
          <Input
            size="small"
            style={{ width: 90 }}
            aria-label="Name of the load"
            value={span.name}
            maxLength={80}
            onChange={({ target }) => edit((own) => void (own.kind === "load" && (own.name = target.value)))}
          />
          {cell("power", "Power")}
          <Select
            size="small"
            aria-label="Fed from"
            value={span.side}
            options={options(["mains", "mains"], ["dc", "DC"])}
            onChange={(side) => edit((own) => void (own.kind === "load" && (own.side = side)))}
            popupMatchSelectWidth={false}
          />
        </>
      );
    default:
      return null;
  }
}

/** A time of day, typed: taken when it is left or entered, refused in place where it is no time. */
function TimeField({ label, minutes, onTime }: { label: string; minutes: number; onTime(minutes: number): void }) {
  const [typed, setTyped] = useState<string | null>(null);
  const id = useId();
  const bad = typed !== null && typed.trim() !== "" && parseTimeOfDay(typed) === null;
  const done = () => {
    const at = typed === null ? null : parseTimeOfDay(typed);
    if (at !== null && at !== ((minutes % 1440) + 1440) % 1440) onTime(at);
    if (!bad) setTyped(null);
  };
  return (
    <span className="time-field">
      <Input
        id={id}
        size="small"
        className="mono"
        aria-label={label}
        aria-invalid={bad}
        status={bad ? "error" : undefined}
        title={bad ? "A time of day, such as 22:30" : undefined}
        value={typed ?? timeWords(minutes)}
        onFocus={({ target }) => target.select()}
        onChange={({ target }) => setTyped(target.value)}
        onBlur={done}
        onPressEnter={done}
        onKeyDown={({ key }) => key === "Escape" && setTyped(null)}
      />
      {bad && (
        <span className="problem cell-problem" role="alert">
          a time, such as 22:30
        </span>
      )}
    </span>
  );
}
