"use client";

import { ANY, countOf, fits, keyOf, stepsOf, type JobKey, type JobPath } from "@/core/document/path";
import { memo, useId, useRef, useState } from "react";
import type { UnitPreferences } from "@/core/units/dimension";
import { formatQuantity } from "@/core/units/format";
import { fieldAt, partAt } from "@/core/document/labels";
import { usualPattern } from "@/core/document/schedule";
import { putAt, valueAt } from "@/core/document/compare";
import type { Job } from "@/core/document/schema";
import type { FieldSpec, ResolvedQuantity, Origin } from "@/core/units/known";
import { useReading, useSheet } from "../state/sheet-context";
import { ORIGIN_WORDS, OriginMark } from "./origin-mark";
import { QuantityInput } from "./quantity-input";
import { say } from "@/core/messages/say";

/** Where a click on the mark of an entered value leads; an assumed one must be typed first. */
const NEXT: Record<Origin, Origin> = { assumed: "plate", plate: "measured", measured: "plate", fitted: "measured" };

interface Props {
  path: JobPath;
  label?: string;
  placeholder?: string;
}

/** One quantity of the system: name, value with unit, origin mark; its range and where it comes from on focus. */
export function QuantityLine({ placeholder = "not measured", ...props }: Props) {
  return <LineView {...props} {...useQuantity(props.path)} placeholder={placeholder} />;
}

/** One quantity in a table's cell: the value alone, with its mark. */
export function QuantityCell({ path, label }: { path: JobPath; label: string }) {
  return <CellView path={path} label={label} {...useQuantity(path)} />;
}

/** What the sheet knows of the quantity at a path, in plain values, so that a view is drawn anew only where they change. */
function useQuantity(path: JobPath) {
  const { job, assessment } = useReading();
  const known = knownAt(assessment.values, path);
  const spec = fieldAt(path, partAt(job, path));
  if (!spec) throw new Error(`no quantity at ${path}`);
  return {
    spec,
    notation: job.notation,
    value: known?.value,
    origin: known?.origin ?? ("assumed" as Origin),
    why: known?.why ?? "",
    entered: known?.entered ?? false,
  };
}

/** Writing to a quantity: what is typed, its origin, clearing. */
function useWriting(path: JobPath, { value, origin, entered }: Pick<LineProps, "value" | "origin" | "entered">) {
  const put = useSheet((state) => state.put);
  const change = useSheet((state) => state.change);
  const endSession = useSheet((state) => state.endSession);
  const id = useId();
  const write = (next: number, as: Origin, session?: string) => put(path, { value: next, origin: as }, session);
  /** An assumed value is nobody's reading: it is opened to be typed. */
  const typeIt = () => document.getElementById(id)?.focus();
  return {
    id,
    clear: () => put(path, undefined),
    nextOrigin: () => (entered && value !== undefined ? write(value, NEXT[origin]) : typeIt()),
    input: {
      id,
      value,
      digits: entered ? 4 : 3,
      onValue: (next: number, unit?: string) => {
        write(next, entered ? origin : "plate", id);
        if (unit !== undefined && keyOf(path) === "coolingPower")
          put("notation.cooling", unit.endsWith("W") ? "kW" : "BTU/h", id);
      },
      onClear: () => put(path, undefined),
      onMeasured: () => entered && value !== undefined && write(value, origin === "measured" ? "plate" : "measured"),
      onSeveral: several(path, (at, many) =>
        change((draft) => {
          putAt(draft, path, { value: many.value, origin: entered ? origin : "plate" });
          putAt(draft, at, { value: many.count, origin: "plate" });
        }),
      ),
      onSpan:
        path === "brief.hoursWanted"
          ? (from: number, minutes: number) => change((draft) => setUse(draft as Job, from, minutes))
          : undefined,
      onDone: endSession,
    },
  };
}

/** "3 x 280": what the count goes into, where the field is that of one of several. */
function several(path: JobPath, set: (at: JobPath, many: { count: number; value: number }) => void) {
  const at = countOf(path);
  return at ? (many: { count: number; value: number }) => set(at, many) : undefined;
}

/** The main use of the plan's first day, made to begin at a time of day and to last so many minutes. */
function setUse(job: Job, from: number, minutes: number): void {
  job.brief.hoursWanted = { value: minutes * 60, origin: "plate" };
  const [pattern] = job.plan.patterns;
  const cooling = pattern?.spans.filter((span) => span.kind === "unit" && span.mode !== "fan") ?? [];
  if (!pattern) {
    const usual = usualPattern(minutes * 60);
    job.plan.patterns = [
      { ...usual, spans: usual.spans.map((span) => (span.kind === "unit" ? { ...span, from, minutes } : span)) },
    ];
  } else if (cooling.length === 1) Object.assign(cooling[0]!, { from, minutes });
}

function OriginButton({
  name,
  origin,
  entered,
  onClick,
}: {
  name: string;
  origin: Origin;
  entered: boolean;
  onClick(): void;
}) {
  const what = entered ? "change origin" : "type the value";
  return (
    <button
      type="button"
      className="plain mark"
      title={
        entered ? `${ORIGIN_WORDS[origin]}; click to change` : `${ORIGIN_WORDS[origin]}; type the value to enter it`
      }
      aria-label={`${name}: ${ORIGIN_WORDS[origin]}; ${what}`}
      onClick={onClick}
    >
      <OriginMark origin={origin} />
    </button>
  );
}

interface CellProps {
  path: JobPath;
  label: string;
  spec: FieldSpec;
  notation: UnitPreferences;
  value: number | undefined;
  origin: Origin;
  entered: boolean;
}

const CellView = memo(function CellView({ path, label, spec, notation, value, origin, entered }: CellProps) {
  const { input, nextOrigin } = useWriting(path, { value, origin, entered });
  const [problem, setProblem] = useState("");
  const noteId = `${input.id}-note`;
  return (
    <span className={`cell${entered ? "" : " typical"}${problem ? " wrong" : ""}`} data-path={path}>
      <label className="spoken" htmlFor={input.id}>
        {label}
      </label>
      <QuantityInput
        {...input}
        spec={spec}
        notation={notation}
        describedBy={problem ? noteId : undefined}
        onProblem={setProblem}
        onFocus={() => {}}
      />
      {value !== undefined && <OriginButton name={label} origin={origin} entered={entered} onClick={nextOrigin} />}
      {problem && (
        <span className="cell-problem problem" id={noteId} role="alert">
          {problem}
        </span>
      )}
    </span>
  );
});

interface LineProps extends Props {
  spec: FieldSpec;
  notation: UnitPreferences;
  value: number | undefined;
  origin: Origin;
  why: string;
  entered: boolean;
}

/** Drawn again only when what it shows has changed: a sheet has forty of these and every keystroke asks all of them. */
const LineView = memo(function LineView({
  path,
  label,
  placeholder,
  spec,
  notation,
  value,
  origin,
  why,
  entered,
}: LineProps) {
  const { id, input, clear, nextOrigin } = useWriting(path, { value, origin, entered });
  const [focused, setFocused] = useState(false);
  const [problem, setProblem] = useState("");
  const leaving = useRef<ReturnType<typeof setTimeout>>(undefined);
  const typicalWords = why ? `Assumed: ${why}. ` : "";
  const range = say("interface.usualRange", {
    low: formatQuantity(spec.low, spec.dimension, notation),
    high: formatQuantity(spec.high, spec.dimension, notation),
  });
  const noteId = `${id}-note`;

  return (
    <div
      className={`line${entered ? "" : " typical"}${problem ? " wrong" : ""}`}
      data-path={path}
      onFocus={() => clearTimeout(leaving.current)}
      onBlur={(event) => {
        // Folding the note at once would move what is being clicked on from under the pointer.
        if (!event.currentTarget.contains(event.relatedTarget))
          leaving.current = setTimeout(() => setFocused(false), 200);
      }}
    >
      <div className="line-row">
        <label htmlFor={id}>{label ?? spec.label}</label>
        <QuantityInput
          {...input}
          spec={spec}
          notation={notation}
          describedBy={focused || problem ? noteId : undefined}
          placeholder={placeholder}
          onProblem={setProblem}
          onFocus={() => setFocused(true)}
        />
        {value === undefined ? (
          <span />
        ) : (
          <OriginButton name={label ?? spec.label} origin={origin} entered={entered} onClick={nextOrigin} />
        )}
      </div>
      {(focused || problem) && (
        <div className="line-note" id={noteId}>
          {problem && (
            <div className="problem" role="alert">
              {problem}
            </div>
          )}
          {focused && (
            <>
              {typicalWords}
              {range}
              {spec.note ? ` ${spec.note}` : ""}
              {spec.measure ? ` To measure: ${spec.measure}` : ""}{" "}
              {entered && (
                <button type="button" className="plain" onClick={clear}>
                  Back to {isOptional(path) ? "nothing entered" : "the typical value"}
                </button>
              )}
            </>
          )}
        </div>
      )}
    </div>
  );
});

const OPTIONAL: ReadonlySet<JobKey> = new Set<JobKey>([
  ...(["measuredAtC", "dcRunningCurrent", "dcLowCurrent", "dcFanCurrent", "dcAverageCurrent", "dutyCycle"] as const),
  ...(["maximumPower", "waterLeavingC", "startCabinC", "heatLoss", "maxDcCurrent", "ventArea", "ampacity"] as const),
]);
const isOptional = (path: JobPath) => OPTIONAL.has(keyOf(path)) || fits(["wiring", "measured", ANY], stepsOf(path));

/** The resolved quantity at a document path. */
function knownAt(values: unknown, path: JobPath): ResolvedQuantity | undefined {
  const steps = stepsOf(path);
  // Loads are a group of their own among the values.
  const ofLoad = steps[0] === "brief" && steps[1] === "loads";
  return valueAt(values, ofLoad ? steps.slice(1) : steps) as ResolvedQuantity | undefined;
}
