"use client";

import { App, Button, Dropdown, Input, Modal, Progress, Select } from "antd";
import dynamic from "next/dynamic";
import { useEffect, useMemo, useState } from "react";
import { offsetAt } from "@/core/units/clock";
import { formatQuantity, significant } from "@/core/units/format";
import { timeZoneOfJob } from "@/core/document/place";
import type { TestRunView } from "@/core/applications/test-run/report/view";
import { TestRunPlot } from "../pictures/test-run-plot";
import { useReading, useSheet } from "../state/sheet-context";
import { useTestRunDesk } from "../state/test-run";
import {
  changeTestRun,
  deleteTestRun,
  fetchTestRun,
  fetchTestRuns,
  restoreTestRun,
  startTestRun,
} from "../state/test-run-calls";
import { type ListedTestRun, type TestRunDetail } from "@/contract/test-runs";
import { Caution, Group } from "./parts";
import {
  ChargedList,
  FoundList,
  HandList,
  LogTables,
  RepairList,
  StartsTable,
  wallClock,
  wallMoment,
} from "./test-run-parts";
import { ReadingEntry, ReadingList } from "./test-run-readings";
import { ReachLine } from "./test-run-reach";
import { SettingsPanel } from "./test-run-settings";
import { momentOfRun } from "./test-run-moment";
import { flush } from "../state/outbox";
import { NOTHING_SAID } from "@/core/applications/test-run/site/conditions";
import { forecastInWords } from "./test-run-words";
import { conditionsInWords, RunConditionsForm } from "./run-conditions";
import { SharedAddress } from "../people/shared-address";
import { say } from "@/core/messages/say";
import { v4 as uuid } from "uuid";
import { useServerData } from "../state/server-data";

const ImportLog = dynamic(() => import("./test-run-import").then((module) => module.ImportLog));
const InstrumentPanel = dynamic(() => import("./test-run-instrument").then((module) => module.InstrumentPanel));
const RunOverlay = dynamic(() => import("./test-run-overlay").then((module) => module.RunOverlay));
const RecordView = dynamic(() => import("./test-run-record").then((module) => module.RecordView));

/** The measured run: readings and what they say at the left; the strip, the forecast and the record at the right. */
export function TestRunStage() {
  const jobId = useSheet((state) => state.id);
  const job = useSheet((state) => state.job);
  const { message } = App.useApp();
  const { data: testRuns, fault, mutate } = useServerData(["test-runs", jobId], () => fetchTestRuns(jobId));
  // Undefined until one is chosen: the last of them then.
  const [choice, setChosen] = useState<string | null | undefined>(undefined);
  const chosen = choice === undefined ? (testRuns?.[0]?.id ?? null) : choice;
  const begin = async () => {
    try {
      const made = await startTestRun(jobId, `Test run ${(testRuns?.length ?? 0) + 1}`, uuid());
      await mutate();
      setChosen(made.id);
    } catch (error) {
      void message.error((error as Error).message);
    }
  };
  if (fault && !testRuns)
    return (
      <div className="stage">
        <div className="worksheet">
          <p className="problem">{fault.message}</p>
          <Button size="small" onClick={() => void mutate()}>
            Try again
          </Button>
        </div>
      </div>
    );
  if (!testRuns)
    return (
      <div className="stage" aria-busy="true">
        <p className="note stage-loading">{say("interface.loading")}</p>
      </div>
    );
  const testRun = testRuns.find(({ id }) => id === chosen) ?? null;
  if (!testRun)
    return (
      <div className="stage">
        <div className="worksheet">
          <Group title="Test run">
            <p className="sentence">{say("interface.timedRunReadingsAir")}</p>
            <Button type="primary" onClick={() => void begin()}>
              Start test run
            </Button>
          </Group>
          <Cautions />
        </div>
        <div className="picture">
          <p className="note">{say("interface.noTestRunJob")}</p>
        </div>
      </div>
    );
  return (
    <TestRunDeskView
      key={testRun.id}
      testRun={testRun}
      testRuns={testRuns}
      zone={timeZoneOfJob(job)}
      choose={setChosen}
      begin={() => void begin()}
      refresh={() => void mutate()}
    />
  );
}

const CAUTIONS = [
  say("interface.isolateLockOffProve"),
  say("interface.waitFiveMinutesBefore"),
  say("interface.doNotLetPersonAnimal"),
];

function Cautions() {
  return (
    <ul className="notices" aria-label="Cautions">
      {CAUTIONS.map((words) => (
        <Caution key={words}>{words}</Caution>
      ))}
    </ul>
  );
}

interface DeskProps {
  testRun: ListedTestRun;
  testRuns: ListedTestRun[];
  zone: string;
  choose(id: string | null): void;
  begin(): void;
  refresh(): void;
}

/** What may be changed for the rest of the run: as it is named, and as it is asked. */
type Change = { label: string; text: string };
const changesFor = (warmer: Change): Change[] => [
  { label: "as it is", text: "as it is" },
  warmer,
  { label: "low fan", text: "low fan" },
  { label: "off at midnight", text: "off at midnight" },
  { label: "fan only from now", text: "fan only" },
];
const CHANGES = {
  C: changesFor({ label: "set point up 2 °C", text: "+2 C" }),
  F: changesFor({ label: "set point up 4 °F", text: "+4 F" }),
};
const TEXTS = { C: CHANGES.C.map(({ text }) => text), F: CHANGES.F.map(({ text }) => text) };

function TestRunDeskView({ testRun, testRuns, zone, choose, begin, refresh }: DeskProps) {
  const job = useSheet((state) => state.job);
  const change = useSheet((state) => state.change);
  const { job: shownJob } = useReading();
  const { notation } = shownJob;
  const { message, modal } = App.useApp();
  const [listVersion, setListVersion] = useState(0);
  const [importing, setImporting] = useState<File | null>(null);
  const [naming, setNaming] = useState<string | null>(null);
  const [codeShown, setCodeShown] = useState(false);
  const { conditions } = testRun;
  const said = conditionsInWords(conditions, notation);
  const [asking, setAsking] = useState(!said && testRun.finishedMs === null);
  const [until, setUntil] = useState("07:00");
  const desk = useTestRunDesk(testRun.id, { job, conditions }, TEXTS[notation.temperature], until);
  const { answer, whatIfs, reach, busy, done, settled, fault, add, reload, applied, snapshots } = desk;
  // The moment at which the reserve was first reached stays as it was first told.
  const reached = testRun.outcome?.reserveH ?? null;
  const told = answer?.ok ? answer.view : null;
  const view = useMemo(
    () => (told && reached !== null ? { ...told, outcome: { ...told.outcome, reserveH: reached } } : told),
    [told, reached],
  );
  const passedNow = settled && reached === null && view !== null && view.outcome.reserveH !== null;
  useEffect(() => {
    if (passedNow && testRun.finishedMs === null)
      void changeTestRun(testRun.id, { outcome: view.outcome }).then(refresh, () => {
        // Told again with the next forecast.
      });
  }, [passedNow]); // oxlint-disable-line react-hooks/exhaustive-deps -- once, when it is passed

  const {
    data: detail,
    fault: detailFault,
    mutate: reloadDetail,
  } = useServerData<TestRunDetail>(["test-run", testRun.id], () => fetchTestRun(testRun.id));
  const running = detail?.running ?? null;

  // Readings that an instrument tells are heard as they come.
  useEffect(() => {
    if (!running) return;
    const source = new EventSource(`/api/test-runs/${testRun.id}/live`);
    source.onmessage = ({ data }: MessageEvent<string>) => {
      const event = JSON.parse(data) as { kind: "readings"; readings: Parameters<typeof add>[0] } | { kind: "ended" };
      if (event.kind === "readings") add(event.readings);
      else {
        source.close();
        void reloadDetail();
      }
    };
    // Refused for good: its end was told while the line was down.
    source.onerror = () => {
      if (source.readyState === EventSource.CLOSED) void reloadDetail();
    };
    return () => source.close();
  }, [running, testRun.id, add, reloadDetail]);

  const clock = useMemo(
    () => wallClock(view?.startMs ?? testRun.startedMs, zone),
    [view?.startMs, testRun.startedMs, zone],
  );
  const when = useMemo(
    () => wallMoment(view?.startMs ?? testRun.startedMs, zone, view?.lastS ?? 0),
    [view?.startMs, view?.lastS, testRun.startedMs, zone],
  );
  const startOfDayS = view ? (view.startMs / 1000 + offsetAt(zone, view.startMs)) % 86_400 : 0;

  const finish = async () => {
    try {
      const made = await snapshots();
      await changeTestRun(testRun.id, { finished: true, snapshots: made, outcome: view?.outcome ?? null });
      refresh();
      await reloadDetail();
    } catch (error) {
      void message.error((error as Error).message);
    }
  };
  const remove = () =>
    void modal.confirm({
      title: `Delete ${testRun.name}?`,
      content: say("interface.readingsGoCanBrought", { readings: testRun.readings }),
      okText: "Delete",
      onOk: async () => {
        await deleteTestRun(testRun.id);
        choose(null);
        refresh();
        void message.info({
          content: (
            <>
              {testRun.name} was deleted.{" "}
              <Button
                size="small"
                onClick={() =>
                  void restoreTestRun(testRun.id).then(() => {
                    message.destroy();
                    refresh();
                    choose(testRun.id);
                  })
                }
              >
                Bring it back
              </Button>
            </>
          ),
          duration: 8,
        });
      },
    });
  const finished = testRun.finishedMs !== null;
  const changed = () => {
    setListVersion((n) => n + 1);
    reload();
    // Other readings may have reached it at another moment.
    if (reached !== null && !finished) void changeTestRun(testRun.id, { outcome: null }).then(refresh, refresh);
    else refresh();
  };

  return (
    <div
      className="stage"
      data-test-run={settled ? "settled" : busy ? "busy" : "quiet"}
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        const file = event.dataTransfer.files[0];
        if (file && !finished) setImporting(file);
      }}
    >
      <div className="worksheet">
        <section className="group">
          <div className="group-title">
            <Select
              size="small"
              variant="borderless"
              aria-label="Test run"
              value={testRun.id}
              style={{ minWidth: 190, fontWeight: 700, marginLeft: -10 }}
              options={testRuns.map(({ id, name, startedMs }) => ({
                value: id,
                label: `${name}, ${dayWords(startedMs, zone)}`,
              }))}
              onChange={choose}
            />
            <span className="note">
              {finished
                ? "finished"
                : running
                  ? running.kind === "simulator"
                    ? `simulator, ${running.speed}\u00a0×`
                    : "instrument on"
                  : "under way"}
            </span>
            <Dropdown
              trigger={["click"]}
              menu={{
                items: [
                  { key: "new", label: "New test run" },
                  { key: "rename", label: "Rename" },
                  { key: "phone", label: <a href={`/test-runs/${testRun.id}`}>Readings on a phone</a> },
                  { key: "code", label: "Open on another phone" },
                  { key: "export", label: <a href={`/api/test-runs/${testRun.id}/file`}>Export as CSV</a> },
                  { key: "again", label: finished ? "Open again" : "Finish", disabled: !view && !finished },
                  { key: "delete", label: "Delete" },
                ],
                onClick: ({ key }) => {
                  if (key === "new") begin();
                  if (key === "code") setCodeShown(true);
                  if (key === "rename") setNaming(testRun.name);
                  if (key === "delete") remove();
                  if (key === "again")
                    void (finished ? changeTestRun(testRun.id, { finished: false }).then(refresh) : finish());
                },
              }}
            >
              <Button size="small">More</Button>
            </Dropdown>
          </div>
          {view && <NowLines view={view} />}
          {!finished && (
            <ReadingEntry
              testRun={testRun}
              running={running}
              lastMs={view ? view.startMs + 1000 * view.lastS : testRun.startedMs}
              zone={zone}
              onSent={(list) => (add(list), setListVersion((n) => n + 1))}
            />
          )}
          <div className="buttons">
            {!finished && (
              <label className="file-button">
                Import a log
                <input
                  type="file"
                  accept=".csv,.txt,.tsv,.log,.json,.jsonl"
                  onChange={(event) => {
                    const file = event.target.files?.[0];
                    event.target.value = "";
                    if (file) setImporting(file);
                  }}
                />
              </label>
            )}
            {!finished && view && (
              <Button size="small" onClick={() => void finish()} disabled={busy && !settled}>
                Finish test run
              </Button>
            )}
          </div>
        </section>
        <Group title="Conditions" note={said || finished ? undefined : "ten seconds that narrow the forecast"}>
          <details open={asking} onToggle={({ currentTarget }) => setAsking(currentTarget.open)}>
            <summary>{said || (finished ? "Not stated" : "Not stated yet")}</summary>
            <RunConditionsForm
              key={testRun.id}
              conditions={conditions}
              notation={notation}
              change={async (next) => {
                await changeTestRun(testRun.id, { conditions: next });
                refresh();
              }}
            />
          </details>
        </Group>
        {view && (
          <SettingsPanel
            testRunId={testRun.id}
            view={view}
            notation={notation}
            finished={finished}
            leftOut={conditions?.notesLeftOut ?? []}
            clock={clock}
            now={() => settingMoment(momentOfRun(running, lastMsOf(view)), lastMsOf(view))}
            onSet={(reading) => {
              add([reading]);
              setListVersion((n) => n + 1);
              void flush();
            }}
            onLeftOut={(notesLeftOut) =>
              void changeTestRun(testRun.id, { conditions: { ...(conditions ?? NOTHING_SAID), notesLeftOut } }).then(
                refresh,
                (error: Error) => message.error(error.message),
              )
            }
          />
        )}
        {view && (
          <FoundList
            view={view}
            ask={applied}
            onTake={(recipe, words) => {
              change(recipe);
              void message.success(words);
            }}
          />
        )}
        {view && <HandList view={view} clock={when} />}
        {view && view.peaks.length > 0 && <StartsTable view={view} clock={clock} />}
        {view && <ChargedList view={view} clock={clock} />}
        {answer && <RepairList repairs={answer.ok ? answer.view.repairs : answer.repairs} />}
        <Group title="Instrument">
          <InstrumentPanel
            testRun={testRun}
            running={running}
            ended={detail?.ended ?? null}
            onChange={() => {
              void reloadDetail();
              refresh();
            }}
          />
        </Group>
        <Group title="Readings">
          <ReadingList
            testRun={testRun}
            zone={zone}
            version={listVersion}
            imports={detail?.imports ?? []}
            onChange={() => (changed(), void reloadDetail())}
          />
        </Group>
        <Cautions />
      </div>
      <div className="picture">
        {(fault || detailFault) && <p className="problem">{fault || detailFault?.message}</p>}
        {!view && !fault && (
          <>
            <div className="picture-title">
              <h2>{busy && !answer ? "Reading the log …" : "Waiting for readings"}</h2>
            </div>
            {busy && !answer && <Progress percent={Math.round(100 * done)} showInfo={false} />}
            {answer && !answer.ok && (
              <p className="sentence">
                {answer.message} {answer.readings > 0 ? say("interface.readingsSoFar", { count: answer.readings }) : ""}
              </p>
            )}
            {answer && !answer.ok && answer.readings === 0 && (
              <p className="note">{say("interface.typeAmpsVoltsLeft")}</p>
            )}
          </>
        )}
        {view && (
          <>
            <ForecastTitle view={view} clock={when} busy={busy} done={done} settled={settled} finished={finished} />
            <ProspectLines view={view} clock={when} finished={finished} />
            <TestRunPlot view={view} notation={notation} clock={clock} when={when} startOfDayS={startOfDayS} />
            {!finished && (
              <WhatIfRow view={view} asked={CHANGES[notation.temperature]} answers={whatIfs} clock={when} />
            )}
            {!finished && (
              <ReachLine view={view} until={until} onUntil={setUntil} reach={reach} notation={notation} clock={when} />
            )}
            {view.monitorOff && <MonitorNote view={view} />}
            <LogTables view={view} clock={clock} />
            <RunOverlay testRun={testRun} view={view} job={shownJob} />
            <RecordView testRun={testRun} view={view} />
          </>
        )}
      </div>
      {importing && (
        <ImportLog
          testRunId={testRun.id}
          file={importing}
          zone={zone}
          startedMs={testRun.startedMs}
          close={(imported) => {
            setImporting(null);
            if (imported) {
              changed();
              void reloadDetail();
            }
          }}
        />
      )}
      {testRun && (
        <Modal
          title="Open on another phone"
          open={codeShown}
          onCancel={() => setCodeShown(false)}
          footer={null}
          destroyOnHidden
        >
          <p>{say("interface.phoneCode")}</p>
          <SharedAddress path={`/test-runs/${testRun.id}`} label="The test run on a phone" />
        </Modal>
      )}
      <Modal
        open={naming !== null}
        title="Name of the test run"
        okText="Rename"
        onCancel={() => setNaming(null)}
        okButtonProps={{ disabled: !naming?.trim() }}
        onOk={() =>
          void changeTestRun(testRun.id, { name: naming!.trim() }).then(
            () => {
              setNaming(null);
              refresh();
            },
            (error: Error) => message.error(error.message),
          )
        }
      >
        <Input
          value={naming ?? ""}
          maxLength={120}
          aria-label="Name"
          onChange={(event) => setNaming(event.target.value)}
        />
      </Modal>
    </div>
  );
}

const lastMsOf = (view: TestRunView) => view.startMs + 1000 * view.lastS;

/** A log that nothing was added to for so long is looked at afterwards: a setting is of its end, ms. */
const AFTERWARDS_MS = 6 * 3_600_000;
const settingMoment = (nowMs: number, lastMs: number) => (nowMs - lastMs > AFTERWARDS_MS ? lastMs + 1000 : nowMs);

function dayWords(ms: number, zone: string): string {
  return new Date(ms + offsetAt(zone, ms) * 1000)
    .toUTCString()
    .slice(5, 16)
    .replace(/ \d{4}$/, "");
}

/** The last reading of each kind. */
function NowLines({ view }: { view: TestRunView }) {
  const { job } = useReading();
  const last = (line: Float64Array) => {
    for (let i = line.length - 1; i >= 0; i--) if (!Number.isNaN(line[i]!)) return line[i]!;
    return NaN;
  };
  const degrees = (v: number) => (Number.isNaN(v) ? "–" : formatQuantity(v, "temperature", job.notation, 3));
  const amps = last(view.amps);
  const lines: [string, string][] = [
    ["Battery current", `${amps >= 0 ? "−" : "+"}${Math.abs(amps).toFixed(1)} A`],
    ["State of charge, counted", `${Math.round(100 * (view.socNow.p50 ?? 0))} %`],
    ["Cabin, outdoor", `${degrees(last(view.cabinC))}, ${degrees(last(view.outdoorC))}`],
  ];
  return (
    <dl className="test-run-lines">
      {lines.map(([name, value]) => (
        <div key={name}>
          <dt>{name}</dt>
          <dd className="mono">{value}</dd>
        </div>
      ))}
    </dl>
  );
}

const hoursWords = (hours: number | null) =>
  hours === null ? "over two days" : hours < 1 ? `${Math.round(hours * 60)} min` : `${significant(hours, 2)} h`;

function ForecastTitle({
  view,
  clock,
  busy,
  done,
  settled,
  finished,
}: {
  view: TestRunView;
  clock(s: number): string;
  busy: boolean;
  done: number;
  settled: boolean;
  finished: boolean;
}) {
  const { p50 } = view.toReserve;
  const at = (hours: number) => clock(view.lastS + hours * 3600);
  return (
    <div className="picture-title">
      <h2 data-forecast={p50 ?? "none"}>{forecastInWords(view, clock)}</h2>
      <span className="note" role="status">
        {busy
          ? settled || done === 0
            ? "reading the log"
            : `settling, ${Math.round(100 * done)} %`
          : finished
            ? "finished"
            : `${view.prospect.chance && p50 !== null ? `reserve about ${at(p50)}, ` : ""}in ${hoursWords(p50)}; cut-off ${view.toCutoff.p50 === null ? "beyond two days" : at(view.toCutoff.p50)}; the range should hold eight runs in ten`}
      </span>
    </div>
  );
}

/** What the forecast hangs on, and what would narrow it. */
function ProspectLines({ view, clock, finished }: { view: TestRunView; clock(s: number): string; finished: boolean }) {
  const { decides, help } = view.prospect;
  const peukert = view.byPeukert?.p50;
  return (
    <div className="prospect">
      {decides && <p>{decides}</p>}
      {typeof peukert === "number" && (
        <p className="note">{say("testRun.byPeukert", { at: clock(view.lastS + peukert * 3600) })}</p>
      )}
      {help && !finished && (
        <p className="note">{say("testRun.wouldHelp", { what: help.what, percent: Math.round(100 * help.narrows) })}</p>
      )}
    </div>
  );
}

function WhatIfRow({
  view,
  asked,
  answers,
  clock,
}: {
  view: TestRunView;
  asked: Change[];
  answers: TestRunView["toReserve"][];
  clock(s: number): string;
}) {
  const passed = view.outcome.reserveH !== null;
  return (
    <dl className="what-if" aria-label="What if, from now">
      <dt className="lead">{passed ? "What if, to the cut-off:" : "What if, from now:"}</dt>
      {asked.map(({ label }, i) => {
        // The others come a moment later; as it is is what the title says.
        const answer = i === 0 ? (passed ? view.toCutoff : view.toReserve) : answers[i];
        return (
          <div key={label}>
            <dt>{label}</dt>
            <dd
              className="mono"
              title={
                typeof answer?.p10 === "number"
                  ? `between ${hoursWords(answer.p10)} and ${hoursWords(answer.p90)}`
                  : undefined
              }
            >
              {!answer
                ? "…"
                : answer.p50 === null
                  ? "reserve not reached in two days"
                  : clock(view.lastS + answer.p50 * 3600)}
            </dd>
          </div>
        );
      })}
    </dl>
  );
}

function MonitorNote({ view }: { view: TestRunView }) {
  const found = view.found.find(({ key }) => key === "monitor");
  if (!found) return null;
  return (
    <p className="problem" role="alert">
      {say("interface.monitorCapacity", { set: Math.round(found.value), job: Math.round(found.was) })}
    </p>
  );
}
