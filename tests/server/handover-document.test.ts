import sharp from "sharp";
import { v4 as uuid } from "uuid";
import { describe, expect, it } from "vitest";
import { handoverOf, handoverSource, type HandoverDocument } from "@/core/applications/handover/document";
import { singleLineDiagram } from "@/core/applications/diagram/single-line-diagram";
import { faced, handoverPdf, DIAGRAM_FONT } from "@/server/papers/handover-pdf";
import { diagramSvg } from "@/ui/pictures/diagram-svg";
import { demoJob } from "../jobs";

const job = demoJob("2-marionette");
const source = handoverSource(job);
const handover = handoverOf(source, { revision: 2, date: "2026-05-04" });
const plan = diagramSvg(singleLineDiagram(job, source.assessment), DIAGRAM_FONT);
const pagesOf = (pdf: Buffer) => Number(/\/Type \/Pages\s*\/Count (\d+)/.exec(pdf.toString("latin1"))![1]);

describe("a handover document as PDF", () => {
  it.each<["a4" | "letter", string]>([
    ["a4", "595.28 841.89"],
    ["letter", "612 792"],
  ])("on %s is a PDF under 2 MB of that page, its fonts embedded", async (paper, size) => {
    const pdf = await handoverPdf(handover, { plan }, paper);
    const text = pdf.toString("latin1");
    expect(text.startsWith("%PDF-")).toBe(true);
    expect(pdf.length).toBeLessThan(2_000_000);
    expect(text).toContain(`/MediaBox [0 0 ${size}]`);
    const fonts = text.match(/\/Type \/Font\b/g)!.length;
    expect(fonts).toBeGreaterThan(1);
    expect(text.match(/\/FontFile2 /g)!.length).toBeGreaterThan(1);
    // Text can be searched and read out: each font says which characters its glyphs are.
    expect(text).toContain("/ToUnicode");
    expect(pagesOf(pdf)).toBeGreaterThan(3);
  });
  it("is the same bytes for the same handover document, and others only for another date", async () => {
    const [one, two] = [await handoverPdf(handover, { plan }, "a4"), await handoverPdf(handover, { plan }, "a4")];
    expect(Buffer.compare(one, two)).toBe(0);
    const later = await handoverPdf({ ...handover, date: "2026-05-05" }, { plan }, "a4");
    expect(Buffer.compare(one, later)).not.toBe(0);
  });
  it("keeps the card to one page, by itself", async () => {
    const card: HandoverDocument = { ...handover, sections: handover.sections.filter(({ key }) => key === "card") };
    expect(pagesOf(await handoverPdf(card, { plan }, "letter"))).toBe(1);
  });
  it("shows a photo of a step, small, and says of one that was not sent yet that it was not", async () => {
    const picture = sharp({ create: { width: 300, height: 200, channels: 3, background: "#608060" } });
    const [there, missing] = [uuid(), uuid()];
    const block = { kind: "photos", photos: [there, missing].map((id) => ({ id, caption: "Joint at the isolator" })) };
    const shown = { ...handover, sections: [{ key: "inspection", title: "Inspection", blocks: [block] }] };
    const photos = new Map([[there, await picture.jpeg().toBuffer()]]);
    const pdf = (await handoverPdf(shown as HandoverDocument, { plan, photos }, "a4")).toString("latin1");
    expect(pdf.match(/\/Subtype \/Image\b/g)).toHaveLength(1);
    expect(pdf).toContain("/Width 300");
  });
  it("holds forty parts and long words without failing", async () => {
    const rows = Array.from({ length: 300 }, (_, i) => [`part ${i}`, "W".repeat(120), "1", "pieces", "Ω √ ≤ ≥ μ č Ж"]);
    const long: HandoverDocument = {
      ...handover,
      sections: [
        {
          key: "parts",
          title: "Parts",
          blocks: [{ kind: "table", head: ["a", "b", "c", "d", "e"], rows, right: [2] }],
        },
      ],
    };
    expect(pagesOf(await handoverPdf(long, { plan }, "a4"))).toBeGreaterThan(8);
  });
});

describe("text of a print", () => {
  it.each<[string, [string, string][]]>([
    ["plain", [["plain", "Text"]]],
    [
      "12 mΩ",
      [
        ["12 m", "Text"],
        ["Ω", "Greek"],
      ],
    ],
    [
      "Čapek",
      [
        ["Č", "Extended"],
        ["apek", "Text"],
      ],
    ],
    [
      "Лодка 2",
      [
        ["Лодка ", "Cyrillic"],
        ["2", "Text"],
      ],
    ],
    ["άβ", [["άβ", "Greek"]]],
    ["∑≤", [["∑≤", "Signs"]]],
    [
      "Đế",
      [
        ["Đ", "Extended"],
        ["ế", "Vietnamese"],
      ],
    ],
    ["नाव", [["नाव", "Devanagari"]]],
    ["漢", [["?", "Text"]]],
    ["", [["", "Text"]]],
  ])("“%s” is set in the faces that have its letters", (text, runs) => {
    expect(faced(text).map((run) => [run.text, run.font])).toEqual(runs);
  });
});

describe("the plan of a print", () => {
  it("is SVG of its own: every part's name in it, nothing of the screen", () => {
    expect(plan.startsWith("<svg")).toBe(true);
    for (const { title } of singleLineDiagram(job, source.assessment).items) expect(plan).toContain(`>${title}<`);
    expect(plan).not.toMatch(/var\(| class=| on[a-z]+=| aria-| data-/i);
  });
  it("escapes what a name would break out with", () => {
    const named = structuredClone(job);
    named.units[0]!.name = `<script>"&`;
    const svg = diagramSvg(singleLineDiagram(named, handoverSource(named).assessment), DIAGRAM_FONT);
    expect(svg).not.toContain("<script");
    expect(svg).toContain("&#60;");
  });
});
