/*
 * What the lock file may hold, checked without a network. tools/known-faults.json names faults of packages that are used here,
 * from memory of their advisories: whoever has a network asks `npm audit` too, and adds what it says.
 */
import { readFileSync } from "node:fs";
import semver from "semver";
import { describe, expect, it } from "vitest";

interface Locked {
  version: string;
  integrity?: string;
  resolved?: string;
  license?: string;
  hasInstallScript?: boolean;
  link?: boolean;
}
const json = <T>(path: string) => JSON.parse(readFileSync(path, "utf8")) as T;
const { packages } = json<{ packages: Record<string, Locked> }>("package-lock.json");
const locked = Object.entries(packages).filter(([path]) => path !== "");
const own = json<Record<"dependencies" | "devDependencies", Record<string, string>>>("package.json");
const faults = json<{ name: string; range: string; fault: string }[]>("tools/known-faults.json");

/** Every copy of a package that the lock file holds. */
const named = (name: string) => locked.filter(([path]) => path.split("node_modules/").at(-1) === name);

describe("dependencies", () => {
  it("are pinned to one version each", () => {
    // One of them stands under a name of its own, beside another version: "npm:name@version".
    for (const [name, version] of Object.entries({ ...own.dependencies, ...own.devDependencies }))
      expect(semver.valid(version.replace(/^npm:.+@/, "")), name).not.toBeNull();
  });
  it("are locked with a checksum and without an address", () => {
    for (const [path, { integrity, resolved }] of locked)
      expect([path, integrity?.slice(0, 7), resolved]).toEqual([path, "sha512-", undefined]);
  });
  it("run nothing as they are installed, but for one that looks whether its program is there", () => {
    expect(locked.filter(([, one]) => one.hasInstallScript).map(([path]) => path)).toEqual(["node_modules/esbuild"]);
  });
  it.each(faults)("hold no $name of $range: $fault", ({ name, range }) => {
    for (const [path, { version }] of named(name))
      expect(semver.satisfies(version, range), `${path} ${version}`).toBe(false);
  });
});
