import { describe, expect, it } from "vitest";
import { sameDesign } from "@/core/document/same-design";
import { q, jobOf } from "../../../tests/jobs";
import { createSheetStore } from "./sheet-store";

const opened = () => createSheetStore({ id: "one", revision: 4, job: jobOf({ bank: { capacityAh: q(200) } }) });
const capacity = (store: ReturnType<typeof opened>) => store.getState().job.bank.capacityAh?.value;

describe("the state of an open sheet", () => {
  it("takes no edit of the design from who may not make it, counts it, and takes what is ticked off", () => {
    const job = jobOf({ bank: { capacityAh: q(200) } });
    const store = createSheetStore({ id: "one", revision: 4, job }, sameDesign);
    store.getState().put("bank.capacityAh", q(280));
    store.getState().change((draft) => void (draft.name = "Another"));
    expect([store.getState().job, store.getState().refusals]).toEqual([job, 2]);
    const step = { step: "polarity", fields: [], passed: true, reason: "", by: "Wren", at: null };
    store.getState().change((draft) => void draft.handover.steps.push(step));
    expect(store.getState().job.handover.steps).toEqual([step]);
  });
  it("undoes the keystrokes of one session together, and sessions one by one", () => {
    const store = opened();
    for (const value of [2, 28, 280]) store.getState().put("bank.capacityAh", q(value), "field");
    store.getState().endSession();
    for (const value of [3, 31, 310]) store.getState().put("bank.capacityAh", q(value), "field");
    const { undo, redo } = store.temporal.getState();
    undo();
    expect(capacity(store)).toBe(280);
    undo();
    expect(capacity(store)).toBe(200);
    redo();
    expect(capacity(store)).toBe(280);
    redo();
    expect(capacity(store)).toBe(310);
  });
  it("undoes edits without a session each by itself", () => {
    const store = opened();
    store.getState().put("bank.chemistry", "agm");
    store.getState().put("bank.chemistry", "nmc");
    store.temporal.getState().undo();
    expect(store.getState().job.bank.chemistry).toBe("agm");
  });
  it("takes no notice of a value that is there already", () => {
    const store = opened();
    const before = store.getState().job;
    store.getState().put("bank.capacityAh", q(200));
    expect(store.getState().job).toBe(before);
    expect(store.temporal.getState().pastStates).toHaveLength(0);
  });
  it("clears a quantity by putting nothing there", () => {
    const store = opened();
    store.getState().put("bank.capacityAh", undefined);
    expect("capacityAh" in store.getState().job.bank).toBe(false);
    store.temporal.getState().undo();
    expect(capacity(store)).toBe(200);
  });
  it("leaves the document it was given alone", () => {
    const job = jobOf();
    const store = createSheetStore({ id: "one", revision: 1, job });
    store.getState().change((draft) => void draft.units.push({ ...draft.units[0]!, id: "two" }));
    expect(job.units).toHaveLength(1);
    expect(store.getState().job.units).toHaveLength(2);
  });
  it("being stored, or finding another's revision, is no step of undo", () => {
    const store = opened();
    store.getState().stored(5, store.getState().job);
    store.getState().setElsewhere({ revision: 6, job: jobOf() });
    store.getState().setSave({ kind: "conflict" });
    expect(store.temporal.getState().pastStates).toHaveLength(0);
    expect(store.getState().base.revision).toBe(5);
  });
  it("goes on from a merge over the other's revision, unsaved", () => {
    const store = opened();
    const theirs = { revision: 7, job: jobOf({ bank: { capacityAh: q(280) } }) };
    store.getState().setElsewhere(theirs);
    store.getState().settle(jobOf({ bank: { capacityAh: q(310) } }), theirs);
    expect(store.getState()).toMatchObject({ base: theirs, elsewhere: null, save: { kind: "unsaved" } });
    expect(capacity(store)).toBe(310);
  });
});
