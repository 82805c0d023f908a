"use client";

import { Checkbox, Input, Segmented } from "antd";
import { useMemo } from "react";
import { singleLineDiagram } from "@/core/applications/diagram/single-line-diagram";
import { LOCKED, SECTIONS, type Block, type MeasuredRun, type SectionKey } from "@/core/applications/handover/document";
import type { Job } from "@/core/document/schema";
import { DiagramDrawing } from "../pictures/diagram-drawing";
import { useInsight } from "../state/insight";
import { DateInput } from "../fields/date-input";
import { useReading, useSheet } from "../state/sheet-context";
import { usePhotos } from "../state/use-photos";
import { fetchTestRuns } from "../state/test-run-calls";
import { MakePdf, HandoverFiles } from "./handover-files";
import { CustomerLinks } from "./handover-links";
import { Group, StageFrame } from "./parts";
import { useServerData } from "../state/server-data";
import type { ListedTestRun } from "@/contract/test-runs";

const NO_RUNS: MeasuredRun[] = [];
type DocumentWords = Job["handover"]["document"];

/** What is handed over: chosen at the left, as it will print at the right. */
export function HandoverStage() {
  const { job } = useReading();
  const id = useSheet((state) => state.id);
  const put = useSheet((state) => state.put);
  const endSession = useSheet((state) => state.endSession);
  const revision = useSheet((state) => state.base.revision);
  const { document: paper } = job.handover;
  const runs = useRuns(id);
  const { answer: sections, stale } = useInsight("handover", runs);
  const write = <K extends keyof DocumentWords>(key: K, value: DocumentWords[K], session?: string) =>
    put(`handover.document.${key}`, value, session);
  const words = (key: "switches" | "advice" | "signedBy", label: string, longest: number, hint: string) => (
    <label className="stacked">
      <span className="note">{label}</span>
      <Input.TextArea
        value={paper[key]}
        maxLength={longest}
        placeholder={hint}
        autoSize={{ minRows: key === "signedBy" ? 1 : 2, maxRows: 6 }}
        onChange={({ target }) => write(key, target.value, `paper.${key}`)}
        onBlur={endSession}
      />
    </label>
  );
  return (
    <StageFrame
      worksheet={
        <>
          <Group title="Document" note={`revision ${revision}`}>
            <MakePdf />
            <Segmented<DocumentWords["paper"]>
              aria-label="Paper"
              size="small"
              value={paper.paper}
              options={[
                { value: "a4", label: "A4" },
                { value: "letter", label: "Letter" },
              ]}
              onChange={(paper) => write("paper", paper)}
            />
          </Group>
          <HandoverFiles />
          <CustomerLinks />
          <Group title="What goes in">
            {(Object.keys(SECTIONS) as SectionKey[]).map((key) => (
              <p key={key} className="handover-choice">
                <Checkbox
                  checked={LOCKED.includes(key) || !paper.leaveOut.includes(key)}
                  disabled={LOCKED.includes(key)}
                  onChange={({ target }) =>
                    write(
                      "leaveOut",
                      target.checked ? paper.leaveOut.filter((one) => one !== key) : [...paper.leaveOut, key],
                    )
                  }
                >
                  {SECTIONS[key]}
                  {LOCKED.includes(key) && <span className="note"> always</span>}
                </Checkbox>
              </p>
            ))}
          </Group>
          <Group title="In your words">
            {words(
              "switches",
              "Where the switches are",
              600,
              "Battery isolator under the left bench, inverter switch …",
            )}
            {words("advice", "Advice beside the card", 1200, "What you agreed for this system")}
            {words("signedBy", "Installer", 80, "Name, licence")}
            <label className="stacked">
              <span className="note">Signed on</span>
              <DateInput optional value={paper.signedOn} onValue={(date) => write("signedOn", date)} />
            </label>
          </Group>
        </>
      }
      picture={
        sections ? (
          <article
            className="handover-sheet"
            data-stale={stale ? "" : undefined}
            aria-label="The document as it will print"
          >
            {sections.map(({ key, title, blocks }) => (
              <section key={key} data-section={key}>
                <h2>{title}</h2>
                {blocks.map((block, at) => (
                  <BlockView key={at} block={block} />
                ))}
              </section>
            ))}
          </article>
        ) : (
          <p className="note" aria-busy="true">
            Simulating mild, typical and hot days for the card
          </p>
        )
      }
    />
  );
}

/** Test runs of the job, as a handover document tells them; none while they cannot be read, which the print is not held up by. */
function useRuns(id: string): MeasuredRun[] {
  return useServerData<ListedTestRun[]>(["test-runs", id], () => fetchTestRuns(id)).data ?? NO_RUNS;
}

function BlockView({ block }: { block: Block }) {
  switch (block.kind) {
    case "text":
      return <p className={block.small ? "note" : undefined}>{block.text}</p>;
    case "heading":
      return <h3>{block.text}</h3>;
    case "list":
      return (
        <ul className={`handover-list ${block.mark}`}>
          {block.items.map((item) => (
            <li key={item}>{item}</li>
          ))}
        </ul>
      );
    case "table":
      return (
        <div className="wide">
          <table className="values">
            {block.head.some((word) => word !== "") && (
              <thead>
                <tr>
                  {block.head.map((word, at) => (
                    <th key={at} className={block.right.includes(at) ? "right" : undefined}>
                      {word}
                    </th>
                  ))}
                </tr>
              </thead>
            )}
            <tbody>
              {block.rows.map((row, i) => (
                <tr key={i}>
                  {row.map((cell, at) => (
                    <td key={at} className={block.right.includes(at) ? "mono right" : undefined}>
                      {cell}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      );
    case "photos":
      return <HandedPhotos photos={block.photos} />;
    case "plan":
      return <PackPlan />;
    case "working":
      return <pre className="handover-working">{block.text}</pre>;
  }
}

/** Photos of steps, each over what it is of. */
function HandedPhotos({ photos }: Pick<Extract<Block, { kind: "photos" }>, "photos">) {
  const kept = usePhotos(useSheet((state) => state.id));
  return (
    <ul className="handed-photos">
      {photos.map(({ id, caption }) => (
        <li key={id}>
          <img src={kept.of(id).small} alt={caption} loading="lazy" />
          <span className="note">{caption}</span>
        </li>
      ))}
    </ul>
  );
}

function PackPlan() {
  const { job, assessment } = useReading();
  const diagram = useMemo(() => singleLineDiagram(job, assessment), [job, assessment]);
  return (
    <div className="wide">
      <DiagramDrawing plan={diagram} title={job.name} onPart={() => {}} />
    </div>
  );
}
