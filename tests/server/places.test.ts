import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { Knex } from "knex";
import { connect } from "@/server/database";
import { findPlaces } from "@/server/places";
import { ownDatabase } from "./own-database";

/* The gazetteer by the server's own search. Coordinates as any atlas has them, to a tenth of a degree. */
let db: Knex;
beforeAll(async () => {
  db = connect(await ownDatabase({ gazetteer: true }));
});
afterAll(() => db.destroy());

describe("searching a place", () => {
  it.each([
    ["Faro", "PT", 37.0, -7.9],
    ["évora", "PT", 38.6, -7.9],
    ["evora", "PT", 38.6, -7.9],
    ["Quartzsite", "US", 33.7, -114.2],
    ["adelaide", "AU", -34.9, 138.6],
    ["Faro, Portugal", "PT", 37.0, -7.9],
  ])("%s is found first in %s", async (text, country, latitude, longitude) => {
    const [first] = (await findPlaces(db, text, null)).filter(({ station }) => station === null);
    expect(first).toMatchObject({ country });
    expect(first!.latitude).toBeCloseTo(latitude, 0);
    expect(first!.longitude).toBeCloseTo(longitude, 0);
  });
  it("gives typical stations that are no town of their own", async () => {
    expect((await findPlaces(db, "Ostional", null))[0]).toMatchObject({ station: "guanacaste" });
  });
  it("says how far each is from where one looks", async () => {
    const found = await findPlaces(db, "Tavira", { latitude: 37.02, longitude: -7.93 });
    expect(found[0]!.km).toBeGreaterThan(20);
    expect(found[0]!.km).toBeLessThan(40);
  });
  it.each(["Atlantis-on-Sea", "x", "%", "'; drop table places; --", "  "])("finds nothing for %j", async (text) => {
    expect(await findPlaces(db, text, null)).toEqual([]);
  });
  it("never gives more than a list that can be read", async () => {
    expect((await findPlaces(db, "San", null)).length).toBeLessThanOrEqual(12);
  });
});
