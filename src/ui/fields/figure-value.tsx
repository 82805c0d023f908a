"use client";

import { formatQuantity } from "@/core/units/format";
import { useFigure, useReading } from "../state/sheet-context";

/** A computed figure, written by its dimension or `as` told; Enter or a click opens its working. */
export function FigureValue({ figure, digits, as }: { figure: string; digits?: number; as?: string }) {
  const { job, inspect } = useReading();
  const found = useFigure(figure);
  if (!found) return <span>–</span>;
  const text = as ?? formatQuantity(found.value, found.dimension, job.notation, digits);
  return (
    <button
      type="button"
      className="plain figure"
      title="Show working"
      aria-label={`${found.name}: ${text}; show working`}
      onClick={() => inspect({ kind: "figure", key: figure })}
    >
      {text}
    </button>
  );
}
