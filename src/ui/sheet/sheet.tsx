"use client";

import { App, Button, ConfigProvider } from "antd";
import dynamic from "next/dynamic";
import Link from "next/link";
import { usePathname, useRouter } from "next/navigation";
import { memo, useCallback, useEffect, useRef, useState } from "react";
import { AMERICAN, METRIC } from "@/core/units/dimension";
import type { Job } from "@/core/document/schema";
import { sameDesign } from "@/core/document/same-design";
import { mainsWords } from "../words";
import { OriginMark } from "../fields/origin-mark";
import { BriefStage } from "../stages/brief";
import { isStage, STAGES, type StageKey } from "../stages/stages";
import { useAutosave } from "../state/autosave";
import { SheetProvider, useReading, useSheet, useSheetStore } from "../state/sheet-context";
import { useKeptPage } from "../state/keep-page";
import { readJobFile } from "../state/job-file";
import { createSheetStore } from "../state/sheet-store";
import { replaceJob } from "../state/replace-job";
import { ConflictDialog } from "../frame/conflict-dialog";
import { GlossaryDialog } from "../frame/glossary-dialog";
import { HistoryDialog } from "../frame/history-dialog";
import { KeysDialog } from "../frame/keys-dialog";
import { ShelfNews } from "../shelf/shelf-news";
import { SaveNote } from "../frame/save-state";
import { StageRail } from "./stage-rail";
import { AccountMenu, useMay } from "../people/account";
import { ThemeChoice } from "../frame/theme-choice";
import { useKey } from "../frame/use-keys";
import { DayStrip } from "../pictures/day-strip";
import { ConditionsLine, StripLegend } from "../place/conditions-line";
import { VerdictBlock } from "../frame/verdict-block";
import { VerdictGlance } from "../frame/verdict-glance";
import { restoreJob } from "../state/server-calls";
import { say } from "@/core/messages/say";

const waiting = () => (
  <div className="stage" aria-busy="true">
    <p className="note stage-loading">{say("interface.loading")}</p>
  </div>
);
const STAGE_VIEWS: Record<StageKey, React.ComponentType> = {
  brief: memo(BriefStage),
  unit: memo(dynamic(() => import("../stages/unit").then((module) => module.UnitStage), { loading: waiting })),
  start: memo(dynamic(() => import("../stages/start").then((module) => module.StartStage), { loading: waiting })),
  wiring: memo(dynamic(() => import("../stages/wiring").then((module) => module.WiringStage), { loading: waiting })),
  bank: memo(dynamic(() => import("../stages/bank").then((module) => module.BankStage), { loading: waiting })),
  charging: memo(
    dynamic(() => import("../stages/charging").then((module) => module.ChargingStage), { loading: waiting }),
  ),
  day: memo(dynamic(() => import("../stages/day").then((module) => module.DayStage), { loading: waiting })),
  options: memo(dynamic(() => import("../stages/options").then((module) => module.OptionsStage), { loading: waiting })),
  "fault-finding": memo(
    dynamic(() => import("../stages/fault-finding").then((module) => module.FaultFindingStage), { loading: waiting }),
  ),
  handover: memo(
    dynamic(() => import("../stages/handover").then((module) => module.HandoverStage), { loading: waiting }),
  ),
  commissioning: memo(
    dynamic(() => import("../stages/commissioning").then((module) => module.CommissioningStage), { loading: waiting }),
  ),
  "test-run": memo(
    dynamic(() => import("../stages/test-run").then((module) => module.TestRunStage), { loading: waiting }),
  ),
};
const Inspector = dynamic(() => import("../frame/inspector").then((module) => module.Inspector));

/** Stages that are worked through at the system itself, by whoever may measure. */
const MEASURED: readonly StageKey[] = ["fault-finding", "commissioning", "test-run"];

interface Props {
  id: string;
  revision: number;
  job: Job;
}

/** One system, one sheet: head band, stages, worksheet and picture. */
export function Sheet(props: Props) {
  const mayDesign = useMay("design");
  const [store] = useState(() => createSheetStore(props, mayDesign ? undefined : sameDesign));
  return (
    <SheetProvider store={store}>
      <Frame id={props.id} />
    </SheetProvider>
  );
}

function Frame({ id }: { id: string }) {
  const { job, inspected } = useReading();
  const store = useSheetStore();
  const router = useRouter();
  const { notification, message } = App.useApp();
  const segment = usePathname().split("/").pop() ?? "";
  const stage: StageKey = isStage(segment) ? segment : "brief";
  const [keysShown, setKeysShown] = useState(false);
  const [glossaryShown, setGlossaryShown] = useState(false);
  const [historyShown, setHistoryShown] = useState(false);
  const recovered = useCallback(
    () =>
      notification.info({
        title: "Unsaved edits restored",
        description: say("interface.theyWereTypedBefore"),
        // It happens seldom and matters: it stays until it was read.
        duration: 0,
        placement: "bottomRight",
      }),
    [notification],
  );
  useAutosave(store, recovered);
  // Commissioning is worked through at the system, often without reception: it is kept as it was last saved.
  const savedRevision = useSheet(({ base }) => base.revision);
  useKeptPage(`/jobs/${id}/${stage}`, stage === "commissioning" ? savedRevision : null);

  const go = (to: StageKey) => window.history.pushState(null, "", `/jobs/${id}/${to}`);
  const undo = () => store.temporal.getState().undo();
  const redo = () => store.temporal.getState().redo();
  const metric = job.notation.temperature === "C";
  const nextUnits = () =>
    store.getState().put("notation", { ...(metric ? AMERICAN : METRIC), currency: job.notation.currency });
  useKey(STAGES.map(({ press }) => press).join(","), (event) => {
    const chosen = STAGES.find(({ press }) => press === event.key);
    if (chosen) go(chosen.key);
  });
  useKey("z", undo);
  useKey("shift+z", redo);
  useKey("mod+z", undo);
  useKey("mod+shift+z,mod+y", redo);
  useKey("u", nextUnits);
  useKey("?,shift+?", () => setKeysShown(true));
  useKey("/", () => router.push("/?find"));
  useKey("n", () => router.push("/?new"));

  const View = STAGE_VIEWS[stage];
  const head = useRef<HTMLElement>(null);
  // Hands off what the server would refuse: an apprentice measures and ticks off, an installer designs.
  const readOnly = !useMay("design") && !MEASURED.includes(stage);
  const refusals = useSheet(({ refusals }) => refusals);
  useEffect(() => {
    if (refusals > 0) void message.warning({ key: "read-only", content: say("server.people.measureOnly") }, 4);
  }, [refusals, message]);
  return (
    <div className="sheet">
      <header className="head" ref={head}>
        <div className="identity">
          <div className="crumb">
            <span>
              <Link href="/" className="brand">
                Chillbank
              </Link>{" "}
              / <Link href="/">Jobs</Link>
            </span>
            <SaveNote />
          </div>
          <h1 title={job.name}>{job.name}</h1>
          <Whereabouts />
        </div>
        {(["starts", "carries", "lasts", "recovers"] as const).map((name) => (
          <div key={name}>
            <VerdictBlock name={name} />
          </div>
        ))}
      </header>
      <VerdictGlance head={head} />
      <div className="under-head">
        <ConditionsLine />
        {readOnly && <span className="note">{say("interface.people.readOnly")}</span>}
        <StripLegend />
      </div>
      <DayStrip onOpen={() => go("day")} />
      <StageRail id={id} stage={stage} go={go} />
      <main className="stage-holder" style={{ minWidth: 0 }}>
        <ConfigProvider componentDisabled={readOnly}>
          <View />
        </ConfigProvider>
      </main>
      <footer className="foot">
        <button type="button" className="plain" onClick={undo}>
          <kbd>z</kbd> undo
        </button>
        <button type="button" className="plain" onClick={redo}>
          <kbd>Z</kbd> redo
        </button>
        <button type="button" className="plain" onClick={nextUnits}>
          <kbd>u</kbd> {metric ? "metric" : "American"} units
        </button>
        <button type="button" className="plain" onClick={() => setKeysShown(true)}>
          <kbd>?</kbd> keys
        </button>
        <button type="button" className="plain" onClick={() => setGlossaryShown(true)}>
          glossary
        </button>
        <button type="button" className="plain" onClick={() => setHistoryShown(true)}>
          history
        </button>
        <ThemeChoice />
        <AccountMenu />
        <a href={`/api/jobs/${id}/file`} download>
          Export file
        </a>
        <a href={`/api/jobs/${id}/whole`} download title="Design, test runs, files, photos and revisions in one file">
          Export whole
        </a>
        <ImportHere />
        <span className="legend push">
          <OriginMark origin="assumed" /> assumed
        </span>
        <span className="legend">
          <OriginMark origin="plate" /> plate or stated
        </span>
        <span className="legend">
          <OriginMark origin="measured" /> measured
        </span>
        <span>{say("interface.estimateNotApproval")}</span>
      </footer>
      {inspected.length > 0 && <Inspector />}
      <ConflictDialog />
      <GlossaryDialog open={glossaryShown} close={() => setGlossaryShown(false)} />
      <HistoryDialog id={id} open={historyShown} close={() => setHistoryShown(false)} />
      <KeysDialog open={keysShown} close={() => setKeysShown(false)} />
      <ShelfNews />
      <Gone />
    </div>
  );
}

/** The mains system. */
function Whereabouts() {
  const { job } = useReading();
  return <div className="note">{mainsWords(job.brief.mains)}</div>;
}

/** Puts a document of a job from a file in place of this one; undo brings the old one back. */
function ImportHere() {
  const store = useSheetStore();
  const { message } = App.useApp();
  const file = useRef<HTMLInputElement>(null);
  const load = async (chosen: File | undefined) => {
    if (!chosen) return;
    const read = await readJobFile(chosen);
    if (!read.ok) return void message.error(read.message, 8);
    replaceJob(store, read.job);
    void message.success("Imported in place of what was here; undo brings that back", 6);
  };
  return (
    <>
      <button type="button" className="plain" onClick={() => file.current?.click()}>
        Import file
      </button>
      <input
        ref={file}
        type="file"
        accept=".json,application/json"
        hidden
        aria-label="Job file to put in place of this one"
        onChange={(event) => {
          void load(event.target.files?.[0]);
          event.target.value = "";
        }}
      />
    </>
  );
}

/** The job was deleted elsewhere while this window had edits: offers to bring it back. */
function Gone() {
  const gone = useSheet((state) => state.save.kind === "gone");
  const store = useSheetStore();
  if (!gone) return null;
  const restore = async () => {
    const { id, job, setSave, base } = store.getState();
    // Where it could not be brought back, the next save says so again.
    await restoreJob(id).catch(() => null);
    setSave({ kind: "unsaved" });
    // A new document object makes the autosave look again.
    store.setState({ job: { ...job }, base });
  };
  return (
    <div
      role="alert"
      style={{
        position: "fixed",
        bottom: 44,
        right: 20,
        background: "var(--page)",
        border: "1px solid var(--heat)",
        padding: 12,
        zIndex: 20,
      }}
    >
      {say("interface.jobDeletedElsewhere")}{" "}
      <Button size="small" onClick={() => void restore()}>
        Bring it back and save
      </Button>
    </div>
  );
}
