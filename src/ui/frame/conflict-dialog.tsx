"use client";

import type { JobPath } from "@/core/document/path";
import { Button, Modal, Radio } from "antd";
import { useMemo, useState } from "react";
import { contest, merge, type Contest, type Side } from "@/core/document/compare";
import { labelOfPath } from "@/core/document/labels";
import { useSheet, useSheetStore } from "../state/sheet-context";
import { valueWords } from "./value-words";
import { say } from "@/core/messages/say";

/** Two windows changed one job: shows what stands in each and lets the user choose, place by place. */
export function ConflictDialog() {
  const elsewhere = useSheet((state) => state.elsewhere);
  if (!elsewhere) return null;
  return <Choose key={elsewhere.revision} />;
}

function Choose() {
  const store = useSheetStore();
  const elsewhere = useSheet((state) => state.elsewhere)!;
  const base = useSheet((state) => state.base);
  const mine = useSheet((state) => state.job);
  const contests = useMemo(() => contest(base.job, elsewhere.job, mine), [base, elsewhere, mine]);
  const [chosen, setChosen] = useState<Record<string, Side>>({});
  const choice = (path: JobPath): Side => chosen[path] ?? defaultSide(contests.find((one) => one.path === path)!);
  const take = (how: (path: JobPath) => Side) =>
    store.getState().settle(merge(elsewhere.job, contests, how), elsewhere);

  return (
    <Modal
      open
      closable={false}
      mask={{ closable: false }}
      keyboard={false}
      width={820}
      title="This job was changed in another window"
      footer={[
        <Button key="theirs" onClick={() => take(() => "theirs")}>
          Use all of theirs
        </Button>,
        <Button key="mine" onClick={() => take(() => "mine")}>
          Keep all of mine
        </Button>,
        <Button key="chosen" type="primary" onClick={() => take(choice)}>
          Save this choice
        </Button>,
      ]}
    >
      <p className="sentence">
        {say("interface.revisionElsewhere", { theirs: elsewhere.revision, mine: base.revision })}
      </p>
      {contests.length === 0 ? (
        <p>{say("interface.bothWindowsHoldSame")}</p>
      ) : (
        <table className="values">
          <thead>
            <tr>
              <th>What</th>
              <th>It was</th>
              <th>Saved there</th>
              <th>Yours</th>
            </tr>
          </thead>
          <tbody>
            {contests.map((one) => (
              <tr key={one.path}>
                <td>
                  {labelOfPath(mine, one.path)}
                  {one.both && <div className="note heat">changed in both</div>}
                </td>
                <td>{valueWords(one.base, one.path, mine)}</td>
                {(["theirs", "mine"] as const).map((side) => (
                  <td key={side}>
                    <Radio
                      checked={choice(one.path) === side}
                      onChange={() => setChosen({ ...chosen, [one.path]: side })}
                    >
                      {valueWords(one[side], one.path, mine)}
                    </Radio>
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Modal>
  );
}

/** A change made on one side only is kept; where both changed, the one in front of the user. */
function defaultSide(one: Contest): Side {
  if (one.both) return "mine";
  return JSON.stringify(one.mine) === JSON.stringify(one.base) ? "theirs" : "mine";
}
