import type { Knex } from "knex";
import * as rigs from "./001_rigs";
import * as parts from "./002_parts";
import * as trials from "./003_trials";
import * as options from "./004_options";
import * as links from "./005_links";
import * as places from "./006_places";
import * as vocabulary from "./007_vocabulary";
import * as runConditions from "./008_run_conditions";
import * as countedReadings from "./009_counted_readings";
import * as people from "./010_people";
import * as instrumentLeases from "./011_instrument_leases";
import * as storedBytes from "./012_stored_bytes";
import * as wording from "./013_wording";
import * as linkMakers from "./014_link_makers";
import * as jobPhotos from "./015_job_photos";
import * as secondFactors from "./016_second_factors";

type Step = {
  name: string;
  up: (knex: Knex) => Promise<void>;
  down: (knex: Knex) => Promise<void>;
  config?: { transaction: boolean };
};

const STEPS: Step[] = [
  { name: "001_rigs", ...rigs },
  { name: "002_parts", ...parts },
  { name: "003_trials", ...trials },
  { name: "004_options", ...options },
  { name: "005_links", ...links },
  { name: "006_places", ...places },
  { name: "007_vocabulary", ...vocabulary },
  { name: "008_run_conditions", ...runConditions },
  { name: "009_counted_readings", ...countedReadings },
  { name: "010_people", ...people },
  { name: "011_instrument_leases", ...instrumentLeases },
  { name: "012_stored_bytes", ...storedBytes },
  { name: "013_wording", ...wording },
  { name: "014_link_makers", ...linkMakers },
  { name: "015_job_photos", ...jobPhotos },
  { name: "016_second_factors", ...secondFactors },
];

/** The schema's history, imported rather than read from a folder: so any runtime that reads the code can run it. */
export const migrationSource: Knex.MigrationSource<Step> = {
  getMigrations: () => Promise.resolve(STEPS),
  getMigrationName: ({ name }) => name,
  getMigration: (step) => Promise.resolve(step),
};
