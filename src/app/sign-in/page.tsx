import type { Metadata } from "next";
import { headers } from "next/headers";
import { redirect } from "next/navigation";
import { database } from "@/server/database";
import { ownPath } from "@/server/own-path";
import { isLoopback } from "@/server/origin";
import { whoVisits } from "@/server/page-who";
import { nobodyYet } from "@/server/people";
import { demoPassword } from "@/server/session";
import { SignIn } from "@/ui/people/sign-in";

export const metadata: Metadata = { title: "Sign in" };

export default async function SignInPage({ searchParams }: { searchParams: Promise<{ to?: string | string[] }> }) {
  const to = ownPath((await searchParams).to);
  if (await whoVisits()) redirect(to);
  if (await nobodyYet(database())) redirect("/begin");
  const demo = demoPassword() !== null && isLoopback((await headers()).get("host") ?? "");
  return <SignIn to={to} demo={demo} />;
}
