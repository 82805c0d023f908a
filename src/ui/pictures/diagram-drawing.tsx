import { isBroken } from "@/core/assessment/judge/word";
import type { JobPath } from "@/core/document/path";
import {
  DIAGRAM_CELL,
  linesBelow,
  type SingleLineDiagram,
  type DiagramItem,
} from "@/core/applications/diagram/single-line-diagram";
import { PALETTE, type Palette } from "../palette";
import { SymbolOf } from "./diagram-symbols";
import { SANS } from "./style";

const LINE = 14;

/** The drawing of a one-line plan. No hooks: it is drawn on the screen and, by itself, into a print. */
export function DiagramDrawing({
  plan: diagram,
  title,
  onPart,
  font = SANS,
  colours = PALETTE,
}: {
  plan: SingleLineDiagram;
  title: string;
  onPart(path: JobPath): void;
  font?: string;
  /** Written out for a file or a print, the theme's own on the screen. */
  colours?: Palette;
}) {
  return (
    <svg
      xmlns="http://www.w3.org/2000/svg"
      className="plan"
      viewBox={`0 0 ${diagram.width} ${diagram.height}`}
      width={diagram.width}
      height={diagram.height}
      role="group"
      aria-label={`Single-line diagram of ${title}`}
      fontFamily={font}
      fontSize="12"
    >
      <rect width={diagram.width} height={diagram.height} fill={colours.paper} />
      {diagram.headings.map(({ x, y, text }) => (
        <text key={text + y} x={x} y={y} fontWeight="700" fontSize="13" fill={colours.ink} data-plan-text>
          {text}
        </text>
      ))}
      {diagram.wires.map(({ points, mains }, i) => (
        <polyline
          key={i}
          points={points.map((point) => point.join(",")).join(" ")}
          fill="none"
          stroke={mains ? colours.heat : colours.bank}
          strokeWidth="1.6"
          strokeDasharray={mains ? "7 3" : undefined}
        />
      ))}
      {diagram.items.map((item) => (
        <Item key={item.key} item={item} onPart={onPart} colours={colours} />
      ))}
    </svg>
  );
}

function Item({ item, onPart, colours }: { item: DiagramItem; onPart(path: JobPath): void; colours: Palette }) {
  const { x, y, title, titleLines, lines, word, fault } = item;
  const below = linesBelow(item);
  const bad = isBroken(word);
  const colour = bad ? colours.heat : colours.ink;
  const said = `${title}: ${lines.join(", ")}. ${word}${fault ? `, ${fault}` : ""}`;
  return (
    <g
      role="button"
      tabIndex={0}
      aria-label={said}
      data-plan-item={item.path}
      data-word={word}
      style={{ cursor: "pointer" }}
      onClick={() => onPart(item.path)}
      onKeyDown={(event) => {
        if (event.key !== "Enter" && event.key !== " ") return;
        event.preventDefault();
        onPart(item.path);
      }}
    >
      <title>{said}</title>
      <rect
        x={x - DIAGRAM_CELL.width / 2}
        y={y - 17}
        width={DIAGRAM_CELL.width}
        height={36 + below * LINE}
        fill="none"
        pointerEvents="all"
      />
      {word !== "Holds" && (
        <rect
          x={x - DIAGRAM_CELL.width / 2 + 2}
          y={y - 19}
          width={DIAGRAM_CELL.width - 4}
          height={42 + below * LINE}
          fill="none"
          stroke={bad ? colours.heat : colours.sun}
          strokeWidth={bad ? 1.8 : 1}
          strokeDasharray={bad ? undefined : "3 3"}
        />
      )}
      <g transform={`translate(${x} ${y})`}>
        <SymbolOf symbol={item.symbol} ink={colour} paper={colours.paper} />
      </g>
      {bad && <path d={`M${x + 24} ${y - 14}l10 10m0 -10l-10 10`} stroke={colours.heat} strokeWidth="2" />}
      {titleLines.map((text, i) => (
        <text key={i} x={x} y={y + 31 + i * LINE} textAnchor="middle" fontWeight="700" fill={colour} data-plan-text>
          {text}
        </text>
      ))}
      {lines.map((text, i) => (
        <text
          key={i}
          x={x}
          y={y + 31 + (titleLines.length + i) * LINE}
          textAnchor="middle"
          fill={colours.ink}
          data-plan-text
        >
          {text}
        </text>
      ))}
    </g>
  );
}
