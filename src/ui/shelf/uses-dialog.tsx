"use client";

import { App, Checkbox, Modal } from "antd";
import { useEffect, useState } from "react";
import type { Summary } from "@/core/assessment/verdicts/summary";
import { VerdictLine } from "../frame/verdict-line";
import { updateUsing, usesOf } from "./calls";
import { type ShelfPart, type UsingJob } from "@/contract/parts";

const VERDICTS = ["starts", "carries", "lasts", "recovers"] as const;

/** After a part has changed: the jobs that use it, what would change in them, and which to bring up to date. None is touched unasked. */
export function UsesDialog({ part, close }: { part: ShelfPart; close(): void }) {
  const { message } = App.useApp();
  const [jobs, setJobs] = useState<UsingJob[] | null>(null);
  const [chosen, setChosen] = useState<Set<string>>(new Set());
  const [working, setWorking] = useState(false);
  useEffect(() => {
    usesOf(part.id).then(
      (found) => {
        const stale = found.filter((job) => job.stale);
        if (stale.length === 0) close();
        else setJobs(stale);
      },
      (error: Error) => {
        void message.error(error.message);
        close();
      },
    );
    // Asked once for the part as it was saved.
    // oxlint-disable-next-line react/exhaustive-deps
  }, [part]);
  if (!jobs) return null;
  const update = async () => {
    setWorking(true);
    try {
      const updated = await updateUsing(
        part.id,
        jobs.filter(({ id }) => chosen.has(id)),
      );
      void message.success(
        updated.length === chosen.size
          ? `${updated.length} ${updated.length === 1 ? "job" : "jobs"} brought up to date`
          : `${updated.length} of ${chosen.size} brought up to date; the others were changed meanwhile`,
        6,
      );
      close();
    } catch (error) {
      void message.error((error as Error).message);
      setWorking(false);
    }
  };
  return (
    <Modal
      open
      title={`${jobs.length} ${jobs.length === 1 ? "job uses" : "jobs use"} “${part.entry.name}”`}
      okText="Bring the chosen up to date"
      cancelText="Leave them as they are"
      okButtonProps={{ disabled: chosen.size === 0 }}
      confirmLoading={working}
      onOk={() => void update()}
      onCancel={close}
      width={620}
    >
      <table className="values">
        <thead>
          <tr>
            <th>Job</th>
            {VERDICTS.map((name) => (
              <th key={name}>{name[0]!.toUpperCase() + name.slice(1)}</th>
            ))}
          </tr>
        </thead>
        <tbody>
          {jobs.map((job) => (
            <tr key={job.id}>
              <td>
                <Checkbox
                  checked={chosen.has(job.id)}
                  onChange={({ target }) =>
                    setChosen((before) => {
                      const after = new Set(before);
                      if (target.checked) after.add(job.id);
                      else after.delete(job.id);
                      return after;
                    })
                  }
                >
                  {job.name}
                </Checkbox>
              </td>
              {VERDICTS.map((name) => (
                <td key={name}>
                  <Turn now={job.now} then={job.then} name={name} />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </Modal>
  );
}

function Turn({ now, then, name }: { now: Summary; then: Summary; name: (typeof VERDICTS)[number] }) {
  if (now[name].word === then[name].word) return <VerdictLine word={now[name].word} />;
  return (
    <>
      <VerdictLine word={now[name].word} /> → <VerdictLine word={then[name].word} />
    </>
  );
}
