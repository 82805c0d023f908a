import type { Metadata } from "next";
import { whoSignedIn } from "@/server/page-who";
import { QuickAnswer } from "@/ui/quick/quick-answer";

export const metadata: Metadata = { title: "Two-minute answer" };

export default async function QuickPage() {
  await whoSignedIn("/quick");
  return <QuickAnswer />;
}
