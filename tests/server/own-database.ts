import { inject } from "vitest";
import { connect } from "@/server/database";
import { migrate } from "../../tools/schema";

/**
 * A fresh database of the calling test file's own, with the schema and the generic parts, by its address.
 * Files that share one would pass or fail by the order in which they run.
 */
export async function ownDatabase(): Promise<string> {
  const server = inject("databaseUrl");
  const name = `test_${crypto.randomUUID().replaceAll("-", "")}`;
  const admin = connect(server);
  await admin.raw("CREATE DATABASE ?? CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci", [name]);
  await admin.destroy();
  const url = server.replace(/[^/]+$/, name);
  await migrate(url);
  return url;
}
