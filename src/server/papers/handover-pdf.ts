import { createRequire } from "node:module";
import { readFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { create } from "fontkit";
import pdfmake from "pdfmake";
import type { Block, HandoverDocument, Section } from "@/core/applications/handover/document";
import { say } from "@/core/messages/say";

/*
 * A handover document as PDF: real text, fonts embedded (only the glyphs in use), the same bytes for the same document.
 */

const INK = "#14242e";
const FADED = "#5b6a70";
const RULE = "#b9b4a4";
const HEAT = "#9e3a26";
/** Points of each paper, and of its margins. */
const PAPER = { a4: "A4", letter: "LETTER" } as const;
const MARGIN = 42;
const WIDTH = { a4: 595.28 - 2 * MARGIN, letter: 612 - 2 * MARGIN };
const HEIGHT = { a4: 841.89 - 2 * MARGIN, letter: 792 - 2 * MARGIN };

/** Where a package of fonts lies: beside the running server or in the project. */
function fontFolder(name: string): string {
  const require = createRequire(join(process.cwd(), "package.json"));
  return join(dirname(require.resolve(`${name}/package.json`)), "files");
}

interface Face {
  name: string;
  normal: string;
  bold: string;
  has(codePoint: number): boolean;
}

let faces: Face[] | null = null;

/** The faces of a print in the order that a character is looked for in them. */
function facesOf(): Face[] {
  if (faces) return faces;
  const face = (name: string, family: string, subset: string, bold = true): Face => {
    const folder = fontFolder(`@fontsource/${family}`);
    const normal = join(folder, `${family}-${subset}-400-normal.woff`);
    const made = create(readFileSync(normal));
    return {
      name,
      normal,
      bold: bold ? join(folder, `${family}-${subset}-700-normal.woff`) : normal,
      has: (codePoint) => made.hasGlyphForCodePoint(codePoint),
    };
  };
  faces = [
    face("Text", "atkinson-hyperlegible-next", "latin"),
    face("Extended", "atkinson-hyperlegible-next", "latin-ext"),
    face("Cyrillic", "noto-sans", "cyrillic"),
    face("More Cyrillic", "noto-sans", "cyrillic-ext"),
    face("Greek", "noto-sans", "greek"),
    face("More Greek", "noto-sans", "greek-ext"),
    face("Vietnamese", "noto-sans", "vietnamese"),
    face("Devanagari", "noto-sans", "devanagari"),
    face("Signs", "noto-sans-math", "latin", false),
  ];
  pdfmake.setFonts(Object.fromEntries(faces.map(({ name, normal, bold }) => [name, { normal, bold }])));
  pdfmake.setUrlAccessPolicy(() => false);
  const known = new Set(faces.flatMap(({ normal, bold }) => [normal, bold]));
  pdfmake.setLocalAccessPolicy((path) => known.has(path));
  return faces;
}

type Run = { text: string; font: string };

/** Text in runs of the face that has its characters; what none has is written as a question mark. */
export function faced(text: string): Run[] {
  const all = facesOf();
  const runs: Run[] = [];
  for (const letter of text.replaceAll("\u00b5", "\u03bc").normalize("NFC")) {
    const codePoint = letter.codePointAt(0)!;
    const plain = letter === "\n" || letter === "\t";
    const face = plain ? all[0] : all.find(({ has }) => has(codePoint));
    const shown = face ? letter : "?";
    const name = (face ?? all[0]!).name;
    const last = runs[runs.length - 1];
    // A space stays in the run that it follows.
    if (last && (last.font === name || letter === " ")) last.text += shown;
    else runs.push({ text: shown, font: name });
  }
  return runs.length > 0 ? runs : [{ text: "", font: all[0]!.name }];
}

const LINES = {
  hLineWidth: (at: number, node: { table: { body: unknown[] } }) =>
    at === 0 || at === node.table.body.length ? 0 : 0.4,
  vLineWidth: () => 0,
  hLineColor: () => RULE,
  paddingLeft: (at: number) => (at === 0 ? 0 : 5),
  paddingRight: () => 4,
  paddingTop: () => 2,
  paddingBottom: () => 2,
};

const MARKS = { dot: "–", caution: "!", stop: "STOP" };

/** The column that takes what room is left: the one of words with the longest of them. */
function wideColumn({ head, rows, right }: Extract<Block, { kind: "table" }>): number {
  const longest = head.map((_, at) =>
    right.includes(at) ? -1 : rows.reduce((most, row) => Math.max(most, row[at]?.length ?? 0), 0),
  );
  return Math.max(0, longest.indexOf(Math.max(...longest)));
}

/** What a document shows beside its words: the single-line diagram as SVG text, set in `DIAGRAM_FONT`, and JPEGs by their id. */
export interface Pictures {
  plan: string;
  photos?: ReadonlyMap<string, Buffer>;
}

/** Photos to a row, the gap between them, and their height at most, points. */
const PHOTOS = { columns: 3, gap: 8, height: 150 } as const;

/** Photos side by side, each over what it is of. */
function photoRows({ photos }: Extract<Block, { kind: "photos" }>, { photos: kept }: Pictures, width: number): unknown {
  const { columns, gap, height } = PHOTOS;
  const wide = (width - (columns - 1) * gap) / columns;
  const cells = photos.map(({ id, caption }) => {
    const bytes = kept?.get(id);
    const shown = bytes
      ? { image: `data:image/jpeg;base64,${bytes.toString("base64")}`, fit: [wide, height] }
      : { text: faced(say("handover.photoNotSent")), fontSize: 8, color: FADED };
    return { stack: [shown, { text: faced(caption), fontSize: 8, margin: [0, 2, 0, 0] }], width: wide };
  });
  const rows = Array.from({ length: Math.ceil(cells.length / columns) }, (_, row) => ({
    columns: cells.slice(row * columns, (row + 1) * columns),
    columnGap: gap,
    unbreakable: true,
    margin: [0, 3, 0, 5],
  }));
  return { stack: rows };
}

function drawn(block: Block, pictures: Pictures, width: number, height: number): unknown {
  switch (block.kind) {
    case "text":
      return { text: faced(block.text), fontSize: block.small ? 8 : 10, margin: [0, 2, 0, 4] };
    case "heading":
      return { text: faced(block.text), bold: true, fontSize: 10.5, margin: [0, 7, 0, 2] };
    case "list":
      return {
        table: {
          widths: [block.mark === "stop" ? 32 : 10, "*"],
          body: block.items.map((item) => [
            { text: MARKS[block.mark], bold: block.mark !== "dot", color: block.mark === "dot" ? INK : HEAT },
            { text: faced(item) },
          ]),
        },
        layout: { ...LINES, hLineWidth: () => 0 },
      };
    case "table": {
      const headed = block.head.some((word) => word !== "");
      const cell = (words: string, at: number, bold: boolean) => ({
        text: faced(words),
        bold,
        fontSize: 9,
        ...(bold ? { color: FADED } : {}),
        alignment: block.right.includes(at) ? "right" : "left",
        noWrap: block.right.includes(at),
      });
      return {
        table: {
          headerRows: headed ? 1 : 0,
          ...(headed ? { keepWithHeaderRows: 1 } : {}),
          dontBreakRows: true,
          widths: block.head.map((_, at) => (at === wideColumn(block) ? "*" : "auto")),
          body: [
            ...(headed ? [block.head.map((words, at) => cell(words, at, true))] : []),
            ...block.rows.map((row) => row.map((words, at) => cell(words, at, false))),
          ],
        },
        layout: LINES,
        margin: [0, 2, 0, 4],
      };
    }
    case "photos":
      return photoRows(block, pictures, width);
    case "plan":
      return { svg: pictures.plan, fit: [width, height * 0.62], margin: [0, 6, 0, 6] };
    case "working":
      return {
        text: faced(block.text),
        fontSize: 7.5,
        color: FADED,
        preserveLeadingSpaces: true,
        margin: [0, 2, 0, 6],
      };
  }
}

/** Whether a plan is drawn by pdfkit's own text, in the first face: its name there. */
export const DIAGRAM_FONT = "Text";

/** Rows of a table that keeps to one page with what heads it. */
const SHORT_TABLE = 14;

/** A section's blocks as drawn: what is short stays on one page with its headings and the line of text between. */
function drawnSection({ title, key, blocks }: Section, pictures: Pictures, width: number, height: number): unknown[] {
  const groups: unknown[] = [];
  let heads: unknown[] = [
    { text: faced(title), bold: true, fontSize: 15, margin: [0, 0, 0, 4], color: key === "stops" ? HEAT : INK },
  ];
  blocks.forEach((block, at) => {
    const one = drawn(block, pictures, width, height);
    const led = heads.length > 0 && block.kind === "text" && blocks[at + 1]?.kind === "table";
    if (block.kind === "heading" || led) {
      heads.push(one);
      return;
    }
    const short = block.kind === "text" || (block.kind === "table" && block.rows.length <= SHORT_TABLE);
    groups.push({ stack: [...heads, one], ...(short || block.kind === "plan" ? { unbreakable: true } : {}) });
    heads = [];
  });
  return heads.length > 0 ? [...groups, { stack: heads }] : groups;
}

/** The PDF of a handover document. */
export async function handoverPdf(
  document: HandoverDocument,
  pictures: Pictures,
  paper: "a4" | "letter",
): Promise<Buffer> {
  facesOf();
  const [width, height] = [WIDTH[paper], HEIGHT[paper]];
  const content = document.sections.map((section, at) => ({
    stack: drawnSection(section, pictures, width, height),
    ...(at > 0 ? { margin: [0, 14, 0, 0] } : {}),
    // The card is handed over by itself.
    ...(at > 0 && document.sections[at - 1]!.key === "card" ? { pageBreak: "before" } : {}),
  }));
  const when = new Date(`${document.date}T12:00:00Z`);
  const pdf = pdfmake.createPdf({
    pageSize: PAPER[paper],
    pageMargins: [MARGIN, MARGIN + 16, MARGIN, MARGIN + 6],
    info: { title: document.name, creator: "Chillbank", producer: "Chillbank", creationDate: when, modDate: when },
    defaultStyle: { font: "Text", fontSize: 10, color: INK, lineHeight: 1.12 },
    header: {
      columns: [
        { text: faced(document.name), bold: true },
        { text: faced(`revision ${document.revision}, ${document.date}`), alignment: "right", color: FADED },
      ],
      margin: [MARGIN, 26, MARGIN, 0],
      fontSize: 9,
    },
    footer: (page: number, pages: number) => ({
      columns: [
        { width: "*", text: faced(say("handover.estimateNotApprovalLocal")) },
        { width: 60, text: `${page} of ${pages}`, alignment: "right" },
      ],
      margin: [MARGIN, 8, MARGIN, 0],
      fontSize: 8,
      color: FADED,
    }),
    content,
  });
  return pdf.getBuffer();
}
