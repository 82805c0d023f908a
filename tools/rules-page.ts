/** Writes docs/rules.md from the catalogue of rules: `npm run rules`. A test holds the page to the catalogue. */
import { writeFileSync } from "node:fs";
import { rulesPage } from "../src/core/assessment/rules/page";

writeFileSync(new URL("../docs/rules.md", import.meta.url), rulesPage());
