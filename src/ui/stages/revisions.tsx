"use client";

import { App, Button, Input, Modal } from "antd";
import { useCallback, useState } from "react";
import { compareJobs } from "@/core/document/compare";
import { type ListedRevision } from "@/contract/revisions";
import type { Job } from "@/core/document/schema";
import { labelOfPath } from "@/core/document/labels";
import { assess } from "@/core/assessment/verdicts/assess";
import { MarkedWord } from "../frame/word-mark";
import { valueWords } from "../frame/value-words";
import { fetchRevision, fetchRevisions, nameRevision, setRevisionDeleted } from "../state/options-calls";
import { replaceJob } from "../state/replace-job";
import { useReading, useSheet, useSheetStore, useVerdict } from "../state/sheet-context";
import { say } from "@/core/messages/say";
import { v4 as uuid } from "uuid";
import { useServerData } from "../state/server-data";

const VERDICTS = ["starts", "carries", "lasts", "recovers"] as const;
const dateWords = (ms: number) =>
  new Intl.DateTimeFormat("en-GB", { dateStyle: "medium", timeStyle: "short" }).format(new Date(ms));

/** States of the job that were given a name: kept, compared field by field and verdict by verdict, restored. */
export function Revisions() {
  const { job } = useReading();
  const store = useSheetStore();
  const id = useSheet((state) => state.id);
  const { message } = App.useApp();
  const { data: list, fault, mutate } = useServerData<ListedRevision[]>(["revisions", id], () => fetchRevisions(id));
  const [name, setName] = useState("");
  const [promise, setPromise] = useState("");
  const [shown, setShown] = useState<{ of: ListedRevision; job: Job } | null>(null);
  const fail = useCallback((error: unknown) => void message.error((error as Error).message), [message]);
  const keep = async () => {
    try {
      await mutate(nameRevision(id, { id: uuid(), name: name.trim(), promise: promise.trim() }, job), false);
      setName("");
      setPromise("");
    } catch (error) {
      fail(error);
    }
  };
  const open = (of: ListedRevision) =>
    void fetchRevision(id, of.id).then((found) => setShown({ of, job: found }), fail);
  const drop = async (of: ListedRevision) => {
    try {
      await setRevisionDeleted(id, of.id, true);
      await mutate();
      void message.info({
        content: (
          <>
            {say("interface.revisionRemoved", { name: of.name })}{" "}
            <Button
              size="small"
              type="link"
              onClick={() => void setRevisionDeleted(id, of.id, false).then(() => mutate(), fail)}
            >
              Restore
            </Button>
          </>
        ),
        duration: 8,
      });
    } catch (error) {
      fail(error);
    }
  };
  return (
    <div className="revisions">
      {fault && <p className="problem">{fault.message}</p>}
      <Input
        size="small"
        aria-label="Name of this revision"
        placeholder="Name of this revision: as quoted"
        value={name}
        maxLength={120}
        onChange={(event) => setName(event.target.value)}
      />
      <Input
        size="small"
        aria-label="What was promised with it"
        placeholder="What was promised with it"
        value={promise}
        maxLength={2000}
        onChange={(event) => setPromise(event.target.value)}
        onPressEnter={() => name.trim() && void keep()}
      />
      <Button size="small" disabled={!name.trim()} onClick={() => void keep()}>
        Save revision
      </Button>
      {list?.length === 0 && <p className="note">{say("interface.noneYetGiveState")}</p>}
      <ul aria-label="Revisions">
        {list?.map((revision) => (
          <li key={revision.id}>
            <button type="button" className="plain" onClick={() => open(revision)}>
              {revision.name}
            </button>
            <div className="note">
              {dateWords(revision.createdMs)}
              {revision.promise && ` · promised: ${revision.promise}`}
            </div>
            <div className="note">
              {VERDICTS.map((verdict) => (
                <span key={verdict} className="revision-word">
                  {verdict} <MarkedWord word={revision.summary[verdict].word} />
                </span>
              ))}
              <button
                type="button"
                className="plain"
                aria-label={`Remove ${revision.name} from the list`}
                onClick={() => void drop(revision)}
              >
                ×
              </button>
            </div>
          </li>
        ))}
      </ul>
      {shown && (
        <Compared
          shown={shown}
          close={() => setShown(null)}
          restore={() => {
            replaceJob(store, shown.job, true);
            setShown(null);
            void message.success(say("interface.restoredUndoBringsBack"));
          }}
        />
      )}
    </div>
  );
}

interface ComparedProps {
  shown: { of: ListedRevision; job: Job };
  close(): void;
  restore(): void;
}

function Compared({ shown, close, restore }: ComparedProps) {
  const { job, assessment } = useReading();
  const [lasts, recovers] = [useVerdict("lasts"), useVerdict("recovers")];
  const changes = compareJobs(shown.job, job);
  const then = assess(shown.job);
  const now = { ...assessment.verdicts, lasts, recovers };
  return (
    <Modal
      open
      width={820}
      title={`“${shown.of.name}” compared with the job now`}
      onCancel={close}
      footer={[
        <Button key="close" onClick={close}>
          Close
        </Button>,
        <Button key="restore" type="primary" disabled={changes.length === 0} onClick={restore}>
          Restore it
        </Button>,
      ]}
    >
      <table className="values">
        <thead>
          <tr>
            <th>Verdict</th>
            <th>Then</th>
            <th>Now</th>
          </tr>
        </thead>
        <tbody>
          {VERDICTS.map((verdict) => (
            <tr key={verdict}>
              <td>{verdict[0]!.toUpperCase() + verdict.slice(1)}</td>
              <td>
                <MarkedWord word={shown.of.summary[verdict].word} />{" "}
                <span className="note">
                  {verdict === "starts" || verdict === "carries"
                    ? then.verdicts[verdict].decides.name
                    : shown.of.summary[verdict].decides}
                </span>
              </td>
              <td>
                {now[verdict] && <MarkedWord word={now[verdict].word} />}{" "}
                <span className="note">{now[verdict]?.decides.name}</span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {changes.length === 0 ? (
        <p>Nothing differs.</p>
      ) : (
        <table className="values" data-changes={changes.length}>
          <thead>
            <tr>
              <th>{changes.length} differences</th>
              <th>Then</th>
              <th>Now</th>
            </tr>
          </thead>
          <tbody>
            {changes.slice(0, 200).map(({ path, before, after }) => (
              <tr key={path}>
                <td>{labelOfPath(job, path)}</td>
                <td>{valueWords(before, path, shown.job)}</td>
                <td>{valueWords(after, path, job)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Modal>
  );
}
