import type { Metadata } from "next";
import { database } from "@/server/database";
import { whoSignedIn } from "@/server/page-who";
import { meOf } from "@/server/people";
import { PeoplePage } from "@/ui/people/people-page";

export const metadata: Metadata = { title: "People" };

export default async function People() {
  return <PeoplePage me={await meOf(database(), await whoSignedIn("/people"))} />;
}
