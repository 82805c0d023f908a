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
  return <Join token={token} workshop={invitation.workshop} role={ROLES[invitation.role].label.toLowerCase()} />;
}
