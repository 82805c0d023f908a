/** What a server does beside answering requests, from its start on. */
export async function register(): Promise<void> {
  // A build has no database, and pieces that run elsewhere than in Node have none either.
  if (process.env.NEXT_RUNTIME !== "nodejs" || !process.env.DATABASE_URL) return;
  const { startAttendant } = await import("./server/instruments/attendant");
  const { database } = await import("./server/database");
  startAttendant(database);
}
