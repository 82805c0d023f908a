import Link from "next/link";
import { say } from "@/core/messages/say";

export default function NotFound() {
  return (
    <main className="page empty">
      <h1>There is no such page or job</h1>
      <p className="sentence" style={{ margin: "8px auto 16px" }}>
        {say("server.page.none")}
      </p>
      <Link href="/">To the jobs</Link>
    </main>
  );
}
