import type { CustomerPage } from "../../core/applications/handover/customer-page";
import type { Block } from "../../core/applications/handover/document";

const escaped = (text: string) => text.replace(/[&<>"']/g, (mark) => `&#${mark.charCodeAt(0)};`);

const STYLE = `body{margin:0 auto;max-width:640px;padding:16px;background:#faf8f2;color:#14242e;font:16px/1.45 system-ui,sans-serif}
h1{font-size:22px;margin:0}h2{font-size:19px;border-top:1px solid #14242e;padding-top:12px;margin:26px 0 6px}h3{font-size:16px;margin:16px 0 4px}
p{margin:4px 0}.note{color:#5b6a70;font-size:13px}table{border-collapse:collapse;width:100%;font-size:14px}td,th{padding:5px 6px 5px 0;border-bottom:1px solid #ded8c8;text-align:right;font-weight:400}
th{color:#5b6a70;font-size:12px}td:first-child,th:first-child{text-align:left}ul{margin:0;padding-left:20px}.stop{color:#9e3a26;font-weight:700}.wide{overflow-x:auto}
@media(prefers-color-scheme:dark){body{background:#14242e;color:#f2efe6}h2{border-color:#f2efe6}.note,th{color:#aab4b8}td,th{border-color:#34434c}.stop{color:#e58a72}}
@media print{body{background:#fff;color:#000}}`;

function tableOf(head: readonly string[], rows: readonly (readonly string[])[]): string {
  const cells = (row: readonly string[], tag: string) =>
    row.map((cell) => `<${tag}>${escaped(cell)}</${tag}>`).join("");
  const headed = head.some((word) => word !== "") ? `<thead><tr>${cells(head, "th")}</tr></thead>` : "";
  return `<div class="wide"><table>${headed}<tbody>${rows.map((row) => `<tr>${cells(row, "td")}</tr>`).join("")}</tbody></table></div>`;
}

function blockOf(block: Block): string {
  switch (block.kind) {
    case "text":
      return `<p${block.small ? ' class="note"' : ""}>${escaped(block.text)}</p>`;
    case "heading":
      return `<h3>${escaped(block.text)}</h3>`;
    case "list":
      return `<ul class="${block.mark}">${block.items.map((item) => `<li>${escaped(item)}</li>`).join("")}</ul>`;
    case "table":
      return tableOf(block.head, block.rows);
    // Neither the diagram nor a working is the customer's, nor a photo that the installer took for the record.
    case "photos":
    case "plan":
    case "working":
      return "";
  }
}

const document = (title: string, body: string) =>
  `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1"><meta name="robots" content="noindex,nofollow"><title>${escaped(title)}</title><style>${STYLE}</style></head><body><main>${body}</main></body></html>`;

/** A customer's page as one HTML text without any script: light on a phone, nothing to be driven by. */
export function customerHtml({ name, revision, date, sections, map }: CustomerPage): string {
  const parts = sections.map(({ title, blocks, key }) => {
    const own = `<section data-section="${key}"><h2>${escaped(title)}</h2>${blocks.map(blockOf).join("")}</section>`;
    const after = key === "card" ? mapOf(map) : "";
    return own + after;
  });
  return document(
    name,
    `<h1>${escaped(name)}</h1><p class="note">As of ${escaped(date)}, revision ${revision}. Estimates, not a guarantee.</p>${parts.join("")}`,
  );
}

const mapOf = ({ head, rows }: CustomerPage["map"]) =>
  `<section data-section="map"><h2>How long, by heat and set point</h2><p class="note">Run time from the planned hour of switching on to the battery’s reserve. Each row is a highest outdoor temperature, each column a set point.</p>${tableOf(head, rows)}</section>`;

/** What is said where a link opens nothing: the same for every reason. */
export const NO_PAGE = document(
  "No such page",
  "<h1>No such page</h1><p>This link has run out, was withdrawn, or was never given. Ask your installer for a new one.</p>",
);
