import { describe, expect, it } from "vitest";
import { tapped } from "../../../../tests/systems";
import { assess } from "../../assessment/verdicts/assess";
import { singleLineDiagram } from "./single-line-diagram";

describe("a circuit of the battery's side", () => {
  it.each([
    ["begins at the battery", false, "to battery"],
    ["begins at the busbar that joins it to the main circuit", true, "to busbar X2"],
  ])("%s", (_, busbar, title) => {
    const job = tapped(0.15, busbar);
    const link = singleLineDiagram(job, assess(job)).items.find(({ key }) => key.endsWith(".link"));
    expect(link?.title).toBe(title);
  });
});
