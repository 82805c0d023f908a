"use client";

import { Modal, Spin } from "antd";
import useSWR from "swr";
import { say } from "@/core/messages/say";
import { fetchHistory } from "../state/server-calls";
import { dateWords } from "../words";

const WHAT = {
  made: "made it",
  changed: "changed",
  deleted: "deleted it",
  restored: "brought it back",
  copied: "made it as a copy",
  imported: "made it from a file",
} as const;
/** Parts of a document as the stages call them. */
const PARTS: Record<string, string> = {
  name: "the name",
  notation: "the units",
  brief: "the brief",
  units: "the air conditioners",
  bank: "the battery",
  inverter: "the inverter",
  wiring: "the wiring",
  // As version 7 of the document had it.
  path: "the wiring",
  place: "the place",
  weather: "the weather",
  cabin: "the cabin",
  sources: "the charging",
  plan: "the plan of use",
  handover: "commissioning and handover",
  startAids: "start aids",
  cures: "start aids",
};
const listed = new Intl.ListFormat("en-GB");

/** Who changed what in a job, and when. */
export function HistoryDialog({ id, open, close }: { id: string; open: boolean; close: () => void }) {
  const { data, error } = useSWR(open ? ["history", id] : null, () => fetchHistory(id));
  return (
    <Modal open={open} onCancel={close} footer={null} title="History of this job" width={640}>
      {error && <p className="heat">{(error as Error).message}</p>}
      {!data && !error && <Spin />}
      {data?.length === 0 && <p>{say("interface.history.none")}</p>}
      <ol className="history">
        {data?.map(({ name, what, parts, revision, changedAt }, i) => (
          <li key={i}>
            <span className="note">{dateWords(changedAt)}</span> {name} {WHAT[what]}
            {what === "changed" && ` ${listed.format(parts.map((part) => PARTS[part] ?? part))}`}
            {revision !== null && <span className="note">, revision {revision}</span>}
          </li>
        ))}
      </ol>
    </Modal>
  );
}
