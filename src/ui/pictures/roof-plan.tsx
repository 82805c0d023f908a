"use client";

import { formatQuantity } from "@/core/units/format";
import type { Panel } from "@/core/document/schema";
import { useReading } from "../state/sheet-context";
import { useBoxWidth } from "./use-box-width";
import type { JobValues } from "@/core/document/resolved";
import { say } from "@/core/messages/say";

const PAD = 26;

/** Rectangles of a group of panels laid side by side across, then behind one another, as far as the roof is wide. */
export function laidOut(count: number, length: number, width: number, x: number, y: number, roofWidth: number) {
  const across = Math.max(1, Math.floor((roofWidth - y + 0.02) / width));
  return Array.from({ length: Math.min(60, count) }, (_, i) => ({
    x: x + Math.floor(i / across) * length,
    y: y + (i % across) * width,
    length,
    width,
  }));
}

/** Whether two rectangles lie over each other by more than a hand's breadth. */
export const overlap = (a: Rect, b: Rect): boolean =>
  Math.min(a.x + a.length, b.x + b.length) - Math.max(a.x, b.x) > 0.02 &&
  Math.min(a.y + a.width, b.y + b.width) - Math.max(a.y, b.y) > 0.02;
interface Rect {
  x: number;
  y: number;
  length: number;
  width: number;
}

interface Group {
  panel: Panel;
  v: JobValues["sources"]["panels"][number];
  onGround: boolean;
  rects: Rect[];
}

/** The roof from above, to scale: panels and what stands in their way; portable ones on the ground beside it. */
export function RoofPlan() {
  const { job, assessment } = useReading();
  const [box, boxWidth] = useBoxWidth(700);
  const { roofLength, roofWidth, panels, obstacles } = assessment.values.sources;
  const [length, width] = [roofLength.value, roofWidth.value];
  const portable = job.sources.panels.some(({ mount }) => mount === "portable");
  const ground = portable ? 1.5 : 0;
  const scale = Math.min((boxWidth - 2 * PAD) / length, 230 / (width + ground));
  const at = (metres: number) => metres * scale;
  const obstacleRects = obstacles.map((o) => ({
    x: o.x.value,
    y: o.y.value,
    length: o.length.value,
    width: o.width.value,
  }));
  const groups = job.sources.panels.reduce<Group[]>((done, panel, i) => {
    const v = panels[i]!;
    const onGround = panel.mount === "portable";
    // What is portable stands on the ground, one set after another.
    const besideX = Math.max(
      0,
      ...done.filter((one) => one.onGround).flatMap(({ rects }) => rects.map((r) => r.x + r.length + 0.2)),
    );
    const rects = onGround
      ? laidOut(v.count.value, v.length.value, v.width.value, besideX, width + 0.5, width + 1.6)
      : laidOut(v.count.value, v.length.value, v.width.value, v.x.value, v.y.value, width);
    return [...done, { panel, v, onGround, rects }];
  }, []);
  const roofRects = groups
    .filter(({ onGround }) => !onGround)
    .flatMap(({ rects }, g) => rects.map((r) => ({ ...r, g })));
  const wrong = (r: Rect) =>
    r.x < -0.01 || r.y < -0.01 || r.x + r.length > length + 0.02 || r.y + r.width > width + 0.02;
  const bad = [
    ...groups.flatMap(({ panel, rects, onGround }) =>
      !onGround && rects.some(wrong) ? [`${panel.name} hangs over the edge`] : [],
    ),
    ...groups.flatMap(({ panel, rects, onGround }) =>
      !onGround && rects.some((r) => obstacleRects.some((o) => overlap(r, o)))
        ? [`${panel.name} lies on an obstacle`]
        : [],
    ),
    ...(roofRects.some((a, i) => roofRects.slice(i + 1).some((b) => overlap(a, b))) ? ["two panels overlap"] : []),
  ];
  const covered = roofRects.reduce((sum, r) => sum + r.length * r.width, 0);
  const metres = (value: number) => formatQuantity(value, "length", job.notation, 3);
  return (
    <div ref={box}>
      <svg
        width={boxWidth}
        height={at(width + ground) + 2 * PAD}
        style={{ display: "block" }}
        role="img"
        aria-label={`Roof of ${metres(length)} by ${metres(width)} from above: ${job.sources.panels.map(({ name }) => name).join(", ") || "no panels"}`}
      >
        <defs>
          <pattern id="cells" width="6" height="6" patternUnits="userSpaceOnUse">
            <path d="M0 0H6M0 0V6" stroke="var(--page)" strokeWidth="0.7" opacity="0.6" />
          </pattern>
          <pattern id="in-the-way" width="6" height="6" patternUnits="userSpaceOnUse">
            <path d="M-1 7L7 -1" stroke="var(--faded)" strokeWidth="0.9" />
          </pattern>
        </defs>
        <g transform={`translate(${PAD} ${PAD - 8})`}>
          <path
            d={`M${at(0.12)} 0H${at(length)}V${at(width)}H${at(0.12)}Q${-at(0.12)} ${at(width / 2)} ${at(0.12)} 0Z`}
            fill="var(--page)"
            stroke="var(--ink)"
            strokeWidth="1.4"
          />
          <text x={0} y={-5} fontSize="11.5" fill="var(--faded)">
            front
          </text>
          <text
            x={at(length)}
            y={at(width) + 15}
            fontSize="11.5"
            textAnchor="end"
            fill="var(--faded)"
            fontFamily="var(--mono)"
          >
            {metres(length)} × {metres(width)}
          </text>
          {obstacles.map((_, i) => (
            <g key={job.sources.obstacles[i]?.id ?? i}>
              <rect
                x={at(obstacleRects[i]!.x)}
                y={at(obstacleRects[i]!.y)}
                width={at(obstacleRects[i]!.length)}
                height={at(obstacleRects[i]!.width)}
                fill="url(#in-the-way)"
                stroke="var(--faded)"
              />
              <title>{job.sources.obstacles[i]?.name}</title>
            </g>
          ))}
          {groups.map(({ panel, v, rects, onGround }) => (
            <g key={panel.id}>
              {rects.map((r, i) => {
                const fault = !onGround && (wrong(r) || obstacleRects.some((o) => overlap(r, o)));
                return (
                  <g key={i}>
                    <rect
                      x={at(r.x) + 1}
                      y={at(r.y) + 1}
                      width={Math.max(1, at(r.length) - 2)}
                      height={Math.max(1, at(r.width) - 2)}
                      fill="var(--bank)"
                      fillOpacity={onGround ? 0.35 : 0.75}
                      stroke={fault ? "var(--heat)" : "var(--bank)"}
                      strokeWidth={fault ? 3 : 1}
                    />
                    <rect
                      x={at(r.x) + 1}
                      y={at(r.y) + 1}
                      width={Math.max(1, at(r.length) - 2)}
                      height={Math.max(1, at(r.width) - 2)}
                      fill="url(#cells)"
                    />
                  </g>
                );
              })}
              {rects[0] && at(rects[0].length) > 56 && (
                <text
                  x={at(rects[0].x) + 7}
                  y={at(rects[0].y) + 17}
                  fontSize="12"
                  fill="var(--page)"
                  stroke="var(--bank)"
                  strokeWidth="3"
                  paintOrder="stroke"
                >
                  {formatQuantity(v.power.value, "power", job.notation, 3)}
                  {v.count.value > 1 ? ` × ${v.count.value}` : ""}
                </text>
              )}
            </g>
          ))}
        </g>
      </svg>
      {bad.length > 0 && (
        <p className="problem" role="status">
          {bad.map((text) => text[0]!.toUpperCase() + text.slice(1)).join(". ")}.
        </p>
      )}
      <p className="note">
        {say("interface.roofToScale", {
          covered: formatQuantity(covered, "surface", job.notation, 2),
          whole: formatQuantity(length * width, "surface", job.notation, 2),
        })}
      </p>
    </div>
  );
}
