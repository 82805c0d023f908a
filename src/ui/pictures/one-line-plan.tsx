"use client";

import { useMemo, useRef } from "react";
import { planOf } from "@/core/path/plan";
import { useReading } from "../state/sheet-context";
import { PlanDrawing } from "./plan-drawing";

/** The one-line plan of the rig, each part a way to its line. Colours are written out so that an exported file keeps them. */
export function OneLinePlan({ onPart }: { onPart(path: string): void }) {
  const { rig, assessment } = useReading();
  const plan = useMemo(() => planOf(rig, assessment), [rig, assessment]);
  const svg = useRef<SVGSVGElement>(null);
  const save = () => {
    const text = `<?xml version="1.0" encoding="UTF-8"?>\n${new XMLSerializer().serializeToString(svg.current!)}`;
    const link = document.createElement("a");
    link.href = URL.createObjectURL(new Blob([text], { type: "image/svg+xml" }));
    link.download = `${rig.name.replace(/[^\p{L}\p{N}]+/gu, "-").toLowerCase()}-plan.svg`;
    link.click();
    setTimeout(() => URL.revokeObjectURL(link.href), 1000);
  };
  return (
    <>
      <div className="picture-title">
        <h2>Single-line diagram</h2>
        <span className="plan-tools">
          <button type="button" className="plain link" onClick={save}>
            Save as SVG
          </button>
          <button type="button" className="plain link" onClick={() => window.print()}>
            Print
          </button>
        </span>
      </div>
      <div className="plan-holder">
        <PlanDrawing plan={plan} svgRef={svg} title={rig.name} onPart={onPart} />
      </div>
    </>
  );
}
