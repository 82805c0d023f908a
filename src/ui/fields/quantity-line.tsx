"use client";

import { useId, useRef, useState } from "react";
import { formatQuantity } from "@/core/quantity/format";
import { fieldAt } from "@/core/rig/labels";
import { valueAt } from "@/core/rig/compare";
import type { Known, Origin, Quantity } from "@/core/rig/quantity";
import { useReading, useSheet } from "../state/sheet-context";
import { ORIGIN_WORDS, OriginMark } from "./origin-mark";
import { QuantityInput } from "./quantity-input";

const NEXT: Record<Origin, Origin> = { assumed: "plate", plate: "measured", measured: "assumed", fitted: "measured" };

/** One quantity of the rig: name, value with unit, origin mark; its range and where it comes from on focus. */
export function QuantityLine({
  path,
  label,
  placeholder = "not measured",
}: {
  path: string;
  label?: string;
  placeholder?: string;
}) {
  const { rig, assessment } = useReading();
  const put = useSheet((state) => state.put);
  const endSession = useSheet((state) => state.endSession);
  const id = useId();
  const [focused, setFocused] = useState(false);
  const [problem, setProblem] = useState("");
  const leaving = useRef<ReturnType<typeof setTimeout>>(undefined);
  const spec = fieldAt(path);
  if (!spec) throw new Error(`no quantity at ${path}`);
  const entered = valueAt(rig, path) as Quantity | undefined;
  const known = knownAt(assessment.values, path);
  const value = known?.value;
  const origin: Origin = known?.origin ?? "assumed";
  const write = (next: number, as: Origin, session?: string) => put(path, { value: next, origin: as }, session);
  const typicalWords = known && !known.entered ? `Assumed: ${known.why}. ` : "";
  const range = `Usual ${formatQuantity(spec.low, spec.dimension, rig.notation)} to ${formatQuantity(spec.high, spec.dimension, rig.notation)}.`;
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
          notation={rig.notation}
          digits={entered ? 4 : 3}
          describedBy={focused || problem ? noteId : undefined}
          placeholder={placeholder}
          onValue={(next) => write(next, entered?.origin ?? "plate", id)}
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
                  Back to{" "}
                  {known && placeholder === "not measured" && isOptional(path)
                    ? "nothing entered"
                    : "the typical value"}
                </button>
              )}
            </>
          )}
        </div>
      )}
    </div>
  );
}

const OPTIONAL = /\.(measuredAtC|dc\w+Current|runShare|maxDcCurrent)$/;
const isOptional = (path: string) => OPTIONAL.test(path);

/** The resolved quantity at a document path. */
function knownAt(values: unknown, path: string): Known | undefined {
  return valueAt(values, path.replace(/^brief\.loads\./, "loads.")) as Known | undefined;
}
