import { cache } from "react";
import { headers } from "next/headers";
import { redirect } from "next/navigation";
import { database } from "./database";
import { nobodyYet } from "./people";
import { whoAsks, type Who } from "./who";

/** Whoever a page is made for; null where nobody is signed in. Asked once for each request. */
export const whoVisits = cache(async (): Promise<Who | null> => whoAsks(new Headers(await headers())));

/** Whoever a page is made for: others are sent to sign in, and come back to `path` from there. */
export async function whoSignedIn(path: string): Promise<Who> {
  const who = await whoVisits();
  if (who) return who;
  if (await nobodyYet(database())) redirect("/begin");
  redirect(`/sign-in?to=${encodeURIComponent(path)}`);
}
