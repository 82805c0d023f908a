"use client";

import type { JobPath } from "@/core/document/path";
import { useMemo } from "react";
import { singleLineDiagram } from "@/core/applications/diagram/single-line-diagram";
import { THEMED } from "../palette";
import { useReading } from "../state/sheet-context";
import { DiagramDrawing } from "./diagram-drawing";
import { diagramSvg } from "./diagram-svg";
import { SANS } from "./style";

/** The single-line diagram, each part a way to its line. A file of it has the colours of paper, whatever the theme. */
export function SingleLineDiagramView({ onPart }: { onPart(path: JobPath): void }) {
  const { job, assessment } = useReading();
  const diagram = useMemo(() => singleLineDiagram(job, assessment), [job, assessment]);
  const save = () => {
    const text = `<?xml version="1.0" encoding="UTF-8"?>\n${diagramSvg(diagram, SANS)}`;
    const link = document.createElement("a");
    link.href = URL.createObjectURL(new Blob([text], { type: "image/svg+xml" }));
    link.download = `${job.name.replace(/[^\p{L}\p{N}]+/gu, "-").toLowerCase()}-plan.svg`;
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
        <DiagramDrawing plan={diagram} title={job.name} onPart={onPart} colours={THEMED} />
      </div>
    </>
  );
}
