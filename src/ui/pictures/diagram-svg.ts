import { createElement, isValidElement, type ReactNode } from "react";
import type { SingleLineDiagram } from "@/core/applications/diagram/single-line-diagram";
import { DiagramDrawing } from "./diagram-drawing";

/** Attributes of the drawing that SVG writes as they are; the others with hyphens. */
const AS_IS = new Set(["viewBox"]);
/** Of no use in a print. */
const LEFT_OUT = /^(on[A-Z]|aria-|data-|role$|tabIndex$|className$|style$|children$|pointerEvents$)/;

const escaped = (text: string) => text.replace(/[&<>"]/g, (mark) => `&#${mark.charCodeAt(0)};`);
const hyphened = (name: string) => name.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`);

/** Writes a drawing of plain SVG elements and components without hooks as text. */
function written(node: ReactNode): string {
  if (node === null || node === undefined || typeof node === "boolean") return "";
  if (Array.isArray(node)) return (node as ReactNode[]).map(written).join("");
  if (!isValidElement<Record<string, unknown>>(node)) return escaped(String(node as string | number));
  const { type, props } = node;
  if (typeof type === "function") return written((type as (props: unknown) => ReactNode)(props));
  const inner = written(props.children as ReactNode);
  if (typeof type !== "string") return inner;
  if (type === "title") return "";
  const attributes = Object.entries(props)
    .filter(([name, value]) => !LEFT_OUT.test(name) && value !== undefined && value !== null)
    .map(
      ([name, value]) => ` ${AS_IS.has(name) ? name : hyphened(name)}="${escaped(String(value as string | number))}"`,
    )
    .join("");
  return `<${type}${attributes}>${inner}</${type}>`;
}

/** A one-line plan as SVG text, in one of the print's fonts. */
export const diagramSvg = (diagram: SingleLineDiagram, font: string): string =>
  written(createElement(DiagramDrawing, { plan: diagram, title: "", font, onPart: () => {} }));
