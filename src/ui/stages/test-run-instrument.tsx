"use client";

import { App, Button, Checkbox, Input, InputNumber, Segmented, Select } from "antd";
import { useEffect, useState } from "react";
import { formatQuantity, significant } from "@/core/units/format";
import { FAULT_NAMES, FAULTS, type FaultKey, type Probes } from "@/core/applications/test-run/simulator/simulator";
import { useReading } from "../state/sheet-context";
import { fetchProbes, startSource, stopSource } from "../state/test-run-calls";
import { type ListedTestRun, type Source } from "@/contract/test-runs";
import { say } from "@/core/messages/say";

const anyOf = <T,>(list: readonly T[]): T => list[Math.floor(Math.random() * list.length)]!;

interface Props {
  testRun: ListedTestRun;
  running: Source | null;
  /** Why the last instrument ended by itself. */
  ended: string | null;
  onChange(): void;
}

/** Where readings come from by themselves: the simulator to practise with, a file that is followed, a boat's network. */
export function InstrumentPanel({ testRun, running, ended, onChange }: Props) {
  const { message } = App.useApp();
  const { job } = useReading();
  const [kind, setKind] = useState<Source["kind"]>("simulator");
  const [speed, setSpeed] = useState(60);
  const [faults, setFaults] = useState<FaultKey[]>([]);
  const [surprise, setSurprise] = useState(false);
  const [seed, setSeed] = useState(1);
  const [path, setPath] = useState("meter.csv");
  const [url, setUrl] = useState("ws://127.0.0.1:3000/signalk/v1/stream?subscribe=none");
  const finished = testRun.finishedMs !== null;
  const possible = FAULTS.filter(
    (fault) =>
      (fault !== "shaded-panel" || job.sources.panels.length > 0) &&
      (fault !== "unlearned-soft-starter" || job.units[0]!.startAid === "soft-starter"),
  );
  const start = async () => {
    const hidden = surprise ? [anyOf(possible)] : faults;
    const source: Source =
      kind === "simulator"
        ? { kind, seed, faults: hidden, every: 10, speed }
        : kind === "file"
          ? { kind, path }
          : { kind, url };
    try {
      await startSource(testRun.id, source);
      onChange();
    } catch (error) {
      void message.error((error as Error).message);
    }
  };
  const stop = async () => {
    await stopSource(testRun.id).catch((error: Error) => message.error(error.message));
    onChange();
  };
  if (finished)
    return testRun.truth ? <Truth testRun={testRun} /> : <p className="note">{say("interface.testRunFinished")}</p>;
  if (running)
    return (
      <>
        <p className="sentence">
          {running.kind === "simulator"
            ? say("interface.simulatorRunsTimesReal", { speed: running.speed })
            : running.kind === "file"
              ? say("interface.followsFile", { path: running.path })
              : say("interface.listening", { url: running.url })}{" "}
          <Button size="small" onClick={() => void stop()}>
            Stop it
          </Button>
        </p>
        {running.kind === "simulator" && <ProbeList testRunId={testRun.id} />}
      </>
    );
  return (
    <>
      {ended !== null && <p className="sentence">{say("interface.instrumentEnded", { reason: ended })}</p>}
      <Segmented<Source["kind"]>
        size="small"
        value={kind}
        onChange={setKind}
        options={[
          { value: "simulator", label: "Simulator" },
          { value: "file", label: "Follow a file" },
          { value: "signal-k", label: "Signal K" },
        ]}
      />
      {kind === "simulator" && (
        <>
          <p className="note">{say("interface.simulatedBatteryMonitorClamp")}</p>
          <div className="import-lines">
            <label>
              Speed{" "}
              <Select
                size="small"
                value={speed}
                style={{ width: 110 }}
                options={[1, 10, 60, 200, 600].map((value) => ({
                  value,
                  label: value === 1 ? "real time" : `${value} ×`,
                }))}
                onChange={setSpeed}
              />
            </label>
            <label>
              Number{" "}
              <InputNumber
                size="small"
                min={0}
                max={999_999}
                precision={0}
                value={seed}
                onChange={(n) => setSeed(n ?? 1)}
              />
            </label>
          </div>
          <Checkbox checked={surprise} onChange={({ target }) => setSurprise(target.checked)}>
            Practice: hide one fault
          </Checkbox>
          {!surprise && (
            <Select<FaultKey[]>
              mode="multiple"
              size="small"
              aria-label="Faults"
              placeholder="Faults: none"
              style={{ width: "100%" }}
              value={faults}
              options={possible.map((value) => ({ value, label: FAULT_NAMES[value] }))}
              onChange={setFaults}
            />
          )}
        </>
      )}
      {kind === "file" && (
        <>
          <Input
            size="small"
            aria-label="File in the log folder"
            value={path}
            onChange={(event) => setPath(event.target.value)}
          />
          <p className="note">{say("interface.csvLoggerGoesWriting")}</p>
        </>
      )}
      {kind === "signal-k" && (
        <Input
          size="small"
          aria-label="Address of the Signal K server"
          value={url}
          onChange={(event) => setUrl(event.target.value)}
        />
      )}
      <div className="buttons">
        <Button size="small" type="primary" onClick={() => void start()}>
          Start
        </Button>
      </div>
    </>
  );
}

/** What a meter and a thermometer would show at other places now: an apprentice's probes. */
function ProbeList({ testRunId }: { testRunId: string }) {
  const { job } = useReading();
  const [probes, setProbes] = useState<Probes | null>(null);
  const [shown, setShown] = useState(false);
  useEffect(() => {
    if (!shown) return;
    const look = () => void fetchProbes(testRunId).then(setProbes, () => undefined);
    look();
    const again = setInterval(look, 2000);
    return () => clearInterval(again);
  }, [testRunId, shown]);
  const degrees = (v: number) => formatQuantity(v, "temperature", job.notation, 3);
  return (
    <details onToggle={(event) => setShown(event.currentTarget.open)}>
      <summary>Measure with a meter</summary>
      {probes && (
        <dl className="test-run-lines">
          {(
            [
              ["Battery terminal voltage", `${significant(probes.bankVolts, 4)} V`],
              ["Inverter terminal voltage", `${significant(probes.inverterVolts, 4)} V`],
              ["Cable, mid-run", degrees(probes.cableC)],
              ["Hottest termination", degrees(probes.lugC)],
              ["Breaker or fuse", degrees(probes.breakerC)],
              ...(probes.waterC === null ? [] : [["Cooling water outlet temperature", degrees(probes.waterC)]]),
            ] as [string, string][]
          ).map(([name, value]) => (
            <div key={name}>
              <dt>{name}</dt>
              <dd className="mono">{value}</dd>
            </div>
          ))}
        </dl>
      )}
    </details>
  );
}

/** What the simulator hid, told when the test run is finished. */
function Truth({ testRun }: { testRun: ListedTestRun }) {
  const truth = testRun.truth!;
  const ohms = `${significant(truth.pathResistance * 1000, 2)} mΩ`;
  const lines: [string, string][] = [
    ["Faults", truth.faults.length === 0 ? "none" : truth.faults.map((fault) => FAULT_NAMES[fault]).join("; ")],
    ["Heat loss of the cabin", `${significant(truth.heatLoss, 3)} W/K`],
    ["Capacity", `${significant(truth.bankAh, 3)} Ah`],
    ["SoC at start", `${Math.round(100 * truth.startSoc)} %`],
    ["Wiring, battery to inverter", ohms],
    ["Monitor set to", `${significant(truth.monitorAh, 3)} Ah`],
    ["Monitor's zero", `${truth.zero >= 0 ? "+" : "−"}${significant(Math.abs(truth.zero), 2)} A`],
    ["Reserve after", truth.hoursToReserve === null ? "more than a day" : `${significant(truth.hoursToReserve, 3)} h`],
  ];
  return (
    <>
      <p className="note">Hidden values of the simulator:</p>
      <dl className="test-run-lines">
        {lines.map(([name, value]) => (
          <div key={name}>
            <dt>{name}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
    </>
  );
}
