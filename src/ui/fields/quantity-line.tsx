"use client";

import { memo, useId, useRef, useState } from "react";
import type { UnitPreferences } from "@/core/quantity/dimension";
import { formatQuantity } from "@/core/quantity/format";
import { fieldAt } from "@/core/rig/labels";
import { valueAt } from "@/core/rig/compare";
import type { Known, Origin } from "@/core/rig/quantity";
import { useReading, useSheet } from "../state/sheet-context";
import { ORIGIN_WORDS, OriginMark } from "./origin-mark";
import { QuantityInput } from "./quantity-input";

const NEXT: Record<Origin, Origin> = { assumed: "plate", plate: "measured", measured: "assumed", fitted: "measured" };

interface Props {
  path: string;
  label?: string;
  placeholder?: string;
}

/** One quantity of the rig: name, value with unit, origin mark; its range and where it comes from on focus. */
export function QuantityLine({ path, label, placeholder = "not measured" }: Props) {
  const { rig, assessment } = useReading();
  const known = knownAt(assessment.values, path);
  return (
    <LineView
      path={path}
      label={label}
      placeholder={placeholder}
      notation={rig.notation}
      value={known?.value}
      origin={known?.origin ?? "assumed"}
      why={known?.why ?? ""}
      entered={known?.entered ?? false}
    />
  );
}

interface LineProps extends Props {
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
  notation,
  value,
  origin,
  why,
  entered,
}: LineProps) {
  const put = useSheet((state) => state.put);
  const endSession = useSheet((state) => state.endSession);
  const id = useId();
  const [focused, setFocused] = useState(false);
  const [problem, setProblem] = useState("");
  const leaving = useRef<ReturnType<typeof setTimeout>>(undefined);
  const spec = fieldAt(path);
  if (!spec) throw new Error(`no quantity at ${path}`);
  const write = (next: number, as: Origin, session?: string) => put(path, { value: next, origin: as }, session);
  const typicalWords = why ? `Assumed: ${why}. ` : "";
  const range = `Usual ${formatQuantity(spec.low, spec.dimension, notation)} to ${formatQuantity(spec.high, spec.dimension, notation)}.`;
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
          id={id}
          spec={spec}
          value={value}
          notation={notation}
          digits={entered ? 4 : 3}
          describedBy={focused || problem ? noteId : undefined}
          placeholder={placeholder}
          onValue={(next) => write(next, entered ? origin : "plate", id)}
          onProblem={setProblem}
          onClear={() => put(path, undefined)}
          onMeasured={() => value !== undefined && write(value, origin === "measured" ? "plate" : "measured")}
          onFocus={() => setFocused(true)}
          onDone={endSession}
        />
        {value === undefined ? (
          <span />
        ) : (
          <button
            type="button"
            className="plain mark"
            title={`${ORIGIN_WORDS[origin]}; click to change`}
            aria-label={`${label ?? spec.label}: ${ORIGIN_WORDS[origin]}; change origin`}
            onClick={() => write(value, NEXT[origin])}
          >
            <OriginMark origin={origin} />
          </button>
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
                <button type="button" className="plain" onClick={() => put(path, undefined)}>
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

const OPTIONAL = /\.(measuredAtC|dc\w+Current|runShare|maxDcCurrent)$/;
const isOptional = (path: string) => OPTIONAL.test(path);

/** The resolved quantity at a document path. */
function knownAt(values: unknown, path: string): Known | undefined {
  return valueAt(values, path.replace(/^brief\.loads\./, "loads.")) as Known | undefined;
}
