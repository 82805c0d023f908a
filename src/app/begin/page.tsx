import type { Metadata } from "next";
import { connection } from "next/server";
import { redirect } from "next/navigation";
import { database } from "@/server/database";
import { nobodyYet } from "@/server/people";
import { FirstOwner } from "@/ui/people/sign-in";

export const metadata: Metadata = { title: "Begin" };

export default async function BeginPage() {
  await connection();
  if (!(await nobodyYet(database()))) redirect("/sign-in");
  return <FirstOwner />;
}
