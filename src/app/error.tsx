"use client";

export default function ErrorPage({ reset }: { error: Error; reset: () => void }) {
  return (
    <main className="page empty">
      <h1>That did not work</h1>
      <p className="sentence" style={{ margin: "8px auto 16px" }}>
        The server could not answer; what was saved before is safe. Is bin/demo still running?
      </p>
      <button type="button" onClick={reset}>
        Try again
      </button>
    </main>
  );
}
