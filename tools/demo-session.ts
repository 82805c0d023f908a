/** The cookies of the demo's owner, signed in at a running demo, for tools and benchmarks. */
export async function demoCookie(base: string): Promise<string> {
  const answer = await fetch(`${base}/api/session/demo`, {
    method: "POST",
    headers: { "content-type": "application/json" },
    body: JSON.stringify({ role: "owner" }),
  });
  if (!answer.ok) throw new Error(`signing in was answered ${answer.status}`);
  return answer.headers
    .getSetCookie()
    .map((cookie) => cookie.split(";")[0]!)
    .join("; ");
}
