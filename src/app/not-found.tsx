import Link from "next/link";

export default function NotFound() {
  return (
    <main className="page empty">
      <h1>There is no such page or job</h1>
      <p className="sentence" style={{ margin: "8px auto 16px" }}>
        It may have been deleted, or the address has a slip in it.
      </p>
      <Link href="/">To the jobs</Link>
    </main>
  );
}
