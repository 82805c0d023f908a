import type { Metadata } from "next";
import { headers } from "next/headers";
import { redirect } from "next/navigation";
import { database } from "@/server/database";
import { isLoopback } from "@/server/origin";
import { whoVisits } from "@/server/page-who";
import { nobodyYet } from "@/server/people";
import { demoPassword } from "@/server/session";
import { SignIn } from "@/ui/people/sign-in";

export const metadata: Metadata = { title: "Sign in" };

/** Where to go from here: a path of this application and nothing else. */
const pathOf = (to: string | string[] | undefined): string =>
  typeof to === "string" && /^\/(?![/\\])/.test(to) ? to : "/";

export default async function SignInPage({ searchParams }: { searchParams: Promise<{ to?: string | string[] }> }) {
  const to = pathOf((await searchParams).to);
  if (await whoVisits()) redirect(to);
  if (await nobodyYet(database())) redirect("/begin");
  const demo = demoPassword() !== null && isLoopback((await headers()).get("host") ?? "");
  return <SignIn to={to} demo={demo} />;
}
