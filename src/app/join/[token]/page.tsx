import type { Metadata } from "next";
import { notFound } from "next/navigation";
import { ROLES } from "@/contract/people";
import { database } from "@/server/database";
import { invitationOf } from "@/server/people";
import { Join } from "@/ui/people/sign-in";

export const metadata: Metadata = { title: "Join", referrer: "no-referrer", robots: "noindex" };

export default async function JoinPage({ params }: { params: Promise<{ token: string }> }) {
  const { token } = await params;
  const invitation = await invitationOf(database(), token);
  if (!invitation) notFound();
  const { invitedBy, workshop, role } = invitation;
  return <Join token={token} by={invitedBy} workshop={workshop} role={ROLES[role].label.toLowerCase()} />;
}
