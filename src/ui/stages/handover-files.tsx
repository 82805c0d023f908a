"use client";

import { Button, Progress } from "antd";
import { useEffect, useRef, useState } from "react";
import { useSheet } from "../state/sheet-context";
import { Group } from "./parts";
import { say } from "@/core/messages/say";

type Making =
  | { kind: "idle" }
  | { kind: "making"; share: number; doing: string }
  | { kind: "made"; address: string; pages: number; bytes: number; revision: number }
  | { kind: "failed"; why: string };

type Told = { share: number; doing: string } | { pages: number; bytes: number; revision: number } | { error: string };

const NOT_SAVED = say("interface.soonWhatWasTyped");

/** The button that makes the print: how far it is while it is made, a stop, and where it is then. */
export function MakePdf() {
  const id = useSheet((state) => state.id);
  const paper = useSheet((state) => state.job.handover.document.paper);
  const saved = useSheet((state) => state.save.kind === "saved");
  const revision = useSheet((state) => state.base.revision);
  const [making, setMaking] = useState<Making>({ kind: "idle" });
  const source = useRef<EventSource | null>(null);
  const stop = () => {
    source.current?.close();
    source.current = null;
  };
  useEffect(() => stop, []);
  const make = () => {
    stop();
    const address = `/api/jobs/${id}/handover?paper=${paper}`;
    setMaking({ kind: "making", share: 0, doing: "Verdicts" });
    const events = new EventSource(`/api/jobs/${id}/handover/progress?paper=${paper}`);
    source.current = events;
    events.onmessage = ({ data }: MessageEvent<string>) => {
      const told = JSON.parse(data) as Told;
      if ("share" in told) return setMaking({ kind: "making", ...told });
      stop();
      if ("error" in told) return setMaking({ kind: "failed", why: told.error });
      setMaking({ kind: "made", address, ...told });
      window.open(address, "_blank", "noopener");
    };
    // It is not tried again by itself: a second making would only follow the first.
    events.onerror = () => {
      stop();
      setMaking({ kind: "failed", why: say("interface.serverDidNotAnswer") });
    };
  };
  const current = making.kind !== "made" || making.revision === revision;
  return (
    <>
      <p className="buttons">
        <Button type="primary" onClick={make} disabled={!saved || making.kind === "making"}>
          Make the PDF
        </Button>
        {making.kind === "making" && (
          <Button
            onClick={() => {
              stop();
              setMaking({ kind: "idle" });
            }}
          >
            Stop
          </Button>
        )}
        {making.kind === "made" && current && (
          <a href={making.address} target="_blank" rel="noreferrer">
            Open it
          </a>
        )}
      </p>
      <div className="handover-making" role="status" aria-live="polite">
        {making.kind === "making" && (
          <>
            <Progress percent={Math.round(100 * making.share)} size="small" aria-label="Making the PDF" />
            <span className="note">{making.doing} …</span>
          </>
        )}
        {making.kind === "made" && (
          <span className="note">
            {current
              ? say("interface.pagesKbRevision", {
                  pages: making.pages,
                  bytes: Math.ceil(making.bytes / 1000),
                  revision: making.revision,
                })
              : say("interface.madeRevisionJobHas", { revision: making.revision })}
          </span>
        )}
        {making.kind === "failed" && <span className="heat">{making.why}</span>}
        {!saved && <span className="note">{NOT_SAVED}</span>}
      </div>
    </>
  );
}

/** What leaves beside the print: parts, calendar, the whole job. */
export function HandoverFiles() {
  const id = useSheet((state) => state.id);
  const saved = useSheet((state) => state.save.kind === "saved");
  const file = (path: string, label: string, note: string) => (
    <p className="handover-file">
      <Button size="small" href={`/api/jobs/${id}/${path}`} disabled={!saved}>
        {label}
      </Button>{" "}
      <span className="note">{note}</span>
    </p>
  );
  return (
    <Group title="Files" note={saved ? undefined : NOT_SAVED}>
      {file("parts", "Parts, CSV", "for the order")}
      {file("parts?as=xlsx", "Parts, XLSX", "the same as a workbook")}
      {file("calendar", "Follow-ups, ICS", "re-torque, filters, annual run, for any calendar")}
      {file("whole", "Whole job, ZIP", "design, test runs, files, photos, revisions: for another Chillbank")}
    </Group>
  );
}
