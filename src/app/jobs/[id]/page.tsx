import { redirect } from "next/navigation";

export default async function JobPage({ params }: { params: Promise<{ id: string }> }) {
  // The stage asks who visits.
  redirect(`/jobs/${encodeURIComponent((await params).id)}/brief`);
}
