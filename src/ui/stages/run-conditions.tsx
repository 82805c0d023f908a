"use client";

import { useId, useRef, useState } from "react";
import { formatQuantity } from "@/core/units/format";
import { parseQuantity } from "@/core/units/parse";
import type { Dimension, UnitPreferences } from "@/core/units/dimension";
import { NOTHING_SAID, runConditionsSchema, type RunConditions } from "@/core/applications/test-run/site/conditions";
import { say } from "@/core/messages/say";

interface Props {
  conditions: RunConditions | null;
  notation: UnitPreferences;
  /** Keeps an answer; a promise that fails says why it was not kept. */
  change(conditions: RunConditions): Promise<unknown>;
}

type Choice<T extends string> = { value: T; label: string };
const COLOURS: Choice<NonNullable<RunConditions["colour"]>>[] = [
  { value: "white", label: "white" },
  { value: "grey", label: "grey or mid tone" },
  { value: "dark", label: "dark" },
];
const BLINDS: Choice<NonNullable<RunConditions["blinds"]>>[] = [
  { value: "none", label: "none" },
  { value: "inside", label: "blinds inside" },
  { value: "outside", label: "screens outside" },
];
const SHADE: Choice<NonNullable<RunConditions["shade"]>>[] = [
  { value: "sun", label: "in the sun" },
  { value: "part", label: "in part shade" },
  { value: "shade", label: "in the shade" },
];

const AGES: Choice<NonNullable<RunConditions["batteryAge"]>>[] = [
  { value: "new", label: "new" },
  { value: "some-years", label: "some years old" },
  { value: "tired", label: "tired" },
];

const LAST_FULL: Choice<NonNullable<RunConditions["lastFull"]>>[] = [
  { value: "now", label: "just before the run" },
  { value: "days", label: "some days ago" },
  { value: "weeks", label: "weeks ago" },
];

const QUESTIONS = Object.keys(NOTHING_SAID) as (keyof RunConditions)[];
const same = (a: RunConditions, b: RunConditions) =>
  QUESTIONS.every((question) => JSON.stringify(a[question]) === JSON.stringify(b[question]));

/** The quick questions of a test run's beginning: what no instrument tells. Every answer may be left out. */
export function RunConditionsForm({ conditions, notation, change }: Props) {
  const [fault, setFault] = useState("");
  /** Answers that were given here and are on their way: the next one stands on them, and not on what was stored before. */
  const [given, setGiven] = useState<RunConditions | null>(null);
  const sending = useRef(Promise.resolve());
  const stored = conditions ?? NOTHING_SAID;
  if (given && same(given, stored)) setGiven(null);
  const now = given ?? stored;
  const set = (part: Partial<RunConditions>) => {
    const next = { ...now, ...part };
    const read = runConditionsSchema.safeParse(next);
    if (!read.success) return setFault(say("testRun.conditionsNotKept", { reason: read.error.issues[0]!.message }));
    setFault("");
    setGiven(next);
    // One after another: the last that was given is the last that is stored.
    sending.current = sending.current.then(async () => {
      try {
        await change(next);
      } catch (error) {
        setGiven(null);
        setFault(say("testRun.conditionsNotKept", { reason: (error as Error).message.replace(/\.$/, "") }));
      }
    });
  };
  return (
    <div className="run-conditions">
      <p className="note">{say("testRun.conditionsWhy")}</p>
      <Typed
        label="People on board"
        dimension="count"
        value={now.people}
        notation={notation}
        onValue={(people) => set({ people })}
      />
      <Chosen label="Skin" options={COLOURS} value={now.colour} onValue={(colour) => set({ colour })} />
      <Chosen label="Window covers" options={BLINDS} value={now.blinds} onValue={(blinds) => set({ blinds })} />
      <Chosen label="The vehicle stands" options={SHADE} value={now.shade} onValue={(shade) => set({ shade })} />
      <Typed
        label="Today’s forecast high"
        dimension="temperature"
        value={now.forecastHighC}
        notation={notation}
        onValue={(forecastHighC) => set({ forecastHighC })}
      />
      <Typed
        label="Tonight’s forecast low"
        dimension="temperature"
        value={now.forecastLowC}
        notation={notation}
        onValue={(forecastLowC) => set({ forecastLowC })}
      />
      <Typed
        label="State of charge at the start"
        dimension="ratio"
        value={now.startSoc}
        notation={notation}
        onValue={(startSoc) => set({ startSoc })}
      />
      <Chosen label="Battery" options={AGES} value={now.batteryAge} onValue={(batteryAge) => set({ batteryAge })} />
      <Chosen
        label="Last charged full"
        options={LAST_FULL}
        value={now.lastFull}
        onValue={(lastFull) => set({ lastFull })}
      />
      {fault && (
        <p className="problem note" role="alert">
          {fault}
        </p>
      )}
    </div>
  );
}

interface ChosenProps<T extends string> {
  label: string;
  options: Choice<T>[];
  value: T | null;
  onValue(value: T | null): void;
}

function Chosen<T extends string>({ label, options, value, onValue }: ChosenProps<T>) {
  const id = useId();
  return (
    <div className="line">
      <div className="line-row">
        <label htmlFor={id}>{label}</label>
        <select id={id} value={value ?? ""} onChange={({ target }) => onValue((target.value || null) as T | null)}>
          <option value="">not stated</option>
          {options.map((one) => (
            <option key={one.value} value={one.value}>
              {one.label}
            </option>
          ))}
        </select>
        <span />
      </div>
    </div>
  );
}

interface TypedProps {
  label: string;
  dimension: Dimension;
  value: number | null;
  notation: UnitPreferences;
  onValue(value: number | null): void;
}

/** A quantity that is kept when it is left, or at Enter; text that is not understood is told and the old answer stands. */
function Typed({ label, dimension, value, notation, onValue }: TypedProps) {
  const id = useId();
  const [text, setText] = useState<string | null>(null);
  const [problem, setProblem] = useState("");
  const keep = () => {
    if (text === null) return;
    const typed = text.trim();
    const full = dimension === "ratio" && typed.toLowerCase() === "full";
    const read = typed === "" ? null : parseQuantity(full ? "100 %" : typed, dimension, notation);
    if (read && !read.ok) return setProblem(read.message);
    setProblem("");
    setText(null);
    onValue(read ? read.value : null);
  };
  return (
    <div className={`line${problem ? " wrong" : ""}`}>
      <div className="line-row">
        <label htmlFor={id}>{label}</label>
        <input
          id={id}
          className="quantity"
          inputMode="decimal"
          autoComplete="off"
          placeholder={dimension === "ratio" ? "full, or a percentage" : "not stated"}
          aria-describedby={problem ? `${id}-note` : undefined}
          value={text ?? (value === null ? "" : formatQuantity(value, dimension, notation, 3))}
          onChange={(event) => setText(event.target.value)}
          onBlur={keep}
          onKeyDown={({ key }) => key === "Enter" && keep()}
        />
        <span />
      </div>
      {problem && (
        <div className="line-note problem" id={`${id}-note`} role="alert">
          {problem}
        </div>
      )}
    </div>
  );
}

/** What was said, in a few words: "2 people, white, high 36 °C". Empty where nothing was. */
export function conditionsInWords(conditions: RunConditions | null, notation: UnitPreferences): string {
  if (!conditions) return "";
  const { people, colour, blinds, shade, forecastHighC, forecastLowC, startSoc, batteryAge, lastFull } = conditions;
  const degrees = (value: number) => formatQuantity(value, "temperature", notation, 2);
  const labelOf = <T extends string>(options: Choice<T>[], value: T) =>
    options.find((one) => one.value === value)!.label;
  return [
    people !== null && `${people} ${people === 1 ? "person" : "people"}`,
    colour !== null && labelOf(COLOURS, colour),
    blinds !== null && (blinds === "none" ? "no window covers" : labelOf(BLINDS, blinds)),
    shade !== null && labelOf(SHADE, shade),
    forecastHighC !== null && `high ${degrees(forecastHighC)}`,
    forecastLowC !== null && `low ${degrees(forecastLowC)}`,
    startSoc !== null && (startSoc === 1 ? "battery full" : `battery at ${Math.round(100 * startSoc)} %`),
    batteryAge !== null && `battery ${labelOf(AGES, batteryAge)}`,
    lastFull !== null && `last charged full ${labelOf(LAST_FULL, lastFull)}`,
  ]
    .filter(Boolean)
    .join(", ");
}
