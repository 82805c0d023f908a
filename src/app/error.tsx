"use client";
import { say } from "@/core/messages/say";

export default function ErrorPage({ reset }: { error: Error; reset: () => void }) {
  return (
    <main className="page empty">
      <h1>That did not work</h1>
      <p className="sentence" style={{ margin: "8px auto 16px" }}>
        {say("server.failed")}
      </p>
      <button type="button" onClick={reset}>
        Try again
      </button>
    </main>
  );
}
