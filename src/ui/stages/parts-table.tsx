"use client";

import type { JobPath, PartPath, RunPath } from "@/core/document/path";
import { current } from "immer";
import { App, Button, Dropdown, Modal, type MenuProps } from "antd";
import { DownOutlined, MoreOutlined, PlusOutlined, RightOutlined } from "@ant-design/icons";
import { useState, type ReactNode } from "react";
import { FUSE_KINDS } from "@/core/reference/conductors/fuse";
import { allCircuits } from "@/core/models/wiring/circuits";
import { PART_NAMES } from "@/core/models/wiring/part";
import { emptyPart, type Part } from "@/core/document/schema";
import { PART_FIELDS, type PartKey, type PartKind } from "@/core/document/fields";
import { valueAt } from "@/core/document/compare";
import type { Choice } from "@/core/applications/sizing/size-circuit";
import { ChoiceLine } from "../fields/choice-line";
import { QuantityCell, QuantityLine } from "../fields/quantity-line";
import { TextLine } from "../fields/text-line";
import { WordMark } from "../frame/word-mark";
import { SymbolOf } from "../pictures/diagram-symbols";
import { FromShelf } from "../shelf/from-shelf";
import { askChoice } from "../state/insight";
import { useReading, useSheet, useSheetStore } from "../state/sheet-context";
import { WithUnits } from "../frame/with-units";
import { newId } from "../words";
import { say } from "@/core/messages/say";

const DC_KINDS: PartKind[] = ["cable", "fuse", "isolator", "shunt", "busbar", "connector", "joints"];
const AC_KINDS: PartKind[] = ["cable", "breaker", "rcd", "changeover", "isolator", "inlet", "connector"];
const METHODS = [
  { value: "A1", label: "conduit in an insulated wall (A1)" },
  { value: "B1", label: "single cores in conduit (B1)" },
  { value: "B2", label: "multicore in conduit (B2)" },
  { value: "C", label: "clipped direct (C)" },
] as const;
const POLES = [
  { value: "all", label: "live and neutral" },
  { value: "live", label: "live only" },
] as const;
const FUSES = Object.entries(FUSE_KINDS).map(([value, { name }]) => ({ value, label: name }));
const GRAVITY = { Holds: 0, Tight: 1, Fails: 2, Stop: 3 };

/** The two quantities of a kind that stand in its row. */
const INLINE: Record<PartKind, [PartKey, PartKey | null]> = {
  cable: ["areaMm2", "length"],
  fuse: ["rating", null],
  isolator: ["rating", null],
  inlet: ["rating", null],
  connector: ["rating", null],
  shunt: ["rating", null],
  busbar: ["rating", null],
  joints: ["contacts", "resistance"],
  breaker: ["rating", null],
  changeover: ["rating", null],
  rcd: ["rating", "residual"],
};

interface Props {
  title: string;
  /** Path of the list of parts in the document. */
  path: RunPath;
  mains: boolean;
  open: JobPath | null;
  setOpen(path: JobPath | null): void;
  tools?: ReactNode;
  children?: ReactNode;
}

const capital = (text: string) => `${text[0]!.toUpperCase()}${text.slice(1)}`;

/** The parts of one run in order: typed in place, opened for the rest, added, moved, copied, removed. */
export function PartsTable({ title, path, mains, open, setOpen, tools, children }: Props) {
  const { job, assessment } = useReading();
  const change = useSheet((state) => state.change);
  const parts = valueAt(job, path) as Part[];
  const circuit = allCircuits(assessment.wiring).find((one) => one.path === path);
  const edit = (recipe: (list: Part[]) => void) => change((draft) => recipe(valueAt(draft, path) as Part[]));
  const add = (kind: PartKind) => {
    edit((list) => void list.push(emptyPart(kind, newId())));
    setOpen(`${path}.${parts.length}`);
  };
  return (
    <section className="group parts" data-row={path}>
      <div className="group-title">
        <h2>{title}</h2>
        <span className="group-tools">
          <ChooseForMe path={path} title={title} disabled={!parts.some(({ kind }) => kind === "cable")} />
          {tools}
        </span>
      </div>
      {children}
      {parts.length === 0 && <p className="note part-none">{say("interface.noPartsYet")}</p>}
      <ol className="part-rows">
        {parts.map((part, i) => (
          <PartRow
            key={part.id}
            part={part}
            mains={mains}
            path={`${path}.${i}`}
            mark={circuit?.parts[i]?.mark ?? ""}
            isOpen={open === `${path}.${i}`}
            toggle={() => setOpen(open === `${path}.${i}` ? null : `${path}.${i}`)}
            first={i === 0}
            last={i === parts.length - 1}
            edit={edit}
            index={i}
            follow={(to) => setOpen(open === `${path}.${i}` ? `${path}.${to}` : open)}
          />
        ))}
      </ol>
      <Dropdown
        trigger={["click"]}
        menu={{
          items: (mains ? AC_KINDS : DC_KINDS).map((kind) => ({
            key: kind,
            label: kind === "rcd" ? assessment.wiring.rules.residualName : capital(PART_NAMES[kind]),
          })),
          onClick: ({ key }) => add(key as PartKind),
        }}
      >
        <Button className="add" size="small" type="text" icon={<PlusOutlined />} disabled={parts.length >= 80}>
          Add a part
        </Button>
      </Dropdown>
    </section>
  );
}

interface RowProps {
  part: Part;
  mains: boolean;
  path: PartPath;
  mark: string;
  index: number;
  isOpen: boolean;
  first: boolean;
  last: boolean;
  toggle(): void;
  edit(recipe: (list: Part[]) => void): void;
  follow(to: number): void;
}

function PartRow({ part, mains, path, mark, index, isOpen, first, last, toggle, edit, follow }: RowProps) {
  const { assessment } = useReading();
  const own = [...assessment.verdicts.starts.checks, ...assessment.verdicts.carries.checks].filter(
    (one) => one.part === path,
  );
  const worst = own.reduce<(typeof own)[number] | null>(
    (a, b) => (!a || GRAVITY[b.word] > GRAVITY[a.word] ? b : a),
    null,
  );
  const name =
    part.name.trim() ||
    (part.kind === "fuse"
      ? FUSE_KINDS[part.fuseKind].name
      : part.kind === "rcd"
        ? assessment.wiring.rules.residualName
        : capital(PART_NAMES[part.kind]));
  const move = (by: number) => {
    edit((list) => {
      const [taken] = list.splice(index, 1);
      list.splice(index + by, 0, taken!);
    });
    follow(index + by);
  };
  const items: NonNullable<MenuProps["items"]> = [
    { key: "up", label: "Move up (Alt ↑)", disabled: first },
    { key: "down", label: "Move down (Alt ↓)", disabled: last },
    { key: "copy", label: "Duplicate" },
    { key: "remove", label: "Remove", danger: true },
  ];
  const act = (key: string) => {
    if (key === "up") move(-1);
    if (key === "down") move(1);
    if (key === "copy")
      edit(
        (list) =>
          void list.splice(index + 1, 0, {
            ...structuredClone(current(list[index]!)),
            id: newId(),
          }),
      );
    if (key === "remove") edit((list) => void list.splice(index, 1));
  };
  const [firstKey, secondKey] = INLINE[part.kind];
  const fields = PART_FIELDS[part.kind] as Record<string, { label: string }>;
  return (
    <li
      className={`part-row${isOpen ? " opened" : ""}`}
      data-row={path}
      onKeyDown={(event) => {
        if (!event.altKey || (event.key !== "ArrowUp" && event.key !== "ArrowDown")) return;
        const by = event.key === "ArrowUp" ? -1 : 1;
        if ((by < 0 && first) || (by > 0 && last)) return;
        event.preventDefault();
        move(by);
      }}
    >
      <div className="part-head">
        <button type="button" className="plain part-name" aria-expanded={isOpen} onClick={toggle}>
          {isOpen ? <DownOutlined /> : <RightOutlined />}
          <svg width="30" height="24" viewBox="-18 -15 36 30" aria-hidden="true">
            <path d="M-18 0H18" stroke="var(--rule)" strokeWidth="1.4" />
            <SymbolOf
              symbol={part.kind === "fuse" && part.fuseKind === "breaker" ? "breaker-dc" : part.kind}
              ink="var(--ink)"
              paper="var(--paper)"
            />
          </svg>
          <span>
            <span className="mono part-mark">{mark}</span> {name}
          </span>
        </button>
        <QuantityCell path={`${path}.${firstKey}`} label={`${name} ${mark}: ${fields[firstKey]!.label}`} />
        {secondKey ? (
          <QuantityCell path={`${path}.${secondKey}`} label={`${name} ${mark}: ${fields[secondKey]!.label}`} />
        ) : (
          <span />
        )}
        <span className="part-word" title={worst && worst.word !== "Holds" ? `${worst.word}: ${worst.name}` : "Holds"}>
          {worst && <WordMark word={worst.word} size={12} />}
        </span>
        <Dropdown trigger={["click"]} menu={{ items, onClick: ({ key }) => act(key) }}>
          <Button
            size="small"
            type="text"
            icon={<MoreOutlined />}
            aria-label={`${name} ${mark}: move, duplicate, remove`}
          />
        </Dropdown>
      </div>
      {isOpen && (
        <PartDetail
          mains={mains}
          part={part}
          path={path}
          faults={own.filter(({ word }) => word !== "Holds").map(({ name: n, remark }) => `${capital(n)}: ${remark}.`)}
        />
      )}
    </li>
  );
}

/** What a row has no room for. */
function PartDetail({ part, path, mains, faults }: { part: Part; path: PartPath; mains: boolean; faults: string[] }) {
  const { assessment } = useReading();
  const american = assessment.wiring.rules.acTable === "nec-310.16";
  const inline = INLINE[part.kind];
  const rest = (Object.keys(PART_FIELDS[part.kind]) as PartKey[]).filter(
    (key) => !inline.includes(key) && !(mains && key === "voltage" && part.kind === "isolator"),
  );
  return (
    <div className="part-detail">
      {faults.map((fault) => (
        <p key={fault} className="problem note">
          {fault}
        </p>
      ))}
      {part.kind === "fuse" && <ChoiceLine path={`${path}.fuseKind`} label="Kind" options={FUSES} />}
      {part.kind === "cable" && (
        <>
          <ChoiceLine
            path={`${path}.insulation`}
            label="Insulation"
            options={[
              { value: "70", label: "70 °C" },
              { value: "90", label: "90 °C" },
              { value: "105", label: "105 °C" },
            ]}
          />
          {mains && !american && <ChoiceLine path={`${path}.method`} label="Installation method" options={METHODS} />}
          {mains && american && (
            <ChoiceLine
              path={`${path}.terminals`}
              label="Terminals"
              options={[
                { value: "standard", label: "60 °C" },
                { value: "75", label: "marked 75 °C" },
              ]}
            />
          )}
          <ChoiceLine
            path={`${path}.route`}
            label="Runs in"
            options={[
              { value: "free", label: "free air" },
              { value: "bundled", label: "a bundle" },
              { value: "engine", label: "an engine space" },
            ]}
          />
          <ChoiceLine
            path={`${path}.ways`}
            label="Counted"
            options={[
              { value: "both", label: "there and back" },
              { value: "one", label: "one way" },
            ]}
          />
        </>
      )}
      {part.kind === "breaker" && (
        <ChoiceLine
          path={`${path}.curve`}
          label="Curve"
          options={[
            { value: "B", label: "B, opens at 3 to 5 times" },
            { value: "C", label: "C, opens at 5 to 10 times" },
            { value: "D", label: "D, opens at 10 to 20 times" },
          ]}
        />
      )}
      {part.kind === "rcd" && (
        <ChoiceLine
          path={`${path}.residualType`}
          label="Type"
          options={["AC", "A", "F", "B"].map((value) => ({ value, label: value }))}
        />
      )}
      {(part.kind === "rcd" || part.kind === "changeover") && (
        <ChoiceLine path={`${path}.poles`} label="Switches" options={POLES} />
      )}
      {rest.map((key) => (
        <QuantityLine key={key} path={`${path}.${key}`} placeholder={key === "ampacity" ? "by the table" : undefined} />
      ))}
      <TextLine path={`${path}.name`} label="Name" longest={80} placeholder={capital(PART_NAMES[part.kind])} />
      {(part.kind === "cable" || part.kind === "fuse") && <FromShelf kind={part.kind} path={path} />}
    </div>
  );
}

/** The smallest standard cable and fuse of a run that satisfy every rule, with the working, put in on demand. */
function ChooseForMe({ path, title, disabled }: { path: RunPath; title: string; disabled: boolean }) {
  const store = useSheetStore();
  const { message } = App.useApp();
  const [choice, setChoice] = useState<Choice | null>(null);
  const [asking, setAsking] = useState(false);
  const ask = async () => {
    setAsking(true);
    try {
      const found = await askChoice(store.getState().job, path);
      if (found) setChoice(found);
      else void message.info(say("interface.thereNoCableRun"));
    } finally {
      setAsking(false);
    }
  };
  const take = () => {
    if (!choice) return;
    const parts = valueAt(choice.job, path) as Part[];
    store.getState().change((draft) => {
      const list = valueAt(draft, path) as Part[];
      list.splice(0, list.length, ...parts);
      draft.wiring.measured = choice.job.wiring.measured;
    });
    setChoice(null);
  };
  return (
    <>
      <Button size="small" type="text" loading={asking} disabled={disabled} onClick={() => void ask()}>
        Size automatically
      </Button>
      <Modal
        open={choice !== null}
        title={`${title}: ${choice?.words ?? ""}`}
        okText="Apply"
        onOk={take}
        onCancel={() => setChoice(null)}
        width={520}
      >
        {choice && (
          <>
            <p className="sentence">
              {choice.met ? say("interface.smallestStandardSizesSatisfy") : say("interface.noStandardSizeSatisfies")}
            </p>
            <table className="values">
              <thead>
                <tr>
                  <th>Rule</th>
                  <th>Needs and has</th>
                </tr>
              </thead>
              <tbody>
                {choice.reasons.map(({ rule, asks }) => (
                  <tr key={rule}>
                    <td>{rule}</td>
                    <td className="choice-asks">
                      <WithUnits text={asks} />
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </>
        )}
      </Modal>
    </>
  );
}
