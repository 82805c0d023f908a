"use client";

import { App, Button, Input, Modal, type InputRef } from "antd";
import { CopyOutlined, DeleteOutlined, DownloadOutlined, ImportOutlined, PlusOutlined } from "@ant-design/icons";
import Link from "next/link";
import { useRouter, useSearchParams } from "next/navigation";
import { Suspense, useEffect, useRef, useState, useTransition } from "react";
import { formatNeedsHas } from "@/core/units/format";
import type { UnitPreferences } from "@/core/units/dimension";
import { newJob, type Job, usesAwg } from "@/core/document/schema";
import { MAINS_KEYS, MAINS_SYSTEMS } from "@/core/reference/standards/mains";
import type { Summary, SummaryLine } from "@/core/assessment/verdicts/summary";
import { AccountMenu } from "../people/account";
import { ThemeChoice } from "../frame/theme-choice";
import { FirstSteps } from "./first-steps";
import { MarginBar } from "../frame/margin-bar";
import { WithUnits } from "../frame/with-units";
import { WordMark } from "../frame/word-mark";
import { useKey } from "../frame/use-keys";
import { importJobFile, isJobFile, readJobFile } from "../state/job-file";
import { deleteJob, duplicateJob, makeJob, restoreJob } from "../state/server-calls";
import { say } from "@/core/messages/say";

interface JobRow {
  id: string;
  name: string;
  place: string;
  notation: UnitPreferences;
  summary: Summary | null;
  updatedAt: string;
}

interface Props {
  jobs: JobRow[];
  /** Jobs of this page whose rows cannot be read: named beside the list. */
  unreadable: { id: string; name: string }[];
  query: string;
  page: number;
  pages: number;
  total: number;
  /** Whether the first steps are shown: they have not been put away in this browser. */
  firstSteps: boolean;
}

const UNDO_SECONDS = 12;
/** How often the list asks again while verdicts are being worked out, ms. */
const PENDING_MS = 1500;

/** All jobs with their verdicts: find, new, import, duplicate, delete with a way back. */
export function JobList(props: Props) {
  return (
    <Suspense>
      <List {...props} />
    </Suspense>
  );
}

function List({ jobs, unreadable, query, page, pages, total, firstSteps }: Props) {
  const router = useRouter();
  const parameters = useSearchParams();
  const { message, notification } = App.useApp();
  const [text, setText] = useState(query);
  const [naming, setNaming] = useState(false);
  const [searching, startSearch] = useTransition();
  const find = useRef<InputRef>(null);
  const file = useRef<HTMLInputElement>(null);

  useEffect(() => {
    // After the page is awake: a dialog is no part of what the server sends.
    if (parameters.has("find")) find.current?.focus();
    if (parameters.has("new")) setNaming(true);
  }, [parameters]);
  useEffect(() => {
    if (text === query) return;
    const wait = setTimeout(
      () => startSearch(() => router.replace(text.trim() ? `/?q=${encodeURIComponent(text.trim())}` : "/")),
      250,
    );
    return () => clearTimeout(wait);
  }, [text, query, router]);
  const pending = jobs.some(({ summary }) => !summary);
  useEffect(() => {
    if (!pending) return;
    const again = setInterval(() => router.refresh(), PENDING_MS);
    return () => clearInterval(again);
  }, [pending, router]);
  useKey("/", () => find.current?.focus());
  useKey("n", () => setNaming(true));

  const attempt = async (what: () => Promise<void>) => {
    try {
      await what();
    } catch (error) {
      void message.error((error as Error).message, 6);
    }
  };
  const remove = (job: JobRow) =>
    attempt(async () => {
      await deleteJob(job.id);
      router.refresh();
      const key = `deleted-${job.id}`;
      const restore = () =>
        attempt(async () => {
          await restoreJob(job.id);
          notification.destroy(key);
          router.refresh();
        });
      notification.open({
        key,
        title: `Deleted “${job.name}”`,
        placement: "bottomRight",
        duration: UNDO_SECONDS,
        actions: (
          <Button type="primary" size="small" onClick={() => void restore()}>
            Undo
          </Button>
        ),
      });
    });
  const duplicate = (job: JobRow) =>
    attempt(async () => {
      await duplicateJob(job.id);
      router.refresh();
    });
  const load = (chosen: File | undefined) =>
    attempt(async () => {
      if (!chosen) return;
      if (isJobFile(chosen)) {
        const key = "whole-job";
        void message.open({ key, type: "loading", content: `Reading ${chosen.name} …`, duration: 0 });
        const { id, name } = await importJobFile(chosen).finally(() => message.destroy(key));
        void message.success(`“${name}” is here, with all that came with it`, 6);
        router.push(`/jobs/${id}/brief`);
        return;
      }
      const read = await readJobFile(chosen);
      if (!read.ok) throw new Error(read.message);
      const id = await makeJob(read.job);
      router.push(`/jobs/${id}/brief`);
    });

  return (
    <main className="page">
      <header className="page-head">
        <h1>
          Chillbank <span className="note">jobs</span>
        </h1>
        <Link href="/quick">Two-minute answer</Link>
        <Link href="/parts">Parts shelf</Link>
        <AccountMenu />
        <Input
          ref={find}
          allowClear
          aria-label="Find a job"
          placeholder="Find by name, place or words  ( / )"
          value={text}
          maxLength={200}
          onChange={(event) => setText(event.target.value)}
          style={{ width: 280 }}
        />
        <Button
          icon={<ImportOutlined />}
          title="A job file (JSON) or a whole job (ZIP)"
          onClick={() => file.current?.click()}
        >
          Import
        </Button>
        <input
          ref={file}
          type="file"
          accept=".json,.zip,application/json,application/zip"
          hidden
          aria-label="Job file or whole job to import"
          onChange={(event) => {
            void load(event.target.files?.[0]);
            event.target.value = "";
          }}
        />
        <Button type="primary" icon={<PlusOutlined />} onClick={() => setNaming(true)}>
          New job
        </Button>
      </header>
      <FirstSteps shown={firstSteps} />
      {unreadable.length > 0 && (
        <p className="problem note" role="alert">
          {say("interface.jobs.unreadable", { names: unreadable.map(({ name }) => name).join(", ") })}
        </p>
      )}

      {jobs.length === 0 ? (
        <div className="empty">
          {query ? (
            <>
              <p>No job matches “{query}”.</p>
              <Button onClick={() => setText("")}>Show all</Button>
            </>
          ) : (
            <>
              <p className="sentence" style={{ margin: "0 auto 14px" }}>
                {say("interface.noJobsYetCreate")}
              </p>
              <Button type="primary" onClick={() => setNaming(true)}>
                New job
              </Button>{" "}
              <Link href="/quick">Two-minute answer</Link>
            </>
          )}
        </div>
      ) : (
        <table className="jobs" aria-busy={searching}>
          <thead>
            <tr>
              <th style={{ width: "21%" }}>Job</th>
              <th>Starts</th>
              <th>Carries</th>
              <th>Lasts</th>
              <th>Recovers</th>
              <th style={{ width: 104 }}>
                <span className="spoken">Actions</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {jobs.map((job) => (
              <tr key={job.id}>
                <td className="name">
                  <Link href={`/jobs/${job.id}/brief`}>{job.name}</Link>
                  <div className="note">
                    {job.place || "no place yet"} · <Changed at={job.updatedAt} />
                  </div>
                </td>
                {(["starts", "carries", "lasts", "recovers"] as const).map((key) => (
                  <td key={key} className="v">
                    {job.summary ? <Line line={job.summary[key]} notation={job.notation} /> : <Pending />}
                  </td>
                ))}
                <td>
                  <div className="job-tools">
                    <Button
                      type="text"
                      size="small"
                      icon={<CopyOutlined />}
                      aria-label={`Duplicate ${job.name}`}
                      title="Duplicate"
                      onClick={() => void duplicate(job)}
                    />
                    <Button
                      type="text"
                      size="small"
                      icon={<DownloadOutlined />}
                      aria-label={`Export ${job.name} whole`}
                      title="Whole job, ZIP"
                      onClick={() => window.location.assign(`/api/jobs/${job.id}/whole`)}
                    />
                    <Button
                      type="text"
                      size="small"
                      icon={<DeleteOutlined />}
                      aria-label={`Delete ${job.name}`}
                      title="Delete"
                      onClick={() => void remove(job)}
                    />
                  </div>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <nav className="pager" aria-label="Pages">
        <span className="note">
          {total === 1 ? "1 job" : `${total.toLocaleString("en")} jobs`}
          {query ? ` with “${query}”` : ""}
        </span>
        {pages > 1 && (
          <>
            {page > 1 ? <Link href={pageLink(query, page - 1)}>Newer</Link> : <span className="note">Newer</span>}
            <span className="note">
              page {page} of {pages}
            </span>
            {page < pages ? <Link href={pageLink(query, page + 1)}>Older</Link> : <span className="note">Older</span>}
          </>
        )}
      </nav>
      <p className="note">
        {say("interface.estimatesNotApproval")} <ThemeChoice /> <Link href="/deleted">Deleted jobs</Link>
      </p>
      <NewJob
        open={naming}
        close={() => setNaming(false)}
        made={(id) => router.push(`/jobs/${id}/brief`)}
        attempt={attempt}
      />
    </main>
  );
}

/** Where a verdict is still being worked out. */
const Pending = () => (
  <span className="note" data-pending>
    being worked out
  </span>
);

function pageLink(query: string, page: number): string {
  return `/?${new URLSearchParams({ ...(query ? { q: query } : {}), page: String(page) }).toString()}`;
}

function Line({ line, notation }: { line: SummaryLine; notation: UnitPreferences }) {
  // What is known without a place is of no place, and is shown no more than on the sheet.
  const open = line.word === "Choose a place";
  return (
    <>
      <div className="job-word">
        <WordMark word={line.word} size={12} /> {line.word}
        <span className="mono note">{!open && <WithUnits text={formatNeedsHas(line, notation)} />}</span>
      </div>
      {!open && (
        <>
          <MarginBar need={line.need} has={line.has} word={line.word} />
          <div className="note">{line.decides.charAt(0).toUpperCase() + line.decides.slice(1)}</div>
        </>
      )}
    </>
  );
}

/** When a job was last changed, in the reader's own zone, settled after the page is there. */
function Changed({ at }: { at: string }) {
  const [text, setText] = useState(at.slice(0, 10));
  useEffect(
    () =>
      setText(
        new Date(at).toLocaleString("en-GB", { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" }),
      ),
    [at],
  );
  return <time dateTime={at}>{text}</time>;
}

interface NewJobProps {
  open: boolean;
  close: () => void;
  made: (id: string) => void;
  attempt: (what: () => Promise<void>) => Promise<void>;
}

function NewJob({ open, close, made, attempt }: NewJobProps) {
  const [name, setName] = useState("");
  const [mains, setMains] = useState<Job["brief"]["mains"]>("230V50Hz");
  const [busy, setBusy] = useState(false);
  const first = useRef<InputRef>(null);
  const make = () => {
    if (!name.trim() || busy) return;
    setBusy(true);
    void attempt(async () => made(await makeJob(newJob(name.trim(), mains)))).finally(() => setBusy(false));
  };
  return (
    <Modal
      open={open}
      title="New job"
      okText="Open job"
      onOk={make}
      okButtonProps={{ disabled: !name.trim(), loading: busy }}
      onCancel={close}
      afterOpenChange={(open) => open && first.current?.focus()}
      destroyOnHidden
      width={440}
    >
      <label className="field-label" htmlFor="new-name">
        Customer or name of the system
      </label>
      <Input
        id="new-name"
        ref={first}
        maxLength={120}
        value={name}
        onChange={(event) => setName(event.target.value)}
        onPressEnter={make}
      />
      <fieldset style={{ border: 0, padding: 0, margin: "12px 0 0" }}>
        <legend className="field-label">Mains system; units follow it</legend>
        {MAINS_KEYS.map((value) => (
          <label key={value} style={{ display: "block", padding: "2px 0" }}>
            <input type="radio" name="mains" checked={mains === value} onChange={() => setMains(value)} />{" "}
            {MAINS_SYSTEMS[value].label}, {usesAwg(value) ? "American units" : "metric"}
          </label>
        ))}
      </fieldset>
    </Modal>
  );
}
