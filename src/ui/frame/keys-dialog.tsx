"use client";

import { Modal } from "antd";
import { say } from "@/core/messages/say";

const KEYS: [string[], string][] = [
  [["1", "…", "9"], "go to a stage"],
  [["m"], "mark the focused quantity measured, or back"],
  [["Enter"], "open a quantity, accept what was typed; show the working of a figure"],
  [["↓", "↑"], "next quantity, the one before"],
  [["Esc"], "leave what was typed; close a drawer"],
  [["Delete"], "put a quantity back to its typical value"],
  [["o"], "options and comparison"],
  [["f"], "fault finding"],
  [["p"], "commissioning run sheet"],
  [["z"], "undo; with Shift, redo"],
  [["u"], "next set of units: metric, American"],
  [["/"], "find a job"],
  [["n"], "new job, on the list of jobs"],
  [["?"], "this list"],
];

/** The list of keys. */
export function KeysDialog({ open, close }: { open: boolean; close: () => void }) {
  return (
    <Modal open={open} onCancel={close} footer={null} title="Keys" width={480}>
      <table className="values">
        <tbody>
          {KEYS.map(([keys, what]) => (
            <tr key={what}>
              <td style={{ whiteSpace: "nowrap" }}>
                {keys.map((key) => (
                  <kbd key={key}>{key}</kbd>
                ))}
              </td>
              <td>{what}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="note">{say("interface.focusedQuantityDigitStarts")}</p>
    </Modal>
  );
}
