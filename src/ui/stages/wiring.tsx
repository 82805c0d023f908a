"use client";

import { gravestFirst } from "@/core/assessment/judge/judge";
import { clauseOf } from "@/core/assessment/rules/rules";
import { groupOf, type JobPath } from "@/core/document/path";
import { Button, Dropdown } from "antd";
import { CloseOutlined, PlusOutlined } from "@ant-design/icons";
import { useCallback, useState } from "react";
import { BRANCH_NAMES, emptyBranch, isCharging, isMains, type Branch } from "@/core/document/schema";
import { formatQuantity } from "@/core/units/format";
import { ampacityTable } from "@/core/document/defaults";
import { AMPACITY_TABLES } from "@/core/reference/conductors/ampacity";
import { CheckLine } from "../fields/check-line";
import { ChoiceLine } from "../fields/choice-line";
import { FigureValue } from "../fields/figure-value";
import { QuantityLine } from "../fields/quantity-line";
import { TextLine } from "../fields/text-line";
import { VerdictLine } from "../frame/verdict-line";
import { SingleLineDiagramView } from "../pictures/single-line-diagram";
import { FromShelf } from "../shelf/from-shelf";
import { useReading, useSheet } from "../state/sheet-context";
import { newId } from "../words";
import { SizeAll } from "./size-all";
import { ChecksTable } from "./checks-table";
import { MeasureNextList } from "./measure-next";
import { Group, More, Notices, StageFrame } from "./parts";
import { PartsTable } from "./parts-table";
import { useShowStage } from "./show-stage";
import { say } from "@/core/messages/say";
import { fixedSpeed, onBattery } from "@/core/document/unit-kinds";
import { usesInverter } from "@/core/document/resolve-wiring";
import { mainTitle, MAINS_TITLE } from "@/core/document/run-titles";

const ROLES = Object.keys(BRANCH_NAMES) as Branch["role"][];

/** Every part from the cells to the units and of the runs beside them, the plan made of it, and what each part carries. */
export function WiringStage() {
  const branches = useSheet((state) => state.job.wiring.branches);
  const converted = useSheet((state) => usesInverter(state.job));
  const title = useSheet((state) => mainTitle(state.job));
  const change = useSheet((state) => state.change);
  const [open, setOpen] = useState<JobPath | null>(null);
  const showStage = useShowStage();
  const show = useCallback(
    (path: JobPath) => {
      if (groupOf(path) !== "wiring") return showStage(path);
      setOpen(path);
      requestAnimationFrame(() =>
        document
          .querySelector(`[data-row="${CSS.escape(path)}"]`)
          ?.scrollIntoView({ block: "center", behavior: "smooth" }),
      );
    },
    [showStage],
  );
  const table = { open, setOpen };
  return (
    <StageFrame
      worksheet={
        <>
          <PartsTable title={title} path="wiring.main" mains={false} {...table} />
          <Links />
          {converted && <PartsTable title={MAINS_TITLE} path="wiring.mains" mains {...table} />}
          {branches.map((branch, i) => (
            <BranchGroup key={branch.id} branch={branch} index={i} table={table} />
          ))}
          <div className="wiring-tools">
            <SizeAll />
            <Dropdown
              trigger={["click"]}
              menu={{
                items: ROLES.map((role) => ({ key: role, label: BRANCH_NAMES[role] })),
                onClick: ({ key }) =>
                  change((draft) => {
                    const branch = emptyBranch(key as Branch["role"], newId());
                    const fed = new Set(draft.wiring.branches.map(({ unitId }) => unitId));
                    const direct = branch.role === "dc-unit";
                    const free = draft.units.find((unit) => onBattery(unit) === direct && !fed.has(unit.id));
                    if (branch.role === "circuit" || direct) branch.unitId = (free ?? draft.units[0])!.id;
                    draft.wiring.branches.push(branch);
                  }),
              }}
            >
              <Button size="small" icon={<PlusOutlined />} disabled={branches.length >= 12}>
                Add a circuit
              </Button>
            </Dropdown>
          </div>
          <TableGroup />
          <Measured />
        </>
      }
      picture={
        <>
          <SingleLineDiagramView onPart={show} />
          <Rules onPart={show} />
          <MeasureNextList verdict="carries" />
          <ChecksTable onPart={show} />
          <Sharing />
          <Notices stage="wiring" />
        </>
      }
    />
  );
}

function TableGroup() {
  const { job, assessment } = useReading();
  const { rules } = assessment.wiring;
  return (
    <Group title="Rules the wiring follows" note={rules.name}>
      <p className="note">
        {say("interface.wiringRules", { ac: rules.standards.ac, dc: AMPACITY_TABLES[ampacityTable(job)].name })}
      </p>
      <ChoiceLine
        path="wiring.table"
        label="DC ampacity table"
        options={[
          { value: "auto", label: "of the rule set" },
          { value: "iso-10133", label: "ISO 10133" },
          { value: "abyc-e11", label: "ABYC E-11" },
        ]}
      />
      {assessment.values.bank.chargeToVoltage.value > 60 && (
        <ChoiceLine
          path="wiring.above60"
          label="Above 60 V DC"
          options={[
            { value: "unsaid", label: "not stated" },
            { value: "covered", label: "covered, two-pole switch, insulation monitored" },
            { value: "none", label: "no touch protection" },
          ]}
        />
      )}
      <QuantityLine path="wiring.ambientC" />
      <QuantityLine path="wiring.dropLimit" />
      <QuantityLine path="wiring.branchDropLimit" />
    </Group>
  );
}

const LAYOUTS = [
  { value: "busbars", label: "equal leads to busbars" },
  { value: "own-leads", label: "leads of their own length" },
  { value: "chain-diagonal", label: "daisy-chained, diagonal take-off" },
  { value: "chain-one-end", label: "daisy-chained, one-end take-off" },
] as const;

/** How the batteries in parallel meet; only where there are several. */
function Links() {
  const { job, assessment } = useReading();
  const { bank, wiring } = assessment.values;
  if (job.bank.build === "cells" || bank.parallel.value < 2) return null;
  const { layout, fuses } = job.wiring.links;
  return (
    <Group title="Links between the batteries" note={`${bank.parallel.value} in parallel`}>
      <ChoiceLine path="wiring.links.layout" label="Parallel wiring" options={LAYOUTS} />
      <ChoiceLine
        path="wiring.links.fuses"
        label="Fuse of each battery"
        options={[
          { value: "unsaid", label: "not stated" },
          { value: "each", label: "one for each battery" },
          { value: "none", label: "none" },
        ]}
      />
      {fuses === "each" && <QuantityLine path="wiring.links.fuseRating" label="Its rating" />}
      {(layout !== "busbars" || fuses === "each") && <QuantityLine path="wiring.links.areaMm2" />}
      {layout !== "busbars" && (
        <>
          <QuantityLine path="wiring.links.jointResistance" />
          {wiring.links.paths.map((_, i) => (
            <QuantityLine
              key={i}
              path={`wiring.links.paths.${i}.length`}
              label={layout === "own-leads" ? `Battery ${i + 1}, each lead` : `Battery ${i + 1} to ${i + 2}, each pole`}
            />
          ))}
        </>
      )}
    </Group>
  );
}

function BranchGroup({
  branch,
  index,
  table,
}: {
  branch: Branch;
  index: number;
  table: { open: JobPath | null; setOpen(path: JobPath | null): void };
}) {
  const change = useSheet((state) => state.change);
  const units = useSheet((state) => state.job.units);
  const at = `wiring.branches.${index}` as const;
  const far = useReading().assessment.wiring.far.find((circuit) => circuit.path === `${at}.far`);
  return (
    <div data-row={at} className={table.open === at ? "opened" : undefined}>
      <PartsTable
        title={branch.name || BRANCH_NAMES[branch.role]}
        path={`${at}.parts`}
        mains={isMains(branch)}
        {...table}
        tools={
          <>
            {isCharging(branch) && <FromShelf kind="charger" path={at} />}
            <Button
              size="small"
              type="text"
              icon={<CloseOutlined />}
              aria-label={`Remove ${branch.name}`}
              onClick={() => change((draft) => void draft.wiring.branches.splice(index, 1))}
            />
          </>
        }
      >
        <TextLine path={`${at}.name`} label="Name" longest={80} />
        {branch.role === "circuit" || branch.role === "dc-unit" ? (
          <ChoiceLine
            path={`${at}.unitId`}
            label="Feeds"
            options={units
              .filter((unit) => onBattery(unit) === (branch.role === "dc-unit"))
              .map(({ id, name }) => ({ value: id, label: name }))}
          />
        ) : (
          <QuantityLine
            path={`${at}.current`}
            label={
              { shore: "Inlet rating", engine: "Current into the battery", charger: "Current into the battery" }[
                branch.role as "shore"
              ]
            }
          />
        )}
        {branch.role === "shore" && (
          <>
            <QuantityLine path={`${at}.leadLength`} />
            <QuantityLine path={`${at}.leadAreaMm2`} />
          </>
        )}
        {branch.role === "engine" && <QuantityLine path={`${at}.vehicleVoltage`} />}
        {branch.role === "engine" && branch.coupling === "dc-dc" && (
          <>
            <QuantityLine path={`${at}.efficiency`} />
            <QuantityLine path={`${at}.starterShortCircuit`} />
          </>
        )}
        {branch.role === "charger" && <QuantityLine path={`${at}.efficiency`} />}
        {branch.role === "engine" && (
          <>
            <ChoiceLine
              path={`${at}.coupling`}
              label="Coupled by"
              options={[
                { value: "dc-dc", label: "DC-DC converter" },
                { value: "isolator", label: "isolator or relay" },
              ]}
            />
            <ChoiceLine
              path={`${at}.control`}
              label="Switched by"
              options={[
                { value: "engine-running", label: "the running engine" },
                { value: "ignition", label: "the ignition" },
              ]}
            />
          </>
        )}
        {branch.role === "charger" && (
          <ChoiceLine
            path={`${at}.fedFrom`}
            label="Fed from"
            options={[
              { value: "shore", label: "the shore side" },
              { value: "inverter", label: "the inverter's output" },
            ]}
          />
        )}
        {branch.role === "loads" && (
          <>
            <QuantityLine path={`${at}.loadVoltage`} />
            <CheckLine path={`${at}.converter`} label="Fed through a converter" />
            {branch.converter && (
              <>
                <QuantityLine path={`${at}.converterRating`} />
                <QuantityLine path={`${at}.efficiency`} />
              </>
            )}
          </>
        )}
      </PartsTable>
      {far && <PartsTable title={far.title} path={far.path} mains={far.mains} {...table} />}
    </div>
  );
}

/** What was read on the system: two voltages and a current give the path, temperatures give the joints. */
function Measured() {
  const { job, assessment } = useReading();
  const { wiring } = assessment;
  const fixed = job.units.findIndex(fixedSpeed);
  const ohms = (value: number) => formatQuantity(value, "resistance", job.notation, 2);
  return (
    <Group title="Measured on the system" note="under a steady load">
      <QuantityLine path="wiring.measured.current" />
      <QuantityLine path="wiring.measured.bankVoltage" />
      <QuantityLine path="wiring.measured.inverterVoltage" />
      {wiring.excess !== null && (
        <p className="note measured-path">
          The wiring measures <FigureValue figure="wiring.measured" />; its parts should have{" "}
          <FigureValue figure="wiring.main.resistance" />.{" "}
          {wiring.excess > 0
            ? say("interface.wiring.excess", { excess: ohms(wiring.excess) })
            : say("interface.wiring.sound")}
        </p>
      )}
      {fixed >= 0 && (
        <>
          <QuantityLine path={`units.${fixed}.lockedRotorCurrent`} label="Clamp: inrush peak, bare" />
          <QuantityLine path={`units.${fixed}.runningCurrent`} label="Clamp: running amps" />
        </>
      )}
      <More title="Temperatures after 40 minutes at a steady current">
        <QuantityLine path="wiring.measured.hotCurrent" />
        <QuantityLine path="wiring.measured.airC" />
        <QuantityLine path="wiring.measured.cableC" />
        <QuantityLine path="wiring.measured.lugC" />
        <QuantityLine path="wiring.measured.protectionC" />
      </More>
    </Group>
  );
}

/** The rules of structure: broken ones with reason and fix, met ones in a line. */
function Rules({ onPart }: { onPart(path: JobPath): void }) {
  const { assessment } = useReading();
  const structure = assessment.verdicts.carries.checks.filter(({ form }) => form === "there");
  const broken = structure.filter(({ met }) => !met).sort(gravestFirst);
  const met = structure.filter((check) => check.met);
  if (structure.length === 0) return null;
  return (
    <section className="rules" aria-label="Single-line diagram">
      {broken.map((rule) => (
        <div key={rule.key} className="rule">
          <VerdictLine word={rule.word} />
          <div>
            <strong>
              <button type="button" className="plain" onClick={() => rule.part && onPart(rule.part)}>
                {sentence(rule.name)}
              </button>
            </strong>{" "}
            {rule.remark} <em>Fix:</em> {rule.fix}{" "}
            <span className="clause">{clauseOf(rule, assessment.wiring.rules)}</span>
          </div>
        </div>
      ))}
      {met.length > 0 && <p className="note">In place: {met.map(({ name }) => name).join("; ")}.</p>}
    </section>
  );
}

const sentence = (text: string) => `${text[0]!.toUpperCase()}${text.slice(1)}.`;

/** Share of the current that each battery in parallel gives. */
function Sharing() {
  const { job, assessment } = useReading();
  const { shares } = assessment;
  if (shares.length < 2) return null;
  const whole = assessment.figures["carries.bankCurrent"]!.value;
  const most = Math.max(...shares);
  return (
    <table className="values">
      <caption>Current of each battery, everything on</caption>
      <thead>
        <tr>
          <th>Battery</th>
          <th className="right">Share</th>
          <th className="right">Current</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {shares.map((share, i) => (
          <tr key={i}>
            <td>{i + 1}</td>
            <td className="mono">{formatQuantity(share, "ratio", job.notation)}</td>
            <td className="mono">{formatQuantity(share * whole, "current", job.notation)}</td>
            <td style={{ width: "45%" }}>
              <span className="share-bar" style={{ width: `${(100 * share) / most}%` }} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
